import { capture, type ScriptName } from '@lantern/capture';
import {
  angleBetween,
  clipContacts,
  clipFigures,
  findLoops,
  forwardKinematics,
  groundwork,
  projectSchema,
  readGlb,
  recipeRunner,
  recipeSchema,
  reportOf,
  stepOf,
  stepSchema,
  thinKeys,
  thinnedKeys,
  withContacts,
  worldMotion,
  writeGlb,
  type Clip,
  type Motion,
  type RecipeStepInput,
} from '@lantern/motion';

/** A cut of a script, with its recipe. */
function clipOf(script: ScriptName, faults: number, ...steps: RecipeStepInput[]): Clip {
  const { motion } = capture(script, { seconds: 4, seed: 81, faults });
  return recipeRunner(motion)({ from: 20, to: motion.frames - 20, steps: recipeSchema.parse(steps) });
}

/** How far points within 10 cm of every joint are apart at the most, millimetres: frame by frame, joint by joint. */
function apart(a: Motion, b: Motion): { all: number; of: (joint: number, frame: number) => number } {
  const [p, q] = [a, b].map((motion) => forwardKinematics(motion));
  const of = (joint: number, frame: number) => {
    const i = frame * p.joints + joint;
    const away = Math.hypot(...[0, 1, 2].map((k) => p.positions[i * 3 + k] - q.positions[i * 3 + k]));
    return 1000 * (away + 0.1 * angleBetween(p.rotations, i * 4, q.rotations, i * 4));
  };
  let all = 0;
  for (let f = 0; f < p.frames; f++) for (let j = 0; j < p.joints; j++) all = Math.max(all, of(j, f));
  return { all, of };
}

test.each<[ScriptName, number, number]>([
  ['walk', 0, 5],
  ['walk', 1, 3],
])('a %s with faults × %d, cleaned, keeps the bound of half a millimetre with %d × fewer keys', (script, faults, fewer) => {
  const clip = clipOf(script, faults, ...(faults > 0 ? [{ kind: 'clean' as const }] : []));
  const contacts = clipContacts(clip);
  const { kept, dense, worst, played } = thinKeys(clip, contacts);
  expect(dense / kept).toBeGreaterThan(fewer);
  const { all, of } = apart(worldMotion(clip), worldMotion(played));
  expect(all).toBeLessThan(0.5);
  expect(worst.metres * 1000).toBeCloseTo(all, 6);
  expect(of(worst.joint, worst.frame)).toBeCloseTo(all, 6);
  // Feet that bear keep a tenth of it.
  const body = groundwork(clip.motion)?.body;
  if (!body || !contacts) throw new Error('nobody');
  for (const side of ['left', 'right'] as const)
    for (const { from, to } of contacts[side])
      for (let f = from; f < Math.min(to, clip.motion.frames); f++) expect(of(body.legs[side].ankle, f)).toBeLessThan(0.05);
});

test('what trembles is thinned by straight keys, which never take more room than one on every frame', () => {
  const rough = clipOf('walk', 3);
  const { joining, kept, dense, worst } = thinKeys(rough, clipContacts(rough));
  expect(joining).toBe('straight');
  expect(kept).toBeLessThanOrEqual(dense);
  expect(worst.metres).toBeLessThan(0.0005);
});

test.each(['smooth', 'straight'] as const)('%s keys in a file play as they were chosen, and are fewer bytes', async (joining) => {
  const clip = clipOf('walk', 0, { kind: 'travel' });
  const thin = { ...withContacts(clip), thin: { boundM: 0.001, joining } };
  const short = recipeRunner(clip.motion)({ from: 0, to: 1, steps: [] });
  const [body, dense, thinned] = [
    await writeGlb([{ name: 'walk', clip: short }]),
    await writeGlb([{ name: 'walk', clip }]),
    await writeGlb([{ name: 'walk', clip: thin }]),
  ];
  // Without the body that every file has.
  expect(thinned.length - body.length).toBeLessThan((dense.length - body.length) * (joining === 'smooth' ? 0.6 : 0.85));
  const [{ clip: read }] = await readGlb(thinned);
  expect(read.motion.frames).toBe(clip.motion.frames);
  expect(apart(worldMotion(clip), worldMotion(read)).all).toBeLessThan(1.01);
  const { played } = thinKeys(clip, clipContacts(clip), thin.thin);
  expect(apart(worldMotion(played), worldMotion(read)).all).toBeLessThan(0.02);
});

test('a bound for the whole chain: more room, fewer keys', () => {
  const clip = clipOf('walk', 0);
  const kept = [0.0002, 0.0005, 0.002].map((boundM) => thinKeys(clip, clipContacts(clip), { boundM }).kept);
  expect(kept[0]).toBeGreaterThan(kept[1]);
  expect(kept[1]).toBeGreaterThan(kept[2]);
  expect(thinKeys(clip, null, { joining: 'straight' }).kept).toBeGreaterThan(2 * thinKeys(clip, null).kept);
});

test('as a step it changes nothing that is seen, says how many keys there will be, and a loop stays one', async () => {
  const { motion } = capture('walk', { seconds: 8, seed: 81 });
  const ground = groundwork(motion);
  if (!ground) throw new Error('nobody');
  const [{ from, to }] = findLoops(ground).candidates;
  const steps = recipeSchema.parse([{ kind: 'clean' }, { kind: 'loop' }, { kind: 'foot-lock' }, { kind: 'travel' }, { kind: 'thin' }]);
  const run = recipeRunner(motion);
  const [before, after] = [run({ from, to, steps: steps.slice(0, 4) }), run({ from, to, steps })];
  expect(after.motion).toBe(before.motion);
  const thin = stepOf(steps, 'thin');
  const report = thin && reportOf(thin, before, after);
  expect(report?.before).toBe((motion.skeleton.joints.length + 3) * after.motion.frames);
  expect(report?.after).toBe(thinnedKeys(withContacts(after))?.kept);
  expect(report?.after).toBeLessThan((report?.before ?? 0) / 3);
  const [{ clip: read }] = await readGlb(await writeGlb([{ name: 'stroll', clip: after }]));
  expect(clipFigures({ ...read, loop: true })?.tick).toBeLessThan(1.2);
  expect(clipFigures({ ...read, loop: true })?.seam.poseCm).toBeLessThan(0.001);
});

test('a clip of two frames, and one that stands still, have a first key and a last', () => {
  const clip = clipOf('idle', 0);
  const still: Clip = {
    ...clip,
    motion: { ...clip.motion, rotations: clip.motion.rotations.slice(), rootPositions: clip.motion.rootPositions.slice() },
  };
  const J = still.motion.skeleton.joints.length;
  for (let f = 1; f < still.motion.frames; f++) {
    still.motion.rotations.copyWithin(f * J * 4, 0, J * 4);
    still.motion.rootPositions.copyWithin(f * 3, 0, 3);
  }
  for (const frames of thinKeys(still, null).keys.values()) expect([...frames]).toEqual([0, still.motion.frames - 1]);
  const { motion } = capture('walk', { seconds: 2, seed: 1 });
  const two = recipeRunner(motion)({ from: 10, to: 11, steps: [] });
  expect(thinKeys(two, null).kept).toBe(2 * (J + 1));
});

test('no bound is a sentence', () => {
  expect(stepSchema.safeParse({ kind: 'thin', boundMm: 0 }).error?.issues[0].message).toContain('without room no key can go');
  const behind = {
    oldLantern: 1,
    takes: [{ id: 'a', file: 'a.bvh' }],
    clips: [{ name: 'x', take: 'a', from: 0, to: 9, steps: [{ kind: 'thin' }, { kind: 'travel' }] }],
  };
  expect(projectSchema.safeParse(behind).error?.issues[0].message).toContain('put it before “Thin keys”');
});
