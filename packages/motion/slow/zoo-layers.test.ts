import { capture, expressOn, zoo } from '@lantern/capture';
import {
  applyStep,
  bodyOf,
  clipContacts,
  handSlides,
  limbPlace,
  recipeRunner,
  reportOf,
  stepSchema,
  thinKeys,
  troublesOf,
  type Clip,
  type Motion,
  type StepOfKind,
} from '@lantern/motion';

/** A clip of somebody, with his body settled. */
const clipOf = (motion: Motion, from: number, to: number): Clip => recipeRunner(motion)({ from, to, steps: [] });

/** Laws of layers, clearance and thinning that hold on whoever it is. */
function hold(clip: Clip): void {
  const body = bodyOf(clip.motion);
  if (!body) throw new Error('nobody');
  const here = limbPlace(clip.motion, 'left hand', 30);
  if (!here) throw new Error('no hand');
  // Towards the shoulder, which every arm reaches.
  const to: [number, number, number] = [here[0], here[1] + 0.08, here[2]];
  const touch = stepSchema.parse({
    kind: 'corrections',
    layers: [{ name: 'a', touches: [{ limb: 'left hand', from: 28, to: 32, target: { to: 'place', at: to } }] }],
  });
  expect(troublesOf(touch, { before: clip })).toEqual([]);
  const touched = limbPlace(applyStep(clip, touch).motion, 'left hand', 30);
  expect(Math.hypot(...(touched ?? [9, 9, 9]).map((v, k) => v - to[k]))).toBeLessThan(1e-4);
  const held = { from: 29, to: 32, on: { to: 'place', at: to } };
  const lock = stepSchema.parse({ kind: 'hand-lock', contacts: { left: [held], right: [] } }) as StepOfKind<'hand-lock'>;
  expect(handSlides(clip, lock)[0].slideCm).toBeGreaterThan(0.1);
  expect(handSlides(applyStep(clip, lock), lock, clip)[0].slideCm).toBeLessThan(0.02);
  const clearance = stepSchema.parse({ kind: 'clearance' });
  expect(reportOf(clearance, clip, applyStep(clip, clearance))?.after).toBeLessThan(0.5);
  const calm = applyStep(clip, stepSchema.parse({ kind: 'clean' }));
  const thinned = thinKeys(calm, clipContacts(calm));
  expect(thinned.joining).toBe('smooth');
  expect(thinned.worst.metres).toBeLessThan(0.0005);
  expect(thinned.dense / thinned.kept).toBeGreaterThan(3);
  // A curve's key is as large as three straight ones: of what trembles, too, what is written is never more than a key on every frame.
  const rough = thinKeys(clip, clipContacts(clip));
  expect(rough.worst.metres).toBeLessThan(0.0005);
  expect(rough.kept * (rough.joining === 'smooth' ? 3 : 1)).toBeLessThan(rough.dense);
}

test.each(zoo().map((member) => [member.name, member] as const))(
  'on %s hands reach what they touch and stay where they are held, nothing is left in the body, thinned keys keep their bound',
  (_, { rig }) => {
    const { motion } = expressOn(rig, capture('walk', { seed: 5, stature: rig.stature, fps: 30, seconds: 3 }).motion);
    hold(clipOf(motion, 5, 80));
  },
);
