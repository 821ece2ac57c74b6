import { addFaults, capture, DEFAULT_FAULTS, driftHeading } from '@lantern/capture';
import {
  applyStep,
  asCaptured,
  balance,
  cleanAnchors,
  cleanFloorRate,
  clipSmoothness,
  copyMotion,
  cutClip,
  cutMotion,
  groundwork,
  recipeRunner,
  recipeSchema,
  smoothness,
  stepSchema,
  type Clip,
  type Motion,
} from '@lantern/motion';
import { convexHull, insideBy } from '../src/math/convex';
import fc from 'fast-check';

const whole = (motion: Motion): Clip => cutClip(motion, 0, motion.frames - 1);
const clean = (params: object = {}) => stepSchema.parse({ kind: 'clean', ...params });
const jointNamed = (motion: Motion, name: string) => motion.skeleton.joints.findIndex((joint) => joint.name === name);
const ground = (motion: Motion) => {
  const found = groundwork(motion);
  if (!found) throw new Error('nobody is there');
  return found;
};

describe('arcs', () => {
  test('a way that nothing shakes is as smooth as it can be; one frame off is its worst kink, and is told in millimetres', () => {
    const way = Float32Array.from({ length: 600 }, (_, i) => [Math.sin(i / 90), 1 + 0.1 * Math.cos(i / 60), i / 200][i % 3]);
    expect(smoothness(way, 60).ratio).toBeLessThan(1.05);
    way[3 * 77 + 1] += 0.01;
    const { ratio, kinks } = smoothness(way, 60);
    expect(ratio).toBeGreaterThan(1.5);
    expect(kinks[0].frame).toBe(77);
    expect(kinks[0].mm).toBeGreaterThan(9);
    expect(kinks[0].mm).toBeLessThan(11);
  });

  test('jitter makes a hand’s arc jerk, and cleaning takes it out: beside the captured way low-passed it is smooth then', () => {
    const clip = whole(capture('walk', { seconds: 8, seed: 95 }).motion);
    const hand = jointNamed(clip.motion, 'LeftHand');
    const cleaned = applyStep(clip, clean());
    expect(clipSmoothness(clip, hand).ratio).toBeGreaterThan(4);
    expect(clipSmoothness(cleaned, hand, clip).ratio).toBeLessThan(1.3);
  });

  test('a kink at the seam of a loop is found though it is at its end', () => {
    const { motion } = capture('walk', { seconds: 8, seed: 96, faults: 0 });
    const clip = recipeRunner(motion)({ from: 60, to: 126, steps: recipeSchema.parse([{ kind: 'loop', blend: 'none' }]) });
    const torn = copyMotion(clip.motion);
    const last = torn.frames - 1;
    for (const f of [0, last]) torn.rootPositions[f * 3 + 1] += 0.02;
    const { kinks } = clipSmoothness({ ...clip, motion: torn }, 0);
    expect([0, 1, last - 1, last]).toContain(kinks[0].frame);
  });

  test('as captured: what sets poses right is off, and the frames are the same', () => {
    const steps = recipeSchema.parse([
      { kind: 'clean' },
      { kind: 'loop' },
      { kind: 'hips', side: 0.5 },
      { kind: 'foot-lock' },
      { kind: 'travel' },
    ]);
    expect(
      asCaptured(steps)
        .filter(({ off }) => !off)
        .map(({ kind }) => kind),
    ).toEqual(['loop', 'travel']);
  });
});

describe('balance', () => {
  // Tenths of a millimetre: of places a billionth apart there is no saying which of them is outside.
  const metres = fc.integer({ min: -10_000, max: 10_000 }).map((tenths) => tenths / 10_000);
  const places = fc.array(fc.tuple(metres, metres), { minLength: 3, maxLength: 20 });

  test('an outline holds all its places, and its middle is inside', () => {
    fc.assert(
      fc.property(places, (all) => {
        const hull = convexHull(all);
        if (hull.length < 3) return;
        for (const place of all) expect(insideBy(hull, place)).toBeGreaterThan(-1e-9);
        const middle = [0, 1].map((k) => hull.reduce((sum, place) => sum + place[k] / hull.length, 0));
        expect(insideBy(hull, [middle[0], middle[1]])).toBeGreaterThan(-1e-9);
        expect(insideBy(hull, [5, 5])).toBeLessThan(-4);
      }),
    );
  });

  test('someone who waits stands over his feet all the time; in a jog the centre is ahead of the foot that pushes off', () => {
    const idle = capture('idle', { seconds: 10, seed: 97 }).motion;
    const found = balance(ground(idle));
    expect(Math.min(...found.marginCm)).toBeGreaterThan(2);
    expect(found.unsteady).toEqual([]);
    const jog = balance(ground(capture('jog', { seconds: 6, seed: 97, faults: 0 }).motion));
    expect(Math.min(...[...jog.marginCm].filter((cm) => !Number.isNaN(cm)))).toBeLessThan(-15);
    // In flight nothing bears, and whoever runs need not stand.
    expect(jog.marginCm.some((cm) => Number.isNaN(cm))).toBe(true);
    expect(jog.unsteady).toEqual([]);
  });

  test('someone who waits and leans over by twenty degrees could not stand so, and it is said where', () => {
    const idle = capture('idle', { seconds: 6, seed: 98, faults: 0 }).motion;
    const run = recipeRunner(idle);
    const lean = {
      kind: 'corrections',
      layers: [
        {
          name: 'lean',
          keys: [180, 240].map((frame) => ({ frame, joint: 'Hips', turn: [25, 0, 0], shift: [0, -0.05, 0.3] })),
          fadeIn: 60,
          fadeOut: 60,
        },
      ],
    };
    const clip = run({ from: 0, to: idle.frames - 1, steps: recipeSchema.parse([lean]) });
    const { unsteady } = balance(ground(clip.motion));
    expect(unsteady).toHaveLength(1);
    expect(unsteady[0].at).toBeGreaterThan(160);
    expect(unsteady[0].at).toBeLessThan(260);
    expect(unsteady[0].cm).toBeLessThan(-4);
  });
});

describe('a floor that drifts', () => {
  const drifting = (script: 'walk' | 'stairs' | 'rounds' | 'idle', rate: number) =>
    addFaults(capture(script, { seconds: 20, seed: 99, faults: 0 }).motion, 7, 1, { ...DEFAULT_FAULTS, floorDrift: rate });

  test.each(['walk', 'stairs', 'rounds', 'idle'] as const)('of 4 mm a second is found in %s, and level after cleaning', (script) => {
    const clip = whole(drifting(script, 0.004));
    expect(cleanFloorRate(clip)).toBeCloseTo(0.004, 4);
    expect(Math.abs(cleanFloorRate(applyStep(clip, clean({ floor: true }))))).toBeLessThan(0.0003);
    // It is off unless it is asked for.
    expect(cleanFloorRate(applyStep(clip, clean()))).toBeCloseTo(0.004, 4);
  });

  test('stairs are none', () => {
    expect(Math.abs(cleanFloorRate(whole(drifting('stairs', 0))))).toBeLessThan(0.0003);
  });
});

describe('anchors that are proposed', () => {
  test('someone who stands for long: its beginning, middle and end, by facing', () => {
    const still = capture('idle', { seconds: 40, seed: 100, faults: 0 }).motion;
    const drifted = driftHeading(still, 0, (5 * Math.PI) / 180 / 60);
    const [{ by, frames }] = cleanAnchors(whole(drifted));
    expect(by).toBe('facing');
    expect(frames).toHaveLength(3);
    const straight = applyStep(whole(drifted), clean({ jitter: 0, drift: { by, frames } })).motion;
    const stride = straight.skeleton.joints.length * 4;
    const facing = (motion: Motion, f: number) => 2 * Math.atan2(motion.rotations[f * stride + 1], motion.rotations[f * stride + 3]);
    const last = straight.frames - 1;
    expect(Math.abs(facing(drifted, last) - facing(still, last)) * (180 / Math.PI)).toBeGreaterThan(3);
    expect(Math.abs(facing(straight, last) - facing(still, last)) * (180 / Math.PI)).toBeLessThan(1);
  });

  test('a way out and back comes by its mark; one that only goes out has none', () => {
    const out = capture('walk', { seconds: 6, seed: 101, faults: 0 }).motion;
    expect(cleanAnchors(whole(out)).filter(({ by }) => by === 'mark')).toEqual([]);
    // There and back again: the same frames forwards and backwards.
    const there = cutMotion(out, 0, 299);
    const back = copyMotion(cutMotion(out, 0, 599 > out.frames - 1 ? out.frames - 1 : 599));
    const stride = there.skeleton.joints.length * 4;
    const frames = 599;
    const rotations = new Float32Array(frames * stride);
    const rootPositions = new Float32Array(frames * 3);
    for (let f = 0; f < frames; f++) {
      const at = f < 300 ? f : 598 - f;
      rotations.set(there.rotations.subarray(at * stride, (at + 1) * stride), f * stride);
      rootPositions.set(there.rootPositions.subarray(at * 3, at * 3 + 3), f * 3);
    }
    const round: Motion = { ...back, frames, rotations, rootPositions };
    const [mark] = cleanAnchors(whole(round)).filter(({ by }) => by === 'mark');
    const [a, b] = mark.frames;
    expect(Math.abs(a + b - 598)).toBeLessThan(40);
  });
});
