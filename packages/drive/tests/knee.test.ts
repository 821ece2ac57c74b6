import { bendKnee, KNEE } from '../src/knee';

const STEP = 1 / 60;
const LEAST = -0.5;

/** A knee that is wanted so, step by step: how it was bent. */
function bent(wanted: readonly number[], { least = LEAST, bears = false, seconds = STEP } = {}): number[] {
  const knee = new Float64Array(KNEE);
  return wanted.map((own) => bendKnee(knee, own, least, bears, seconds));
}

const second = (values: readonly number[]): number[] => values.slice(2).map((v, i) => (v - 2 * values[i + 1] + values[i]) / STEP ** 2);

test('what is wanted smoothly is done at once', () => {
  const wanted = Array.from({ length: 120 }, (_, i) => 0.2 * Math.sin(i / 8));
  bent(wanted).forEach((value, i) => expect(value).toBeCloseTo(wanted[i], 9));
});

test.each([0.4, -0.4])('a jump by %p radians is not followed at once, but soon, and not beyond it', (jump) => {
  const values = bent(Array.from({ length: 60 }, (_, i) => (i < 10 ? 0 : jump)));
  expect(Math.max(...second(values).map(Math.abs))).toBeLessThan(301);
  expect(Math.abs(values[10])).toBeLessThan(0.085);
  expect(values[20]).toBeCloseTo(jump, 2);
  expect(Math.max(...values.map((value) => value / jump))).toBeLessThan(1.001);
});

test('a foot that bears gets its way sooner', () => {
  const wanted = Array.from({ length: 40 }, (_, i) => (i < 20 ? 0 : 0.4));
  const behind = (bears: boolean) => bent(wanted, { bears }).reduce((sum, value, i) => sum + wanted[i] - value, 0);
  expect(behind(true)).toBeLessThan(0.6 * behind(false));
});

test('it is bent no less than it may be, and slows down before it is', () => {
  const values = bent(
    Array.from({ length: 40 }, (_, i) => Math.max(LEAST, -0.02 * i ** 1.5)),
    { least: LEAST },
  );
  expect(Math.min(...values)).toBeGreaterThanOrEqual(LEAST);
  expect(values.at(-1)).toBeCloseTo(LEAST, 3);
  expect(Math.max(...second(values).map(Math.abs))).toBeLessThan(3 * 301);
});

test('a step of next to no time throws it nowhere, whatever changed in it', () => {
  const knee = new Float64Array(KNEE);
  for (let i = 0; i < 10; i++) bendKnee(knee, 0.1, LEAST, false, STEP);
  bendKnee(knee, 0.1005, LEAST + 0.001, false, 2e-7);
  for (let i = 0; i < 10; i++) expect(bendKnee(knee, 0.1005, LEAST + 0.001, false, STEP)).toBeCloseTo(0.1005, 2);
});
