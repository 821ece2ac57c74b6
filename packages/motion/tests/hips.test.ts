import { capture, expressOn, zoo, type ScriptName } from '@lantern/capture';
import {
  angleBetween,
  bodyOf,
  clipFigures,
  findLoops,
  forwardKinematics,
  groundwork,
  recipeRunner,
  recipeSchema,
  reportOf,
  stepSchema,
  worldMotion,
  type Clip,
  type Motion,
  type RecipeStepInput,
} from '@lantern/motion';

const { motion: walk } = capture('walk', { seconds: 8, seed: 61 });
const ground = groundwork(walk);
if (!ground) throw new Error('nobody walks');
const [best] = findLoops(ground).candidates;
const run = (...steps: RecipeStepInput[]) => recipeRunner(walk)({ from: best.from, to: best.to, steps: recipeSchema.parse(steps) });

/** The farthest that a joint is moved between two clips, centimetres, and the most that it is turned, degrees. */
function moved(a: Clip, b: Clip, joint: number): { cm: number; degrees: number } {
  const [p, q] = [a, b].map((clip) => forwardKinematics(worldMotion(clip)));
  let [cm, degrees] = [0, 0];
  for (let f = 0; f < p.frames; f++) {
    const i = f * p.joints + joint;
    cm = Math.max(cm, 100 * Math.hypot(...[0, 1, 2].map((k) => p.positions[i * 3 + k] - q.positions[i * 3 + k])));
    degrees = Math.max(degrees, (angleBetween(p.rotations, i * 4, q.rotations, i * 4) * 180) / Math.PI);
  }
  return { cm, degrees };
}
const body = (motion: Motion) => {
  const found = bodyOf(motion);
  if (!found) throw new Error('no body');
  return found;
};
/** From side to side before a step and after it, centimetres. */
function sway(before: Clip, after: Clip): [number, number] {
  const report = reportOf(stepSchema.parse({ kind: 'hips' }), before, after);
  return [report?.before ?? NaN, report?.after ?? NaN];
}

test('factors of one change nothing, to the bit', () => {
  const before = run({ kind: 'loop' });
  const after = run({ kind: 'loop' }, { kind: 'hips', sway: 1 });
  expect([...after.motion.rotations]).toEqual([...before.motion.rotations]);
  expect([...after.motion.rootPositions]).toEqual([...before.motion.rootPositions]);
});

test.each([0, 0.5, 1.5])('sway by %d goes from side to side so much, and the feet stay where they are and as they are', (factor) => {
  const before = run({ kind: 'loop' }, { kind: 'foot-lock' });
  const after = run({ kind: 'loop' }, { kind: 'foot-lock' }, { kind: 'hips', sway: factor });
  const [was, is] = sway(before, after);
  expect(was).toBeGreaterThan(1.5);
  expect(Math.abs(is - factor * was)).toBeLessThan(0.1);
  const { legs } = body(before.motion);
  for (const { ankle } of [legs.left, legs.right]) {
    const { cm, degrees } = moved(before, after, ankle);
    expect(cm).toBeLessThan(0.05);
    expect(degrees).toBeLessThan(0.1);
  }
});

test.each<[string, RecipeStepInput & object]>([
  ['sway', { kind: 'hips', sway: 0.4 }],
  ['bounce', { kind: 'hips', bounce: 0.5 }],
  ['list and twist', { kind: 'hips', list: 0.3, twist: 0.3 }],
  ['all of it', { kind: 'hips', sway: 0.5, bounce: 0.7, surge: 0.6, list: 0.5, twist: 0.5, tilt: 0.5 }],
])('a loop whose hips have less %s is a loop', (_, step) => {
  const figures = clipFigures(run({ kind: 'loop' }, { kind: 'foot-lock' }, step, { kind: 'travel' }));
  expect(figures?.tick).toBeLessThan(1.2);
  expect(figures?.seam.poseCm).toBeLessThan(0.05);
  expect(figures?.slideCm).toBeLessThan(0.25);
});

test('with a root or without one, before it or behind it, the body does the same', () => {
  const [one, other] = [
    run({ kind: 'loop' }, { kind: 'hips', sway: 0.4 }, { kind: 'travel', start: 'captured' }),
    run({ kind: 'loop' }, { kind: 'travel', start: 'captured' }, { kind: 'hips', sway: 0.4 }),
  ];
  for (const joint of [0, 4, 8, 15]) expect(moved(one, other, joint).cm).toBeLessThan(0.05);
});

test('the chest stays turned as it was, or goes along; then the head stays by choice', () => {
  const before = run({ kind: 'loop' });
  const { head } = body(before.motion);
  const chest = before.motion.skeleton.joints.findIndex(({ name }) => name === 'Ribs');
  const factors = { kind: 'hips', list: 0, twist: 0 } as const;
  expect(moved(before, run({ kind: 'loop' }, factors), chest).degrees).toBeLessThan(0.05);
  const along = run({ kind: 'loop' }, { ...factors, chest: false, head: false });
  expect(moved(before, along, chest).degrees).toBeGreaterThan(1);
  expect(moved(before, along, head).degrees).toBeGreaterThan(1);
  expect(moved(before, run({ kind: 'loop' }, { ...factors, chest: false }), head).degrees).toBeLessThan(0.05);
});

test('hands stay by choice, as on a rail', () => {
  const { motion: lean } = capture('lean', { seconds: 4, seed: 62 });
  const clip = (...steps: RecipeStepInput[]) => recipeRunner(lean)({ from: 20, to: 200, steps: recipeSchema.parse(steps) });
  const { arms } = body(lean);
  const step = { kind: 'hips', bounce: 0, sway: 0, surge: 0 } as const;
  const [held, free] = [clip({ ...step, hands: true }), clip(step)];
  for (const { wrist } of [arms.left, arms.right]) {
    expect(moved(clip(), held, wrist).cm).toBeLessThan(0.05);
    expect(moved(clip(), free, wrist).cm).toBeGreaterThan(0.1);
  }
});

test.each<ScriptName>(['jog', 'turn', 'stairs', 'sideways', 'backwards', 'idle'])('in a %s, not a loop, the feet stay too', (script) => {
  const { motion } = capture(script, { seconds: 5, seed: 63 });
  const clip = (...steps: RecipeStepInput[]) =>
    recipeRunner(motion)({ from: 10, to: motion.frames - 10, steps: recipeSchema.parse(steps) });
  const [before, after] = [clip(), clip({ kind: 'hips', sway: 0.3, bounce: 0.8, list: 0.5 })];
  const { legs } = body(motion);
  for (const { ankle } of [legs.left, legs.right]) expect(moved(before, after, ankle).cm).toBeLessThan(0.1);
  // And the hips do something: their own way from here to there is another.
  expect(moved(before, after, 0).cm).toBeGreaterThan(0.1);
  const [was, is] = sway(before, after);
  expect(Math.abs(is - 0.3 * was)).toBeLessThan(0.1);
});

test('on other skeletons too, whatever their axes and joints', () => {
  for (const name of ['axes of its own', 'rest lying', 'no toes', 'hip joints of no length', 'Z up']) {
    const member = zoo().find((own) => own.name === name);
    if (!member) throw new Error(name);
    const { motion } = expressOn(member.rig, capture('walk', { seed: 5, stature: member.rig.stature, fps: 30, seconds: 4 }).motion);
    const clip = (...steps: RecipeStepInput[]) => recipeRunner(motion)({ from: 5, to: 100, steps: recipeSchema.parse(steps) });
    const [before, after] = [clip(), clip({ kind: 'hips', sway: 0.5, list: 0.5 })];
    const { legs } = body(motion);
    for (const { ankle } of [legs.left, legs.right]) expect(moved(before, after, ankle).cm).toBeLessThan(0.1);
    const [was, is] = sway(before, after);
    expect(Math.abs(is - 0.5 * was)).toBeLessThan(0.1);
  }
});
