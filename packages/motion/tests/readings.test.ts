import {
  applyOverrides,
  bvhStream,
  compareMotions,
  createMotion,
  describeTake,
  findBody,
  forwardKinematics,
  groundwork,
  InputError,
  joinMotions,
  jointWay,
  moveFrames,
  readBvh,
  toMetres,
  WAY_WIDTH,
  writeBvh,
  copyMotion,
  type Motion,
  type Take,
} from '@lantern/motion';
import { contacts } from '../src/measure/contacts';
import { footfalls } from '../src/measure/strides';
import { headings } from '../src/measure/heading';
import { missingParts } from '../src/anatomy/missing';
import { skeletonSignature } from '../src/model/signature';
import { agreement, bytesOf, farthest, gaitOf, suit } from './made';

const { motion } = suit('walk', { faults: 0, seed: 31, seconds: 4 });
const asTake = (of: Motion): Take => ({ name: 'a', format: 'bvh', motion: of, warnings: [] });

test('overruled, a take faces forward, starts over the origin and stands at zero; nothing else about it changes', () => {
  const crooked = copyMotion(motion);
  moveFrames(crooked, { turn: 2, x: 5, z: -3, y: 0.4 });
  const { passport } = describeTake(asTake(crooked));
  expect(passport.reading.floorM).toBeCloseTo(0.4, 2);
  const put = applyOverrides(crooked, passport.reading, { faceForward: true, startAtOrigin: true, floorToZero: true });
  const hips = forwardKinematics(put).positions;
  expect(Math.hypot(hips[0], hips[2])).toBeLessThan(1e-5);
  const body = findBody(put);
  expect(body && Math.abs(headings(forwardKinematics(put), body)[0])).toBeLessThan(0.02);
  expect(Math.abs(gaitOf(put).soles.floor)).toBeLessThan(0.005);
  // Back again by hand: the take is as it was.
  const shifted = applyOverrides(crooked, passport.reading, {});
  expect(farthest(shifted, crooked)).toBeLessThan(1e-5);
});

test('a take conformed to another rate keeps its seconds; a rate that was read wrongly changes them', () => {
  const { passport } = describeTake(asTake(motion));
  const conformed = applyOverrides(motion, passport.reading, { conform: 24 });
  expect([conformed.fps, conformed.frames]).toEqual([24, Math.floor(((motion.frames - 1) * 24) / 60) + 1]);
  const again = applyOverrides(motion, passport.reading, { fps: 120 });
  expect([again.fps, again.frames]).toEqual([120, motion.frames]);
});

test('two performers in the same suit have one signature; another joint name or parent is another suit', () => {
  const of = (m: Motion) => skeletonSignature(m.skeleton);
  expect(of(suit('walk', { stature: 1.6, seconds: 2 }).motion)).toBe(of(motion));
  const joints = motion.skeleton.joints;
  expect(of({ ...motion, skeleton: { joints: joints.map((j, i) => (i === 5 ? { ...j, name: 'Other' } : j)) } })).not.toBe(of(motion));
  expect(of({ ...motion, skeleton: { joints: joints.map((j, i) => (i === 5 ? { ...j, parent: 0 } : j)) } })).not.toBe(of(motion));
});

/** The motion without some joints and all below them. */
function without(source: Motion, names: readonly string[]): Motion {
  const { joints } = source.skeleton;
  const gone = new Set<number>();
  joints.forEach((joint, j) => (names.includes(joint.name) || gone.has(joint.parent)) && gone.add(j));
  const kept = joints.map((_, j) => j).filter((j) => !gone.has(j));
  const skeleton = { joints: kept.map((j) => ({ ...joints[j], parent: kept.indexOf(joints[j].parent) })) };
  const out = createMotion(skeleton, source.fps, source.frames);
  out.rootPositions.set(source.rootPositions);
  for (let f = 0; f < source.frames; f++)
    kept.forEach((j, k) =>
      out.rotations.set(source.rotations.subarray((f * joints.length + j) * 4, (f * joints.length + j) * 4 + 4), (f * kept.length + k) * 4),
    );
  return out;
}

test.each<[readonly string[], string]>([
  [[], 'fingers'],
  [['LeftToes', 'RightToes'], 'toes'],
  [['LeftToes'], 'the left toes'],
  [['RightToes'], 'the right foot'],
  [['LeftCollar'], 'the left arm'],
])('without %j it is said that the skeleton lacks %s, and the take is still read', (names, said) => {
  const less = without(motion, names);
  expect(missingParts(less.skeleton, findBody(less))).toContain(said);
  const { passport } = describeTake(asTake(less));
  expect(passport.statureM).toBeCloseTo(1.78, 1);
});

test('brought over each other, takes that only stand and face elsewhere do not differ, and those that do differ by the pose', () => {
  const elsewhere = copyMotion(motion);
  moveFrames(elsewhere, { turn: 2, x: 5, z: -3 });
  expect(compareMotions(motion, elsewhere).joints[0].meanCm).toBeGreaterThan(300);
  expect(compareMotions(motion, elsewhere, 'over').joints[0].worstCm).toBeLessThan(0.01);
  moveFrames(elsewhere, { turn: 0, x: 0, z: 0, y: 0.01 });
  expect(compareMotions(motion, elsewhere, 'over').joints[0].worstCm).toBeCloseTo(1, 2);
});

test('a take compared with itself moved a centimetre up differs by a centimetre everywhere, at half the rate too', () => {
  const up = copyMotion(motion);
  moveFrames(up, { turn: 0, x: 0, z: 0, y: 0.01 });
  const { joints, distanceCm } = compareMotions(motion, up);
  expect(joints).toHaveLength(21);
  for (const joint of joints) expect(joint.meanCm).toBeCloseTo(1, 3);
  expect([...distanceCm].every((v) => Math.abs(v - 1) < 1e-3)).toBe(true);
  const half = applyOverrides(up, { metresPerUnit: 1, up: '+y', facing: 0, origin: [0, 0], floorM: 0 }, { conform: 30 });
  expect(
    compareMotions(motion, half)
      .distanceCm.slice(5, 200)
      .every((v) => Math.abs(v - 1) < 0.6),
  ).toBe(true);
});

test('the way of a joint is where forward kinematics has it', () => {
  const { positions, joints } = forwardKinematics(motion);
  for (const j of [0, 8, 16, 20]) {
    const way = jointWay(motion, j);
    for (let f = 0; f < motion.frames; f += 7)
      for (let k = 0; k < 3; k++) expect(way[f * WAY_WIDTH + k]).toBeCloseTo(positions[(f * joints + j) * 3 + k], 5);
  }
});

test('up a kerb and down again both feet are found on the raised ground, which the floor alone would miss', () => {
  const { gait: found, truth } = suit('kerb', { seed: 4 });
  const { frames } = found.motion;
  const flat = contacts(found.soles, 60, null);
  const f1 = (c: typeof flat) => (agreement(c.left, truth.left, frames) + agreement(c.right, truth.right, frames)) / 2;
  expect(f1(found.contacts)).toBeGreaterThan(0.95);
  expect(f1(flat)).toBeLessThan(f1(found.contacts) - 0.05);
  expect(footfalls(found.contacts, 'left').length).toBeGreaterThanOrEqual(footfalls(truth, 'left').length - 1);
});

test('a motion too large to hold is refused before it is made', () => {
  expect(() => createMotion(motion.skeleton, 60, 4_000_000)).toThrow(InputError);
});

test('a file with the line ends of another system reads the same, cut anywhere into pieces', () => {
  const text = writeBvh(motion);
  const crlf = bytesOf(text.replace(/\n/g, '\r\n'));
  const whole = readBvh(bytesOf(text), 'a').motion;
  for (const size of [997, 4096, 100_003]) {
    const stream = bvhStream();
    const motions: Motion[] = [];
    for (let at = 0; at < crlf.length; at += size) motions.push(...stream.push(crlf.subarray(at, at + size)));
    motions.push(...stream.end().motions);
    expect(farthest(joinMotions(motions), whole)).toBe(0);
  }
  expect(farthest(readBvh(crlf, 'a').motion, whole)).toBe(0);
});

test('someone in inches with Z up reads as the same person', () => {
  const inches = toMetres(motion, { metresPerUnit: 1 / 0.0254, up: '-z' });
  const { passport } = describeTake(asTake(inches));
  expect(passport.units.unit).toBe('in');
  expect(passport.statureM).toBeCloseTo(1.78, 2);
  expect(groundwork(motion)).not.toBeNull();
});
