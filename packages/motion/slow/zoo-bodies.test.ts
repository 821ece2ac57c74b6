import { buildRig, capture, expressOn, mirroredSuit, zoo } from '@lantern/capture';
import {
  applyOverrides,
  bodyOf,
  createMotion,
  describeTake,
  findBody,
  forwardKinematics,
  mirrorMotion,
  type Body,
  type Motion,
} from '@lantern/motion';
import { SURE } from '../src/anatomy/find-body';
import { farthest } from '../tests/made';

// One motion of the suit on many skeletons: what holds on the suit's own holds on all of them.
const MEMBERS = zoo();
const kept = new Map<number, Motion>();
const suit = (stature: number): Motion => {
  const known = kept.get(stature) ?? capture('turn', { seed: 5, stature, fps: 20 }).motion;
  kept.set(stature, known);
  return known;
};
const each = MEMBERS.map((member) => [member.name, member] as const);

/** The joints that limbs and head are taken for, by name. */
const named = ({ skeleton }: Motion, { hips, chest, head, legs, arms }: Body) =>
  JSON.stringify({ hips, chest, head, legs, arms }, (_, value) =>
    typeof value === 'number' ? (skeleton.joints[value]?.name ?? value) : value,
  );

test('the zoo has some sixty members, all different, and is made anew the same', () => {
  expect(MEMBERS.length).toBeGreaterThanOrEqual(60);
  expect(new Set(MEMBERS.map(({ name }) => name)).size).toBe(MEMBERS.length);
  expect(JSON.stringify(zoo())).toBe(JSON.stringify(MEMBERS));
});

test.each(each)('%s: legs, arms, head and trunk are what they were built as', (_, { rig }) => {
  const { motion, body } = expressOn(rig, suit(rig.stature));
  const found = findBody(motion);
  expect(found && named(motion, found)).toBe(named(motion, body));
  // Names that say something leave no doubt.
  if (rig.habits.naming !== 'none') expect(found?.doubts).toEqual([]);
  else for (const { sure } of found?.doubts ?? []) expect(sure).toBeLessThan(SURE);
});

test.each(each)('%s: mirrored it is what the mirrored performer does', (_, { rig }) => {
  const { motion } = expressOn(rig, suit(rig.stature));
  bodyOf(motion);
  const truth = expressOn(rig, mirroredSuit(suit(rig.stature))).motion;
  const mirrored = mirrorMotion(motion);
  expect(farthest(mirrored, truth)).toBeLessThan(1e-5);
  expect(farthest(mirrorMotion(mirrored), motion)).toBeLessThan(1e-5);
  // A law that doing nothing also fulfils is none.
  expect(farthest(truth, motion)).toBeGreaterThan(0.05);
});

test('feet stay where they were on every skeleton: the rig moves as the suit does', () => {
  for (const { rig } of MEMBERS) {
    const { motion, body } = expressOn(rig, suit(rig.stature));
    const [ours, theirs] = [forwardKinematics(motion), forwardKinematics(suit(rig.stature))];
    for (let f = 0; f < ours.frames; f += 7) {
      const foot = (f * ours.joints + body.legs.left.ankle) * 3;
      const truth = (f * theirs.joints + 15) * 3;
      for (let k = 0; k < 3; k++) expect(ours.positions[foot + k]).toBeCloseTo(theirs.positions[truth + k], 4);
    }
  }
});

test('what is doubtful is asked in the passport, and the answer holds for all that is built on the take', () => {
  const member = MEMBERS.find(({ name }) => name === 'names: none');
  if (!member) throw new Error('no such member');
  const { motion } = expressOn(member.rig, suit(member.rig.stature));
  const take = { name: 'take', format: 'bvh', motion, warnings: [] } as const;
  const asked = describeTake(take);
  const [warning] = asked.passport.warnings.filter(({ code }) => code === 'doubt-arms');
  expect(warning.message).toMatch(
    /^It is \d\d % sure that the arms end at “joint\d+” and “joint\d+”; it could be “joint\d+” and “joint\d+”\.$/,
  );
  const kept = describeTake(take, warning.keep?.overrides);
  expect(kept.passport.warnings.map(({ code }) => code)).not.toContain('doubt-arms');
  expect(kept.ground?.body.arms).toEqual(asked.ground?.body.arms);
  const other = describeTake(take, warning.repair?.overrides);
  expect(other.passport.warnings.map(({ code }) => code)).not.toContain('doubt-arms');
  expect(other.ground?.body.arms.left.wrist).not.toBe(asked.ground?.body.arms.left.wrist);
  // The same from what is stored: the motion as the Bench opens it.
  const opened = applyOverrides(motion, other.passport.reading, warning.repair?.overrides ?? {});
  expect(bodyOf(opened)?.arms).toEqual(other.ground?.body.arms);
});

test.each([20, 300])('a rope of %d joints in one hand is no part of the arm, and its length costs nothing', (length) => {
  const rig = buildRig({ fingers: 'thumb' });
  const { motion, body } = expressOn(rig, suit(1.78));
  const J = motion.skeleton.joints.length;
  const rope = Array.from({ length }, (_, i) => ({
    name: `rope ${i}`,
    parent: i === 0 ? body.arms.left.wrist : J + i - 1,
    offset: [0, -0.01, 0] as const,
    restRotation: [0, 0, 0, 1] as const,
    endSites: [],
  }));
  const held = createMotion({ joints: [...motion.skeleton.joints, ...rope] }, motion.fps, motion.frames);
  held.rootPositions.set(motion.rootPositions);
  for (let f = 0; f < motion.frames; f++) held.rotations.set(motion.rotations.subarray(f * J * 4, (f + 1) * J * 4), f * (J + length) * 4);
  expect(findBody(held)).toMatchObject({ head: body.head, legs: body.legs, arms: body.arms });
});
