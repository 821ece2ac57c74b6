import { addFaults, capture, DEFAULT_FAULTS, driftHeading, type ScriptName } from '@lantern/capture';
import {
  copyMotion,
  cleanFindings,
  cutClip,
  cutMotion,
  forwardKinematics,
  fromAxisAngle,
  groundwork,
  multiply,
  recipeRunner,
  recipeSchema,
  shakeMm,
  stepsOfOtherSide,
  stepsRecut,
  type Motion,
  type RecipeStepInput,
} from '@lantern/motion';
import { denoise } from '../src/math/denoise';
import { noiseFloor } from '../src/math/noise-floor';

const run = (motion: Motion, params: Partial<RecipeStepInput> & object = {}, from = 0, to = motion.frames - 1) =>
  recipeRunner(motion)({ from, to, steps: recipeSchema.parse([{ kind: 'clean', ...params }]) });
/** Seeds that nothing was tuned on; only jitter is wrong with it, and the truth is beside it. */
function shaken(script: ScriptName, factor: number, seconds = 8): { motion: Motion; truth: Motion; landings: readonly [string, number][] } {
  const { truth } = capture(script, { seconds, seed: 4711, faults: 1 });
  const motion = addFaults(truth.motion, 815, factor, { ...DEFAULT_FAULTS, headingDrift: 0, floor: 0 });
  const landings = (['left', 'right'] as const).flatMap((side) =>
    truth[side].map(({ from }) => [side === 'left' ? 'LeftFoot' : 'RightFoot', from] as const),
  );
  return { motion, truth: truth.motion, landings: landings as unknown as [string, number][] };
}
const placesOf = (motion: Motion) => forwardKinematics(motion);
function rmsMm(a: Motion, b: Motion): number {
  const [p, q] = [placesOf(a).positions, placesOf(b).positions];
  let sum = 0;
  for (let i = 0; i < p.length; i++) sum += (p[i] - q[i]) ** 2;
  return 1000 * Math.sqrt((3 * sum) / p.length);
}
const jointOf = (motion: Motion, name: string) => motion.skeleton.joints.findIndex((joint) => joint.name === name);
/** Turns a joint aside in some frames. */
function withSpike(motion: Motion, name: string, from: number, to: number, degrees: number): Motion {
  const out = copyMotion(motion);
  const stride = motion.skeleton.joints.length * 4;
  const at = jointOf(motion, name) * 4;
  for (let f = from; f < to; f++)
    multiply(out.rotations, f * stride + at, out.rotations, f * stride + at, fromAxisAngle([0.6, 0.8, 0], (degrees * Math.PI) / 180), 0);
  return out;
}
/** A joint keeps its last rotation from one frame to another. */
function withGap(motion: Motion, name: string, from: number, to: number): Motion {
  const out = copyMotion(motion);
  const stride = motion.skeleton.joints.length * 4;
  const at = (from - 1) * stride + jointOf(motion, name) * 4;
  for (let f = from; f < to; f++) out.rotations.set(out.rotations.slice(at, at + 4), f * stride + jointOf(motion, name) * 4);
  return out;
}

describe('jitter', () => {
  test.each<[ScriptName, number]>([
    ['walk', 1],
    ['walk', 3],
    ['jog', 3],
    ['idle', 1],
    ['stairs', 1],
  ])('of a %s at faults × %d is at least halved, in every place and in nobody’s time', (script, factor) => {
    const { motion, truth } = shaken(script, factor);
    const { motion: out } = run(motion);
    expect(rmsMm(out, truth)).toBeLessThan(0.5 * rmsMm(motion, truth));
    expect(shakeMm(out)).toBeLessThan(0.6 * shakeMm(motion));
  });

  test('landings keep the edge that they have', () => {
    const { motion, truth, landings } = shaken('walk', 1);
    const [own, cleaned] = [truth, run(motion).motion].map(placesOf);
    const peak = ({ positions, joints }: typeof own, name: string, landing: number) => {
      const j = jointOf(truth, name);
      let most = 0;
      for (let f = landing - 5; f <= landing + 5; f++) {
        const at = (frame: number, k: number) => positions[(frame * joints + j) * 3 + k];
        most = Math.max(most, Math.hypot(...[0, 1, 2].map((k) => at(f + 1, k) - 2 * at(f, k) + at(f - 1, k))));
      }
      return most;
    };
    const inside = landings.filter(([, f]) => f > 8 && f < truth.frames - 8);
    expect(inside.length).toBeGreaterThan(8);
    for (const [name, f] of inside) expect(peak(cleaned, name, f) / peak(own, name, f)).toBeGreaterThan(0.85);
  });

  test('nothing comes later than it was', () => {
    const { motion, truth } = shaken('jog', 1);
    const [own, cleaned] = [truth, run(motion).motion].map(placesOf);
    const j = jointOf(truth, 'LeftHand');
    const z = (g: typeof own, f: number) => g.positions[(f * g.joints + j) * 3 + 2] - g.positions[f * g.joints * 3 + 2];
    const alike = (lag: number) => {
      let sum = 0;
      for (let f = 10; f < truth.frames - 10; f++) sum += z(own, f) * z(cleaned, f + lag);
      return sum;
    };
    const lags = [-3, -2, -1, 0, 1, 2, 3];
    expect(lags.reduce((best, lag) => (alike(lag) > alike(best) ? lag : best), -3)).toBe(0);
  });

  test('a motion without noise stays what it is, to the bit', () => {
    const { truth } = shaken('walk', 1, 4);
    const smooth = copyMotion(truth);
    for (let f = 0; f < smooth.frames; f++) smooth.rotations.set(truth.rotations.subarray(0, 84), f * 84);
    for (let f = 0; f < smooth.frames; f++) smooth.rootPositions.set([0, 1, f / 60], f * 3);
    const { motion: out } = run(smooth, { jitter: 1 });
    expect([...out.rotations]).toEqual([...smooth.rotations]);
  });

  test('switched off, nothing moves, to the bit', () => {
    const { motion } = shaken('walk', 1, 3);
    const { motion: out } = run(motion, { jitter: 0, spikes: false, gaps: false });
    expect([...out.rotations]).toEqual([...motion.rotations]);
    expect([...out.rootPositions]).toEqual([...motion.rootPositions]);
  });

  test('a cut is cleaned by what lies beside it: its ends are as good as its middle', () => {
    const { motion, truth } = shaken('walk', 3);
    const { motion: out } = run(motion, {}, 120, 186);
    const [start, end] = [0, 66].map((f) => rmsMm(cutMotion(out, f, f), cutMotion(truth, 120 + f, 120 + f)));
    for (const edge of [start, end]) expect(edge).toBeLessThan(rmsMm(motion, truth));
  });

  test('the noise of white noise is what it is, of no noise nothing, and a curve without noise is left alone', () => {
    let state = 7;
    const next = () => ((state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 4294967296) * Math.sqrt(12) - Math.sqrt(3);
    const noise = Float64Array.from({ length: 6000 }, () => 0.02 * next());
    expect(noiseFloor([noise], 60)).toBeGreaterThan(0.017);
    expect(noiseFloor([noise], 60)).toBeLessThan(0.022);
    const wave = Float64Array.from({ length: 600 }, (_, f) => Math.sin(f / 20));
    expect(noiseFloor([wave], 60)).toBeLessThan(1e-5);
    expect(denoise(wave, 0, 60)).toBe(wave);
    expect(noiseFloor([new Float64Array(3)], 60)).toBe(0);
  });
});

describe('spikes', () => {
  const { motion } = capture('walk', { seconds: 8, seed: 4712 });

  test.each([
    ['LeftForearm', 100, 101, 25],
    ['Neck', 150, 152, 15],
    ['RightShin', 230, 233, 40],
  ])('of %s, frames %d to %d, is found, listed, and put where both sides lead', (name, from, to, degrees) => {
    const bad = withSpike(motion, name, from, to, degrees);
    const clip = cutClip(bad, 0, bad.frames - 1);
    const [step] = recipeSchema.parse([{ kind: 'clean', jitter: 0 }]);
    const [found, ...others] = cleanFindings(clip, step as never);
    expect(others).toEqual([]);
    expect(found).toMatchObject({ kind: 'spike', joint: name, isMended: true });
    expect(found.from).toBeLessThanOrEqual(from);
    expect(found.to).toBeGreaterThanOrEqual(to);
    expect(found.off).toBeGreaterThan(degrees / 2);
    const { motion: out } = run(bad, { jitter: 0 });
    expect(rmsMm(out, motion)).toBeLessThan(0.1 * rmsMm(bad, motion));
    // Frames without a spike are what they were.
    expect([...out.rotations.subarray(0, 50 * 84)]).toEqual([...motion.rotations.subarray(0, 50 * 84)]);
  });

  test('of the way is found too', () => {
    const bad = copyMotion(motion);
    for (let f = 200; f < 202; f++) bad.rootPositions[f * 3 + 1] += 0.08;
    const [step] = recipeSchema.parse([{ kind: 'clean' }]);
    expect(cleanFindings(cutClip(bad, 0, bad.frames - 1), step as never)).toMatchObject([
      { joint: 'the way', from: 200, to: 202, unit: 'cm' },
    ]);
  });

  test('that is kept stays, and is listed as kept', () => {
    const bad = withSpike(motion, 'Head', 150, 151, 30);
    const params = { jitter: 0, keep: [{ joint: 'Head', frame: 150 }] };
    const { motion: out } = run(bad, params);
    expect([...out.rotations]).toEqual([...bad.rotations]);
    const [step] = recipeSchema.parse([{ kind: 'clean', ...params }]);
    expect(cleanFindings(cutClip(bad, 0, bad.frames - 1), step as never)).toMatchObject([{ joint: 'Head', isMended: false }]);
  });

  test.each<ScriptName>(['walk', 'jog', 'hop', 'stairs', 'turn'])('there are none in a %s, however it lands', (script) => {
    const { motion: take } = capture(script, { seconds: 10, seed: 4713 });
    const [step] = recipeSchema.parse([{ kind: 'clean' }]);
    expect(cleanFindings(cutClip(take, 0, take.frames - 1), step as never)).toEqual([]);
  });
});

describe('gaps', () => {
  const { motion } = capture('walk', { seconds: 12, seed: 4714 });

  test.each<[string, ScriptName, number]>([
    ['LeftForearm', 'walk', 4714],
    ['Ribs', 'walk', 4714],
    ['RightThigh', 'walk', 4714],
    ['LeftShin', 'walk', 4714],
    ['RightThigh', 'walk', 4716],
    ['RightThigh', 'jog', 4714],
    ['LeftShin', 'jog', 4714],
  ])('of %s of a quarter of a second, in a %s by seed %i, is filled within two centimetres', (name, script, seed) => {
    const { motion } = capture(script, { seconds: 12, seed });
    const bad = withGap(motion, name, 300, 315);
    const { motion: out } = run(bad, { jitter: 0, spikes: false });
    const [a, b] = [motion, out].map(placesOf);
    let most = 0;
    for (let i = 0; i < a.positions.length; i += 3)
      most = Math.max(most, Math.hypot(...[0, 1, 2].map((k) => a.positions[i + k] - b.positions[i + k])));
    expect(most).toBeLessThan(0.02);
    const [step] = recipeSchema.parse([{ kind: 'clean' }]);
    expect(cleanFindings(cutClip(bad, 0, bad.frames - 1), step as never)).toMatchObject([
      { kind: 'gap', joint: name, from: 300, to: 315, isMended: true },
    ]);
  });

  test('longer than half a second is listed and left', () => {
    const bad = withGap(motion, 'Head', 300, 360);
    const { motion: out } = run(bad, { jitter: 0, spikes: false });
    expect([...out.rotations]).toEqual([...bad.rotations]);
    const [step] = recipeSchema.parse([{ kind: 'clean' }]);
    expect(cleanFindings(cutClip(bad, 0, bad.frames - 1), step as never)).toMatchObject([{ joint: 'Head', isMended: false }]);
  });

  test('a joint that never moves is no gap', () => {
    const bad = withGap(motion, 'LeftToes', 1, motion.frames);
    const [step] = recipeSchema.parse([{ kind: 'clean' }]);
    expect(cleanFindings(cutClip(bad, 0, bad.frames - 1), step as never)).toEqual([]);
  });
});

describe('a heading that drifts', () => {
  const still = capture('idle', { seconds: 90, seed: 4714, faults: 0 }).motion;
  const turnDeg = (a: Motion, b: Motion, frame: number) => {
    const stride = a.skeleton.joints.length * 4;
    const y = (m: Motion) => 2 * Math.atan2(m.rotations[frame * stride + 1], m.rotations[frame * stride + 3]);
    return Math.abs(((y(a) - y(b)) * 180) / Math.PI);
  };

  test('of five degrees a minute is within one, with three anchors by facing', () => {
    const drifted = driftHeading(still, 0, (5 * Math.PI) / 180 / 60);
    const last = still.frames - 1;
    expect(turnDeg(drifted, still, last)).toBeGreaterThan(7);
    // Instants at which he did face the same way.
    const facing = groundwork(still)?.headings ?? [];
    const alike = (near: number) =>
      Array.from({ length: 240 }, (_, i) => near - 120 + i).reduce(
        (a, f) => (Math.abs(facing[f] - facing[60]) < Math.abs(facing[a] - facing[60]) ? f : a),
        near,
      );
    const { motion: out } = run(drifted, { jitter: 0, drift: { by: 'facing', frames: [60, alike(last >> 1), alike(last - 180)] } });
    for (const f of [600, 2400, last]) expect(turnDeg(out, still, f)).toBeLessThan(1);
  });

  test('of a walk that comes back to its mark, the way closes again', () => {
    const { motion } = capture('rounds', { seconds: 60, seed: 4716, faults: 0 });
    const p = motion.rootPositions;
    // Two instants at which he stands on the same place, far from each other in time.
    let best: [number, number, number] = [0, 0, Infinity];
    for (let a = 0; a < motion.frames - 600; a += 10)
      for (let b = a + 600; b < motion.frames; b += 10) {
        const apart = Math.hypot(p[a * 3] - p[b * 3], p[a * 3 + 2] - p[b * 3 + 2]);
        if (apart < best[2]) best = [a, b, apart];
      }
    const [from, to, apart] = best;
    const drifted = driftHeading(motion, 0, (10 * Math.PI) / 180 / 60);
    const gap = (m: Motion) =>
      Math.hypot(m.rootPositions[from * 3] - m.rootPositions[to * 3], m.rootPositions[from * 3 + 2] - m.rootPositions[to * 3 + 2]);
    const { motion: out } = run(drifted, { jitter: 0, drift: { by: 'mark', frames: [from, to] } });
    expect(gap(out)).toBeLessThan(Math.max(apart + 0.02, 0.35 * gap(drifted)));
  });

  test('with one anchor nothing is turned', () => {
    const drifted = driftHeading(still, 0, 0.01);
    const { motion: out } = run(drifted, { jitter: 0, spikes: false, gaps: false, drift: { by: 'facing', frames: [60] } });
    expect([...out.rotations]).toEqual([...drifted.rotations]);
  });
});

test('frames of a clean step go along when its clip is cut elsewhere; on the other side it still cleans what was captured', () => {
  const steps = recipeSchema.parse([{ kind: 'clean', keep: [{ joint: 'LeftHand', frame: 40 }], drift: { frames: [10, 60] } }]);
  expect(stepsRecut(steps, { from: 100, to: 200 }, { from: 90, to: 200 })).toMatchObject([
    { keep: [{ joint: 'LeftHand', frame: 50 }], drift: { frames: [20, 70] } },
  ]);
  const other = stepsOfOtherSide(steps);
  expect(other.map(({ kind }) => kind)).toEqual(['clean', 'mirror']);
  expect(other[0]).toEqual(steps[0]);
});
