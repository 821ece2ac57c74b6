import { capture } from '@lantern/capture';
import {
  clipFigures,
  copyMotion,
  cutMotion,
  fitMotion,
  fitReport,
  fitSettingsSchema,
  forwardKinematics,
  fromAxisAngle,
  multiply,
  readCharacter,
  recipeRunner,
  stepSchema,
  type Motion,
  type RecipeStepInput,
} from '@lantern/motion';
import { findBelt } from '../src/measure/belt';
import { castGlb } from '@lantern/cast';
import { agreement, farthest, gaitOf, suit } from '../tests/made';

/** The same on a belt: the way taken out at an even speed. */
function onTheSpot(motion: Motion): Motion {
  const out = copyMotion(motion);
  const p = out.rootPositions;
  const last = motion.frames - 1;
  const [dx, dz] = [p[last * 3] - p[0], p[last * 3 + 2] - p[2]];
  for (let f = 0; f <= last; f++) {
    p[f * 3] -= (dx * f) / last;
    p[f * 3 + 2] -= (dz * f) / last;
  }
  return out;
}

/** The farthest that a joint of one is from the other's, both seen from their hips, metres. */
function bodiesApart(a: Motion, b: Motion): number {
  const [p, q] = [a, b].map((motion) => {
    const { positions, joints } = forwardKinematics(motion);
    return positions.map((v, i) => (i % 3 === 1 ? v : v - positions[Math.floor(i / 3 / joints) * joints * 3 + (i % 3)]));
  });
  let most = 0;
  for (let i = 0; i < p.length; i += 3) most = Math.max(most, Math.hypot(p[i] - q[i], p[i + 1] - q[i + 1], p[i + 2] - q[i + 2]));
  return most;
}

const step = (input: RecipeStepInput) => stepSchema.parse(input);

test.each([
  ['walk', undefined, 1.3],
  ['jog', undefined, 2.8],
  ['jog', 5, 5],
  ['hush', undefined, 0.7],
  ['backwards', undefined, 0.9],
  ['sideways', undefined, 0.5],
] as const)('a %s at %s m/s on a belt: the belt is as fast, contacts and floor are those of one who goes', (script, speed, mps) => {
  const { motion, truth } = suit(script, { speed, seconds: 5, seed: 4 });
  const [going, spot] = [gaitOf(motion), gaitOf(onTheSpot(motion))];
  expect(going.belt).toBeNull();
  expect(Math.abs(Math.hypot(spot.belt?.x ?? 0, spot.belt?.z ?? 0) / mps - 1)).toBeLessThan(0.03);
  expect(spot.soles.floor).toBeCloseTo(going.soles.floor, 3);
  for (const side of ['left', 'right'] as const) {
    expect(agreement(spot.contacts[side], truth[side], motion.frames)).toBeGreaterThan(
      agreement(going.contacts[side], truth[side], motion.frames) - 0.01,
    );
  }
});

test('who stands, hops on a mark or walks there and back is on no belt', () => {
  for (const script of ['idle', 'lean', 'hop', 'rounds', 'turn'] as const) expect(suit(script, { seed: 6 }).gait.belt).toBeNull();
  const { motion } = capture('hop', { seed: 6 });
  const { globals, body } = gaitOf(motion);
  expect(findBelt(globals, body, motion.fps)).toBeNull();
});

const RECIPES: readonly (readonly RecipeStepInput[])[] = [
  [],
  [{ kind: 'foot-lock' }],
  [{ kind: 'floor' }, { kind: 'foot-lock' }],
  [{ kind: 'mirror' }, { kind: 'foot-lock' }],
];

test.each(RECIPES.map((steps) => [steps.map(({ kind }) => kind).join(', ') || 'nothing', steps] as const))(
  'forty frames at 30 a second, %s: in place the body does what it does on the way, and stays in place',
  (_, steps) => {
    const { motion } = suit('walk', { seconds: 4, seed: 3, fps: 30 });
    const spot = onTheSpot(motion);
    const recipe = { from: 0, to: 40, steps: steps.map(step) };
    const [there, here] = [recipeRunner(motion)(recipe).motion, recipeRunner(spot)(recipe).motion];
    expect(bodiesApart(there, here)).toBeLessThan(0.012);
    // In place it comes back: where nothing is done, as it was.
    if (steps.length === 0) expect(farthest(here, cutMotion(spot, 0, 40))).toBeLessThan(1e-5);
    const p = here.rootPositions;
    expect(Math.hypot(p[120] - p[0], p[122] - p[2])).toBeLessThan(0.08);
  },
);

test('a loop in place, held, with a root: it closes, its root stays, its speed is that of the belt and its feet do not slide on it', () => {
  const { motion } = suit('walk', { seconds: 5, seed: 3 });
  const spot = onTheSpot(motion);
  const steps = [step({ kind: 'loop' }), step({ kind: 'foot-lock' }), step({ kind: 'travel' })];
  const falls = gaitOf(spot).contacts.left.map(({ from }) => from);
  const clip = recipeRunner(spot)({ from: falls[1], to: falls[2], steps });
  expect(clip.travel?.x.every((v) => v === clip.travel?.x[0])).toBe(true);
  const figures = clipFigures(clip);
  expect(figures?.inPlace).toBe(true);
  expect(figures?.speedMps).toBeCloseTo(1.3, 1);
  expect(figures?.tick).toBeLessThan(1.2);
  expect(figures?.slideCm).toBeLessThan(0.3);
});

test('a fit of who walks on the spot is that of who goes', async () => {
  const tallow = readCharacter(await castGlb('tallow'), 'tallow');
  const { motion } = suit('walk', { seconds: 4, seed: 3 });
  const [there, here] = [motion, onTheSpot(motion)].map((m) => fitMotion(m, tallow, fitSettingsSchema.parse({})));
  expect(bodiesApart(there.motion, here.motion)).toBeLessThan(0.005);
  expect(fitReport(here).slideCm).toBeLessThan(0.2);
});

test.each([2.8, 5.5])(
  'a run at %d m/s on the toes, on a belt and on the way: the floor is under the toes and every step is found',
  (speed) => {
    const { motion, truth } = capture('jog', { seconds: 5, seed: 4, speed });
    const J = motion.skeleton.joints.length;
    const joint = (name: string) => motion.skeleton.joints.findIndex((other) => other.name === name);
    // Heels up by 29°, the toes as they were; the body higher by what that makes the foot longer downwards.
    const up = 0.5;
    for (let f = 0; f < motion.frames; f++) {
      for (const side of ['Left', 'Right']) {
        const [foot, toes] = [joint(`${side}Foot`), joint(`${side}Toes`)].map((j) => (f * J + j) * 4);
        multiply(motion.rotations, foot, motion.rotations, foot, fromAxisAngle([1, 0, 0], up), 0);
        multiply(motion.rotations, toes, fromAxisAngle([1, 0, 0], -up), 0, motion.rotations, toes);
      }
      motion.rootPositions[f * 3 + 1] += 0.14 * Math.sin(up) + 0.063 * (Math.cos(up) - 1);
    }
    const flat = gaitOf(capture('jog', { seconds: 5, seed: 4, speed }).motion);
    for (const take of [motion, onTheSpot(motion)]) {
      const { soles, contacts, belt } = gaitOf(take);
      expect(Math.abs(soles.floor - flat.soles.floor)).toBeLessThan(0.01);
      expect(contacts.left.length + contacts.right.length).toBe(flat.contacts.left.length + flat.contacts.right.length);
      expect(truth.left.length + truth.right.length - contacts.left.length - contacts.right.length).toBeLessThanOrEqual(1);
      if (belt) expect(Math.abs(Math.hypot(belt.x, belt.z) / speed - 1)).toBeLessThan(0.05);
    }
    expect(gaitOf(onTheSpot(motion)).belt).not.toBeNull();
  },
);
