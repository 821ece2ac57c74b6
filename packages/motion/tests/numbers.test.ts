import {
  cadence,
  clipContacts,
  clipFigures,
  findLoops,
  floorCurve,
  gaitNumbers,
  legChangeDeg,
  nameByPattern,
  recipeRunner,
  segments,
  stepSchema,
  tagsOf,
  tagsOfCut,
  travelTraces,
  type RecipeStepInput,
  type Segment,
} from '@lantern/motion';
import { asymmetryCm } from '../src/measure/symmetry';
import { centreOfMass } from '../src/measure/centre-of-mass';
import { dutyFactor } from '../src/measure/cadence';
import { played } from '../src/measure/played';
import { wayOf } from '../src/measure/way';
import { wayRound } from '../src/model/travel';
import { farthest, gaitOf, suit } from './made';

const step = (input: RecipeStepInput) => stepSchema.parse(input);
const finished = [step({ kind: 'loop' }), step({ kind: 'foot-lock' }), step({ kind: 'travel', start: 'origin' })];
const loopOf = (script: 'walk' | 'jog', steps = finished) => {
  const { motion, gait } = suit(script, { seed: 5, seconds: 6 });
  const best = findLoops(gait).candidates.find(({ strides }) => strides === 1);
  if (!best) throw new Error('no loop');
  return recipeRunner(motion)({ from: best.from, to: best.to, steps });
};

test.each([
  ['walk', 1.3, 108, 114, 0.62, false],
  ['jog', 2.8, 158, 168, 0.37, true],
] as const)('the numbers of a %s are those of one', (script, mps, least, most, duty, isRun) => {
  const clip = loopOf(script);
  const contacts = clipContacts(clip);
  if (!contacts) throw new Error('no contacts');
  const steps = cadence(clip, contacts) ?? 0;
  expect(steps).toBeGreaterThan(least);
  expect(steps).toBeLessThan(most);
  expect(Math.abs(dutyFactor(clip, contacts) - duty)).toBeLessThan(0.06);
  const numbers = gaitNumbers(clip, mps);
  expect(numbers).toMatchObject({ isRun, warnings: [] });
  expect(numbers?.stepM).toBeCloseTo((mps * 60) / steps, 6);
  // People at ease: about 0.0063 m a step a minute, walking.
  if (!isRun) expect(numbers?.walkRatio).toBeCloseTo(0.0063, 3);
});

test('what people would not do is said: a walk at 2.6 m/s by its strides, a jog at 1.2 m/s', () => {
  const quick = loopOf('walk', [finished[0], step({ kind: 'speed', mps: 2.6, by: 'stride' }), ...finished.slice(1)]);
  const said = gaitNumbers(quick, 2.6)?.warnings.join(' ') ?? '';
  expect(said).toMatch(/People run at this speed/);
  expect(said).toMatch(/longer than a walk’s can be/);
  expect(gaitNumbers(loopOf('jog'), 1.2)?.warnings.join(' ')).toMatch(/People walk at this speed/);
  expect(legChangeDeg(loopOf('walk'), quick)).toBeGreaterThan(15);
  expect(legChangeDeg(quick, quick)).toBeLessThan(0.1);
});

test('the centre of mass of someone who stands is over his feet, a little above the middle of his height', () => {
  const { motion, gait } = suit('idle', { faults: 0, seconds: 3 });
  const mass = centreOfMass(gait);
  const feet = wayOf(motion, false, { of: 'feet', smooth: 'captured' });
  for (const f of [0, 60, 120]) {
    expect(mass[f * 3 + 1] / 1.78).toBeGreaterThan(0.5);
    expect(mass[f * 3 + 1] / 1.78).toBeLessThan(0.62);
    expect(Math.hypot(mass[f * 3] - feet.x[f], mass[f * 3 + 2] - feet.z[f])).toBeLessThan(0.08);
  }
});

test('a loop as it plays: its own frames where they are, before and after them the cycles beside it', () => {
  const clip = loopOf('walk');
  const { motion, start } = played(clip);
  const last = clip.motion.frames - 1;
  expect(motion.frames).toBe(last + 2 * start + 1);
  const way = wayOf(loopOf('walk', finished.slice(0, 1)).motion, true);
  const round = wayRound(way, 10);
  for (const f of [0, 7, last]) expect(round.z[f + 10]).toBeCloseTo(way.z[f], 9);
  expect(round.z[5] - way.z[last - 5]).toBeCloseTo(way.z[0] - way.z[last], 9);
  // One cycle apart everything is one cycle on.
  const [a, b] = [0, last].map((f) => motion.rootPositions.slice(f * 3, f * 3 + 3));
  const z = clip.travel?.z ?? new Float64Array(1);
  expect(b[2] - a[2]).toBeCloseTo(z[last] - z[0], 3);
  expect(gaitOf(motion).contacts.left.length).toBeGreaterThanOrEqual(3);
  const idle = recipeRunner(motion)({ from: 0, to: 40, steps: [] });
  expect(played(idle)).toMatchObject({ start: 0 });
  expect(farthest(played(idle).motion, idle.motion)).toBe(0);
});

test('root and hips over each other: the root even, the hips about it', () => {
  const traces = travelTraces(loopOf('walk'));
  if (!traces) throw new Error('no traces');
  expect(Math.max(...traces.rootSpeed) - Math.min(...traces.rootSpeed)).toBeLessThan(1e-3);
  const hips = traces.hipsSpeed.slice(3, -3);
  expect(Math.max(...hips)).toBeGreaterThan(1.3);
  expect(Math.min(...hips)).toBeLessThan(1.3);
  expect(travelTraces(loopOf('walk', finished.slice(0, 2)))).toBeNull();
  const figures = clipFigures(loopOf('walk'));
  expect(figures?.distanceM).toBeCloseTo((figures?.speedMps ?? 0) * (figures?.seconds ?? 0), 4);
  expect(figures?.rippleMps).toBeLessThan(1e-3);
  // From standing to a walk and back: the root's speed goes from nothing to that of the walk.
  const { motion } = suit('start-stop', { seed: 5 });
  const once = clipFigures(recipeRunner(motion)({ from: 0, to: motion.frames - 1, steps: [step({ kind: 'travel' })] }));
  expect(once?.rippleMps).toBeCloseTo(1.3, 0);
  expect(once?.distanceM).toBeCloseTo(12, 0);
  expect(figures?.asymmetryCm).toBeCloseTo(asymmetryCm(loopOf('walk')) ?? 0, 6);
});

test('a curve on the floor: as long as it is, through its points, straight on beyond its end', () => {
  const straight = floorCurve([[0, 4]]);
  expect(straight.length).toBeCloseTo(4, 3);
  expect(straight.course(2)).toBeCloseTo(0, 6);
  expect(straight.at(6)).toMatchObject({ x: expect.closeTo(0, 6), z: expect.closeTo(6, 2) });
  const bent = floorCurve([
    [0, 2],
    [2, 4],
  ]);
  const end = bent.at(bent.length);
  expect([end.x, end.z]).toEqual([expect.closeTo(2, 3), expect.closeTo(4, 3)]);
  expect(bent.course(0)).toBeCloseTo(0, 1);
  expect(bent.course(bent.length)).toBeGreaterThan(0.4);
  // Nothing but the start, twice the same: a way straight ahead.
  expect(floorCurve([[0, 0]]).course(0.5)).toBeCloseTo(0, 6);
});

test('names after a pattern: what is empty takes its dash with it, what a file name cannot hold is left out', () => {
  const parts = { gait: 'walk', direction: 'forward', character: 'wick', number: 3 };
  expect(nameByPattern('{character}-{gait}-{direction}', parts)).toBe('wick-walk-forward');
  expect(nameByPattern('{character}-{gait}-{direction}', { ...parts, direction: '' })).toBe('wick-walk');
  expect(nameByPattern('{gait}_{number}', parts)).toBe('walk_03');
  expect(nameByPattern('a/b:{unknown}{gait}', parts)).toBe('abwalk');
  expect(nameByPattern('{direction}', { ...parts, direction: '' })).toBe('clip');
});

test('a cut has the tags of what is done in most of it', () => {
  const { gait } = suit('rounds', { seed: 5 });
  const read = segments(gait);
  const walk = read.find(({ kind }) => kind === 'walk') as Segment;
  expect(tagsOfCut(read, { from: walk.from + 10, to: walk.to - 10 })).toEqual({ gait: 'walk', direction: 'forward' });
  const turn = { kind: 'turn', from: 0, to: 10, direction: null, turnDeg: -88, speedMps: 0.5 } as const;
  expect(tagsOf(turn)).toEqual({ gait: 'turn', direction: 'right-90' });
  expect(tagsOf({ ...turn, kind: 'start' }, 'run')).toEqual({ gait: 'run-start', direction: '' });
  expect(tagsOf({ ...turn, kind: 'run', speedMps: 5, direction: 'forward' })).toEqual({ gait: 'run-fast', direction: 'forward' });
  expect(tagsOfCut([], { from: 0, to: 9 })).toEqual({ gait: '', direction: '' });
});
