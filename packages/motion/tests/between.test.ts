import { capture, type ScriptName } from '@lantern/capture';
import {
  applyStep,
  bodyOf,
  clipFigures,
  findLoops,
  forwardKinematics,
  groundwork,
  recipeRunner,
  recipeSchema,
  stepSchema,
  stepsAtRate,
  stepsOfOtherSide,
  troublesOf,
  worldMotion,
  type Clip,
  type RecipeStepInput,
} from '@lantern/motion';

const cut = (script: ScriptName, faults = 0): Clip => {
  const { motion } = capture(script, { seconds: 5, seed: 95, faults });
  return recipeRunner(motion)({ from: 10, to: motion.frames - 10, steps: [] });
};
const walk = cut('walk');
const body =
  bodyOf(walk.motion) ??
  (() => {
    throw new Error('nobody');
  })();
const between = (params: object) => stepSchema.parse({ kind: 'between', ...params });
const places = (clip: Clip) => {
  const { positions, joints } = forwardKinematics(worldMotion(clip));
  return (joint: number, f: number) => [0, 1, 2].map((k) => positions[(f * joints + joint) * 3 + k]);
};
const apart = (a: readonly number[], b: readonly number[]) => 100 * Math.hypot(...a.map((v, k) => v - b[k]));

test('frames outside stay to the bit, and so do the kept ones in the middle', () => {
  const after = applyStep(walk, between({ of: 'arms', from: 60, to: 110, keys: [85] }));
  const J = walk.motion.skeleton.joints.length;
  const same = (f: number) =>
    [...walk.motion.rotations.subarray(f * J * 4, (f + 1) * J * 4)].every((v, i) => v === after.motion.rotations[f * J * 4 + i]);
  expect([0, 30, 60, 110, 200].map(same)).toEqual([true, true, true, true, true]);
  expect(same(72)).toBe(false);
  // Only the arms are others.
  const [a, b] = [places(walk), places(after)];
  expect(apart(a(body.head, 72), b(body.head, 72))).toBe(0);
  expect(apart(a(body.arms.left.wrist, 72), b(body.arms.left.wrist, 72))).toBeGreaterThan(0.2);
  expect(apart(a(body.arms.left.wrist, 85), b(body.arms.left.wrist, 85))).toBeLessThan(1e-4);
});

test('a jolt in the middle of a swing is gone, and what comes is near to what was there without it', () => {
  const jolted: Clip = { ...walk, motion: { ...walk.motion, rotations: walk.motion.rotations.slice() } };
  const J = walk.motion.skeleton.joints.length;
  for (let f = 70; f < 78; f++) {
    const at = (f * J + body.arms.left.shoulder) * 4;
    const s = Math.sin((0.6 * Math.sin(((f - 69) / 9) * Math.PI)) / 2);
    const [x, y, z, w] = jolted.motion.rotations.subarray(at, at + 4);
    const c = Math.sqrt(1 - s * s);
    jolted.motion.rotations.set([x * c + y * s, y * c - x * s, z * c + w * s, w * c - z * s], at);
  }
  const { wrist } = body.arms.left;
  const off = (clip: Clip) =>
    Math.max(...Array.from({ length: 20 }, (_, i) => apart(places(walk)(wrist, 65 + i), places(clip)(wrist, 65 + i))));
  expect(off(jolted)).toBeGreaterThan(15);
  expect(off(applyStep(jolted, between({ of: 'left arm', from: 68, to: 79 })))).toBeLessThan(2);
});

test('velocities are met at both ends: the joints’ accelerations are no larger than the walk’s own', () => {
  const after = applyStep(walk, between({ of: 'all', from: 60, to: 80 }));
  const peak = (clip: Clip, from: number, to: number) => {
    const at = places(clip);
    let most = 0;
    for (let f = from; f <= to; f++)
      for (const joint of [body.arms.left.wrist, body.head, body.hips]) {
        const [a, b, c] = [f - 1, f, f + 1].map((g) => at(joint, g));
        most = Math.max(most, Math.hypot(...[0, 1, 2].map((k) => a[k] - 2 * b[k] + c[k])) * 3600);
      }
    return most;
  };
  expect(peak(after, 58, 82)).toBeLessThan(1.5 * peak(walk, 20, 220));
});

test.each<ScriptName>(['walk', 'jog'])(
  'feet of a %s that bear stay where they are, the hips coming down for them; by choice they do not',
  (script) => {
    const clip = cut(script);
    const contacts = groundwork(clip.motion)?.contacts;
    const stance = contacts?.left.find(({ from }) => from > 40);
    if (!stance) throw new Error('no stance');
    const step = { of: 'all', from: stance.from - 8, to: stance.to + 8 };
    const [kept, free] = [applyStep(clip, between(step)), applyStep(clip, between({ ...step, contacts: false }))];
    const moved = (other: Clip) =>
      Math.max(
        ...Array.from({ length: stance.to - stance.from }, (_, i) =>
          apart(places(clip)(body.legs.left.ankle, stance.from + i), places(other)(body.legs.left.ankle, stance.from + i)),
        ),
      );
    expect(moved(kept)).toBeLessThan(0.05);
    expect(moved(free)).toBeGreaterThan(3);
    // What stays at both ends stays to the bit.
    for (const f of [step.from, step.to]) expect(apart(places(clip)(body.hips, f), places(kept)(body.hips, f))).toBe(0);
  },
);

test('over the seam of a loop it stays a loop', () => {
  const { motion } = capture('walk', { seconds: 8, seed: 96 });
  const ground = groundwork(motion);
  if (!ground) throw new Error('nobody');
  const [{ from, to }] = findLoops(ground).candidates;
  const run = (...steps: RecipeStepInput[]) => recipeRunner(motion)({ from, to, steps: recipeSchema.parse(steps) });
  const figures = clipFigures(
    run({ kind: 'loop' }, { kind: 'between', of: 'arms', from: -8, to: 8 }, { kind: 'foot-lock' }, { kind: 'travel' }),
  );
  expect(figures?.tick).toBeLessThan(1.2);
  expect(figures?.seam.poseCm).toBeLessThan(0.01);
});

test('what lies outside the clip, or holds nothing, is said and left as it is', () => {
  const step = between({ from: 10, to: 11 });
  expect(troublesOf(step, { before: walk })[0]).toContain('nothing to replace');
  expect(applyStep(walk, step)).toBe(walk);
  const beyond = between({ from: 10, to: 5000 });
  expect(troublesOf(beyond, { before: walk })[0]).toContain('do not lie in the clip');
  expect(applyStep(walk, beyond)).toBe(walk);
});

test('at another rate and on the other side it says the same', () => {
  const steps = recipeSchema.parse([{ kind: 'between', of: 'left arm', from: 20, to: 41, keys: [30] }]);
  expect(stepsAtRate(steps, 0.5)[0]).toMatchObject({ from: 10, to: 21, keys: [15], of: 'left arm' });
  expect(stepsOfOtherSide(steps)[1]).toMatchObject({ of: 'right arm', from: 20 });
});
