import { captureDayTake, DAY_TAKES } from '../src';

const spans = (tries: readonly { readonly from: number; readonly to: number }[]) => tries.map(({ from, to }) => [from, to]);

test('a take of a day is the same whenever it is captured, and its tries follow one another', () => {
  const one = captureDayTake('walk', 3, { fps: 30 });
  const again = captureDayTake('walk', 3, { fps: 30 });
  expect(again.motion.rotations).toEqual(one.motion.rotations);
  const { tries } = one.truth;
  expect(tries).toHaveLength(3);
  for (const [from, to] of spans(tries)) {
    expect(from).toBeGreaterThanOrEqual(0);
    expect(to).toBeGreaterThan(from);
    expect(to).toBeLessThanOrEqual(one.motion.frames);
  }
  expect(spans(tries).flat()).toEqual([...spans(tries).flat()].sort((a, b) => a - b));
  expect(tries.every(({ gives }) => gives.includes('loop/walk/forward'))).toBe(true);
});

test('tries are spoilt in three ways, and a slot is never left without a good one', () => {
  const kinds = new Set<string>();
  for (const [name, seed] of [
    ['jog', 2],
    ['walk', 2],
    ['walk', 5],
  ] as const) {
    const { tries } = captureDayTake(name, seed, { fps: 12, faults: 0 }).truth;
    const good = new Set(tries.filter(({ spoilt }) => !spoilt).flatMap(({ gives }) => gives));
    for (const own of tries) {
      if (own.spoilt) kinds.add(own.spoilt);
      for (const slot of own.asked) expect(good).toContain(slot);
      expect(own.spoilt === 'wrong-foot').toBe(own.asked.join() !== own.gives.join());
    }
  }
  expect([...kinds].sort()).toEqual(['cut', 'stumble', 'wrong-foot']);
});

test('solved anew it is the same performance with other noise, begun elsewhere, at another rate', () => {
  const was = captureDayTake('turns', 2);
  const now = captureDayTake('turns', 2, { solve: 5, fps: 120 });
  expect(now.motion.fps).toBe(120);
  const shift = was.motion.frames - now.motion.frames / 2;
  expect(shift).toBeGreaterThanOrEqual(-1);
  expect(shift).toBeLessThan(20);
  // The last try ends at the same instant before the take does.
  const left = ({ motion, truth }: typeof was) => (motion.frames - (truth.tries.at(-1)?.from ?? 0)) / motion.fps;
  expect(left(now)).toBeCloseTo(left(was), 1);
  expect(now.motion.rotations.slice(0, 40)).not.toEqual(was.motion.rotations.slice(0, 40));
});

test('there are some twenty takes, and one that does not exist is told by its name', () => {
  expect(DAY_TAKES.length).toBeGreaterThanOrEqual(20);
  expect(() => captureDayTake('rope dance', 1)).toThrow('rope dance');
});
