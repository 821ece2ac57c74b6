import { cloth, overThighs } from '../src/cloth';
import { bare } from '../src/flesh';

const level = (y: number) => ({ at: [0, y, 0] as const, wide: 0.2, deep: 0.15, from: -60, to: 70 });
const made = () => {
  const flesh = bare();
  cloth(flesh, { levels: [1, 0.8, 0.5].map(level), colour: [1, 0, 0], thick: 0.01, weights: overThighs('hips', ['left', 'right'], 0.1) });
  return flesh;
};

test('cloth is closed all round: every edge of it belongs to two faces, once each way', () => {
  const { indices } = made();
  const edges = new Set<string>();
  for (let i = 0; i < indices.length; i += 3) {
    for (const k of [0, 1, 2]) {
      const edge = `${indices[i + k]} ${indices[i + ((k + 1) % 3)]}`;
      expect(edges.has(edge)).toBe(false);
      edges.add(edge);
    }
  }
  for (const edge of edges) expect(edges.has(edge.split(' ').reverse().join(' '))).toBe(true);
});

test('its outer side looks outwards, and what carries a point of it comes to 1: the hips above, below the thigh on its side', () => {
  const { positions, normals, weights } = made();
  // Of the middle row, a point well inside its edges.
  const at = (9 + 4) * 3;
  expect(positions[at] * normals[at] + positions[at + 2] * normals[at + 2]).toBeGreaterThan(0.1);
  for (const shares of weights) expect(shares.reduce((sum, [, weight]) => sum + weight, 0)).toBeCloseTo(1, 9);
  expect(weights[4][0]).toEqual(['hips', 1]);
  const [low, high] = [weights[18], weights[26]].map((shares) => [...shares].sort((a, b) => b[1] - a[1])[0][0]);
  // It begins on the right and ends on the left.
  expect([low, high]).toEqual(['right', 'left']);
});
