import {
  clipFigures,
  clipSlides,
  copyMotion,
  cutClip,
  findLoops,
  forwardKinematics,
  fromAxisAngle,
  multiply,
  recipeRunner,
  rotate,
  stepSchema,
  worldMotion,
  type Motion,
} from '@lantern/motion';
import { contacts } from '../src/measure/contacts';
import { floorPlane } from '../src/measure/floor-plane';
import { kneeAxis, reachWithLeg, softReach } from '../src/anatomy/leg-ik';
import fc from 'fast-check';
import { farthest, gaitOf, suit } from './made';

const LOOP = stepSchema.parse({ kind: 'loop' });
const LOCK = stepSchema.parse({ kind: 'foot-lock' });
const TRAVEL = stepSchema.parse({ kind: 'travel', start: 'origin' });
const whole = (motion: Motion, ...steps: (typeof LOCK)[]) => recipeRunner(motion)({ from: 0, to: motion.frames - 1, steps });

/** Height of the hips over time. */
const hipsOf = (motion: Motion) => {
  const { positions, joints } = forwardKinematics(motion);
  return Float64Array.from({ length: motion.frames }, (_, f) => positions[f * joints * 3 + 1]);
};

test.each(['walk', 'jog', 'hush', 'turn', 'start-stop', 'hop', 'kerb', 'sideways', 'backwards'] as const)(
  '%s with the usual faults: every contact is held to a millimetre, and the hips come down by less than two centimetres',
  (script) => {
    const { motion } = suit(script, { seed: 5 });
    const clip = whole(motion, LOCK);
    const before = clipSlides(cutClip(motion, 0, motion.frames - 1), clip.contacts);
    const after = clipSlides(clip);
    expect(after).toHaveLength(before.length);
    expect(Math.max(...before.map(({ excursionCm }) => excursionCm))).toBeGreaterThan(0.5);
    expect(Math.max(...after.map(({ excursionCm }) => excursionCm))).toBeLessThan(0.105);
    const locked = hipsOf(clip.motion);
    const lowered = hipsOf(motion).map((y, f) => y - locked[f]);
    expect(Math.max(...lowered)).toBeLessThan(0.02);
  },
);

test.each(['walk', 'jog', 'hush'] as const)(
  '%s: a loop stays a loop under foot lock, and its feet are held across the seam too',
  (script) => {
    const { motion, gait } = suit(script, { seed: 5 });
    const run = recipeRunner(motion);
    for (const { from, to } of findLoops(gait).candidates.slice(0, 2)) {
      const figures = clipFigures(run({ from, to, steps: [LOOP, LOCK, TRAVEL] }));
      const free = clipFigures(run({ from, to, steps: [LOOP, TRAVEL] }));
      expect(figures?.slideCm).toBeLessThan(0.105);
      expect(figures?.seam.poseCm).toBeLessThan(1e-6);
      expect(figures?.tick).toBeLessThanOrEqual(1.2);
      expect(figures?.speedMps).toBeCloseTo(free?.speedMps ?? 0, 3);
      // It matters not whether the travel was taken out before.
      const turned = clipFigures(run({ from, to, steps: [LOOP, TRAVEL, LOCK] }));
      expect(turned?.slideCm).toBeLessThan(0.105);
    }
  },
);

test('feet that slide not at all are hardly moved, and locked twice is locked once', () => {
  const { motion } = suit('walk', { faults: 0, seed: 8 });
  const once = whole(motion, LOCK);
  // A millimetre at the foot of a straight leg is some at the knee.
  expect(farthest(once.motion, motion)).toBeLessThan(0.008);
  const twice = whole(once.motion, LOCK);
  expect(farthest(twice.motion, once.motion)).toBeLessThan(0.008);
});

test('knees do not pop: their acceleration stays what it was in the take', () => {
  const { motion, gait } = suit('walk', { seed: 5 });
  const knee = gait.body.legs.left.knee;
  const J = motion.skeleton.joints.length;
  const worst = (m: Motion) => {
    const bend = Array.from({ length: m.frames }, (_, f) => 2 * Math.acos(Math.min(1, Math.abs(m.rotations[(f * J + knee) * 4 + 3]))));
    return Math.max(...bend.slice(1, -1).map((v, i) => Math.abs(bend[i] + bend[i + 2] - 2 * v)));
  };
  expect(worst(whole(motion, LOCK).motion)).toBeLessThan(1.1 * worst(motion));
});

test('contacts set by hand are the ones that are held', () => {
  const { motion } = suit('walk', { seed: 5, seconds: 4 });
  const set = { left: [{ from: 60, to: 90 }], right: [] };
  const clip = whole(motion, stepSchema.parse({ kind: 'foot-lock', contacts: set }));
  expect(clip.contacts).toMatchObject(set);
  expect(clipSlides(clip)).toHaveLength(1);
  expect(() => stepSchema.parse({ kind: 'foot-lock', contacts: { left: [{ from: 9, to: 9 }], right: [] } })).toThrow(
    'ends after it begins',
  );
});

test('a leg reaches its target exactly, keeps its bones and the rotation of its foot; beyond its reach it stays softly short', () => {
  const { motion, gait } = suit('walk', { faults: 0, seed: 2, seconds: 2 });
  const leg = gait.body.legs.left;
  const bend = kneeAxis(gait.globals, leg);
  const J = motion.skeleton.joints.length;
  const offset = fc.double({ min: -0.08, max: 0.08, noNaN: true });
  fc.assert(
    fc.property(fc.integer({ min: 0, max: motion.frames - 1 }), offset, offset, offset, (f, x, y, z) => {
      const out = copyMotion(motion);
      const a = (f * J + leg.ankle) * 3;
      const target = [0, 1, 2].map((k) => gait.globals.positions[a + k] + [x, y, z][k]);
      const short = reachWithLeg(out, gait.globals, f, leg, [target[0], target[1], target[2]], bend);
      const { positions, rotations } = forwardKinematics(out);
      const miss = Math.hypot(...[0, 1, 2].map((k) => positions[a + k] - target[k]));
      expect(Math.abs(miss - short)).toBeLessThan(1e-5);
      const same = [0, 1, 2, 3].reduce(
        (sum, k) => sum + rotations[(f * J + leg.ankle) * 4 + k] * gait.globals.rotations[(f * J + leg.ankle) * 4 + k],
        0,
      );
      expect(Math.abs(same)).toBeCloseTo(1, 5);
    }),
    { numRuns: 60 },
  );
  // Monotone, never beyond the leg, and untouched where there is room.
  expect(softReach(0.8, 0.9)).toBe(0.8);
  expect(softReach(5, 0.9)).toBeLessThan(0.9);
  expect(softReach(0.895, 0.9)).toBeGreaterThan(softReach(0.89, 0.9));
});

test('a floor that is off and tilted is found and put right; directions nobody went in are left alone', () => {
  const { motion } = suit('rounds', { faults: 0, seed: 3 });
  const crooked = copyMotion(motion);
  const tilt = fromAxisAngle([0.6, 0, 0.8], (2.5 * Math.PI) / 180);
  const J = motion.skeleton.joints.length;
  for (let f = 0; f < motion.frames; f++) {
    rotate(crooked.rootPositions, f * 3, tilt, 0, motion.rootPositions.subarray(f * 3, f * 3 + 3), 0);
    crooked.rootPositions[f * 3 + 1] += 0.07;
    multiply(crooked.rotations, f * J * 4, tilt, 0, crooked.rotations, f * J * 4);
  }
  const found = floorPlane(gaitOf(crooked));
  expect((Math.atan(Math.hypot(found.riseX, found.riseZ)) * 180) / Math.PI).toBeCloseTo(2.5, 1);
  const put = whole(crooked, stepSchema.parse({ kind: 'floor' })).motion;
  const after = floorPlane(gaitOf(put));
  // Where the feet stood as a whole: single steps of the suit are up to a centimetre apart.
  expect(Math.abs(after.heightM)).toBeLessThan(0.002);
  expect(Math.hypot(after.riseX, after.riseZ)).toBeLessThan(0.001);
  // A straight walk says nothing of a slope to its side.
  const straight = floorPlane(suit('walk', { seed: 3 }).gait);
  expect(Math.abs(straight.riseX)).toBeLessThan(1e-6);
  const by = whole(motion, stepSchema.parse({ kind: 'floor', height: 0.5, tilt: 'none' })).motion;
  expect(hipsOf(by)[100]).toBeCloseTo(hipsOf(motion)[100] - 0.5, 5);
});

test('a clip with another rate of its own ships with its contacts at that rate', () => {
  const { motion, gait } = suit('walk', { seed: 5 });
  const [best] = findLoops(gait).candidates;
  const clip = recipeRunner(motion)({ from: best.from, to: best.to, steps: [LOOP, LOCK] });
  expect(clip.contacts?.left.length).toBe(best.strides);
  expect(worldMotion(clip).frames).toBe(best.to - best.from + 1);
  expect(contacts(gaitOf(clip.motion).soles, 60).fps).toBe(60);
});
