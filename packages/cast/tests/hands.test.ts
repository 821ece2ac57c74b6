import { capture } from '@lantern/capture';
import { characterGlb, tallow } from '@lantern/cast';
import {
  angleBetween,
  applyStep,
  cutClip,
  fitMotion,
  fitSettingsSchema,
  forwardKinematics,
  readCharacter,
  reportOf,
  stepSchema,
  stepsOfOtherSide,
  recipeSchema,
  troublesOf,
  type Clip,
} from '@lantern/motion';

let clip: Clip;
beforeAll(async () => {
  const character = readCharacter(await characterGlb(tallow()), 'tallow');
  const { motion } = fitMotion(capture('walk', { seconds: 2, seed: 12 }).motion, character, fitSettingsSchema.parse({}));
  clip = cutClip(motion, 0, 60);
});
const hands = (params: object) => stepSchema.parse({ kind: 'hands', ...params });
const named = (name: RegExp) => clip.motion.skeleton.joints.flatMap((joint, j) => (name.test(joint.name) ? [j] : []));
/** Joints that are turned otherwise in a frame. */
const turned = (after: Clip, f: number) => {
  const J = clip.motion.skeleton.joints.length;
  return clip.motion.skeleton.joints.flatMap(({ name }, j) =>
    angleBetween(clip.motion.rotations, (f * J + j) * 4, after.motion.rotations, (f * J + j) * 4) > 1e-4 ? [name] : [],
  );
};
/** From the wrist to the farthest of what hangs from it, metres. */
function reach(of: Clip, side: 'Left' | 'Right', f: number): number {
  const { positions, joints } = forwardKinematics(of.motion);
  const all = of.motion.skeleton.joints;
  const wrist = all.findIndex(({ name }) => new RegExp(`Hand${side[0]}$|${side}Hand$`).test(name));
  const below = all.flatMap((_, j) => {
    for (let up = j; up >= 0; up = all[up].parent) if (up === wrist && j !== wrist) return [j];
    return [];
  });
  return Math.max(
    ...below.map((j) => Math.hypot(...[0, 1, 2].map((k) => positions[(f * joints + j) * 3 + k] - positions[(f * joints + wrist) * 3 + k]))),
  );
}

test('a fist draws the fingers in, a neutral hand a little, a flat one not, and nothing but fingers is turned', () => {
  const [flat, neutral, fist] = ['flat', 'neutral', 'fist'].map((pose) => applyStep(clip, hands({ pose })));
  for (const side of ['Left', 'Right'] as const) {
    const [open, easy, closed] = [flat, neutral, fist].map((own) => reach(own, side, 30));
    expect(easy).toBeLessThan(open);
    expect(closed).toBeLessThan(0.9 * open);
  }
  expect(turned(fist, 30).length).toBeGreaterThan(5);
  for (const name of turned(fist, 30)) expect(name).toMatch(/thumb|finger|index|point|middle|ring|little|pinky|mitt/i);
});

test('both hands close alike: what is left is right in the mirror', () => {
  const fist = applyStep(clip, hands({ pose: 'fist' }));
  expect(reach(fist, 'Left', 30)).toBeCloseTo(reach(fist, 'Right', 30), 3);
});

test('one hand, from frame to frame, fading outside', () => {
  const after = applyStep(clip, hands({ pose: 'fist', side: 'left', from: 20, to: 30, fade: 5 }));
  expect(turned(after, 25).every((name) => /L$|left/i.test(name))).toBe(true);
  expect(turned(after, 25).length).toBeGreaterThan(0);
  expect([14, 36, 0, 60].flatMap((f) => turned(after, f))).toEqual([]);
  // From the frame after the fade in begins to the one before the fade out ends.
  expect(reportOf(hands({}), clip, after)?.after).toBe(19);
  expect(stepsOfOtherSide(recipeSchema.parse([{ kind: 'hands', side: 'left' }]))[1]).toMatchObject({ side: 'right' });
});

test('the fingers of one frame on all the others', () => {
  const curled = applyStep(clip, hands({ pose: 'fist', from: 30, to: 30, fade: 3 }));
  const all = applyStep(curled, hands({ pose: 'frame', frame: 30 }));
  expect(reach(all, 'Left', 0)).toBeCloseTo(reach(curled, 'Left', 30), 5);
});

test('a skeleton without fingers says so; its wrists can be straight', () => {
  const { motion } = capture('walk', { seconds: 2, seed: 12 });
  const suit = cutClip(motion, 0, 60);
  expect(troublesOf(hands({}), { before: suit })).toEqual([
    'The left hand has no fingers on this skeleton; its wrist can be made straight.',
    'The right hand has no fingers on this skeleton; its wrist can be made straight.',
  ]);
  // Where nothing is done, nothing is counted.
  expect(reportOf(hands({}), suit, applyStep(suit, hands({})))?.after).toBe(0);
  const straight = applyStep(suit, hands({ wrist: 1 }));
  const J = motion.skeleton.joints.length;
  const wrist = motion.skeleton.joints.findIndex(({ name }) => name === 'LeftHand');
  expect(angleBetween(straight.motion.rotations, (30 * J + wrist) * 4, [...motion.skeleton.joints[wrist].restRotation], 0)).toBeLessThan(
    1e-5,
  );
  expect(named(/Hand/i).length).toBeGreaterThan(0);
});
