import { forwardKinematics, random, type Motion } from '@lantern/motion';
import { capture, MOODS, type CaptureOptions } from '../src';
import { breathing } from '../src/breath';
import { glances } from '../src/glances';
import { personOf } from '../src/person';
import { FINE } from '../src/plan-data';
import { longMemory } from '../src/wander';

const play = (script: Parameters<typeof capture>[0], options: CaptureOptions = {}) =>
  capture(script, { seconds: 12, seed: 6, faults: 0, ...options }).motion;

const DEGREES = 180 / Math.PI;

/** How far the line from one joint to another is from level, degrees, in every frame. */
function tilt(motion: Motion, from: string, to: string): number[] {
  const { positions, joints } = forwardKinematics(motion);
  const [a, b] = [from, to].map((name) => motion.skeleton.joints.findIndex((joint) => joint.name === name));
  return Array.from({ length: motion.frames }, (_, f) => {
    const d = [0, 1, 2].map((k) => positions[(f * joints + b) * 3 + k] - positions[(f * joints + a) * 3 + k]);
    return Math.atan2(d[1], Math.hypot(d[0], d[2])) * DEGREES;
  });
}

const range = (values: readonly number[]) => Math.max(...values) - Math.min(...values);

function correlation(a: readonly number[], b: readonly number[]): number {
  const mean = (v: readonly number[]) => v.reduce((sum, x) => sum + x, 0) / v.length;
  const [ma, mb] = [mean(a), mean(b)];
  const inner = (v: readonly number[], mv: number, w: readonly number[], mw: number) =>
    v.reduce((sum, x, i) => sum + (x - mv) * (w[i] - mw), 0);
  return inner(a, ma, b, mb) / Math.sqrt(inner(a, ma, a, ma) * inner(b, mb, b, mb));
}

test('walking, the shoulders list 4 to 9° against the pelvis, the other way and a little later', () => {
  const motion = play('walk');
  const shoulders = tilt(motion, 'RightArm', 'LeftArm');
  const hips = tilt(motion, 'RightThigh', 'LeftThigh');
  expect(range(shoulders)).toBeGreaterThan(4);
  expect(range(shoulders)).toBeLessThan(9);
  const shifted = (frames: number) => correlation(hips.slice(0, -frames || undefined), shoulders.slice(frames));
  expect(shifted(0)).toBeLessThan(-0.5);
  expect(shifted(4)).toBeLessThan(shifted(0));
});

test('strides differ from one another by 1 to 4 %, and one is like the one before it more than like any other', () => {
  const { truth } = capture('walk', { seconds: 240, seed: 3, faults: 0, fps: 120, uneven: 1 });
  const strikes = truth.left.slice(1).map(({ from }) => from);
  const strides = strikes.slice(1).map((strike, i) => strike - strikes[i]);
  const mean = strides.reduce((sum, s) => sum + s, 0) / strides.length;
  const deviation = Math.sqrt(strides.reduce((sum, s) => sum + (s - mean) ** 2, 0) / strides.length) / mean;
  expect(deviation).toBeGreaterThan(0.01);
  expect(deviation).toBeLessThan(0.04);
  expect(correlation(strides.slice(1), strides.slice(0, -1))).toBeGreaterThan(0.2);
});

test('who waits long stands on one leg, then on the other: the hips go over by 3 cm and more, and the feet stay', () => {
  const { motion, truth } = capture('idle', { seconds: 24, seed: 7, faults: 0 });
  const aside = Array.from({ length: motion.frames }, (_, f) => motion.rootPositions[f * 3]);
  expect(Math.max(...aside)).toBeGreaterThan(0.03);
  expect(Math.min(...aside)).toBeLessThan(-0.03);
  expect([truth.left.length, truth.right.length]).toEqual([1, 1]);
});

test('in a leap off both feet one is the first to leave, by less than a tenth of a second, and they land together', () => {
  const leads = [1, 3, 6, 9, 12, 14].map((seed) => {
    const { truth } = capture('hop', { seed, faults: 0, fps: 240 });
    const [left, right] = [truth.left[0], truth.right[0]];
    return { leaves: (right.to - left.to) / 240, lands: (truth.right[1].from - truth.left[1].from) / 240 };
  });
  for (const { leaves, lands } of leads) {
    expect(Math.abs(leaves)).toBeLessThan(0.075);
    expect(Math.abs(lands)).toBeLessThan(0.02);
    expect(leaves * lands).toBeLessThanOrEqual(0);
  }
  expect(leads.filter(({ leaves }) => Math.abs(leaves) > 0.01).length).toBeGreaterThan(3);
  // Of some people the left foot, of others the right.
  expect(new Set(leads.map(({ leaves }) => Math.sign(leaves))).size).toBeGreaterThan(1);
});

test('in leaps one arm swings further than the other, and the other is up to a tenth of a second late', () => {
  const arms = [1, 3, 6, 9].map((seed) => {
    const { motion } = capture('hop', { seed, faults: 0, fps: 120 });
    const hips = heights(motion, 'Hips');
    const [left, right] = ['LeftHand', 'RightHand'].map((hand) => heights(motion, hand).map((y, f) => y - hips[f]));
    const inside = left.slice(12, -12);
    const alike = (late: number) => correlation(inside, right.slice(12 + late, right.length - 12 + late));
    const lags = Array.from({ length: 25 }, (_, i) => i - 12);
    return { further: range(left) / range(right), late: lags.reduce((best, lag) => (alike(lag) > alike(best) ? lag : best)) };
  });
  for (const { further, late } of arms) {
    expect(Math.abs(Math.log(further))).toBeGreaterThan(0.05);
    expect(Math.abs(Math.log(further))).toBeLessThan(0.5);
    expect(Math.abs(late)).toBeLessThan(12);
  }
  expect(arms.filter(({ further, late }) => late * Math.log(further) > 0).length).toBeGreaterThan(1);
});

test('before a turn on the spot the head is ahead of the hips', () => {
  const motion = play('turns');
  const turnOf = (name: string) => {
    const j = motion.skeleton.joints.findIndex((joint) => joint.name === name);
    const { rotations, joints } = forwardKinematics(motion);
    return Array.from({ length: motion.frames }, (_, f) => {
      const [x, y, z, w] = rotations.subarray((f * joints + j) * 4, (f * joints + j) * 4 + 4);
      return Math.atan2(2 * (x * z + w * y), 1 - 2 * (x * x + y * y)) * DEGREES;
    });
  };
  const halfway = (turns: readonly number[]) => turns.findIndex((turn) => turn > 22.5);
  // The first turn is an eighth to the left.
  expect(halfway(turnOf('Hips')) - halfway(turnOf('Head'))).toBeGreaterThan(0.15 * motion.fps);
});

test.each(MOODS)('%s: his feet stay above the floor, and his arms swing further or less as he feels', (mood) => {
  const swing = (motion: Motion) => {
    const { positions, joints } = forwardKinematics(motion);
    const [hand, hips] = ['LeftHand', 'Hips'].map((name) => motion.skeleton.joints.findIndex((joint) => joint.name === name));
    return range(
      Array.from({ length: motion.frames }, (_, f) => positions[(f * joints + hand) * 3 + 2] - positions[(f * joints + hips) * 3 + 2]),
    );
  };
  const [usual, felt] = [play('walk'), play('walk', { mood: { [mood]: 1 } })];
  const lowest = Math.min(...['LeftToes', 'RightToes', 'LeftFoot', 'RightFoot'].flatMap((name) => heights(felt, name)));
  expect(lowest).toBeGreaterThan(0);
  if (mood === 'brisk') expect(swing(felt)).toBeGreaterThan(1.2 * swing(usual));
  else expect(swing(felt)).toBeLessThan(0.8 * swing(usual));
});

function heights(motion: Motion, name: string): number[] {
  const { positions, joints } = forwardKinematics(motion);
  const j = motion.skeleton.joints.findIndex((joint) => joint.name === name);
  return Array.from({ length: motion.frames }, (_, f) => positions[(f * joints + j) * 3 + 1]);
}

test('long memory has no mean and a deviation of 1; the same seed remembers the same', () => {
  const values = Array.from({ length: 20000 }, (_, i) => longMemory(random(5), 60, 2.5)(i));
  const mean = values.reduce((sum, v) => sum + v, 0) / values.length;
  expect(mean).toBeCloseTo(0, 1);
  expect(Math.sqrt(values.reduce((sum, v) => sum + v * v, 0) / values.length)).toBeCloseTo(1, 1);
  expect(personOf(4, 1).pace(12.3)).toBe(personOf(4, 1).pace(12.3));
  expect(personOf(4, 1).pace(12.3)).not.toBe(personOf(5, 1).pace(12.3));
});

test('glances have no jumps, go further and come oftener of one who waits, and breath is quicker after running', () => {
  const samples = 60 * FINE;
  const [waits, goes] = [1, 0].map((still) => glances(new Float64Array(samples).fill(still), random(8), 0).yaw);
  const quickest = Math.max(...waits.subarray(1).map((v, i) => Math.abs(v - waits[i]))) * FINE;
  expect(quickest).toBeLessThan(5);
  expect(range([...waits])).toBeGreaterThan(2 * range([...goes]));
  const breaths = (speed: number) => {
    const chest = breathing(new Float64Array(samples).fill(speed));
    return chest.reduce((n, v, i) => n + (i > 0 && v >= 0 && chest[i - 1] < 0 ? 1 : 0), 0);
  };
  expect(breaths(0)).toBeGreaterThan(11);
  expect(breaths(0)).toBeLessThan(17);
  expect(breaths(3)).toBeGreaterThan(1.8 * breaths(0));
});
