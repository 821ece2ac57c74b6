import { capture, expressOn, zoo } from '@lantern/capture';
import { bodyOf, layFigure } from '@lantern/motion';
import { surfaceNets } from '../src/math/surface-nets';
import { trot } from '../tests/four-legged';

const made = capture('walk', { seconds: 1, seed: 1 });

/** How often each edge is the side of a triangle; in a closed surface twice. */
function sidesOfEdges(indices: ArrayLike<number>): Map<number, number> {
  const edges = new Map<number, number>();
  for (let i = 0; i < indices.length; i += 3) {
    for (const [a, b] of [
      [indices[i], indices[i + 1]],
      [indices[i + 1], indices[i + 2]],
      [indices[i + 2], indices[i]],
    ]) {
      const key = Math.min(a, b) * 1e7 + Math.max(a, b);
      edges.set(key, (edges.get(key) ?? 0) + 1);
    }
  }
  return edges;
}

test('the surface of a ball is closed, faces outwards, and lies where the ball is', () => {
  const size = [41, 41, 41] as const;
  const at = (n: number) => -2 + 0.1 * n;
  const values = Float32Array.from(
    { length: 41 ** 3 },
    (_, i) => Math.hypot(at(i % 41), at(Math.floor(i / 41) % 41), at(Math.floor(i / 1681))) - 1,
  );
  const { positions, indices } = surfaceNets({ values, size, low: [-2, -2, -2], cell: 0.1 });
  for (let v = 0; v < positions.length; v += 3) expect(Math.abs(Math.hypot(...positions.slice(v, v + 3)) - 1)).toBeLessThan(0.02);
  expect(new Set(sidesOfEdges(indices).values())).toEqual(new Set([2]));
  let volume = 0;
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => positions.slice(indices[i + k] * 3, indices[i + k] * 3 + 3));
    volume += (a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0])) / 6;
  }
  expect(volume).toBeCloseTo((4 / 3) * Math.PI, 1);
});

test.each(['as the suit', 'no toes', 'rest seated', 'rest at zero', 'small', 'names: none', 'mixed 3'])(
  'a lay figure is made from “%s”: of a piece, as tall as a person, every vertex carried whole',
  (name) => {
    const member = zoo().find((one) => one.name === name);
    if (!member) throw new Error(`no ${name}`);
    const { motion } = expressOn(member.rig, made.motion);
    const figure = layFigure(motion.skeleton, bodyOf(motion));
    expect(figure.skin).toBeDefined();
    const heights = figure.positions.filter((_, i) => i % 3 === 1);
    const tall = Math.max(...heights) - Math.min(...heights);
    expect(tall / member.rig.stature).toBeGreaterThan(0.9);
    expect(tall / member.rig.stature).toBeLessThan(1.12);
    expect(Math.max(...sidesOfEdges(figure.indices).values())).toBeLessThanOrEqual(4);
    const { weights, joints } = figure.skin ?? { weights: [], joints: [] };
    for (let v = 0; v < weights.length; v += 4) {
      const own = Array.from(weights.slice(v, v + 4));
      expect(own.reduce((sum, w) => sum + w, 0)).toBeCloseTo(1, 5);
      expect(own[0]).toBe(Math.max(...own));
    }
    expect(Math.max(...joints)).toBeLessThan(motion.skeleton.joints.length);
  },
);

test('what is no person gets the plain body', () => {
  const motion = trot({ named: true });
  expect(layFigure(motion.skeleton, bodyOf(motion)).skin).toBeUndefined();
});
