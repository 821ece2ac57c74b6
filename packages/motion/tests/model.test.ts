import {
  cutMotion,
  describeTake,
  findBody,
  forwardKinematics,
  fromHeading,
  readBvh,
  toMetres,
  writeBvh,
  type Motion,
} from '@lantern/motion';
import { findUnits } from '../src/measure/units';
import { median } from '../src/math/statistics';
import { resample } from '../src/model/resample';
import { bytesOf, farthest, gaitOf, suit } from './made';

const walk = suit('walk', { faults: 0 });

/** The same motion with other names, as another system would have written it. */
function renamed(motion: Motion, name: (old: string, j: number) => string): Motion {
  return { ...motion, skeleton: { joints: motion.skeleton.joints.map((joint, j) => ({ ...joint, name: name(joint.name, j) })) } };
}

test('a turned and shifted root turns and shifts every joint with it', () => {
  const motion = cutMotion(walk.motion, 0, 0);
  const before = forwardKinematics(motion).positions;
  const turned = cutMotion(motion, 0, 0);
  turned.rotations.set(fromHeading(Math.PI / 2), 0);
  const straight = cutMotion(motion, 0, 0);
  straight.rotations.set([0, 0, 0, 1], 0);
  const a = forwardKinematics(turned).positions;
  const b = forwardKinematics(straight).positions;
  for (let i = 3; i < before.length; i += 3) {
    // A quarter turn to the left takes +Z to +X and +X to −Z.
    expect(a[i] - a[0]).toBeCloseTo(b[i + 2] - b[2], 5);
    expect(a[i + 2] - a[2]).toBeCloseTo(-(b[i] - b[0]), 5);
  }
});

test('legs, arms, head and sides are found without any help from names', () => {
  const known = findBody(walk.motion);
  expect(known).not.toBeNull();
  expect(walk.motion.skeleton.joints[known?.legs.left.knee ?? 0].name).toBe('LeftShin');
  expect(walk.motion.skeleton.joints[known?.arms.right.elbow ?? 0].name).toBe('RightForearm');
  expect(findBody(renamed(walk.motion, (_, j) => `b${j}`))).toEqual(known);
});

test('names that say left and right are believed', () => {
  const swapped = findBody(
    renamed(walk.motion, (old) =>
      old.replace(/^(Left|Right)(.*)/, (_, side: string, rest: string) => `${rest}_${side === 'Left' ? 'r' : 'l'}`),
    ),
  );
  expect(swapped?.legs.left).toEqual(findBody(walk.motion)?.legs.right);
});

test('a chain without legs is not taken for a person', () => {
  const joints = ['a', 'b', 'c', 'd'].map((name, j) => ({
    name,
    parent: j - 1,
    offset: [0, 0.3, 0] as const,
    restRotation: [0, 0, 0, 1] as const,
    endSites: [],
  }));
  expect(
    findBody({
      skeleton: { joints },
      fps: 30,
      frames: 1,
      rotations: Float32Array.from({ length: 16 }, (_, i) => (i % 4 === 3 ? 1 : 0)),
      rootPositions: new Float32Array(3),
    }),
  ).toBeNull();
});

test.each([
  ['cm', 0.01],
  ['m', 1],
  ['in', 0.0254],
  ['in/0.45', 0.0254 / 0.45],
])('a take in %s is recognised by its stature', (unit, metresPerUnit) => {
  const units = findUnits(toMetres(walk.motion, { metresPerUnit: 1 / metresPerUnit, up: '+y' }));
  expect(units.unit).toBe(unit);
  expect(units.metresPerUnit).toBeCloseTo(metresPerUnit, 6);
});

test('a Z-up file in inches at 100 a second comes out upright, in metres, as it was', () => {
  const { motion } = suit('walk', { faults: 0, fps: 100, seconds: 4 });
  // Y up → Z up: (x, y, z) → (x, −z, y), which `toMetres` for −z-up-of-Y undoes; written by turning the root.
  const tilted = toMetres(motion, { metresPerUnit: 1, up: '-z' });
  const take = readBvh(bytesOf(writeBvh(tilted, { unitsPerMetre: 1 / 0.0254 })), 'odd');
  const { passport, motion: upright, ground } = describeTake(take);
  expect(passport).toMatchObject({ up: '+z', fps: 100, units: { unit: 'in' } });
  expect(passport.statureM).toBeCloseTo(1.78, 1);
  expect(ground).not.toBeNull();
  expect(farthest(motion, upright)).toBeLessThan(0.0002);
});

test('resampling twice as fast passes through every old frame, and half as fast takes every second', () => {
  const motion = cutMotion(walk.motion, 100, 160);
  const double = resample(motion, 121, 120);
  const half = resample(motion, 31, 30);
  for (let f = 0; f <= 60; f++) expect(farthest(cutMotion(double, 2 * f, 2 * f), cutMotion(motion, f, f))).toBeLessThan(1e-6);
  for (let f = 0; f <= 30; f++) expect(farthest(cutMotion(half, f, f), cutMotion(motion, 2 * f, 2 * f))).toBeLessThan(1e-6);
  // In between, the curve through neighbours: half of all joints within 0.2 mm of the true motion at 120, the feet at their strike within 8.
  const truth = suit('walk', { faults: 0, fps: 120 }).motion;
  const [p, q] = [double, cutMotion(truth, 200, 320)].map((m) => forwardKinematics(m).positions);
  expect(median(p.map((v, i) => Math.abs(v - q[i])))).toBeLessThan(0.0002);
  expect(farthest(double, cutMotion(truth, 200, 320))).toBeLessThan(0.008);
});

test('a one-frame take is read, described and has no contacts to trip over', () => {
  const take = readBvh(bytesOf(writeBvh(cutMotion(walk.motion, 0, 0))), 'still');
  const { passport, ground } = describeTake(take);
  expect(passport.frames).toBe(1);
  expect(ground?.contacts.left.length).toBeLessThanOrEqual(1);
});

test('walking backwards is found with the same contacts and faces where it faced', () => {
  const { motion, frames } = { motion: walk.motion, frames: walk.motion.frames };
  const back: Motion = { ...cutMotion(motion, 0, frames - 1) };
  const joints = motion.skeleton.joints.length;
  for (let f = 0; f < frames; f++) {
    const from = frames - 1 - f;
    back.rotations.set(motion.rotations.subarray(from * joints * 4, (from + 1) * joints * 4), f * joints * 4);
    back.rootPositions.set(motion.rootPositions.subarray(from * 3, from * 3 + 3), f * 3);
  }
  const found = gaitOf(back);
  expect(Math.abs(found.headings[10])).toBeLessThan(0.2);
  expect(Math.abs(found.contacts.left.length - walk.truth.left.length)).toBeLessThanOrEqual(1);
});
