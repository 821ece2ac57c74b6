import { capture } from '@lantern/capture';
import {
  angleBetween,
  clipFigures,
  findLoops,
  forwardKinematics,
  groundwork,
  recipeRunner,
  recipeSchema,
  reportOf,
  stepsOfOtherSide,
  worldMotion,
  type Clip,
  type RecipeStepInput,
} from '@lantern/motion';

const { motion: walk } = capture('walk', { seconds: 8, seed: 71 });
const ground = groundwork(walk);
if (!ground) throw new Error('nobody walks');
const [best] = findLoops(ground).candidates;
const run = (...steps: RecipeStepInput[]) => recipeRunner(walk)({ from: best.from, to: best.to, steps: recipeSchema.parse(steps) });
const jointOf = (clip: Clip, name: string) => clip.motion.skeleton.joints.findIndex((joint) => joint.name === name);
/** The most that a joint is turned in the world from what it was, degrees, `later` frames before. */
function turned(a: Clip, b: Clip, name: string, later = 0): number {
  const [p, q] = [a, b].map((clip) => forwardKinematics(worldMotion(clip)));
  const j = jointOf(a, name);
  const last = p.frames - 1;
  let most = 0;
  for (let f = 0; f < last; f++) {
    const then = (((f - later) % last) + last) % last;
    most = Math.max(most, (angleBetween(p.rotations, (then * p.joints + j) * 4, q.rotations, (f * p.joints + j) * 4) * 180) / Math.PI);
  }
  return most;
}
const lagOf = (before: Clip, ...steps: RecipeStepInput[]) => {
  const [step] = recipeSchema.parse(steps);
  return reportOf(step, before, run({ kind: 'loop' }, ...steps));
};

test('the hand of a loop is turned in the world as it was four frames before, round the seam too; the shoulder a little, the body not at all', () => {
  const before = run({ kind: 'loop' });
  const after = run({ kind: 'loop' }, { kind: 'delay', frames: 4, first: 0.5 });
  expect(turned(before, after, 'LeftHand')).toBeGreaterThan(3);
  expect(turned(before, after, 'LeftHand', 4)).toBeLessThan(0.2);
  expect(turned(before, after, 'LeftArm', 2)).toBeLessThan(0.2);
  expect(turned(before, after, 'Ribs')).toBeLessThan(0.001);
  expect(turned(before, after, 'LeftFoot')).toBeLessThan(0.001);
});

test.each([2, 4, 7.5])('the lag of %d frames is measured as that', (frames) => {
  expect(lagOf(run({ kind: 'loop' }), { kind: 'delay', frames })?.after).toBeCloseTo(frames, 0);
});

test('no frames are no change, to the bit', () => {
  const [before, after] = [run({ kind: 'loop' }), run({ kind: 'loop' }, { kind: 'delay', frames: 0 })];
  expect([...after.motion.rotations]).toEqual([...before.motion.rotations]);
});

test.each<[string, RecipeStepInput]>([
  ['arms', { kind: 'delay', frames: 5 }],
  ['head', { kind: 'delay', of: 'head', frames: 3 }],
  ['a joint and what hangs from it', { kind: 'delay', of: 'joint', joint: 'RightForearm', frames: 6 }],
])('a loop whose %s follow later is a loop', (_, step) => {
  const figures = clipFigures(run({ kind: 'loop' }, step, { kind: 'foot-lock' }, { kind: 'travel' }));
  expect(figures?.tick).toBeLessThan(1.2);
  expect(figures?.seam.poseCm).toBeLessThan(0.05);
});

test('one arm alone is late; on the other side it is the other one', () => {
  const before = run({ kind: 'loop' });
  const after = run({ kind: 'loop' }, { kind: 'delay', of: 'right arm', frames: 4 });
  expect(turned(before, after, 'RightHand', 4)).toBeLessThan(0.2);
  expect(turned(before, after, 'LeftHand')).toBeLessThan(0.001);
  const steps = recipeSchema.parse([{ kind: 'mirror' }, { kind: 'delay', of: 'right arm', joint: 'LeftHand' }]);
  expect(stepsOfOtherSide(steps)).toMatchObject([{ kind: 'delay', of: 'left arm', joint: 'RightHand' }]);
});

test('a cut that is no loop is late from its first frame where the take goes on before it, and grows late where it begins', () => {
  const cut = (from: number, ...steps: RecipeStepInput[]) => recipeRunner(walk)({ from, to: 200, steps: recipeSchema.parse(steps) });
  const at = (clip: Clip, other: Clip, frame: number, later: number) => {
    const [p, q] = [clip, other].map((own) => forwardKinematics(own.motion));
    const j = jointOf(clip, 'LeftHand');
    return (angleBetween(p.rotations, ((frame - later) * p.joints + j) * 4, q.rotations, (frame * p.joints + j) * 4) * 180) / Math.PI;
  };
  const [early, late] = [cut(90), cut(90, { kind: 'delay', frames: 4 })];
  const before = cut(86);
  // Its first frame is as the take was four frames before the cut.
  const [p, q] = [before, late].map((own) => forwardKinematics(own.motion));
  const j = jointOf(before, 'LeftHand') * 4;
  expect((angleBetween(p.rotations, j, q.rotations, j) * 180) / Math.PI).toBeLessThan(0.2);
  expect(at(early, late, 40, 4)).toBeLessThan(0.2);
  const first = cut(0, { kind: 'delay', frames: 4 });
  expect(at(cut(0), first, 0, 0)).toBeLessThan(0.001);
  expect(at(cut(0), first, 40, 4)).toBeLessThan(0.2);
});

test('a joint that is not there is a sentence', () => {
  expect(() => run({ kind: 'delay', of: 'joint', joint: 'Tail' })).toThrow('There is no joint “Tail” that could follow later.');
  expect(() => run({ kind: 'delay', of: 'joint' })).toThrow('Say which joint follows later.');
});
