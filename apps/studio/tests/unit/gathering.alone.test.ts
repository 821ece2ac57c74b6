import { gathering } from '@/data/gathering';
import fc from 'fast-check';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

test('the first is handed on at once, those that follow together, and then it is quiet', () => {
  const handed: (readonly number[])[] = [];
  const { add } = gathering<number>((all) => handed.push(all), 100);
  [1, 2, 3].forEach(add);
  expect(handed).toEqual([[1]]);
  jest.advanceTimersByTime(100);
  expect(handed).toEqual([[1], [2, 3]]);
  jest.advanceTimersByTime(1000);
  expect(handed).toHaveLength(2);
  expect(jest.getTimerCount()).toBe(0);
  add(4);
  expect(handed).toEqual([[1], [2, 3], [4]]);
});

test('what waits can be asked for before its time, and does not come twice', () => {
  const handed: (readonly number[])[] = [];
  const { add, flush } = gathering<number>((all) => handed.push(all), 100);
  [1, 2].forEach(add);
  flush();
  flush();
  jest.advanceTimersByTime(500);
  expect(handed).toEqual([[1], [2]]);
});

test('whenever things come, all are handed on, in their order, and never two times within the time', () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 0, max: 250 }), { maxLength: 40 }), (pauses) => {
      const handed: { at: number; all: readonly number[] }[] = [];
      const { add } = gathering<number>((all) => handed.push({ at: Date.now(), all }), 100);
      pauses.forEach((pause, i) => {
        jest.advanceTimersByTime(pause);
        add(i);
      });
      jest.advanceTimersByTime(200);
      expect(handed.flatMap(({ all }) => all)).toEqual(pauses.map((_, i) => i));
      handed.slice(1).forEach(({ at }, i) => expect(at - handed[i].at).toBeGreaterThanOrEqual(100));
    }),
  );
});
