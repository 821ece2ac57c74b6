import { capture } from '@lantern/capture';
import fc from 'fast-check';
import {
  angleBetween,
  copyMotion,
  cutClip,
  createMotion,
  cutMotion,
  floorCurve,
  forwardKinematics,
  InputError,
  joinMotions,
  limbWeights,
  matchChain,
  motionFromRows,
  motionToRows,
  moveFrames,
  movePoint,
  nameByPattern,
  otherPart,
  PARTS,
  pickFrames,
  quantile,
  recipeSchema,
  stepsAtRate,
  swapSides,
  timeMap,
  turnedOn,
  turnOf,
  type Motion,
  type TimePin,
} from '../src';
import { retimed } from '../src/edit/retimed';
import { anglesOf } from '../src/fit/reference';
import { lowPass, movingAverage } from '../src/math/filter';
import { smoothStep5 } from '../src/math/smooth';
import { solveLinear } from '../src/math/solve';
import { spreadOut } from '../src/math/spread-out';
import { unwrap, wrapAngle } from '../src/math/angles';
import { FASTEST, resultFrame } from '../src/math/time-map';
import { phases, strideFrames } from '../src/measure/strides';
import { snapFrameRate } from '../src/formats/frame-rate';
import { invert, leading, type FloorTransform } from '../src/model/floor-transform';
import { mapFrame, mapIntervals } from '../src/model/frame-map';
import { resample } from '../src/model/resample';

// The same cases in every run.
fc.configureGlobal({ seed: 20_261_126 });

const { motion } = capture('walk', { seconds: 2, seed: 9 });
const real = (least: number, most: number) => fc.double({ min: least, max: most, noNaN: true });
const frame = (most = motion.frames - 1) => fc.integer({ min: 0, max: most });
const floor = fc.record({ turn: real(-3, 3), x: real(-5, 5), z: real(-5, 5) });

const farthest = (a: ArrayLike<number>, b: ArrayLike<number>) =>
  Array.from(a, (v, i) => Math.abs(v - b[i])).reduce((x, y) => Math.max(x, y), 0);
const places = (m: Motion) => forwardKinematics(m).positions;

describe('moves on the floor', () => {
  test('there and back moves nothing, and heights stay as they are', () => {
    fc.assert(
      fc.property(floor, fc.tuple(real(-9, 9), real(0, 2), real(-9, 9)), (transform: FloorTransform, point) => {
        const out = [0, 0, 0];
        movePoint(out, 0, transform, point, 0);
        expect(out[1]).toBe(point[1]);
        movePoint(out, 0, invert(transform), out, 0);
        expect(farthest(out, point)).toBeLessThan(1e-9);
      }),
    );
  });

  test('a transform that leads one place to another, turned by so much, does so', () => {
    fc.assert(
      fc.property(floor, floor, real(-3, 3), (from, to, turn) => {
        const out = [0, 0, 0];
        movePoint(out, 0, leading(from, to, turn), [from.x, 0, from.z], 0);
        expect(farthest(out, [to.x, 0, to.z])).toBeLessThan(1e-9);
      }),
    );
  });

  test('moved frames have every joint moved alike; the others stay', () => {
    fc.assert(
      fc.property(floor, frame(), (transform, from) => {
        const moved = copyMotion(motion);
        moveFrames(moved, transform, from);
        const [before, after] = [places(motion), places(moved)];
        const joints = motion.skeleton.joints.length;
        expect(farthest(before.subarray(0, from * joints * 3), after.subarray(0, from * joints * 3))).toBe(0);
        const out = [0, 0, 0];
        for (const j of [0, 5, joints - 1]) {
          const i = (motion.frames - 1) * joints + j;
          movePoint(out, 0, transform, before, i * 3);
          expect(farthest(out, after.subarray(i * 3, i * 3 + 3))).toBeLessThan(1e-4);
        }
      }),
      { numRuns: 20 },
    );
  });
});

describe('motions in pieces', () => {
  test('cut in two and joined they are the motion, to the bit', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: motion.frames - 1 }), (at) => {
        const joined = joinMotions([cutMotion(motion, 0, at - 1), cutMotion(motion, at, motion.frames - 1)]);
        expect(joined.frames).toBe(motion.frames);
        expect(Buffer.compare(Buffer.from(joined.rotations.buffer), Buffer.from(motion.rotations.buffer))).toBe(0);
        expect(Buffer.compare(Buffer.from(joined.rootPositions.buffer), Buffer.from(motion.rootPositions.buffer))).toBe(0);
      }),
      { numRuns: 30 },
    );
  });

  test('rows of any stretch are its frames, and come back as it', () => {
    fc.assert(
      fc.property(frame(), fc.integer({ min: 1, max: 40 }), (first, count) => {
        const frames = Math.min(count, motion.frames - first);
        const back = motionFromRows(motionToRows(motion, first, frames), motion.skeleton, motion.fps, []);
        const cut = cutMotion(motion, first, first + frames - 1);
        expect([back.frames, [...back.rotations], [...back.rootPositions]]).toEqual([frames, [...cut.rotations], [...cut.rootPositions]]);
      }),
      { numRuns: 30 },
    );
  });

  test('picked frames are the frames that were picked, in any order and as often', () => {
    fc.assert(
      fc.property(fc.array(frame(), { minLength: 1, maxLength: 12 }), (order) => {
        const picked = pickFrames(motion, order);
        expect(picked.frames).toBe(order.length);
        order.forEach((f, i) =>
          expect([...picked.rootPositions.subarray(i * 3, i * 3 + 3)]).toEqual([...motion.rootPositions.subarray(f * 3, f * 3 + 3)]),
        );
      }),
      { numRuns: 30 },
    );
  });

  test('as many frames as before are the same poses; there and back at twice the rate too', () => {
    const same = resample(motion, motion.frames, motion.fps);
    expect(farthest(places(same), places(motion))).toBeLessThan(1e-6);
    const back = resample(resample(motion, 2 * motion.frames - 1, 2 * motion.fps), motion.frames, motion.fps);
    expect(farthest(places(back), places(motion))).toBeLessThan(1e-5);
  });

  test('more frames than anybody means are refused before they are made', () => {
    expect(() => createMotion(motion.skeleton, 60, 1e9)).toThrow(InputError);
  });
});

describe('time', () => {
  /** Pins at growing places, no faster and no slower than is allowed. */
  const course = fc
    .array(fc.tuple(fc.integer({ min: 2, max: 40 }), real(0.2, 5)), { minLength: 1, maxLength: 6 })
    .map((steps) =>
      steps.reduce<TimePin[]>(
        (pins, [to, pace]) => [...pins, { from: (pins.at(-1)?.from ?? 0) + to * pace, to: (pins.at(-1)?.to ?? 0) + to }],
        [{ from: 0, to: 0 }],
      ),
    );

  test('a course of time goes through its pins, never back and never beyond', () => {
    fc.assert(
      fc.property(course, fc.boolean(), (pins, loop) => {
        const map = timeMap(pins, loop);
        expect(map.length).toBe((pins.at(-1)?.to ?? 0) + 1);
        for (const { from, to } of pins) expect(map[to]).toBeCloseTo(from, 9);
        for (let f = 1; f < map.length; f++) expect(map[f]).toBeGreaterThanOrEqual(map[f - 1] - 1e-12);
      }),
    );
  });

  test('a pose is held between two pins of one source frame', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 30 }), (held) => {
        const map = timeMap(
          [
            { from: 0, to: 0 },
            { from: 10, to: 10 },
            { from: 10, to: 10 + held },
            { from: 30, to: 30 + held },
          ],
          false,
        );
        for (let f = 10; f <= 10 + held; f++) expect(map[f]).toBeCloseTo(10, 12);
      }),
    );
  });

  test('time that runs back, or too fast, is refused', () => {
    for (const pins of [
      [
        { from: 0, to: 0 },
        { from: 20, to: 5 },
        { from: 10, to: 9 },
      ],
      [
        { from: 0, to: 0 },
        { from: FASTEST * 10 + 10, to: 10 },
      ],
      [
        { from: 0, to: 0 },
        { from: 5, to: 0 },
      ],
    ])
      expect(() => timeMap(pins, false)).toThrow(InputError);
  });

  test('the frame of the result that first reaches a source frame is found', () => {
    fc.assert(
      fc.property(course, real(0, 1), (pins, share) => {
        const map = timeMap(pins, false);
        const source = share * map[map.length - 1];
        const at = resultFrame(map, source, false);
        // The first that has reached it.
        expect(map[at]).toBeGreaterThanOrEqual(source - 1e-8);
        if (at > 0) expect(map[at - 1]).toBeLessThan(source + 1e-8);
      }),
    );
  });

  test('a foot bears on another course of time in the frames that lie between two in which it bore, and in no others', () => {
    const last = motion.frames - 1;
    const interval = fc.tuple(fc.integer({ min: 0, max: last }), fc.integer({ min: 1, max: 40 }));
    fc.assert(
      fc.property(interval, real(0.3, 3), ([from, length], factor) => {
        const to = Math.min(last + 1, from + length);
        const frames = Math.max(1, Math.round(last / factor));
        const map = timeMap(
          [
            { from: 0, to: 0 },
            { from: last, to: frames },
          ],
          false,
        );
        const contacts = { fps: motion.fps, floorM: 0, left: [{ from, to }], right: [] };
        const bears = retimed({ ...cutClip(motion, 0, last), contacts }, map).contacts?.left ?? [];
        const isIn = (f: number) => bears.some((own) => f >= own.from && f < own.to);
        map.forEach((source, f) => {
          if (source > from + 1e-5 && source < to - 1 - 1e-5) expect([f, isIn(f)]).toEqual([f, true]);
          if (source < from - 1e-5 || source > to - 1 + 1e-5) expect([f, isIn(f)]).toEqual([f, false]);
        });
      }),
    );
  });

  test('what steps say of frames is brought to another rate and back without a frame more or less, where the rate divides', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 4 }),
        fc.array(fc.integer({ min: 1, max: 50 }), { minLength: 1, maxLength: 4 }),
        (factor, gaps) => {
          let at = 0;
          const left = gaps.map((gap) => ({ from: (at += gap), to: (at += gap) }));
          const steps = recipeSchema.parse([{ kind: 'foot-lock', contacts: { left, right: [] } }]);
          expect(stepsAtRate(stepsAtRate(steps, factor), 1 / factor)).toEqual(steps);
        },
      ),
    );
  });

  test('intervals that are mapped stay in order, have a length, and none begins before the first frame', () => {
    fc.assert(
      fc.property(
        real(0.1, 4),
        real(-50, 50),
        fc.array(fc.integer({ min: 1, max: 30 }), { minLength: 2, maxLength: 10 }),
        (scale, shift, gaps) => {
          let at = 0;
          const intervals = gaps.map((gap) => ({ from: (at += gap), to: (at += gap) }));
          const mapped = mapIntervals({ scale, shift }, intervals);
          mapped.forEach(({ from, to }, i) => {
            expect(from).toBeGreaterThanOrEqual(0);
            expect(to).toBeGreaterThan(from);
            if (i > 0) expect(from).toBeGreaterThanOrEqual(mapped[i - 1].from);
          });
          expect(mapFrame({ scale: 1, shift: 0 }, at)).toBe(at);
        },
      ),
    );
  });

  test.each([23.976, 24, 25, 29.97, 30, 48, 50, 59.94, 60, 100, 120, 240])(
    '%d a second is meant by its frame time, however it is rounded',
    (rate) => {
      for (const digits of [6, 7, 8]) expect(snapFrameRate(Number((1 / rate).toFixed(digits)))).toBeCloseTo(rate, 2);
      expect(snapFrameRate(1 / (rate * 1.013))).toBeCloseTo(rate * 1.013, 9);
    },
  );
});

describe('gaits', () => {
  test('the usual stride is that between landings of one foot, and phases run from 0 to 1 over each', () => {
    fc.assert(
      fc.property(fc.integer({ min: 40, max: 120 }), fc.integer({ min: 3, max: 8 }), (stride, count) => {
        const of = (first: number) =>
          Array.from({ length: count }, (_, i) => ({ from: first + i * stride, to: first + i * stride + Math.round(0.6 * stride) }));
        const contacts = { left: of(10), right: of(10 + Math.round(stride / 2)), fps: 60 } as never;
        expect(strideFrames(contacts)).toBe(stride);
        const phase = phases(contacts, 10 + count * stride);
        if (!phase) throw new Error('no phases');
        for (let i = 0; i < count; i++) expect(Math.min(phase[10 + i * stride], 1 - phase[10 + i * stride])).toBeLessThan(1e-9);
        for (const v of phase) expect(v >= 0 && v < 1).toBe(true);
      }),
      { numRuns: 40 },
    );
  });

  test('whoever stands has no stride', () => {
    const contacts = { left: [{ from: 0, to: 500 }], right: [{ from: 0, to: 500 }], fps: 60 } as never;
    expect([strideFrames(contacts), phases(contacts, 500)]).toEqual([null, null]);
  });
});

describe('names and parts', () => {
  test('sides swapped twice are the sides; a name without one stays', () => {
    const words = fc.constantFrom('Left', 'Right', 'left', 'RIGHT', 'l', 'R', 'Arm', 'foot', 'Spine', '01', 'calf');
    fc.assert(
      fc.property(fc.array(words, { minLength: 1, maxLength: 4 }), fc.constantFrom('_', '.', '-', ' '), (parts, by) => {
        const name = parts.join(by);
        expect(swapSides(swapSides(name))).toBe(name);
      }),
    );
    for (const name of ['Spine', 'calf', 'ball', 'roll', 'Collar']) expect(swapSides(name)).toBe(name);
  });

  test('the other part of the other part is the part', () => {
    for (const part of PARTS) expect(otherPart(otherPart(part))).toBe(part);
    expect(PARTS.filter((part) => otherPart(part) === part)).toEqual(['hips', 'spine', 'neck', 'head']);
  });

  test('a name after a pattern is a file name, whatever is put in, and never empty', () => {
    fc.assert(
      fc.property(fc.string(), fc.string(), fc.string(), (pattern, character, gait) => {
        const name = nameByPattern(`${pattern}{character}-{gait}-{number}`, { character, gait, direction: '', number: 7 });
        expect(name.length).toBeGreaterThan(0);
        expect(name).not.toMatch(/[/\\:*?"<>|\u0000-\u001f]/);
      }),
    );
  });
});

describe('carrying from body to body', () => {
  const chain = (count: number) => Array.from({ length: count }, (_, i) => (i + 1) / count);

  test('joints of a chain take their turn from joints that are there, in order, and the last from the last', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 8 }), fc.integer({ min: 1, max: 8 }), (n, m) => {
        const shares = matchChain(chain(n), chain(m));
        expect(shares).toHaveLength(m);
        shares.forEach(({ a, b, u }, i) => {
          expect(a >= -1 && a < n && b >= 0 && b < n && u >= 0 && u <= 1).toBe(true);
          if (i > 0) expect(b).toBeGreaterThanOrEqual(shares[i - 1].b);
        });
        expect(shares[m - 1]).toMatchObject({ a: n - 1, b: n - 1 });
      }),
    );
  });

  test('chains of as many joints are matched one to one', () => {
    for (const n of [1, 2, 5]) expect(matchChain(chain(n), chain(n))).toEqual(chain(n).map((_, i) => ({ a: i, b: i, u: 0 })));
  });

  test('a limb’s weight stays between what it is outside and inside of its holds, and is the hold’s within', () => {
    fc.assert(
      fc.property(
        real(0, 1),
        real(0, 1),
        fc.integer({ min: 0, max: 80 }),
        fc.integer({ min: 1, max: 30 }),
        real(0.02, 0.5),
        (weight, inside, from, length, fade) => {
          const weights = limbWeights({ weight, holds: [{ from, to: from + length, weight: inside, fade }] }, 120, 60, 0);
          for (let f = from; f <= Math.min(119, from + length); f++) expect(weights[f]).toBeCloseTo(inside, 9);
          const [low, high] = [Math.min(weight, inside), Math.max(weight, inside)];
          for (const w of weights) expect(w >= low - 1e-12 && w <= high + 1e-12).toBe(true);
        },
      ),
    );
  });

  test('a turn in three angles is its rotation, and turning it on about an axis adds to it', () => {
    fc.assert(
      fc.property(real(-170, 170), real(-85, 85), real(-170, 170), (x, y, z) => {
        const q = turnOf([x, y, z]);
        const again = turnOf(anglesOf(q));
        expect(angleBetween(q, 0, again, 0)).toBeLessThan(1e-5);
      }),
    );
    for (const axis of [0, 1, 2] as const) {
      const angles = [0, 0, 0];
      angles[axis] = 40;
      expect(turnedOn([0, 0, 0], axis, 40).map((v) => Math.round(v * 1e6) / 1e6)).toEqual(angles);
    }
  });
});

describe('numbers', () => {
  test('a quantile grows with its share, and lies among the values', () => {
    fc.assert(
      fc.property(fc.array(real(-100, 100), { minLength: 1, maxLength: 30 }), real(0, 1), real(0, 1), (values, p, q) => {
        const [low, high] = [Math.min(p, q), Math.max(p, q)].map((share) => quantile(values, share));
        expect(low).toBeLessThanOrEqual(high + 1e-12);
        expect(low).toBeGreaterThanOrEqual(Math.min(...values));
        expect(high).toBeLessThanOrEqual(Math.max(...values));
      }),
    );
  });

  test('what a system is solved by fits it', () => {
    fc.assert(
      fc.property(
        fc.array(real(-3, 3), { minLength: 9, maxLength: 9 }),
        fc.array(real(-5, 5), { minLength: 3, maxLength: 3 }),
        (values, right) => {
          // A strong diagonal: there is one answer, and it is no accident of rounding.
          const rows = [0, 1, 2].map((i) => [0, 1, 2].map((k) => values[i * 3 + k] + (i === k ? 12 : 0)));
          const x = solveLinear(rows, right);
          rows.forEach((row, i) => expect(row.reduce((sum, v, k) => sum + v * x[k], 0)).toBeCloseTo(right[i], 8));
        },
      ),
    );
  });

  test('angles wrapped are the same angles, less than half a turn away; unwrapped they never jump', () => {
    fc.assert(
      fc.property(fc.array(real(-20, 20), { minLength: 2, maxLength: 20 }), (angles) => {
        for (const angle of angles) {
          const wrapped = wrapAngle(angle);
          expect(Math.abs(wrapped)).toBeLessThanOrEqual(Math.PI + 1e-12);
          expect(Math.cos(wrapped - angle)).toBeCloseTo(1, 9);
        }
        const smooth = unwrap(Float64Array.from(angles));
        for (let i = 1; i < smooth.length; i++) expect(Math.abs(smooth[i] - smooth[i - 1])).toBeLessThanOrEqual(Math.PI + 1e-9);
        smooth.forEach((v, i) => expect(Math.cos(v - angles[i])).toBeCloseTo(1, 9));
      }),
    );
  });

  test('filters keep a constant, and an average stays among the values', () => {
    fc.assert(
      fc.property(real(-10, 10), fc.array(real(-1, 1), { minLength: 12, maxLength: 60 }), real(1, 9), (level, noise, width) => {
        const flat = new Float64Array(noise.length).fill(level);
        expect(farthest(lowPass(flat, 6, 60), flat)).toBeLessThan(1e-6);
        const averaged = movingAverage(noise, width);
        for (const v of averaged) expect(v >= Math.min(...noise) - 1e-12 && v <= Math.max(...noise) + 1e-12).toBe(true);
      }),
    );
  });

  test('what is spread out is nowhere less than what was asked, and nowhere more than the most of it', () => {
    fc.assert(
      fc.property(fc.array(real(0, 1), { minLength: 3, maxLength: 40 }), fc.integer({ min: 1, max: 10 }), (asked, window) => {
        const spread = spreadOut(Float64Array.from(asked), window);
        const most = Math.max(...asked);
        spread.forEach((v, i) => expect(v >= asked[i] - 1e-12 && v <= most + 1e-12).toBe(true));
      }),
    );
  });

  test('a smooth step rises from 0 to 1, and is its own mirror image', () => {
    fc.assert(
      fc.property(real(0, 1), real(0, 1), (a, b) => {
        expect(smoothStep5(Math.min(a, b))).toBeLessThanOrEqual(smoothStep5(Math.max(a, b)) + 1e-12);
        expect(smoothStep5(a) + smoothStep5(1 - a)).toBeCloseTo(1, 9);
      }),
    );
  });

  test('a curve over the floor goes through its points in order, and is at least as long as the way between them', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(real(-3, 3), real(0.4, 3)), { minLength: 2, maxLength: 6 }), (strides) => {
        // It begins where the clip begins; each point lies a stride from the one before it.
        let [px, pz] = [0, 0];
        const points = strides.map(([turn, metres]): [number, number] => [
          (px += Math.sin(turn) * metres),
          (pz += Math.cos(turn) * metres),
        ]);
        const curve = floorCurve(points);
        const straight = strides.reduce((sum, [, metres]) => sum + metres, 0);
        expect(curve.length).toBeGreaterThanOrEqual(straight * 0.999);
        const [first, last] = [curve.at(0), curve.at(curve.length)];
        expect(Math.hypot(first.x, first.z)).toBeLessThan(1e-6);
        const [x, z] = points[points.length - 1];
        expect(Math.hypot(last.x - x, last.z - z)).toBeLessThan(0.02);
      }),
      { numRuns: 60 },
    );
  });
});
