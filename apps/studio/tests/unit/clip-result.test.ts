import { capture } from '@lantern/capture';
import { findLoops, groundwork, recipeRunner, recipeSchema, type RecipeStepInput } from '@lantern/motion';
import { clipMeasured, clipResult } from '@/worker/clip-result';

const { motion } = capture('walk', { seconds: 8, seed: 6 });
const ground = groundwork(motion);
const [best] = ground ? findLoops(ground).candidates : [];
const held = { project: 'p', character: null, motion, ground, run: recipeRunner(motion), loops: null, features: null };
const recipe = (...steps: RecipeStepInput[]) => ({ from: best.from, to: best.to, steps: recipeSchema.parse(steps) });
const VIEW = { repeats: 1, inPlace: false };

test('what is measured has a line for every step by its id, and none for one that is switched off', () => {
  const { steps } = clipMeasured(
    held,
    recipe(
      { kind: 'loop' },
      { kind: 'speed', mps: 1.6 },
      { kind: 'foot-lock' },
      { kind: 'retime', off: true },
      { kind: 'retime', factor: 2 },
    ),
    VIEW,
  );
  expect(Object.keys(steps)).toEqual(['loop', 'speed', 'foot-lock', 'retime', 'retime-2']);
  expect(steps.speed.report).toMatchObject({ label: 'speed', after: expect.closeTo(1.6, 2) });
  expect(steps.speed.speed?.stride).toBeGreaterThan(1);
  expect(steps['foot-lock'].report?.after).toBeLessThan(0.2);
  expect(steps.retime.report).toBeNull();
  expect(steps['retime-2'].untimed?.landings.length).toBeGreaterThan(1);
  const { before, after } = steps['retime-2'].report ?? {};
  expect((before ?? 0) / (after ?? 1)).toBeCloseTo(2, 1);
});

test('contacts lie in the cut where a cycle begins in mid-stance; of a mirror image and of another time they lie nowhere in it', () => {
  const of = (...steps: RecipeStepInput[]) => clipMeasured(held, recipe(...steps), VIEW).contactsIn;
  const cycle = best.to - best.from;
  expect(of({ kind: 'loop' }, { kind: 'foot-lock' })).toEqual({ start: 0, cycle });
  const begun = of({ kind: 'loop', start: 'left-stance' }, { kind: 'foot-lock' });
  expect(begun?.cycle).toBe(cycle);
  expect(begun?.start).toBeGreaterThan(0);
  expect(of({ kind: 'mirror' }, { kind: 'loop' }, { kind: 'foot-lock' })).toBeNull();
  expect(of({ kind: 'loop' }, { kind: 'retime', factor: 2 }, { kind: 'foot-lock' })).toBeNull();
  // Time that is changed after the feet are held changes nothing of where they are held.
  expect(of({ kind: 'loop' }, { kind: 'foot-lock' }, { kind: 'retime', factor: 2 })).toEqual({ start: 0, cycle });
});

test('what is shown plays a loop on end, travelling or in place, and the floor is at zero under a root at the origin', () => {
  const steps: RecipeStepInput[] = [{ kind: 'loop' }, { kind: 'travel', start: 'origin' }];
  const four = clipResult(held, recipe(...steps), { repeats: 4, inPlace: false });
  const cycle = best.to - best.from;
  expect(four).toMatchObject({ loop: true, cycle, floor: 0 });
  expect(four.motion.frames).toBe(4 * cycle + 1);
  const hips = four.motion.rootPositions;
  expect(hips[4 * cycle * 3 + 2]).toBeGreaterThan(4 * 1.1);
  const still = clipResult(held, recipe(...steps), { repeats: 4, inPlace: true });
  expect(Math.abs(still.motion.rootPositions[4 * cycle * 3 + 2] - still.motion.rootPositions[2])).toBeLessThan(1e-3);
  expect(still.way).toBeNull();
});
