import {
  againstSource,
  closings,
  findLoops,
  recipeRunner,
  sourceFrames,
  stepSchema,
  strideTraces,
  clipFigures,
  groundwork,
  type RecipeStepInput,
} from '@lantern/motion';
import { farthest, gaitOf, suit } from '../tests/made';

const step = (input: RecipeStepInput) => stepSchema.parse(input);

test.each(['walk', 'jog', 'hush'] as const)(
  'the ways of closing a %s: each without a tick, none adds slide, each says how far it moved a joint',
  (script) => {
    const { motion, gait: found } = suit(script, { seed: 5 });
    const [best] = findLoops(found).candidates;
    const run = recipeRunner(motion);
    const steps = [step({ kind: 'loop' }), step({ kind: 'foot-lock' }), step({ kind: 'travel', start: 'origin' })];
    const ways = closings(run, { from: best.from, to: best.to, steps });
    expect(ways.map(({ close }) => close)).toEqual(['blend', 'around', 'spread']);
    const cut = clipFigures(run({ from: best.from, to: best.to, steps: [] }));
    for (const { tick, slideCm, movedCm } of ways) {
      expect(tick).toBeLessThanOrEqual(1.2);
      expect(slideCm).toBeLessThan((cut?.slideCm ?? 0) + 0.05);
      expect(movedCm).toBeGreaterThan(0);
      expect(movedCm).toBeLessThan(6);
    }
    // Nothing beyond the cut: nothing to blend with.
    const whole = recipeRunner(run({ from: best.from, to: best.to, steps: [] }).motion);
    expect(closings(whole, { from: 0, to: best.to - best.from, steps }).map(({ close }) => close)).toEqual(['around', 'spread']);
    expect(closings(run, { from: best.from, to: best.to, steps: [] })).toEqual([]);
  },
);

test.each([
  ['walk', 3],
  ['jog', 10],
  ['walk', 16],
  ['walk', 23],
] as const)('strides that differ as those of people do: closing a %s of seed %d kinks no knee or elbow', (script, seed) => {
  const { motion, gait: found } = suit(script, { seed, seconds: 5, uneven: 1 });
  const [best] = findLoops(found).candidates;
  const steps = [step({ kind: 'loop' }), step({ kind: 'foot-lock' }), step({ kind: 'travel' })];
  const run = recipeRunner(motion);
  const against = againstSource(run, { from: best.from, to: best.to, steps });
  expect(against?.kink?.ratio).toBeLessThan(1.2);
  expect(against?.likeness?.worstCm).toBeLessThan(6);
  expect(clipFigures(run({ from: best.from, to: best.to, steps }))?.tick).toBeLessThan(1.2);
});

test('a cycle begins where it is told: with a landing, in the middle of a stance, so many frames on', () => {
  const { motion, gait: found } = suit('walk', { seed: 5 });
  const best = findLoops(found).candidates.find(({ strides }) => strides === 1);
  if (!best) throw new Error('no loop');
  const run = recipeRunner(motion);
  const begun = (start: 'cut' | 'left' | 'right' | 'left-stance' | 'right-stance' | number) =>
    run({ from: best.from, to: best.to, steps: [step({ kind: 'loop', start }), step({ kind: 'foot-lock' })] });
  for (const side of ['left', 'right'] as const) {
    const cycle = best.to - best.from;
    const landing = begun(side).contacts?.[side].map(({ from }) => Math.min(from, cycle - from)) ?? [];
    expect(Math.min(...landing)).toBeLessThanOrEqual(2);
    const stance = begun(`${side}-stance`);
    const middle = stance.contacts?.[side].map(({ from, to }) => Math.abs((from + to) / 2 - cycle)) ?? [];
    expect(Math.min(...middle)).toBeLessThanOrEqual(3);
  }
  const [plain, later] = [begun('cut'), begun(20)];
  const J = motion.skeleton.joints.length;
  expect([...later.motion.rotations.slice(4, J * 4)]).not.toEqual([...plain.motion.rotations.slice(4, J * 4)]);
  expect(clipFigures(later)?.seam.poseCm).toBeLessThan(1e-4);
});

test('height and drift: a stair’s cycle climbs if it is let, or is held; drift is taken out', () => {
  const { motion, truth } = suit('stairs', { seed: 3, faults: 0 });
  const falls = truth.left.map(({ from }) => from).filter((f) => f > 0);
  // From one left landing to the next, two stairs higher.
  const climb = falls.findIndex(
    (f, i) => i + 1 < falls.length && motion.rootPositions[falls[i + 1] * 3 + 1] - motion.rootPositions[f * 3 + 1] > 0.2,
  );
  const cut = { from: falls[climb], to: falls[climb + 1] };
  const run = recipeRunner(motion);
  const rise = (height: 'held' | 'captured') => {
    const clip = run({ ...cut, steps: [step({ kind: 'loop', height }), step({ kind: 'foot-lock' }), step({ kind: 'travel' })] });
    const y = clip.travel?.y ?? new Float64Array(1);
    return { clip, rise: y[y.length - 1] - y[0] };
  };
  expect(rise('held').rise).toBeCloseTo(0, 6);
  expect(rise('captured').rise).toBeCloseTo(0.28, 1);
  expect(clipFigures(rise('captured').clip)?.seam.poseCm).toBeLessThan(1e-3);
  const { motion: walk } = suit('walk', { seed: 5 });
  const aside = { ...walk, rootPositions: walk.rootPositions.map((v, i) => (i % 3 === 0 ? v + (i / 3) * 0.001 : v)) };
  const best = findLoops(gaitOf(walk)).candidates[0];
  const drift = (sideways: 'captured' | 'dropped') =>
    clipFigures(recipeRunner(aside)({ from: best.from, to: best.to, steps: [step({ kind: 'loop', sideways })] }))?.seam.driftCm ?? 0;
  expect(Math.abs(drift('captured'))).toBeGreaterThan(3);
  expect(Math.abs(drift('dropped'))).toBeLessThan(0.6);
});

test('strides over each other: as many as there are, the one that is left out marked, the spread that of the rest', () => {
  const { motion, truth } = suit('walk', { seed: 7 });
  const found = groundwork(motion);
  if (!found) throw new Error('no gait');
  const all = strideTraces(found, 'LeftFoot');
  expect(all.joint).toBe('LeftFoot');
  expect(Math.abs(all.strides.length - truth.strides)).toBeLessThanOrEqual(1);
  expect(Math.max(...all.average) - Math.min(...all.average)).toBeGreaterThan(0.1);
  const less = strideTraces(found, 'LeftFoot', [0]);
  expect(less.about.map(({ isOut }) => isOut)).toEqual(less.about.map((_, i) => i === 0));
  expect(Math.max(...less.spread)).toBeLessThan(0.03);
});

test('each frame of a clip knows its frame in the take, through rotation, walking on, speed and time', () => {
  const { motion, gait: found } = suit('walk', { seed: 5 });
  const best = findLoops(found).candidates.find(({ strides }) => strides === 1);
  if (!best) throw new Error('no loop');
  const run = recipeRunner(motion);
  const cycle = best.to - best.from;
  const frames = (...steps: RecipeStepInput[]) => sourceFrames(run, { from: best.from, to: best.to, steps: steps.map(step) });
  expect(frames()).toEqual(Float64Array.from({ length: cycle + 1 }, (_, f) => f));
  expect(frames({ kind: 'loop', start: 10 })?.[0]).toBe(10);
  expect(frames({ kind: 'loop' }, { kind: 'extend', cycles: 3 })?.[cycle + 5]).toBe(5);
  const quick = frames({ kind: 'loop' }, { kind: 'speed', mps: 2.6, by: 'cadence' });
  expect(quick?.[Math.round(cycle / 4)]).toBeCloseTo(cycle / 2, -1);
  const held = frames(
    { kind: 'loop' },
    { kind: 'travel' },
    {
      kind: 'retime',
      pins: [
        { from: 20, to: 20 },
        { from: 20, to: 40 },
      ],
    },
  );
  expect([held?.[20], held?.[30], held?.[40], held?.[held.length - 1]]).toEqual([20, 20, 20, cycle]);
  expect(frames({ kind: 'typical-cycle' }, { kind: 'loop' })).toBeNull();
  expect(farthest(motion, motion)).toBe(0);
});
