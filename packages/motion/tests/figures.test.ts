import {
  bodyMesh,
  clipFigures,
  cutClip,
  cutMotion,
  features,
  findBody,
  forwardKinematics,
  moveFrames,
  recipeRunner,
  seam,
  shipClip,
  stepSchema,
  toMetres,
  worldMotion,
  type Motion,
} from '@lantern/motion';
import { contacts } from '../src/measure/contacts';
import { cycleTransform } from '../src/model/repeat';
import { findUp } from '../src/passport/to-metres';
import { footfalls, strideFrames } from '../src/measure/strides';
import { invert } from '../src/model/floor-transform';
import { resample } from '../src/model/resample';
import { restPositions } from '../src/model/skeleton';
import { statureOf } from '../src/measure/stature';
import type { UpAxis } from '../src/model/take';
import fc from 'fast-check';
import { farthest, gaitOf, suit } from './made';

const { motion, gait, truth } = suit('walk', { faults: 0, seed: 12 });
const LOOP = stepSchema.parse({ kind: 'loop' });

test('whatever axis is up is found, and the take stands upright in the same pose', () => {
  for (const up of ['+y', '+z', '-z', '+x', '-x', '-y'] as const satisfies readonly UpAxis[]) {
    // Turning by the opposite axis’s rotation puts the given axis up, for all that lie in the floor.
    const opposite = { '+y': '+y', '+z': '-z', '-z': '+z', '+x': '-x', '-x': '+x', '-y': '-y' } as const;
    const tilted = toMetres(motion, { metresPerUnit: 1, up: opposite[up] });
    expect(findUp(tilted)).toBe(up);
    const upright = toMetres(tilted, { metresPerUnit: 1, up });
    expect(statureOf(upright).units).toBeCloseTo(1.78, 2);
    expect(farthest(cutMotion(upright, 5, 5), cutMotion(motion, 5, 5))).toBeLessThan(1e-5);
  }
});

test('scaling a take scales every joint’s place and nothing else', () => {
  const big = toMetres(motion, { metresPerUnit: 2, up: '+y' });
  const p = forwardKinematics(motion).positions;
  const q = forwardKinematics(big).positions;
  for (let i = 0; i < 3000; i++) expect(q[i]).toBeCloseTo(2 * p[i], 4);
  expect([...big.rotations.slice(0, 80)]).toEqual([...motion.rotations.slice(0, 80)]);
});

test('a floor transform and its inverse cancel, for any turn and shift', () => {
  const part = fc.double({ min: -7, max: 7, noNaN: true });
  fc.assert(
    fc.property(part, part, part, part, (turn, x, z, y) => {
      const moved = cutMotion(motion, 0, 0);
      moveFrames(moved, { turn, x, z, y });
      moveFrames(moved, invert({ turn, x, z, y }));
      expect(farthest(moved, cutMotion(motion, 0, 0))).toBeLessThan(1e-5);
    }),
    { numRuns: 30 },
  );
});

test('turned and shifted takes have the same contacts, strides, features and seams', () => {
  const other = cutMotion(motion, 0, motion.frames - 1);
  moveFrames(other, { turn: 1.9, x: 12, z: -3, y: 0.4 });
  const moved = gaitOf(other);
  expect(moved.contacts.left).toEqual(gait.contacts.left);
  expect(moved.soles.floor).toBeCloseTo(gait.soles.floor + 0.4, 4);
  expect(strideFrames(moved.contacts)).toBe(strideFrames(gait.contacts));
  const [a, b] = [seam(gait, 100, 165), seam(moved, 100, 165)];
  for (const key of ['poseCm', 'velocityCmS', 'headingDeg', 'heightCm', 'driftCm'] as const) expect(b[key]).toBeCloseTo(a[key], 1);
  const [f, g] = [features(gait), features(moved)];
  const distance = (v: Float32Array, i: number, j: number) =>
    Array.from({ length: f.width }, (_, k) => (v[i * f.width + k] - v[j * f.width + k]) ** 2).reduce((s, d) => s + d);
  expect(distance(g.values, 100, 140)).toBeCloseTo(distance(f.values, 100, 140), 4);
});

test('a pose against itself has no seam; features bound the aligned distance from above', () => {
  expect(seam(gait, 50, 50)).toMatchObject({
    poseCm: expect.closeTo(0, 4),
    velocityCmS: expect.closeTo(0, 4),
    headingDeg: expect.closeTo(0, 4),
  });
  const { values, width } = features(gait);
  for (const [i, j] of [
    [50, 80],
    [60, 125],
    [100, 133],
  ]) {
    let sum = 0;
    for (let k = 0; k < width; k++) sum += (values[i * width + k] - values[j * width + k]) ** 2;
    // The seam's pose also counts the twist of points 10 cm off, and every joint a little: a fifth is allowed for that.
    expect(seam(gait, i, j).poseCm / 100).toBeLessThan(1.2 * Math.sqrt(sum) + 0.001);
  }
});

test('strides last as long as they truly do, and footfalls are where the feet came down', () => {
  const starts = truth.left.map((interval) => interval.from).filter((f) => f > 0);
  const stride = (starts[starts.length - 1] - starts[0]) / (starts.length - 1);
  expect(Math.abs((strideFrames(gait.contacts) ?? 0) - stride)).toBeLessThan(1.5);
  for (const fall of footfalls(gait.contacts, 'left')) expect(Math.min(...starts.map((s) => Math.abs(s - fall)))).toBeLessThanOrEqual(3);
  expect(strideFrames(suit('idle').gait.contacts)).toBeNull();
});

test('stricter thresholds find no more contact than looser ones', () => {
  const count = (height: number, speed: number) =>
    (['left', 'right'] as const)
      .flatMap((side) => contacts(gait.soles, 60, null, { height, speed })[side])
      .reduce((sum, { from, to }) => sum + to - from, 0);
  expect(count(0.01, 0.15)).toBeLessThanOrEqual(count(0.02, 0.25));
  expect(count(0.02, 0.25)).toBeLessThanOrEqual(count(0.04, 0.6));
});

test('the body is closed, as tall as its skeleton, and each capsule lies about its own bone', () => {
  const mesh = bodyMesh(motion.skeleton, findBody(motion));
  const edges = new Map<string, number>();
  for (let i = 0; i < mesh.indices.length; i += 3) {
    for (let k = 0; k < 3; k++) {
      const [a, b] = [mesh.indices[i + k], mesh.indices[i + ((k + 1) % 3)]];
      const key = [a, b]
        .map((v) => [0, 1, 2].map((c) => Math.round(mesh.positions[v * 3 + c] * 1e5) + 0).join())
        .sort()
        .join(' ');
      edges.set(key, (edges.get(key) ?? 0) + 1);
    }
  }
  expect([...edges.values()].every((uses) => uses % 2 === 0)).toBe(true);
  const heights = Array.from({ length: mesh.positions.length / 3 }, (_, v) => mesh.positions[v * 3 + 1]);
  expect(Math.max(...heights)).toBeCloseTo(1.78, 1);
  expect(Math.min(...heights)).toBeGreaterThan(-0.03);
  const rest = restPositions(motion.skeleton);
  mesh.joints.forEach((j, v) =>
    expect(Math.hypot(...[0, 1, 2].map((k) => mesh.positions[v * 3 + k] - rest[j * 3 + k]))).toBeLessThan(0.62),
  );
  for (let v = 0; v < mesh.normals.length; v += 3)
    expect(Math.hypot(mesh.normals[v], mesh.normals[v + 1], mesh.normals[v + 2])).toBeCloseTo(1, 4);
});

test('a skeleton that is nobody’s has a body all the same', () => {
  const joints = [0, 1, 2].map((j) => ({
    name: `b${j}`,
    parent: j - 1,
    offset: [0, 0.4 * j, 0] as const,
    restRotation: [0, 0, 0, 1] as const,
    endSites: j === 2 ? [[0, 0.3, 0] as const] : [],
  }));
  expect(bodyMesh({ joints }, null).indices.length).toBeGreaterThan(100);
});

test('the same recipe is worked once; a change of the last step leaves what came before it as it was', () => {
  const run = recipeRunner(motion);
  const recipe = { from: 100, to: 165, steps: [LOOP, stepSchema.parse({ kind: 'travel' })] };
  expect(run(recipe)).toBe(run({ ...recipe, steps: [...recipe.steps] }));
  const other = run({ ...recipe, steps: [LOOP, stepSchema.parse({ kind: 'travel', height: 'root' })] });
  expect(other).not.toBe(run(recipe));
  expect(farthest(worldMotion(other), worldMotion(run(recipe)))).toBeLessThan(1e-5);
  // Nothing is destroyed: the take is what it was.
  expect([...motion.rotations.slice(8400, 8500)]).toEqual([...suit('walk', { faults: 0, seed: 12 }).motion.rotations.slice(8400, 8500)]);
});

test('shipping at another rate keeps length, way and speed to the retime it reports', () => {
  const clip = recipeRunner(motion)({ from: 100, to: 165, steps: [LOOP, stepSchema.parse({ kind: 'travel' })] });
  for (const fps of [24, 30, 48, 60, 120]) {
    const { clip: shipped, rateChange } = shipClip(clip, fps);
    const cycle = shipped.motion.frames - 1;
    expect(cycle).toBe(Math.round((65 * fps) / 60));
    expect(rateChange).toBeCloseTo(65 / 60 / (cycle / fps), 9);
    const { x, z } = cycleTransform(shipped);
    const { x: x0, z: z0 } = cycleTransform(clip);
    expect(Math.hypot(x - x0, z - z0)).toBeLessThan(1e-6);
    expect(clipFigures(shipped)?.speedMps).toBeCloseTo((clipFigures(clip)?.speedMps ?? 0) * rateChange, 3);
  }
});

test('a loop resampled round its seam has no step there, a plain clip keeps its ends', () => {
  const clip = recipeRunner(motion)({ from: 100, to: 165, steps: [LOOP, stepSchema.parse({ kind: 'travel' })] });
  const fine = resample(clip.motion, 131, 120, { loop: true });
  const { positions, joints } = forwardKinematics(fine);
  const step = (f: number) =>
    Math.hypot(...[0, 1, 2].map((k) => positions[((f + 1) * joints + 15) * 3 + k] - positions[(f * joints + 15) * 3 + k]));
  const at = (f: number, k: number) => positions[(((f + 130) % 130) * joints + 15) * 3 + k];
  const across = Math.hypot(...[0, 1, 2].map((k) => at(0, k) - at(-1, k)));
  expect(across).toBeLessThan(1.5 * Math.max(step(1), step(128)) + 0.001);
  const cut: Motion = cutClip(motion, 10, 40).motion;
  const coarse = resample(cut, 11, 20);
  expect(farthest(cutMotion(coarse, 10, 10), cutMotion(cut, 30, 30))).toBeLessThan(1e-6);
  expect(coarse.fps).toBe(20);
});
