import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { capture } from '@lantern/capture';
import { cutClip, cutMotion, forwardKinematics, readTake, withContacts, writeGlb } from '@lantern/motion';
import { oddGlb, type GlbOddities } from '../tests/odd-files';

const short = cutMotion(capture('turn', { seconds: 2, seed: 5 }).motion, 0, 39);
const folder = mkdtempSync(join(tmpdir(), 'lantern-'));
afterAll(() => rmSync(folder, { recursive: true }));

interface Loaded {
  readonly clips: readonly { readonly poses: readonly Readonly<Record<string, readonly number[]>>[] }[];
}

test.each<[string, GlbOddities, number]>([
  ['as it is', {}, 0.00001],
  ['under a scaled and turned armature', { armature: true }, 0.00001],
  ['with nodes between the joints', { between: true }, 0.00001],
  ['without a skin', { plain: true }, 0.00001],
  ['with stepped keys', { interpolation: 'STEP' }, 0.00001],
  ['with cubic keys', { interpolation: 'CUBICSPLINE' }, 0.00001],
  // Neither the library nor we hold 16 bits for more than they are; the library does not make the rotations unit again.
  ['with rotations as 16-bit integers', { integers: true }, 0.0002],
])('a GLB %s: three’s loader and ours put every joint of every frame in the same place', async (_, odd, within) => {
  const bytes = await oddGlb(short, odd);
  const file = join(folder, 'odd.glb');
  writeFileSync(file, bytes);
  const { motion } = readTake(bytes, 'odd.glb');
  const { positions, joints } = forwardKinematics(motion);
  const loaded = JSON.parse(
    execFileSync('node', ['e2e/loaders/with-three.mjs', file, String(motion.fps)], { maxBuffer: 1e8, encoding: 'utf8' }),
  ) as Loaded;
  let most = 0;
  let compared = 0;
  loaded.clips[0].poses.slice(0, motion.frames).forEach((pose, f) => {
    motion.skeleton.joints.forEach(({ name }, j) => {
      const place = pose[name];
      if (!place) return;
      compared++;
      for (let k = 0; k < 3; k++) most = Math.max(most, Math.abs(place[k] - positions[(f * joints + j) * 3 + k]));
    });
  });
  expect(compared).toBeGreaterThanOrEqual(motion.frames * 20);
  expect(most).toBeLessThan(within);
});

test('keys thinned within half a millimetre play in three as they play here', async () => {
  const clip = cutClip(short, 0, 39);
  const bytes = await writeGlb([{ name: 'turn', clip: { ...withContacts(clip), thin: { boundM: 0.0005, joining: 'smooth' } } }]);
  const file = join(folder, 'thin.glb');
  writeFileSync(file, bytes);
  const loaded = JSON.parse(
    execFileSync('node', ['e2e/loaders/with-three.mjs', file, String(short.fps)], { maxBuffer: 1e8, encoding: 'utf8' }),
  ) as Loaded;
  const { positions, joints } = forwardKinematics(clip.motion);
  let most = 0;
  loaded.clips[0].poses.slice(0, clip.motion.frames).forEach((pose, f) =>
    short.skeleton.joints.forEach(({ name }, j) => {
      for (let k = 0; k < 3; k++) most = Math.max(most, Math.abs(pose[name][k] - positions[(f * joints + j) * 3 + k]));
    }),
  );
  expect(most).toBeLessThan(0.0005);
  expect(most).toBeGreaterThan(0.00002);
});
