import {
  angleBetween,
  fromAxisAngle,
  fromBasis,
  makeContinuous,
  multiply,
  multiplyInverse,
  quantile,
  rotate,
  slerp,
  solveLinear,
  type Vec3,
} from '@lantern/motion';
import { exp, log } from '../src/math/quat';
import { random } from '../src/math/random';
import { Ridge } from '../src/math/ridge';
import { lowPass, movingAverage } from '../src/math/filter';
import { unwrap, wrapAngle } from '../src/math/angles';
import { monotoneCurve } from '../src/math/monotone';
import { nearestOfSegments } from '../src/math/segments';
import { nearestOnProp } from '../src/measure/prop-surface';
import { groundUnder } from '../src/model/prop';
import { movePoint, repeated } from '../src/model/floor-transform';
import fc from 'fast-check';
import { scanNumbers } from '../src/formats/number-scanner';
import { bytesOf } from './made';

const part = fc.double({ min: -1, max: 1, noNaN: true });
const vector = fc.tuple(part, part, part).filter((v) => Math.hypot(...v) > 0.01);
const rotation = fc.tuple(vector, fc.double({ min: -6, max: 6, noNaN: true })).map(([axis, angle]) => fromAxisAngle(axis, angle));
const product = (a: readonly number[], b: readonly number[]) => {
  const out = [0, 0, 0, 1];
  multiply(out, 0, a, 0, b, 0);
  return out;
};
const turned = (q: readonly number[], v: readonly number[]) => {
  const out = [0, 0, 0];
  rotate(out, 0, q, 0, v, 0);
  return out;
};
const near = (a: readonly number[], b: readonly number[]) => a.forEach((value, k) => expect(value).toBeCloseTo(b[k], 9));

test('a product of rotations turns as the one after the other, and its inverse takes it back', () => {
  fc.assert(
    fc.property(rotation, rotation, vector, (a, b, v) => {
      near(turned(product(a, b), v), turned(a, turned(b, v)));
      const back = [0, 0, 0, 1];
      multiplyInverse(back, 0, a, 0, product(a, b), 0);
      expect(angleBetween(back, 0, b, 0)).toBeLessThan(1e-7);
      expect(Math.hypot(...turned(a, v))).toBeCloseTo(Math.hypot(...v), 9);
    }),
  );
});

test('a rotation vector and its rotation are each other’s inverse', () => {
  fc.assert(
    fc.property(vector, (v) => {
      const q = [0, 0, 0, 1];
      const w = [0, 0, 0];
      exp(q, 0, v, 0);
      log(w, 0, q, 0);
      near(w, v);
    }),
  );
});

test('slerp goes at constant speed by the shortest way, whatever the signs', () => {
  fc.assert(
    fc.property(rotation, rotation, fc.double({ min: 0, max: 1, noNaN: true }), (a, b, t) => {
      const q = [0, 0, 0, 1];
      slerp(
        q,
        0,
        a,
        0,
        b.map((v) => -v),
        0,
        t,
      );
      const whole = angleBetween(a, 0, b, 0);
      expect(whole).toBeLessThanOrEqual(Math.PI + 1e-9);
      expect(angleBetween(a, 0, q, 0)).toBeCloseTo(t * whole, 6);
    }),
  );
});

test('the rotation of a basis turns the axes into it', () => {
  fc.assert(
    fc.property(rotation, (q) => {
      const axes = (
        [
          [1, 0, 0],
          [0, 1, 0],
          [0, 0, 1],
        ] as const
      ).map((axis) => turned(q, axis) as unknown as Vec3);
      expect(angleBetween(fromBasis(axes[0], axes[1], axes[2]), 0, q, 0)).toBeLessThan(1e-6);
    }),
  );
});

test('signs are made continuous without changing any rotation', () => {
  const q = Float32Array.of(0, 0, 0, 1, 0, 0, -0.1, -0.995, 0, 0, 0.2, 0.98);
  const before = q.slice();
  makeContinuous(q, 0, 3, 4);
  for (let f = 1; f < 3; f++) expect(q[f * 4 - 1] * q[f * 4 + 3]).toBeGreaterThan(0);
  for (let f = 0; f < 3; f++) expect(angleBetween(q, f * 4, before, f * 4)).toBeLessThan(1e-6);
});

test('the low-pass leaves a straight line alone, shifts nothing in time and halves the power at its corner', () => {
  const fps = 100;
  const line = Array.from({ length: 200 }, (_, f) => 3 + 0.2 * f);
  lowPass(line, 6, fps).forEach((value, f) => expect(value).toBeCloseTo(line[f], 4));
  const wave = (hertz: number) => Array.from({ length: 1000 }, (_, f) => Math.sin((2 * Math.PI * hertz * f) / fps));
  const gain = (hertz: number, corner: number) => {
    const out = lowPass(wave(hertz), corner, fps).subarray(300, 700);
    return Math.max(...out);
  };
  expect(gain(1, 12)).toBeGreaterThan(0.99);
  expect(gain(12, 12)).toBeGreaterThan(0.62);
  expect(gain(12, 12)).toBeLessThan(0.8);
  expect(gain(40, 12)).toBeLessThan(0.03);
  const bump = Array.from({ length: 201 }, (_, f) => Math.exp(-(((f - 100) / 4) ** 2)));
  const smooth = lowPass(bump, 5, fps);
  expect(smooth.indexOf(Math.max(...smooth))).toBe(100);
});

test('a moving average over any width leaves a line alone and flattens what has that period', () => {
  movingAverage([0, 1, 2, 3, 4, 5, 6], 3.5).forEach((value, f) => expect(value).toBeCloseTo(f, 9));
  const wave = Array.from({ length: 300 }, (_, f) => Math.sin((2 * Math.PI * f) / 40));
  for (const value of movingAverage(wave, 40).subarray(60, 240)) expect(Math.abs(value)).toBeLessThan(0.03);
});

test('quantiles lie between order statistics; angles wrap and unwrap', () => {
  expect(quantile([4, 1, 3, 2], 0.5)).toBe(2.5);
  expect(quantile([5], 0.9)).toBe(5);
  expect(quantile([], 0.5)).toBeNaN();
  expect(wrapAngle(3.5 * Math.PI)).toBeCloseTo(-Math.PI / 2, 9);
  const steps = unwrap(Float64Array.from({ length: 50 }, (_, f) => wrapAngle(0.4 * f)));
  steps.forEach((value, f) => expect(value).toBeCloseTo(0.4 * f, 9));
});

test('a linear system is solved, also when a row must be exchanged', () => {
  const a = [
    [0, 2, 1],
    [1, 1, 0],
    [3, 0, -1],
  ];
  const x = solveLinear(a, [7, 3, 1]);
  a.forEach((row, r) => expect(row.reduce((sum, v, k) => sum + v * x[k], 0)).toBeCloseTo([7, 3, 1][r], 9));
});

test('numbers are read as the language reads them, whatever way they are written', () => {
  const written = fc.oneof(
    fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e6, max: 1e6 }).map((v) => v.toFixed(6)),
    fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e12, max: 1e12 }).map(String),
    fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e3, max: 1e3 }).map((v) => v.toExponential(4)),
    fc.integer().map((v) => `+${Math.abs(v)}.`),
    fc.integer({ min: 0, max: 99999 }).map((v) => `-.${v}`),
  );
  fc.assert(
    fc.property(fc.array(written, { minLength: 1, maxLength: 12 }), fc.constantFrom(' ', '\t', '\r\n', '  '), (words, gap) => {
      const read = scanNumbers(bytesOf(words.join(gap)), 0, 3);
      expect(read.length).toBe(words.length);
      words.forEach((word, k) => expect(Math.abs(read[k] - Number(word))).toBeLessThanOrEqual(Math.abs(Number(word)) * 1e-14 + 1e-300));
    }),
  );
});

describe('a monotone curve', () => {
  const value = (curve: ReturnType<typeof monotoneCurve>, x: number) => {
    const out = [0];
    curve(x, out);
    return out[0];
  };

  test('goes through its points, never beyond them, and stays as it is outside', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 1, max: 20 }), fc.integer({ min: -50, max: 50 })), { minLength: 1, maxLength: 8 }),
        (steps) => {
          const xs: number[] = [];
          for (const [step] of steps) xs.push((xs.at(-1) ?? 0) + step);
          const ys = steps.map(([, y]) => y);
          const curve = monotoneCurve(
            xs,
            ys.map((y) => [y]),
          );
          xs.forEach((x, i) => expect(value(curve, x)).toBeCloseTo(ys[i], 9));
          expect(value(curve, xs[0] - 5)).toBeCloseTo(ys[0], 9);
          expect(value(curve, (xs.at(-1) ?? 0) + 5)).toBeCloseTo(ys.at(-1) ?? 0, 9);
          for (let i = 0; i + 1 < xs.length; i++) {
            const between = value(curve, (xs[i] + xs[i + 1]) / 2);
            expect(between).toBeGreaterThanOrEqual(Math.min(ys[i], ys[i + 1]) - 1e-9);
            expect(between).toBeLessThanOrEqual(Math.max(ys[i], ys[i + 1]) + 1e-9);
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  test('with a period comes round, as smooth at its seam as anywhere', () => {
    const curve = monotoneCurve([10, 40, 70], [[0], [4], [1]], 80);
    for (const x of [-70, 10, 90]) expect(value(curve, x)).toBeCloseTo(0, 9);
    const slope = (x: number) => (value(curve, x + 1e-4) - value(curve, x - 1e-4)) / 2e-4;
    expect(Math.abs(slope(79.999) - slope(80.001))).toBeLessThan(1e-4);
    expect(value(monotoneCurve([3], [[7]], 10), 8)).toBe(7);
  });
});

test('the nearest places of two stretches are nearer than any others', () => {
  const place = fc.tuple(
    fc.double({ min: -2, max: 2, noNaN: true }),
    fc.double({ min: -2, max: 2, noNaN: true }),
    fc.double({ min: -2, max: 2, noNaN: true }),
  );
  const share = fc.double({ min: 0, max: 1, noNaN: true });
  fc.assert(
    fc.property(place, place, place, place, share, share, (p, q, r, s, t, u) => {
      const { a, b } = nearestOfSegments(p, q, r, s);
      const on = (from: readonly number[], to: readonly number[], at: number) => from.map((v, k) => v + (to[k] - v) * at);
      const apart = (m: readonly number[], n: readonly number[]) => Math.hypot(...m.map((v, k) => v - n[k]));
      expect(apart(a, b)).toBeLessThanOrEqual(apart(on(p, q, t), on(r, s, u)) + 1e-5);
    }),
    { numRuns: 2000 },
  );
});

test('a floor transform done several times is one after the other, and back again', () => {
  const once = { turn: 0.4, x: 1, z: 0.5, y: 0.1 };
  const three = repeated(once, 3);
  let at: number[] = [0.3, 1, 2];
  for (let k = 0; k < 3; k++) {
    const next = [0, 0, 0];
    movePoint(next, 0, once, at, 0);
    at = next;
  }
  const out = [0, 0, 0];
  movePoint(out, 0, three, [0.3, 1, 2], 0);
  out.forEach((v, k) => expect(v).toBeCloseTo(at[k], 9));
  movePoint(out, 0, repeated(once, -3), out, 0);
  [0.3, 1, 2].forEach((v, k) => expect(out[k]).toBeCloseTo(v, 9));
});

describe('the surface of a prop', () => {
  const prop = (kind: 'box' | 'wall' | 'rail', change: object = {}) => ({
    id: 'p',
    kind,
    x: 1,
    z: 2,
    turn: Math.PI / 2,
    width: 2,
    height: 0.5,
    depth: 0.4,
    ...change,
  });

  test('the ground under a place is the top of the highest block there that it is not under; ropes and rails are none', () => {
    const low = { id: 'low', kind: 'step' as const, x: 0, z: 0, turn: Math.PI / 2, width: 2, height: 0.2, depth: 0.5 };
    const high = { ...low, id: 'high', kind: 'box' as const, x: 0.1, height: 0.6, width: 0.4 };
    const on = (x: number, y: number, z: number) => groundUnder([low, high, { ...low, id: 'r', kind: 'rail', height: 0.7 }], [x, y, z]);
    expect(on(0.1, 1, 0)).toBe(0.6);
    expect(on(0.1, 0.4, 0)).toBe(0.2);
    expect(on(0.1, 0.1, 0)).toBe(0);
    // Turned by a quarter, it is long along z.
    expect(on(0, 1, 0.9)).toBe(0.2);
    expect(on(0.9, 1, 0)).toBe(0);
  });

  test('beside a box its side, over it its top, within it its top too; within a wall its nearer side', () => {
    // Turned by a quarter, its width lies along Z.
    expect(nearestOnProp(prop('box'), [2, 0.2, 2.3]).place).toEqual([expect.closeTo(1.2, 9), 0.2, expect.closeTo(2.3, 9)]);
    expect(nearestOnProp(prop('box'), [1.1, 1.4, 2.9]).place[1]).toBeCloseTo(0.5, 9);
    expect(nearestOnProp(prop('box'), [1.1, 0.1, 2.9])).toMatchObject({ away: [expect.closeTo(0, 9), 1, expect.closeTo(0, 9)] });
    expect(nearestOnProp(prop('wall'), [1.15, 0.1, 2]).place[0]).toBeCloseTo(1.2, 9);
  });

  test('a rail is round, and ends', () => {
    const rail = prop('rail', { depth: 0.04, height: 0.9 });
    expect(nearestOnProp(rail, [1, 1.5, 2.4]).place).toEqual([expect.closeTo(1, 9), expect.closeTo(0.92, 9), expect.closeTo(2.4, 9)]);
    expect(nearestOnProp(rail, [1, 0.9, 9]).place[2]).toBeCloseTo(3.02, 9);
  });
});

describe('a ridge regression', () => {
  const { next } = random(8);
  const rows = Array.from({ length: 60 }, () => [next() - 0.5, next() - 0.5, next() - 0.5]);
  const told = ([a, b, c]: readonly number[]) => [2 * a - b, 0.5 * c];

  test('finds how much of each told value the wanted ones have', () => {
    const ridge = new Ridge(3, 2, 1e-9);
    for (const row of rows) ridge.add(row, told(row), 1);
    const [first, second] = ridge.solve();
    [2, -1, 0].forEach((share, k) => expect(first[k]).toBeCloseTo(share, 6));
    [0, 0, 0.5].forEach((share, k) => expect(second[k]).toBeCloseTo(share, 6));
  });

  test('keeps at nothing what no row tells', () => {
    const ridge = new Ridge(3, 2, 1e-3);
    for (const [a, b] of rows) ridge.add([a, b, 0], [2 * a - b, 0], 1);
    expect(ridge.solve()[0][2]).toBe(0);
  });
});
