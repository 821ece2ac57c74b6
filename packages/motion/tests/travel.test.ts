import { capture } from '@lantern/capture';
import {
  clipFigures,
  cutMotion,
  describeTake,
  findLoops,
  moveFrames,
  readBvh,
  recipeRunner,
  stepSchema,
  worldMotion,
  writeBvh,
  type Motion,
  type TakeOverrides,
} from '@lantern/motion';
import { bytesOf, farthest, gaitOf, suit } from './made';

const { motion, gait: walker, truth } = suit('walk', { seed: 14 });
const [best] = findLoops(walker).candidates;
const run = recipeRunner(motion);
const LOOP = stepSchema.parse({ kind: 'loop' });
const made = (travel: object, cut = best, steps = [LOOP]) =>
  run({ from: cut.from, to: cut.to, steps: [...steps, stepSchema.parse({ kind: 'travel', ...travel })] });
const plain = worldMotion(run({ from: best.from, to: best.to, steps: [LOOP] }));

test.each([
  [{ forward: 'body' }],
  [{ sideways: 'body' }],
  [{ heading: 'body' }],
  [{ height: 'root' }],
  [{ forward: 'body', sideways: 'body', heading: 'body', height: 'body' }],
  [{ forward: 'root', heading: 'body', height: 'root' }],
])('what goes to the root or stays in the body moves no joint: %j', (travel) => {
  expect(farthest(worldMotion(made(travel)), plain)).toBeLessThan(0.00001);
});

test('a root that takes only the height does not leave its place', () => {
  const { travel } = made({ forward: 'body', sideways: 'body', heading: 'body', height: 'root' });
  for (const values of [travel?.x, travel?.z, travel?.heading])
    expect(Math.max(...(values ?? []).map((v) => Math.abs(v - (values?.[0] ?? 0))))).toBeLessThan(1e-9);
});

test('dropping forward takes out the even way and leaves the ripple of the stride in the body', () => {
  const still = worldMotion(made({ forward: 'drop' }));
  const far = Math.hypot(...[0, 2].map((k) => still.rootPositions[(still.frames - 1) * 3 + k] - still.rootPositions[k]));
  expect(far).toBeLessThan(0.00001);
  const along = Array.from({ length: still.frames }, (_, f) => still.rootPositions[f * 3 + 2]);
  expect(Math.max(...along) - Math.min(...along)).toBeGreaterThan(0.005);
  expect(Math.max(...along) - Math.min(...along)).toBeLessThan(0.06);
});

test('started at the origin the root stands on the floor and faces forward, wherever the take was and faced', () => {
  const elsewhere = cutMotion(motion, 0, motion.frames - 1);
  moveFrames(elsewhere, { turn: 2.1, x: 5, z: -7, y: 0.3 });
  const clips = [motion, elsewhere].map((m) =>
    recipeRunner(m)({ from: best.from, to: best.to, steps: [LOOP, stepSchema.parse({ kind: 'travel', start: 'origin' })] }),
  );
  for (const { travel } of clips)
    expect([travel?.x[0], travel?.y[0], travel?.z[0], travel?.heading[0]].map((v) => Math.abs(v ?? 1))).toEqual([0, 0, 0, 0]);
  expect(farthest(worldMotion(clips[0]), worldMotion(clips[1]))).toBeLessThan(0.0001);
  expect(Math.abs(gaitOf(worldMotion(clips[0])).soles.floor)).toBeLessThan(0.004);
});

test('of a clip that does not loop the root takes the way averaged over a stride: smoother than the hips, never far from them', () => {
  const rounds = suit('rounds', { seed: 2 });
  const clip = recipeRunner(rounds.motion)({ from: 560, to: 760, steps: [stepSchema.parse({ kind: 'travel' })] });
  const figures = clipFigures(clip);
  expect(figures?.rootToHipsCm).toBeLessThan(12);
  expect(Math.abs(figures?.turnDegS ?? 0)).toBeGreaterThan(10);
  const jerk = (x: ArrayLike<number>) =>
    Array.from({ length: x.length - 3 }, (_, f) => Math.abs(x[f + 3] - 3 * x[f + 2] + 3 * x[f + 1] - x[f])).reduce((a, b) => a + b);
  const hips = Array.from({ length: 201 }, (_, f) => rounds.motion.rootPositions[(560 + f) * 3 + 2]);
  expect(jerk(clip.travel?.z ?? [])).toBeLessThan(jerk(hips) / 5);
});

test('a turn that stays in the body is the seam’s heading figure, one that goes to the root is not', () => {
  const rounds = suit('rounds', { seed: 2, faults: 0 });
  const cut = (heading: string) =>
    clipFigures(recipeRunner(rounds.motion)({ from: 560, to: 760, steps: [stepSchema.parse({ kind: 'travel', heading })] }))?.seam
      .headingDeg ?? NaN;
  const turned = ((rounds.gait.headings[760] - rounds.gait.headings[560]) * 180) / Math.PI;
  expect(Math.abs(turned)).toBeGreaterThan(30);
  expect(cut('body')).toBeCloseTo(turned, 1);
  expect(Math.abs(cut('root'))).toBeLessThan(12);
  expect(Math.abs(clipFigures(made({}))?.seam.headingDeg ?? 99)).toBeLessThan(0.001);
});

test('walking backwards and sideways are found as such: the root faces where the body does', () => {
  // The same walk seen as one who moves another way: only the travel is turned, the body keeps its facing.
  for (const [turn, name] of [
    [Math.PI, 'backwards'],
    [Math.PI / 2, 'to the left'],
  ] as const) {
    const other = cutMotion(motion, 0, motion.frames - 1);
    for (let f = 0; f < other.frames; f++) {
      const [x, z] = [motion.rootPositions[f * 3], motion.rootPositions[f * 3 + 2]];
      other.rootPositions[f * 3] = Math.cos(turn) * x + Math.sin(turn) * z;
      other.rootPositions[f * 3 + 2] = Math.cos(turn) * z - Math.sin(turn) * x;
    }
    const { travel } = recipeRunner(other)({
      from: best.from,
      to: best.to,
      steps: [LOOP, stepSchema.parse({ kind: 'travel', start: 'origin' })],
    });
    const last = (travel?.z.length ?? 1) - 1;
    const way = (Math.atan2(travel?.x[last] ?? 0, travel?.z[last] ?? 0) * 180) / Math.PI;
    expect({ name, way: Math.round(Math.abs(way)) }).toEqual({ name, way: Math.round((turn * 180) / Math.PI) });
  }
});

const read = (made: Motion, overrides: TakeOverrides = {}) =>
  describeTake({ name: 'take', format: 'bvh', motion: made, warnings: [] }, overrides).passport;

test('free fall agrees with a true jog, and says what mends one read at half its rate or at another size', () => {
  const jog = capture('jog', { faults: 0.5, fps: 120, seconds: 8, seed: 3 }).motion;
  expect(read(jog).freeFall).toMatchObject({ verdict: 'consistent', suggestion: null });
  expect(read({ ...jog, fps: 30 }).freeFall).toMatchObject({ verdict: 'rate', suggestion: { fps: 120 } });
  expect(read({ ...jog, fps: 30 }).freeFall.sentence).toMatch(/fall at 0\.\d+ m\/s²: 120 frames a second were probably read as 30/);
  const big = read(jog, { metresPerUnit: 0.3048 });
  expect(big.freeFall).toMatchObject({ verdict: 'scale', suggestion: { metresPerUnit: 1 } });
  expect(big.units).toMatchObject({ unit: 'custom', metresPerUnit: 0.3048 });
  expect(big.warnings.find(({ code }) => code === 'free-fall-scale')?.repair?.overrides).toEqual({ metresPerUnit: 1 });
});

test('nothing that is not a flight settles anything: a walk, a lift, a suit that holds the feet to the floor', () => {
  expect(read(capture('walk', { seconds: 6 }).motion).freeFall).toMatchObject({ verdict: 'no-flights', medianMps2: null });
  const lifted = capture('idle', { seconds: 9 }).motion;
  for (let f = 0; f < lifted.frames; f++) lifted.rootPositions[f * 3 + 1] += 0.3 * (1 - Math.cos((2 * Math.PI * f) / 180));
  expect(['unclear', 'no-flights']).toContain(read(lifted).freeFall.verdict);
  expect(['unclear', 'no-flights']).toContain(read(capture('jog', { seconds: 6, rootByFeet: true }).motion).freeFall.verdict);
});

test('a faster rate than the file says makes the same take faster: overrides are believed', () => {
  const take = readBvh(bytesOf(writeBvh(motion)), 'walk');
  const { passport } = describeTake(take, { fps: 120 });
  expect(passport.seconds).toBeCloseTo(motion.frames / 120, 6);
  expect(truth.speedMps).toBeCloseTo(1.3, 2);
});
