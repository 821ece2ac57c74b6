import {
  clipFigures,
  cutClip,
  cutMotion,
  findLoops,
  forwardKinematics,
  moveFrames,
  recipeRunner,
  repeatLoop,
  seam,
  shipClip,
  stepSchema,
  worldMotion,
  type Clip,
  type LoopCandidate,
  type Motion,
} from '@lantern/motion';
import { tick } from '../src/measure/tick';
import { farthest, gaitOf, suit } from './made';

const LOOP = stepSchema.parse({ kind: 'loop' });
const TRAVEL = stepSchema.parse({ kind: 'travel' });
const SHIPPED = [LOOP, stepSchema.parse({ kind: 'travel', start: 'origin' })];

const figuresOf = (clip: Clip) => {
  const figures = clipFigures(clip);
  if (!figures) throw new Error('no figures');
  return figures;
};
const closed = (motion: Motion, { from, to }: Pick<LoopCandidate, 'from' | 'to'>, steps = SHIPPED) =>
  recipeRunner(motion)({ from, to, steps });

describe.each([
  ['walk', 60],
  ['jog', 60],
  ['walk', 120],
  ['jog', 30],
  ['hush', 100],
] as const)('%s at %d a second with the usual faults', (script, fps) => {
  const { motion, gait, truth } = suit(script, { fps, seed: 5 });
  const { candidates } = findLoops(gait);
  const [best] = candidates;

  test('the best loop proposed is a whole number of true strides', () => {
    const starts = truth[best.startsOn ?? 'left'].map((interval) => interval.from);
    const stride = (starts[starts.length - 1] - starts[1]) / (starts.length - 2);
    const strides = (best.to - best.from) / stride;
    expect(best.strides).toBe(Math.round(strides));
    expect(Math.abs(strides - Math.round(strides)) * stride).toBeLessThan(0.03 * fps + 1);
  });

  test.each([24, 30, 60])('the first three close without a tick and at the true speed, shipped at %d', (rate) => {
    for (const candidate of candidates.slice(0, 3)) {
      const { clip, rateChange } = shipClip(closed(motion, candidate), rate);
      const figures = figuresOf(clip);
      expect(figures.tick).toBeLessThanOrEqual(1.2);
      expect(figures.seam.poseCm).toBeLessThan(1e-6);
      expect(figures.seam.worstCm).toBeLessThan(1e-6);
      expect(Math.abs(figures.seam.driftCm)).toBeLessThan(0.01);
      expect(figures.speedMps * (1 / rateChange)).toBeCloseTo(truth.speedMps, 1);
      expect(Math.abs(rateChange - 1)).toBeLessThan(0.04);
      expect(clip.motion.fps).toBe(rate);
    }
  });

  test('the root of a shipped loop goes straight ahead from the origin, evenly', () => {
    const { travel } = closed(motion, best);
    if (!travel) throw new Error('no travel');
    const steps = Array.from(travel.z.slice(1), (z, f) => z - travel.z[f]);
    expect(travel.x[0]).toBe(0);
    expect(Math.abs(travel.x[travel.x.length - 1])).toBeLessThan(1e-9);
    expect(Math.max(...steps) - Math.min(...steps)).toBeLessThan(1e-9);
    expect(travel.heading[0]).toBe(0);
  });
});

test('a cut that has no take around it is closed by spreading, without a tick', () => {
  for (const script of ['walk', 'jog'] as const) {
    const { motion, gait } = suit(script, { seed: 9 });
    const [best] = findLoops(gait).candidates;
    const alone = cutMotion(motion, best.from, best.to);
    const figures = figuresOf(closed(alone, { from: 0, to: alone.frames - 1 }));
    expect(figures.seam.poseCm).toBeLessThan(1e-6);
    expect(figures.tick).toBeLessThanOrEqual(1.2);
  }
});

test('someone who waits is offered loops of some seconds, and they close', () => {
  const { motion, gait } = suit('idle', { seconds: 25 });
  const { candidates } = findLoops(gait);
  expect(candidates.length).toBeGreaterThan(3);
  for (const candidate of candidates.slice(0, 3)) {
    expect(candidate).toMatchObject({ strides: 0, startsOn: null });
    expect(candidate.seconds).toBeGreaterThanOrEqual(2.4);
    expect(figuresOf(closed(motion, candidate)).tick).toBeLessThanOrEqual(1.2);
  }
});

test('a loop that turns keeps its turn when asked, and comes round to itself', () => {
  const { motion, gait } = suit('walk', { faults: 0, seconds: 9 });
  const [best] = findLoops(gait).candidates;
  // Bend the walk: each frame turned a little more about the hips, whose way is laid out anew.
  const bent = cutMotion(motion, 0, motion.frames - 1);
  const rate = 0.5 / motion.fps;
  let x = 0,
    z = 0;
  for (let f = 0; f < motion.frames; f++) {
    if (f > 0) {
      const h = rate * (f - 0.5);
      const dx = motion.rootPositions[f * 3] - motion.rootPositions[f * 3 - 3];
      const dz = motion.rootPositions[f * 3 + 2] - motion.rootPositions[f * 3 - 1];
      x += Math.cos(h) * dx + Math.sin(h) * dz;
      z += Math.cos(h) * dz - Math.sin(h) * dx;
    }
    moveFrames(bent, { turn: rate * f, x: 0, z: 0 }, f, f + 1);
    bent.rootPositions[f * 3] = x;
    bent.rootPositions[f * 3 + 2] = z;
  }
  const captured = closed(bent, best, [stepSchema.parse({ kind: 'loop', heading: 'captured' }), TRAVEL]);
  const figures = figuresOf(captured);
  expect(figures.turnDegS).toBeCloseTo((0.5 * 180) / Math.PI, 0);
  expect(figures.seam.poseCm).toBeLessThan(1e-6);
  expect(figures.tick).toBeLessThanOrEqual(1.2);
  const straight = figuresOf(closed(bent, best, [stepSchema.parse({ kind: 'loop', heading: 'straight' }), TRAVEL]));
  expect(Math.abs(straight.turnDegS)).toBeLessThan(0.01);
});

test('travel that drops nothing leaves every joint where it was in the world', () => {
  const { motion } = suit('rounds');
  for (const [from, to, steps] of [
    [300, 420, []],
    [600, 800, []],
    [310, 376, [LOOP]],
  ] as const) {
    const before = closed(motion, { from, to }, [...steps]);
    const after = closed(motion, { from, to }, [...steps, TRAVEL]);
    expect(farthest(worldMotion(before), worldMotion(after))).toBeLessThan(0.00001);
    expect(after.travel).not.toBeNull();
  }
});

test('dropped travel keeps the feet’s way under the hips, and its speed is read from them', () => {
  const { motion, gait, truth } = suit('walk', { faults: 0.3 });
  const [best] = findLoops(gait).candidates;
  const still = closed(motion, best, [LOOP, stepSchema.parse({ kind: 'travel', forward: 'drop', start: 'origin' })]);
  expect(Math.max(...(still.travel?.z ?? [9]).map(Math.abs))).toBeLessThan(1e-9);
  const figures = figuresOf(still);
  expect(figures.inPlace).toBe(true);
  expect(figures.speedMps).toBeCloseTo(truth.speedMps, 1);
  expect(figuresOf(closed(motion, best)).inPlace).toBe(false);
});

test('a step that is switched off changes nothing', () => {
  const { motion } = suit('walk');
  const off = closed(motion, { from: 100, to: 165 }, [{ ...LOOP, off: true }]);
  expect([...off.motion.rotations]).toEqual([...cutClip(motion, 100, 165).motion.rotations]);
  expect(off.loop).toBe(false);
});

test('a loop repeated three times goes three times as far and is continuous', () => {
  const { motion, gait } = suit('walk', { faults: 0 });
  const [best] = findLoops(gait).candidates;
  const clip = closed(motion, best);
  const cycle = clip.motion.frames - 1;
  const played = repeatLoop(clip, 3);
  expect(played.frames).toBe(3 * cycle + 1);
  const { positions, joints } = forwardKinematics(played);
  const one = (clip.travel?.z ?? [])[cycle];
  for (let j = 0; j < joints; j++) expect(positions[(2 * cycle * joints + j) * 3 + 2] - positions[j * 3 + 2]).toBeCloseTo(2 * one, 4);
  for (let j = 0; j < joints; j++) expect(positions[(3 * cycle * joints + j) * 3 + 2] - positions[j * 3 + 2]).toBeCloseTo(3 * one, 4);
});

test('the tick measures a jump: 0.5 mm of one frame is no tick, 5 mm is ten times too much', () => {
  const frames = 241;
  const made = (jump: number): Motion => {
    const { skeleton } = suit('idle', { seconds: 1 }).motion;
    const rotations = new Float32Array(frames * skeleton.joints.length * 4).map((_, i) => (i % 4 === 3 ? 1 : 0));
    const rootPositions = new Float32Array(frames * 3);
    for (let f = 0; f < frames; f++) rootPositions[f * 3 + 1] = 1 + 0.02 * Math.sin((2 * Math.PI * f) / 60) + (f % 240 === 0 ? jump : 0);
    return { skeleton, fps: 60, frames, rotations, rootPositions };
  };
  expect(tick({ motion: made(0), travel: null })).toBeLessThan(0.1);
  expect(tick({ motion: made(0.0005), travel: null })).toBeCloseTo(1, 1);
  expect(tick({ motion: made(0.005), travel: null })).toBeCloseTo(10, 0);
});

test('seam figures say what was done to the second pose', () => {
  const { motion } = suit('walk', { faults: 0 });
  const double = cutMotion(motion, 0, 1);
  const joints = motion.skeleton.joints.length;
  double.rotations.copyWithin(joints * 4, 0, joints * 4);
  double.rootPositions.copyWithin(3, 0, 3);
  moveFrames(double, { turn: (3 * Math.PI) / 180, x: 0, z: 2, y: 0.01 }, 1, 2);
  const figures = seam(gaitOf(double), 0, 1);
  expect(figures.headingDeg).toBeCloseTo(3, 3);
  expect(figures.heightCm).toBeCloseTo(1, 3);
  expect(figures.poseCm).toBeCloseTo(1, 3); // only the height is left after alignment
});

test.each(['walk', 'jog', 'hush'] as const)('%s: none of the ten best cycles of the exhaustive search is missed', (script) => {
  const { motion, gait } = suit(script, { seed: 6, seconds: 9 });
  const { candidates } = findLoops(gait, { most: 1000 });
  const starts = [...gait.contacts.left, ...gait.contacts.right].map(({ from }) => from).filter((f) => f > 0);
  const cost = (from: number, to: number) => {
    const { poseCm, velocityCmS } = seam(gait, from, to);
    return poseCm + 0.1 * velocityCmS;
  };
  // Every length between the limits, from every footfall, by the true distance; the valleys of it, best first.
  const all = starts.flatMap((from) => {
    const lengths = Array.from({ length: Math.min(motion.frames - 1 - from, 360) - 24 }, (_, i) => 24 + i);
    const costs = lengths.map((length) => cost(from, from + length));
    return lengths.flatMap((length, i) =>
      costs[i] <= (costs[i - 1] ?? Infinity) && costs[i] < (costs[i + 1] ?? -Infinity) ? [{ from, to: from + length, cost: costs[i] }] : [],
    );
  });
  for (const best of all.sort((a, b) => a.cost - b.cost).slice(0, 10)) {
    // Found itself, or a cycle within the reach in which only the better one is listed.
    const near = candidates.filter(({ from, to }) => Math.abs(from - best.from) < 8 && Math.abs(to - best.to) < 8);
    expect(near.length).toBeGreaterThan(0);
    expect(Math.min(...near.map(({ from, to }) => cost(from, to)))).toBeLessThan(best.cost * 1.3 + 0.1);
  }
});

test('a closed cycle begun elsewhere is the same cycle: closed as well, at the same speed, with the chosen foot just landing', () => {
  const { motion, gait } = suit('walk', { seed: 5 });
  const [best] = findLoops(gait).candidates;
  for (const start of ['left', 'right'] as const) {
    const turned = closed(motion, best, [stepSchema.parse({ kind: 'loop', start }), SHIPPED[1]]);
    const figures = figuresOf(turned);
    expect(figures.seam.poseCm).toBeLessThan(1e-6);
    expect(figures.tick).toBeLessThanOrEqual(1.2);
    expect(figures.speedMps).toBeCloseTo(figuresOf(closed(motion, best)).speedMps, 3);
    const landings = gaitOf(repeatLoop(turned, 3)).contacts[start].map(({ from }) => from % (turned.motion.frames - 1));
    expect(Math.min(...landings.map((f) => Math.min(f, turned.motion.frames - 1 - f)))).toBeLessThanOrEqual(1);
  }
});
