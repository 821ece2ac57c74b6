import { execFile } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import {
  clipFigures,
  findLoops,
  forwardKinematics,
  readGlb,
  recipeRunner,
  shipClip,
  stepSchema,
  worldMotion,
  writeGlb,
  type NamedClip,
} from '@lantern/motion';
import { resample } from '../src/model/resample';
import { validateBytes } from 'gltf-validator';
import { farthest, suit } from './made';

interface Loaded {
  bones: number;
  clips: { name: string; duration: number; poses: Record<string, number[]>[] }[];
}

const walk = suit('walk', { seed: 2 });
const run = recipeRunner(walk.motion);
const steps = [stepSchema.parse({ kind: 'loop' }), stepSchema.parse({ kind: 'travel', start: 'origin' })];
const [best] = findLoops(walk.gait).candidates;
const clips: NamedClip[] = [
  { name: 'stroll', clip: shipClip(run({ ...best, steps }), 60).clip },
  { name: 'cut only', clip: shipClip(run({ from: 100, to: 150, steps: [] }), 30).clip },
];

let folder = '';
let file = '';
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lantern-'));
  file = join(folder, 'set.glb');
  await writeFile(file, await writeGlb(clips));
});
afterAll(() => rm(folder, { recursive: true }));

test('the Khronos validator finds no error and no warning', async () => {
  const report = await validateBytes(await writeGlb(clips));
  expect(report.issues.messages.filter((message) => message.severity < 2)).toEqual([]);
  expect(report.info).toMatchObject({ animationCount: 2 });
});

test.each(['three', 'babylon'])(
  'the loader of %s poses every joint within 0.1 mm of our own kinematics at twenty instants',
  async (library) => {
    const { stdout } = await promisify(execFile)('node', [join(process.cwd(), `e2e/loaders/with-${library}.mjs`), file], {
      maxBuffer: 1e8,
    });
    const loaded = JSON.parse(stdout.slice(stdout.lastIndexOf('\n{') + 1)) as Loaded;
    expect(loaded.bones).toBe(walk.motion.skeleton.joints.length + 1);
    expect(loaded.clips.map((clip) => clip.name)).toEqual(clips.map(({ name }) => name));
    let worst = 0;
    loaded.clips.forEach((clip, i) => {
      const world = worldMotion(clips[i].clip);
      expect(clip.duration).toBeCloseTo((world.frames - 1) / world.fps, 5);
      clip.poses.forEach((pose, k) => {
        const seconds = (clip.duration * k) / 19.5;
        const ours = linearly(clips[i], seconds * world.fps);
        world.skeleton.joints.forEach((joint, j) => {
          const p = pose[joint.name];
          worst = Math.max(worst, Math.hypot(p[0] - ours[j * 3], p[1] - ours[j * 3 + 1], p[2] - ours[j * 3 + 2]));
        });
      });
    });
    expect(worst).toBeLessThan(0.0001);
  },
);

test('what was written reads back the same, travel and loop flag included', async () => {
  const back = await readGlb(await writeGlb(clips));
  back.forEach(({ name, clip }, i) => {
    expect(name).toBe(clips[i].name);
    expect(clip.loop).toBe(clips[i].clip.loop);
    expect(clip.motion.fps).toBe(clips[i].clip.motion.fps);
    expect(farthest(worldMotion(clip), worldMotion(clips[i].clip))).toBeLessThan(0.00001);
    // Without end sites the reader knows less of the feet; speed and seam must be the same all the same.
    expect(clipFigures(clip)?.speedMps).toBeCloseTo(clipFigures(clips[i].clip)?.speedMps ?? 0, 2);
    expect(clipFigures(clip)?.seam.poseCm).toBeCloseTo(clipFigures(clips[i].clip)?.seam.poseCm ?? 0, 2);
  });
});

test('the same clips are the same bytes', async () => {
  expect(Buffer.from(await writeGlb(clips)).equals(Buffer.from(await writeGlb(clips)))).toBe(true);
});

test('clips of different skeletons are refused by name', async () => {
  const other = suit('walk', { seconds: 2, stature: 1.5 });
  const small = { name: 'small', clip: { motion: other.motion, travel: null, loop: false } };
  await expect(writeGlb([...clips, small])).rejects.toThrow(/"small".*skeleton/);
});

/** Our kinematics between frames, as an engine interpolates: each joint's rotation on its own, shortest way. */
function linearly({ clip }: NamedClip, frame: number): Float32Array {
  const fine = 64;
  const at = Math.min(clip.motion.frames - 1, Math.floor(frame));
  const next = Math.min(clip.motion.frames - 1, at + 1);
  const u = frame - at;
  const joints = clip.motion.skeleton.joints.length;
  const pair = resample({ ...clip.motion, frames: 2, ...slice(clip, at, next, joints) }, 2, fine);
  const mixed = { ...pair, frames: 1, rotations: new Float32Array(joints * 4), rootPositions: new Float32Array(3) };
  for (let j = 0; j < joints; j++) {
    const a = pair.rotations.subarray(j * 4, j * 4 + 4);
    const b = pair.rotations.subarray((joints + j) * 4, (joints + j) * 4 + 4);
    const dot = a.reduce((sum, v, k) => sum + v * b[k], 0);
    const angle = Math.acos(Math.min(1, Math.abs(dot)));
    const [wa, wb] = angle < 1e-4 ? [1 - u, u] : [Math.sin((1 - u) * angle) / Math.sin(angle), Math.sin(u * angle) / Math.sin(angle)];
    for (let k = 0; k < 4; k++) mixed.rotations[j * 4 + k] = wa * a[k] + Math.sign(dot) * wb * b[k];
  }
  for (let k = 0; k < 3; k++) mixed.rootPositions[k] = pair.rootPositions[k] * (1 - u) + pair.rootPositions[3 + k] * u;
  const travel = clip.travel && {
    x: Float64Array.of(clip.travel.x[at] * (1 - u) + clip.travel.x[next] * u),
    y: Float64Array.of(clip.travel.y[at] * (1 - u) + clip.travel.y[next] * u),
    z: Float64Array.of(clip.travel.z[at] * (1 - u) + clip.travel.z[next] * u),
    heading: Float64Array.of(clip.travel.heading[at] * (1 - u) + clip.travel.heading[next] * u),
  };
  return forwardKinematics(worldMotion({ motion: mixed, travel })).positions;
}

function slice({ motion }: NamedClip['clip'], at: number, next: number, joints: number) {
  const rotations = new Float32Array(joints * 8);
  rotations.set(motion.rotations.subarray(at * joints * 4, (at + 1) * joints * 4));
  rotations.set(motion.rotations.subarray(next * joints * 4, (next + 1) * joints * 4), joints * 4);
  const rootPositions = new Float32Array(6);
  rootPositions.set(motion.rootPositions.subarray(at * 3, at * 3 + 3));
  rootPositions.set(motion.rootPositions.subarray(next * 3, next * 3 + 3), 3);
  return { rotations, rootPositions };
}
