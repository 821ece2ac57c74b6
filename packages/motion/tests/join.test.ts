import { capture, type ScriptName } from '@lantern/capture';
import { castGlb } from '@lantern/cast';
import {
  buildJoin,
  cutClip,
  findLoops,
  forwardKinematics,
  groundwork,
  InputError,
  joinFigures,
  joinIntoSchema,
  joinPieces,
  joinSchema,
  layPiece,
  makeClips,
  motionPair,
  pairMap,
  parseProject,
  popIn,
  readCharacter,
  recipeRunner,
  recipeSchema,
  repeatLoop,
  whereTheyFit,
  worldMotion,
  type Groundwork,
  type JoinInput,
  type LaidPiece,
  type Motion,
} from '@lantern/motion';
import { curveAt, overlapWeights } from '../src/join/curve';
import { bestApart, commonParts, pairDistance, pairSide, windowOf } from '../src/find/pair-distances';
import { strideCourse, timesInStep } from '../src/join/in-step';
import fc from 'fast-check';
import { farthest } from './made';

const grounds = new Map<string, Groundwork>();
function ground(script: ScriptName, seed = 131): Groundwork {
  const key = `${script} ${seed}`;
  const found = grounds.get(key) ?? groundwork(capture(script, { seconds: 8, seed, faults: 0 }).motion);
  if (!found) throw new Error('nobody is there');
  grounds.set(key, found);
  return found;
}
const walk = ground('walk').motion;
const run = recipeRunner(walk);
const [best] = findLoops(ground('walk')).candidates;
const loop = run({ from: best.from, to: best.to, steps: recipeSchema.parse([{ kind: 'loop' }, { kind: 'foot-lock' }]) });
const cycle = loop.motion.frames - 1;
const into = (change: object = {}) => joinIntoSchema.parse(change);
const laid = (pieces: readonly LaidPiece[], change: object = {}, start: 'origin' | 'captured' = 'captured') =>
  joinPieces(
    pieces.map((piece) => ({ piece, into: into(change) })),
    start,
  );
const build = (join: JoinInput, take: Motion = walk) =>
  buildJoin(joinSchema.parse(join), { clip: () => loop, take: (id) => (id === 'a' ? take : null) });

describe('a piece', () => {
  test('of a loop goes round and round: three times is the loop played three times, a part of it is that part, and trims are frames of it', () => {
    const three = layPiece(loop, { times: 3 });
    const own = (piece: LaidPiece) => worldMotion({ motion: { ...piece.motion }, travel: null });
    expect(three.frames).toBe(3 * cycle + 1);
    const repeated = repeatLoop(loop, 3);
    const p = forwardKinematics(own(three)).positions;
    const q = forwardKinematics(repeated).positions;
    const J = three.motion.skeleton.joints.length * 3;
    for (let i = 0; i < repeated.frames * J; i += 7) expect(p[i + three.start * J]).toBeCloseTo(q[i], 4);
    expect(layPiece(loop, { times: 3.4 }).frames).toBe(Math.round(3.4 * cycle) + 1);
    expect(layPiece(loop, { from: 10, to: 30, times: 1 }).frames).toBe(21);
    expect(three.seams).toEqual([cycle, 2 * cycle]);
  });

  test('of a cut starts each copy where the last one stopped, and is extended as far as there is motion', () => {
    const cut = cutClip(walk, 100, 160);
    const twice = layPiece(cut, { times: 2 });
    expect(twice.frames).toBe(121);
    const p = twice.motion.rootPositions;
    const step = (f: number) => Math.hypot(p[f * 3 + 3] - p[f * 3], p[f * 3 + 5] - p[f * 3 + 2]);
    // Over the seam he goes on at his pace.
    expect(step(60)).toBeGreaterThan(0.5 * step(20));
    expect(step(60)).toBeLessThan(1.6 * step(20));
    expect(layPiece(cut, { from: -20, to: 70, times: 1 }).frames).toBe(91);
    expect(() => layPiece(cut, { from: -90, to: 70, times: 1 })).toThrow(/there is motion from -36/);
  });
});

describe('an overlap', () => {
  test('has weights from nothing to all, whatever its curve', () => {
    const share = fc.double({ min: 0, max: 1, noNaN: true });
    fc.assert(
      fc.property(fc.tuple(share, share, share, share), fc.integer({ min: 1, max: 60 }), (drawn, frames) => {
        const weights = overlapWeights(frames, drawn);
        expect([weights[0], weights[frames]]).toEqual([0, 1]);
        for (const w of weights) expect(w >= 0 && w <= 1).toBe(true);
      }),
    );
    expect(curveAt('sudden', 0.4)).toBe(0);
    expect(curveAt([0, 0, 1, 1], 0.3)).toBeCloseTo(0.3, 6);
  });

  test('of a loop with itself three times is the loop played three times', () => {
    const longer = layPiece(loop, { from: 0, to: cycle + 14, times: 1 });
    const joined = laid([longer, longer, layPiece(loop, { times: 1 })], { frames: 14 });
    const repeated = repeatLoop(loop, 3);
    expect(joined.motion.frames).toBe(repeated.frames);
    expect(farthest(joined.motion, repeated)).toBeLessThan(1e-4);
    // A cut of them too: they share one frame.
    const once = layPiece(loop, { times: 1 });
    const cut = laid([once, once, once], { frames: 0 });
    expect(cut.motion.frames).toBe(repeated.frames);
    expect(farthest(cut.motion, repeated)).toBeLessThan(1e-4);
  });

  test('leaves all that lies outside of it and of the steps beside it as it was, to the bit', () => {
    const a = layPiece(cutClip(walk, 20, 200), { times: 1 });
    const b = layPiece(cutClip(ground('jog').motion, 30, 200), { times: 1 });
    const { motion, meets } = laid([a, b], { frames: 20 });
    const J = motion.skeleton.joints.length * 4;
    const before = Math.max(0, meets[0].from - 90);
    expect(motion.rotations.slice(0, before * J)).toEqual(walk.rotations.slice(20 * J, (20 + before) * J));
  });

  test('runs in step: landings of a walk and a jog meet, and the coming piece begins within half a stride of where it was asked to', () => {
    const [a, b] = [ground('walk'), ground('jog')];
    const course = strideCourse(a.contacts, 200);
    const [landing] = a.contacts.left.filter(({ from }) => from > 150);
    expect((course?.at(landing.from) ?? 0.5) % 1).toBeCloseTo(0, 6);
    const weights = overlapWeights(30, 'smooth');
    const times = timesInStep({ contacts: a.contacts, from: 200 }, { contacts: b.contacts, from: 150 }, weights);
    const phase = (found: Groundwork, f: number) => (strideCourse(found.contacts, f)?.at(f) ?? NaN) % 1;
    for (const f of [0, 10, 20]) {
      const apart = Math.abs(phase(a, times?.leaving[f] ?? 0) - phase(b, times?.coming[f] ?? 0));
      expect(Math.min(apart, 1 - apart)).toBeLessThan(0.02);
    }
    expect(Math.abs((times?.coming[0] ?? 0) - 150)).toBeLessThanOrEqual(24);
    // Who hops lands on both feet at once: there is no step to be in.
    expect(strideCourse(ground('hop').contacts, 150)).toBeNull();
  });
});

test('a piece is put where it leads: by the foot that is planted in both, upright, its height its own unless it is asked for', () => {
  const [a, b] = [layPiece(cutClip(walk, 40, 140), { times: 1 }), layPiece(cutClip(ground('hush').motion, 60, 180), { times: 1 })];
  const planted = laid([a, b], { frames: 16 });
  expect(['left foot', 'right foot']).toContain(planted.meets[0].by);
  expect(laid([a, b], { frames: 16, line: 'hips' }).meets[0].by).toBe('hips');
  const aside = laid([a, b], { frames: 16, by: { x: 0.5, z: 0, turnDeg: 0 } });
  const last = (motion: Motion, k: number) => motion.rootPositions[(motion.frames - 1) * 3 + k];
  expect(last(aside.motion, 0) - last(planted.motion, 0)).toBeCloseTo(0.5, 3);
  expect(last(aside.motion, 1)).toBeCloseTo(last(planted.motion, 1), 5);
});

test.each(['fade', 'carry'] as const)(
  'a piece so short that its two overlaps meet (%s) goes on from what the first of them left: nothing pops',
  (how) => {
    const long = (from: number) => layPiece(cutClip(walk, from, from + 110), { times: 1 });
    const short = layPiece(how === 'fade' ? cutClip(ground('hush').motion, 150, 180) : cutClip(walk, 200, 230), { times: 1 });
    const joined = laid([long(40), short, long(160)], { frames: 26, how });
    for (const { popCm } of joinFigures(joined)) expect(popCm).toBeLessThan(1);
  },
);

test('takes whose floors lie elsewhere are joined on one floor', () => {
  const high = { ...walk, rootPositions: walk.rootPositions.map((v, i) => (i % 3 === 1 ? v + 0.06 : v)) };
  const [a, b] = [layPiece(cutClip(walk, 40, 180), { times: 1 }), layPiece(cutClip(high, 60, 220), { times: 1 })];
  const [figures] = joinFigures(laid([a, b], { frames: 16 }));
  expect(figures.sinkCm).toBeLessThan(0.6);
  expect(figures.popCm).toBeLessThan(0.5);
});

test('carried over, the first frame of the coming piece is the last of the other, and what is left of the difference dies out', () => {
  const [a, b] = [layPiece(cutClip(walk, 40, 120), { times: 1 }), layPiece(cutClip(ground('jog').motion, 61, 200), { times: 1 })];
  const { motion, meets } = laid([a, b], { frames: 24, how: 'carry', hold: false });
  expect(motion.frames).toBe(80 + 140);
  expect(meets[0]).toMatchObject({ from: 80, to: 104 });
  expect(
    popIn(
      motion,
      [78, 84],
      [
        [0, 78],
        [110, 200],
      ],
    ).cm,
  ).toBeLessThan(0.6);
  const J = motion.skeleton.joints.length * 4;
  // Of the rotations below the hips nothing is left.
  expect([...motion.rotations.slice(150 * J + 4, 151 * J)].map((v) => Math.abs(v))).toEqual(
    [...ground('jog').motion.rotations.slice(131 * J + 4, 132 * J)].map((v) => expect.closeTo(Math.abs(v), 5)),
  );
});

describe('where they fit', () => {
  test('poses that are one and the same are found at no distance, and of one motion with itself the same instant is none', () => {
    const own = ground('walk');
    const copy = groundwork({ ...own.motion });
    const [same] = whereTheyFit(own, copy as Groundwork, into(), 2).candidates;
    expect(same.poseCm).toBeLessThan(0.01);
    expect(same.a).toBe(same.b);
    for (const { a, b } of whereTheyFit(own, own, into(), 5).candidates) expect(Math.abs(a - b)).toBeGreaterThan(18);
  });

  test.each(['jog', 'walk'] as const)(
    'the ten nearest of a walk and a %s are those of every pair held against every other, within two millimetres',
    (script) => {
      const [a, b] = [ground('walk'), ground(script, 132)];
      const parts = commonParts(a, b);
      const [p, q] = [pairSide(a, parts), pairSide(b, parts)];
      const half = into().frames >> 1;
      const every = [];
      for (let f = half; f < a.motion.frames - half; f++)
        for (let g = half; g < b.motion.frames - half; g++) every.push({ a: f, b: g, distance: pairDistance(p, f, q, g, windowOf(60)) });
      const { nearest } = whereTheyFit(a, b, into(), 0);
      bestApart(every, 60, 10).forEach(({ distance }, i) => expect(Math.abs(nearest[i].distance - distance)).toBeLessThan(0.002));
    },
  );

  test('of places that are alike, as where a loop is held against itself, the earliest come first', () => {
    const whole = groundwork(repeatLoop(loop, 5));
    if (!whole) throw new Error('nobody is there');
    const { nearest } = whereTheyFit(whole, whole, into(), 0);
    expect(nearest.slice(0, 10).every(({ distance }) => distance < 1e-5)).toBe(true);
    for (const { a, b } of nearest.slice(0, 10))
      expect(Math.abs(Math.abs(a - b) / cycle - Math.round(Math.abs(a - b) / cycle)) * cycle).toBeLessThan(1e-6);
    expect(nearest[0].a).toBeLessThan(cycle);
  });
});

test.each(['fade', 'carry'] as const)('two feet that stand elsewhere take a step (%s): no foot slides from a wait into a walk', (how) => {
  const wait = layPiece(cutClip(ground('idle').motion, 20, 200), { times: 1 });
  const go = layPiece(cutClip(walk, 150, 300), { times: 1 });
  const [figures] = joinFigures(laid([wait, go], { frames: 24, how }));
  expect(figures.slideCm).toBeLessThan(0.3);
  expect(figures.speedMps.before).toBeLessThan(0.1);
  expect(figures.speedMps.after).toBeGreaterThan(1.1);
});

describe('a join in a project', () => {
  const project = (more: object) =>
    parseProject(
      JSON.stringify({
        oldLantern: 1,
        takes: [{ id: 'a', file: 'a.bvh' }],
        clips: [{ name: 'stroll', take: 'a', from: best.from, to: best.to, steps: [{ kind: 'loop' }, { kind: 'foot-lock' }] }],
        joins: [
          {
            name: 'round',
            pieces: [
              { clip: 'stroll', times: 2.5 },
              { take: 'a', from: 20, to: 90, into: { inStep: false } },
            ],
          },
        ],
        ...more,
      }),
    );
  const made = (more: object = {}) => makeClips(project(more), (id) => (id === 'a' ? { motion: walk, warnings: [] } : undefined));

  test('is made as an animation of its own, with its figures', async () => {
    const { report } = await made();
    expect(report.joins).toMatchObject([{ name: 'round', frames: Math.round(2.5 * cycle) + 1 + 70 - 18 }]);
    expect(report.joins?.[0].meets).toHaveLength(1);
    expect(report.failed).toEqual([]);
  });

  test('is cut like a take, and follows when a piece of it changes', async () => {
    const clips = (times: number) => ({
      clips: [
        { name: 'stroll', take: 'a', from: best.from, to: best.to, steps: [{ kind: 'loop' }] },
        { name: 'end', take: 'round', from: 30, to: 90 },
      ],
      joins: [{ name: 'round', pieces: [{ clip: 'stroll', times }] }],
    });
    const { report } = await made(clips(2));
    expect(report.clips.map(({ name }) => name)).toEqual(['stroll', 'end']);
    const { report: short } = await made(clips(1));
    expect(short.failed).toMatchObject([{ name: 'end', code: 'cut-range' }]);
  });

  test('of clips that are on a character: what is cut from it leaves with that character, in its file', async () => {
    const cast = new Map([['wick', readCharacter(await castGlb('wick'), 'wick')]]);
    const described = project({
      clips: [
        { name: 'stroll', take: 'a', from: best.from, to: best.to, steps: [{ kind: 'fit', character: 'wick' }, { kind: 'loop' }] },
        { name: 'end', take: 'round', from: 30, to: 90 },
        { name: 'end-again', take: 'twice', from: 30, to: 90 },
        { name: 'nobodys', take: 'a', from: 30, to: 90 },
      ],
      joins: [
        { name: 'round', pieces: [{ clip: 'stroll', times: 3 }] },
        { name: 'twice', pieces: [{ clip: 'end' }, { clip: 'end' }] },
      ],
      characters: [{ id: 'wick', file: 'wick.glb' }],
      ship: { glb: 'set.glb' },
    });
    const { report, files } = await makeClips(described, (id) => (id === 'a' ? { motion: walk, warnings: [] } : undefined), cast);
    expect(report.failed).toEqual([]);
    const of = Object.fromEntries([...report.clips, ...(report.joins ?? [])].map(({ name, file }) => [name, file]));
    expect(of).toEqual({
      stroll: 'wick/set.glb',
      end: 'wick/set.glb',
      'end-again': 'wick/set.glb',
      round: 'wick/set.glb',
      twice: 'wick/set.glb',
      nobodys: 'set.glb',
    });
    expect(report.clips.map(({ character }) => character)).toEqual(['wick', 'wick', 'wick', undefined]);
    expect(files.map(({ path }) => path).sort()).toEqual(['set.glb', 'wick/set.glb']);
  });

  test('that goes round, or whose pieces are not there, fails by itself with a sentence', async () => {
    const round = {
      clips: [
        { name: 'end', take: 'round', from: 0, to: 20 },
        { name: 'stroll', take: 'a', from: 10, to: 60 },
      ],
    };
    const { report } = await made({ ...round, joins: [{ name: 'round', pieces: [{ clip: 'end' }] }] });
    expect(report.failed.map(({ message }) => message).join()).toContain('goes round');
    expect(report.clips.map(({ name }) => name)).toEqual(['stroll']);
    const { report: missing } = await made({ joins: [{ name: 'round', pieces: [{ clip: 'nobody' }] }] });
    expect(missing.failed).toMatchObject([{ name: 'round', message: 'Piece 1 of join "round": there is no clip "nobody".' }]);
    expect(() => project({ joins: [{ name: 'a', pieces: [{ clip: 'stroll' }] }] })).toThrow(/both called "a"/);
  });

  test('an overlap longer than a piece, and pieces of other rates, are said', () => {
    const pieces = [{ clip: 'stroll' }, { take: 'a', from: 20, to: 30 }];
    expect(() => build({ name: 'round', pieces })).toThrow('The overlap into piece 2 is 18 frames long; there is room for 10.');
    const other = capture('walk', { seconds: 3, fps: 30, seed: 4 }).motion;
    expect(() => build({ name: 'round', pieces: [{ clip: 'stroll' }, { take: 'a', from: 20, to: 60 }] }, other)).toThrow(InputError);
  });
});

test('a pair map is least where the search proposes to join, and of a motion with itself along its diagonal', () => {
  const [a, b] = [ground('walk'), ground('hush')];
  const size = 90;
  const pair = motionPair(a, b);
  const map = pairMap(pair, [0, a.motion.frames - 1], [0, b.motion.frames - 1], size);
  const [first] = whereTheyFit(a, b, into(), 6).candidates;
  const cell = (frame: number, frames: number) => Math.round((frame * (size - 1)) / (frames - 1));
  const here = map[cell(first.a, a.motion.frames) * size + cell(first.b, b.motion.frames)];
  expect([...map].filter((metres) => metres < here - 0.005).length).toBeLessThan(0.04 * size * size);
  const own = pairMap(motionPair(a, a), [0, 80], [0, 80], 9);
  for (let i = 0; i < 9; i++) expect(own[i * 10]).toBeLessThan(1e-6);
});
