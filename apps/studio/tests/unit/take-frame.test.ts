import { recipeRunner, sourceFrames, stepSchema } from '@lantern/motion';
import { capture } from '@lantern/capture';
import { clipFrameOf, contactsInCut, contactsInCycle, takeFrameOf } from '@/places/bench/take-frame';

/** A cycle that begins with a landing or in mid-stance, four frames into its cut of ten. */
const TIME = { cut: { from: 100, to: 110 }, cycle: 10, source: [4, 5, 6, 7, 8, 9, 0, 1, 2, 3, 4] };

test('the playhead of a cycle that begins elsewhere than its cut stands where the motion is, and finds its way back', () => {
  expect([0, 5, 6, 9, 10, 16].map((frame) => takeFrameOf(TIME, frame))).toEqual([104, 109, 100, 103, 104, 100]);
  for (let frame = 0; frame < 10; frame++) expect(clipFrameOf(TIME, takeFrameOf(TIME, frame))).toBe(frame);
});

test('without a frame of the take for each of its own a clip is counted from its cut, and never beyond its end', () => {
  const time = { ...TIME, source: null };
  expect(takeFrameOf(time, 13)).toBe(103);
  expect([90, 103, 130].map((frame) => clipFrameOf(time, frame))).toEqual([0, 3, 10]);
});

test('contacts of such a cycle lie in the cut where the feet are down in the take, and come back as they were', () => {
  const contacts = [
    { from: 0, to: 5 },
    { from: 7, to: 11 },
  ];
  const inCut = contactsInCut(contacts, 4, 10);
  expect(inCut).toEqual([
    { from: 4, to: 9 },
    { from: 1, to: 5 },
  ]);
  expect(contactsInCycle(inCut, 4, 10)).toEqual(contacts);
});

test('of a real cycle that begins in mid-stance every frame shows the pose of the frame of the take under the playhead', () => {
  const { motion } = capture('walk', { seconds: 8, seed: 4 });
  const run = recipeRunner(motion);
  const recipe = { from: 130, to: 196, steps: [stepSchema.parse({ kind: 'loop', start: 'left-stance', heading: 'captured' })] };
  const clip = run(recipe);
  expect(clip.closing?.start).toBeGreaterThan(0);
  const time = { cut: recipe, cycle: 66, source: sourceFrames(run, recipe) };
  const J = motion.skeleton.joints.length;
  const height = (m: typeof motion, f: number) => m.rootPositions[f * 3 + 1];
  const knee = (m: typeof motion, f: number) => m.rotations[(f * J + 2) * 4 + 3];
  for (let f = 0; f < 66; f += 5) {
    const at = takeFrameOf(time, f);
    expect(Math.abs(height(clip.motion, f) - height(motion, at))).toBeLessThan(0.012);
    expect(Math.abs(knee(clip.motion, f) - knee(motion, at))).toBeLessThan(0.03);
  }
});
