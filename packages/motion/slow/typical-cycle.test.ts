import { angleBetween, clipFigures, InputError, recipeRunner, stepSchema } from '@lantern/motion';
import { typicalCycle } from '../src/find/typical-cycle';
import { capture } from '@lantern/capture';
import { gaitOf } from '../tests/made';

const STEPS = ['typical-cycle', 'loop', 'foot-lock', 'travel'].map((kind) => stepSchema.parse({ kind }));

test.each(['walk', 'jog', 'hush'] as const)('%s: the average of noisy strides is nearer to the truth than any one of them', (script) => {
  const { motion, truth } = capture(script, { seconds: 14, seed: 8, faults: 3 });
  const seen = gaitOf(motion);
  const noisy = typicalCycle(seen);
  const clean = typicalCycle(Object.create(gaitOf(truth.motion), { contacts: { value: seen.contacts } }));
  expect(noisy.strides.length).toBeGreaterThan(6);
  // Joints against their parents: the suit's floor and heading are off as a whole, and no averaging mends that.
  const meanOf = ({ motion: a }: typeof noisy) => {
    const J = a.skeleton.joints.length;
    let sum = 0;
    for (let f = 0; f < a.frames; f++) {
      for (let j = 1; j < J; j++) sum += angleBetween(a.rotations, (f * J + j) * 4, clean.motion.rotations, (f * J + j) * 4);
    }
    return sum / (a.frames * (J - 1));
  };
  const averaged = meanOf(noisy);
  const single = noisy.strides.map((_, i) => {
    const others = noisy.strides.map((_, k) => k).filter((k) => k !== i);
    return meanOf(typicalCycle(seen, others));
  });
  expect(averaged).toBeLessThan(Math.min(...single));
});

test('a stumble among the strides is left out', () => {
  const { motion } = capture('walk', { seconds: 12, seed: 8, faults: 0 });
  const shaken = { ...motion, rotations: motion.rotations.slice() };
  const J = motion.skeleton.joints.length;
  for (let f = 300; f < 340; f++) {
    for (const j of [6, 7, 10]) shaken.rotations.set([Math.sin(0.4), 0, 0, Math.cos(0.4)], (f * J + j) * 4);
  }
  const { strides } = typicalCycle(gaitOf(shaken));
  const out = strides.filter(({ isOut }) => isOut);
  expect(out.length).toBeGreaterThanOrEqual(1);
  for (const { from, to } of out) expect(from < 340 && to > 300).toBe(true);
});

test('in a recipe it makes one stride of many, which then loops without a tick; one stride alone is refused in words', () => {
  const { motion } = capture('walk', { seconds: 12, seed: 9 });
  const clip = recipeRunner(motion)({ from: 60, to: 600, steps: STEPS });
  const figures = clipFigures(clip);
  expect(figures?.seconds).toBeGreaterThan(0.9);
  expect(figures?.seconds).toBeLessThan(1.3);
  expect(figures?.tick).toBeLessThanOrEqual(1.2);
  expect(figures?.speedMps).toBeCloseTo(1.3, 1);
  expect(figures?.slideCm).toBeLessThan(0.105);
  expect(() => recipeRunner(motion)({ from: 60, to: 120, steps: STEPS })).toThrow(InputError);
});
