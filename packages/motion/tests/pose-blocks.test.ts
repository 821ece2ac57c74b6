import { capture, expressOn, zoo } from '@lantern/capture';
import { cutMotion, forwardKinematics, type Motion } from '@lantern/motion';
import type { Globals } from '../src/model/kinematics';
import { poseInBlocks } from '../src/model/pose-blocks';

const { motion: suit } = capture('jog', { seconds: 2, seed: 9 });

/** On a skeleton whose offsets are single numbers, so that they may also be given for each frame. */
function onSingleOffsets(motion: Motion): Motion {
  const joints = motion.skeleton.joints.map((joint) => {
    const [x, y, z] = joint.offset.map(Math.fround);
    return { ...joint, offset: [x, y, z] as const };
  });
  return { ...motion, skeleton: { joints } };
}

/** The same, posed frame after frame and number after number: the way of joints that move against their parents. */
function posedPlainly(motion: Motion): Globals {
  const [x, y, z] = motion.skeleton.joints[1].offset;
  const still = Float32Array.from({ length: motion.frames * 3 }, (_, i) => [x, y, z][i % 3]);
  return forwardKinematics({ ...motion, translations: new Map([[1, still]]) });
}

/** Forward kinematics in blocks, or nothing when it was not done so. */
function posedInBlocks(motion: Motion): Globals | null {
  const joints = motion.skeleton.joints.length;
  const globals = {
    frames: motion.frames,
    joints,
    positions: new Float32Array(motion.frames * joints * 3),
    rotations: new Float32Array(motion.frames * joints * 4),
  };
  const parents = Int32Array.from(motion.skeleton.joints, ({ parent }) => parent);
  const offsets = Float64Array.from(motion.skeleton.joints.flatMap(({ offset }) => [...offset]));
  return poseInBlocks(motion, { parents, offsets }, globals) ? globals : null;
}

test.each(zoo().map(({ name, rig }) => [name, rig] as const))('on “%s” blocks are posed to the bit as plain sums pose them', (_, rig) => {
  const motion = onSingleOffsets(expressOn(rig, suit).motion);
  expect(posedInBlocks(motion)).toEqual(posedPlainly(motion));
});

test.each([4, 15, 16, 17, 31, 33])('%i frames: the last block may be a short one', (frames) => {
  const motion = onSingleOffsets(cutMotion(suit, 10, 9 + frames));
  expect(posedInBlocks(motion)).toEqual(posedPlainly(motion));
});

test('far from the middle, and turned by rotations that are not quite of length one', () => {
  const motion = onSingleOffsets(suit);
  const far = {
    ...motion,
    rootPositions: motion.rootPositions.map((value, i) => value + 300 * (i % 3)),
    rotations: motion.rotations.map((value, i) => value * (1 + 1e-5 * (i % 7))),
  };
  expect(posedInBlocks(far)).toEqual(posedPlainly(far));
});

test('very few frames and very many joints are left to plain sums', () => {
  expect(posedInBlocks(cutMotion(suit, 0, 2))).toBeNull();
  const [first] = suit.skeleton.joints;
  const chain = Array.from({ length: 600 }, (_, j) => ({ ...first, name: `link ${j}`, parent: j - 1, offset: [0, 0.01, 0] as const }));
  const rotations = Float32Array.from({ length: 600 * 5 * 4 }, (_, i) => (i % 4 === 3 ? 1 : 0));
  const motion: Motion = { skeleton: { joints: chain }, frames: 5, fps: 60, rotations, rootPositions: new Float32Array(15) };
  expect(posedInBlocks(motion)).toBeNull();
  expect(forwardKinematics(motion).positions[600 * 3 - 2]).toBeCloseTo(5.99, 4);
});
