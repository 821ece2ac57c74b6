import {
  clipFigures,
  clipSlides,
  findLoops,
  floorCurve,
  recipeRunner,
  stepSchema,
  worldMotion,
  type Clip,
  type RecipeStepInput,
} from '@lantern/motion';
import { asymmetryCm } from '../src/measure/symmetry';
import { bendWay } from '../src/edit/bend-way';
import { cycleTransform } from '../src/model/repeat';
import { wayOf } from '../src/measure/way';
import { farthest, gaitOf, suit } from './made';

const step = (input: RecipeStepInput) => stepSchema.parse(input);
const STEADY = ['walk', 'jog', 'hush', 'sideways', 'backwards'] as const;
const made = Object.fromEntries(
  STEADY.map((script) => {
    const { motion, gait } = suit(script, { seed: 7, seconds: 6 });
    const found = findLoops(gait).candidates;
    const best = found.find(({ strides }) => strides === 1) ?? found[0];
    const run = recipeRunner(motion);
    return [script, { motion, run, cut: { from: best.from, to: best.to } }];
  }),
);
const loopOf = (script: (typeof STEADY)[number], ...steps: RecipeStepInput[]): Clip => {
  const { run, cut } = made[script];
  const all: RecipeStepInput[] = [{ kind: 'loop' }, ...steps, { kind: 'foot-lock' }, { kind: 'travel', start: 'origin' }];
  return run({ ...cut, steps: all.map(step) });
};
const figuresOf = (clip: Clip) => {
  const figures = clipFigures(clip);
  if (!figures) throw new Error('no figures');
  return figures;
};
const worstSlide = (clip: Clip) => Math.max(0, ...clipSlides(clip).map(({ excursionCm }) => excursionCm));

test.each(STEADY)('a %s on an arc of 3 m keeps its speed, turns as the arc does, and its feet stay planted', (script) => {
  const plain = figuresOf(loopOf(script));
  for (const radius of [3, -3]) {
    const clip = loopOf(script, { kind: 'path', shape: 'arc', radius });
    const figures = figuresOf(clip);
    expect(figures.speedMps).toBeCloseTo(plain.speedMps, 1);
    expect((figures.turnDegS * Math.PI) / 180).toBeCloseTo(plain.speedMps / radius, 1);
    expect(worstSlide(clip)).toBeLessThan(0.1);
    expect(figures.seam.poseCm).toBeLessThan(1e-4);
    expect(figures.tick).toBeLessThan(1.25);
    // Thirteen and a half metres of it are a circle and more: the root stays on it.
    const { turn, x, z } = cycleTransform(clip);
    const pivot = Math.hypot(x, z) / (2 * Math.sin(Math.abs(turn) / 2));
    expect(pivot).toBeGreaterThan(2.9);
    expect(pivot).toBeLessThan(3.1);
  }
});

test('bent and straightened again a walk goes where it went, facing as it faced', () => {
  const bent = loopOf('walk', { kind: 'path', shape: 'arc', radius: 2, lean: 0 }, { kind: 'path', shape: 'straight', lean: 0 });
  const plain = loopOf('walk');
  const [a, b] = [figuresOf(plain), figuresOf(bent)];
  expect(b.speedMps).toBeCloseTo(a.speedMps, 3);
  expect(b.turnDegS).toBeCloseTo(0, 3);
  expect(farthest(worldMotion(bent), worldMotion(plain))).toBeLessThan(0.04);
  // What goes straight already is left where it is.
  const straight = loopOf('walk', { kind: 'path', shape: 'straight' });
  expect(farthest(worldMotion(straight), worldMotion(plain))).toBeLessThan(1e-4);
});

test('on a bend the body leans in by what balance asks for, and not at all at factor 0', () => {
  const tilt = (lean: number) => {
    const { motion } = loopOf('jog', { kind: 'path', shape: 'arc', radius: 4, lean });
    // The hips' up axis, seen along the way.
    let sum = 0;
    for (let f = 0; f < motion.frames - 1; f++) {
      const [x, y, z, w] = motion.rotations.subarray(f * 84, f * 84 + 4);
      sum += Math.atan2(2 * (x * y - z * w), 1 - 2 * (x * x + z * z));
    }
    return sum / (motion.frames - 1);
  };
  const asked = Math.atan(2.8 ** 2 / 4 / 9.81);
  expect(tilt(1) - tilt(0)).toBeCloseTo(asked, 1);
});

test('along a drawn path the clip goes through its points, and faces along it', () => {
  const points: [number, number][] = [
    [0, 2],
    [1.2, 4],
    [0, 6],
  ];
  const curve = floorCurve(points);
  expect(curve.course(0)).toBeCloseTo(0, 2);
  const { run, cut } = made.walk;
  const steps = [
    { kind: 'loop' },
    { kind: 'extend', metres: 7 },
    { kind: 'path', shape: 'points', points, lean: 0 },
    { kind: 'foot-lock' },
  ] as const;
  const clip = run({
    ...cut,
    // As captured: smoothed over a stride of 1.4 m it would cut the corners of a way that bends within two.
    steps: [...steps.map((s) => step(s as RecipeStepInput)), step({ kind: 'travel', start: 'origin', smooth: 'captured' })],
  });
  expect(clip.loop).toBe(false);
  const { travel } = clip;
  if (!travel) throw new Error('no travel');
  for (const [x, z] of points) expect(Math.min(...Array.from(travel.x, (px, f) => Math.hypot(px - x, travel.z[f] - z)))).toBeLessThan(0.15);
  expect(worstSlide(clip)).toBeLessThan(0.1);
  expect(() => run({ ...cut, steps: [step({ kind: 'travel' }), step({ kind: 'path' })] })).toThrow('comes before the travel step');
});

test('a turn on the spot is brought to the angle asked for, its feet planted', () => {
  const { motion, gait, truth } = suit('turn', { seed: 2 });
  // The quarter turn to the right, on the spot.
  const spin = truth.labels.filter(({ kind }) => kind === 'turn')[1];
  const cut = { from: Math.max(0, spin.from - 20), to: Math.min(motion.frames - 1, spin.to + 20) };
  const turned = (steps: RecipeStepInput[]) => {
    const clip = recipeRunner(motion)({ ...cut, steps: [...steps, { kind: 'foot-lock' } as const].map(step) });
    const { headings } = gaitOf(worldMotion(clip));
    return { clip, degrees: ((headings[headings.length - 1] - headings[0]) * 180) / Math.PI };
  };
  expect(turned([]).degrees).toBeCloseTo(-90, -1);
  for (const turnDeg of [-60, -120]) {
    const { clip, degrees } = turned([{ kind: 'path', shape: 'turn', turnDeg }]);
    expect(Math.abs(degrees - turnDeg)).toBeLessThan(4);
    expect(worstSlide(clip)).toBeLessThan(0.15);
  }
  expect(gait.belt).toBeNull();
});

test.each([
  ['walk', 1.5],
  ['walk', 1.0],
  ['jog', 3.3],
  ['hush', 0.6],
  ['backwards', 1.1],
] as const)('a %s goes at the %s m/s asked for, by strides, by cadence, or by both', (script, mps) => {
  const plain = loopOf(script);
  const cycle = plain.motion.frames - 1;
  const ratio = mps / figuresOf(plain).speedMps;
  const frames = { stride: cycle, cadence: cycle / ratio, mix: script === 'jog' ? null : cycle / Math.sqrt(ratio) };
  for (const by of ['stride', 'cadence', 'mix'] as const) {
    const clip = loopOf(script, { kind: 'speed', mps, by });
    const figures = figuresOf(clip);
    expect(figures.speedMps).toBeCloseTo(mps, 2);
    expect(figures.tick).toBeLessThan(1.25);
    expect(worstSlide(clip)).toBeLessThan(0.1);
    const wanted = frames[by];
    if (wanted) expect(Math.abs(clip.motion.frames - 1 - wanted)).toBeLessThanOrEqual(0.5);
  }
});

test('who goes nowhere cannot be made faster, and is told so', () => {
  const { motion } = suit('idle', { seconds: 4 });
  expect(() => recipeRunner(motion)({ from: 0, to: 100, steps: [step({ kind: 'speed', mps: 1 })] })).toThrow('goes nowhere');
});

test('a cycle walked on: so often and still a loop, or so far and no more', () => {
  const four = loopOf('walk', { kind: 'extend', cycles: 4 });
  const one = figuresOf(loopOf('walk'));
  expect(four.loop).toBe(true);
  expect(figuresOf(four).distanceM).toBeCloseTo(4 * one.distanceM, 3);
  const six = loopOf('walk', { kind: 'extend', metres: 6 });
  expect(six.loop).toBe(false);
  const travel = wayOf(worldMotion(six), false, { smooth: 'even' });
  expect(travel.z[travel.z.length - 1] - travel.z[0]).toBeCloseTo(6, 1);
});

test('a limp is evened out: by half at factor ½, to nothing at 1; its way stays', () => {
  const { motion } = suit('walk', { seed: 7, seconds: 6 });
  const J = motion.skeleton.joints.length;
  const limping = { ...motion, rotations: motion.rotations.slice() };
  const [thigh, spine] = ['LeftThigh', 'Ribs'].map((name) => motion.skeleton.joints.findIndex((joint) => joint.name === name));
  // The left leg and the trunk held 6° out.
  for (let f = 0; f < motion.frames; f++)
    for (const j of [thigh, spine]) {
      const [x, y, z, w] = motion.rotations.subarray((f * J + j) * 4, (f * J + j) * 4 + 4);
      const [s, c] = [Math.sin(0.05), Math.cos(0.05)];
      limping.rotations.set([x * c + y * s, y * c - x * s, z * c + w * s, w * c - z * s], (f * J + j) * 4);
    }
  const { cut } = made.walk;
  const run = recipeRunner(limping);
  const evened = (factor: number) => run({ ...cut, steps: [step({ kind: 'loop' }), step({ kind: 'even-out', factor })] });
  const of = (factor: number) => asymmetryCm(evened(factor)) ?? Infinity;
  expect(of(0)).toBeGreaterThan(3);
  expect(of(0.5)).toBeCloseTo(of(0) / 2, 0);
  // Landings are whole frames: half a frame of a foot's swing is what is left.
  expect(of(1)).toBeLessThan(0.5);
  const [a, b] = [wayOf(evened(0).motion, true), wayOf(evened(1).motion, true)];
  const last = a.x.length - 1;
  expect(Math.hypot(b.x[last] - b.x[0] - a.x[last] + a.x[0], b.z[last] - b.z[0] - a.z[last] + a.z[0])).toBeLessThan(0.001);
  expect(asymmetryCm(loopOf('sideways'))).toBeNull();
});

test('the way of the hips, of the centre of mass and of the feet: as far, and as smooth as asked', () => {
  const { motion } = made.walk;
  const metres = (options: Parameters<typeof wayOf>[2]) => {
    const { z } = wayOf(motion, false, options);
    return { gone: z[z.length - 1] - z[0], jerk: Math.hypot(...z.slice(42, -40).map((v, f) => v - 2 * z[f + 41] + z[f + 40])) };
  };
  for (const whose of ['hips', 'mass', 'feet'] as const) {
    const [captured, stride, even] = (['captured', 'stride', 'even'] as const).map((smooth) => metres({ of: whose, smooth }));
    expect(captured.gone).toBeCloseTo(1.3 * 6, 0);
    expect(even.jerk).toBeLessThan(1e-9);
    expect(stride.jerk).toBeLessThan(captured.jerk / 5);
  }
});

test('whatever goes to the root, root and body together are what was there', () => {
  const { run, cut } = made.walk;
  const before = run({ ...cut, steps: [step({ kind: 'loop' })] }).motion;
  for (const whose of ['hips', 'mass', 'feet'] as const)
    for (const smooth of ['even', 'stride', 'captured'] as const) {
      const clip = run({ ...cut, steps: [step({ kind: 'loop' }), step({ kind: 'travel', of: whose, smooth })] });
      expect(farthest(worldMotion(clip), before)).toBeLessThan(1e-5);
      expect(figuresOf(clip).seam.poseCm).toBeLessThan(1e-4);
    }
});

test('a way bent by nothing is the way', () => {
  const way = wayOf(made.walk.motion, false);
  const { way: same } = bendWay(way, null, 60);
  for (const k of ['x', 'z', 'heading'] as const) expect(Math.max(...same[k].map((v, f) => Math.abs(v - way[k][f])))).toBeLessThan(1e-9);
});
