import { align, features, nearestPair, partnersOf, recurrence, seam, seamPoses } from '@lantern/motion';
import { suit } from './made';

const { gait, motion, truth } = suit('walk', { seed: 4, seconds: 8 });
const seen = features(gait);
const strike = truth.left[2].from;
const next = truth.left[3].from;

test('a take against itself: an instant is most like itself, the map is its own mirror image, a stride on is dark again', () => {
  const size = 121;
  const map = recurrence(seen, [0, 240], [0, 240], size);
  for (let i = 0; i < size; i += 7) {
    expect(map[i * size + i]).toBe(255);
    for (let j = 0; j < size; j += 11) expect(map[i * size + j]).toBe(map[j * size + i]);
  }
  const stride = next - strike;
  const like = map[10 * size + 10 + Math.round(stride / 2)];
  const half = map[10 * size + 10 + Math.round(stride / 4)];
  expect(like).toBeGreaterThan(1.5 * half);
});

test('the best pair near a pair meets better than it does, and is no nearer together than asked', () => {
  const found = nearestPair(seen, strike + 3, next - 2, 8, 20);
  const cost = (from: number, to: number) => {
    const { poseCm, velocityCmS } = seam(gait, from, to);
    return poseCm + 0.1 * velocityCmS;
  };
  expect(cost(found.from, found.to)).toBeLessThan(0.7 * cost(strike + 3, next - 2));
  const far = nearestPair(seen, 100, 110, 3, 30);
  expect(far.to - far.from).toBeGreaterThanOrEqual(30);
});

test('partners of a frame lie whole strides away, on either side, the nearest first', () => {
  const stride = next - strike;
  const after = partnersOf(seen, strike, strike + 18, strike + 260);
  expect(Math.abs(((after[0] - strike) / stride) % 1)).toBeLessThan(0.06);
  const before = partnersOf(seen, strike + 200, strike - 60, strike + 182);
  expect(before.every((f) => f < strike + 182)).toBe(true);
  const strides = (strike + 200 - before[0]) / stride;
  expect(Math.abs(strides - Math.round(strides))).toBeLessThan(0.06);
});

test('the end poses over each other: errors are what the seam says of them, and the body faces the viewer', () => {
  const poses = seamPoses(gait, strike, next);
  const found = seam(gait, strike, next);
  const worst = Math.max(...poses.errorCm);
  expect(worst).toBeCloseTo(found.worstCm, 4);
  expect(motion.skeleton.joints[poses.errorCm.indexOf(worst)].name).toBe(found.worstJoint);
  const at = (name: string) => motion.skeleton.joints.findIndex((joint) => joint.name === name) * 3;
  expect(poses.first[at('LeftArm')]).toBeGreaterThan(poses.first[at('RightArm')]);
  expect(Math.hypot(poses.first[0], poses.first[2])).toBeLessThan(1e-5);
  expect(align(gait.globals, strike, strike, gait.weighted.joints, gait.weighted.weights).turn).toBeCloseTo(0, 6);
  expect(Math.max(...seamPoses(gait, strike, strike).errorCm)).toBeLessThan(1e-3);
});
