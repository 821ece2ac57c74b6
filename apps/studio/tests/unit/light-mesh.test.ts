import { capture } from '@lantern/capture';
import { bodyMesh, bodyOf, layFigure, poseAt, skinned, type BodyMesh, type Motion } from '@lantern/motion';
import { lighter } from '@/worker/light-mesh';

const { motion } = capture('jog', { seconds: 2, seed: 4 });
const full = layFigure(motion.skeleton, bodyOf(motion));

/** Where the corners of a body are in a frame of a motion. */
function posed({ skin, positions, indices }: BodyMesh, own: Motion, frame: number): Float32Array {
  if (!skin) throw new Error('a body without a skin');
  return skinned({ ...skin, positions, normals: positions, indices: Uint32Array.from(indices) }, poseAt(own, frame));
}

function volume(at: Float32Array, indices: ArrayLike<number>): number {
  let sum = 0;
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => at.subarray(indices[i + k] * 3, indices[i + k] * 3 + 3));
    sum += (a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0])) / 6;
  }
  return sum;
}

test('a lay figure is drawn with a third of its triangles, each corner one of those that were there', async () => {
  const light = await lighter(full);
  expect(light.indices.length).toBeLessThan(full.indices.length / 3);
  const corner = ({ positions, normals, skin }: BodyMesh, v: number) =>
    [...[positions, normals].map((own) => own.subarray(v * 3, v * 3 + 3)), skin?.weights.subarray(v * 4, v * 4 + 4)].join(' ');
  const known = new Set(Array.from(full.joints, (_, v) => corner(full, v)));
  expect(Array.from(light.joints, (_, v) => known.has(corner(light, v)))).not.toContain(false);
  // Nothing is left over that no triangle uses.
  expect(new Set(light.indices).size).toBe(light.joints.length);
});

test('it is as big in every pose of a run, also where knees and elbows bend', async () => {
  const light = await lighter(full);
  for (let frame = 0; frame < motion.frames; frame += 10) {
    const [before, after] = [posed(full, motion, frame), posed(light, motion, frame)];
    const share = volume(after, light.indices) / volume(before, full.indices);
    expect(share).toBeGreaterThan(0.98);
    expect(share).toBeLessThan(1.01);
    for (let k = 0; k < 3; k++) {
      const [whole, thinned] = [before, after].map((all) => all.filter((_, i) => i % 3 === k));
      expect(Math.abs(Math.max(...thinned) - Math.max(...whole))).toBeLessThan(0.004);
      expect(Math.abs(Math.min(...thinned) - Math.min(...whole))).toBeLessThan(0.004);
    }
  }
});

test('somebody of a quarter of the size is thinned no further', async () => {
  const small = { ...full, positions: full.positions.map((p) => p / 4) };
  const [one, other] = [await lighter(full), await lighter(small)];
  expect(Math.abs(other.indices.length / one.indices.length - 1)).toBeLessThan(0.02);
});

test('a plain body, which has few triangles, stays as it is', async () => {
  const plain = bodyMesh(motion.skeleton, null);
  expect(await lighter(plain)).toBe(plain);
});
