import { capture, type ScriptName } from '@lantern/capture';
import { describeTake, forwardKinematics, readBvh, rotate, writeBvh, type Motion } from '@lantern/motion';

const play = (script: ScriptName, fps = 60) => capture(script, { faults: 0, seconds: 8, seed: 6, fps });

const SOLE = { heel: ['Foot', [0, -0.085, -0.055]], ball: ['Toes', [0, -0.022, 0]], tip: ['Toes', [0, -0.022, 0.07]] } as const;

/** A sole point of a foot in every frame. */
function track(motion: Motion, side: 'Left' | 'Right', point: keyof typeof SOLE): number[][] {
  const globals = forwardKinematics(motion);
  const [joint, local] = SOLE[point];
  const j = motion.skeleton.joints.findIndex(({ name }) => name === `${side}${joint}`);
  return Array.from({ length: motion.frames }, (_, f) => {
    const out = [0, 0, 0];
    rotate(out, 0, globals.rotations, (f * globals.joints + j) * 4, local, 0);
    return out.map((v, k) => v + globals.positions[(f * globals.joints + j) * 3 + k]);
  });
}

const kneeDegrees = (motion: Motion, side: 'Left' | 'Right') => {
  const j = motion.skeleton.joints.findIndex(({ name }) => name === `${side}Shin`);
  return Array.from({ length: motion.frames }, (_, f) => {
    const at = (f * motion.skeleton.joints.length + j) * 4;
    return (2 * Math.atan2(Math.hypot(...motion.rotations.subarray(at, at + 3)), Math.abs(motion.rotations[at + 3])) * 180) / Math.PI;
  });
};

describe.each(['walk', 'jog', 'hush', 'turn', 'start-stop', 'rounds', 'hop', 'kerb', 'stairs', 'sideways', 'backwards', 'lean'] as const)(
  '%s',
  (script) => {
    const { motion, truth } = play(script);

    test('in a true contact one sole point after the other stays within 0.1 mm of where it is', () => {
      for (const side of ['Left', 'Right'] as const) {
        const points = (['heel', 'ball', 'tip'] as const).map((point) => track(motion, side, point));
        for (const { from, to } of truth[side === 'Left' ? 'left' : 'right']) {
          // The point on which the foot pivots: over the whole stretch in which it is that one, not frame by frame.
          const held = { point: -1, at: [0, 0, 0] };
          let farthest = 0;
          for (let f = Math.max(1, from + 1); f < to; f++) {
            const moves = points.map((p) => Math.hypot(...p[f].map((v, k) => v - p[f - 1][k])));
            const point = moves.indexOf(Math.min(...moves));
            if (held.point !== point) Object.assign(held, { point, at: points[point][f] });
            farthest = Math.max(farthest, Math.hypot(...points[point][f].map((v, k) => v - held.at[k])));
          }
          expect(farthest).toBeLessThan(0.0001);
        }
      }
    });

    test('no sole goes more than 2 mm into the floor and no knee snaps straight or folds', () => {
      for (const side of ['Left', 'Right'] as const) {
        for (const point of ['heel', 'ball', 'tip'] as const)
          expect(Math.min(...track(motion, side, point).map((p) => p[1]))).toBeGreaterThan(-0.002);
        const knee = kneeDegrees(motion, side);
        expect(Math.min(...knee)).toBeGreaterThan(2.5);
        // The leg that is held up in a hop is folded as far as knees go.
        expect(Math.max(...knee)).toBeLessThan(script === 'hop' ? 160 : 116);
        expect(knee.some(Number.isNaN)).toBe(false);
      }
    });
  },
);

test('a walk at 1.3 m/s has the steps of one: cadence 108–114 a minute, stance 60–64 %, hips 3–5 cm up and down, knees 60–68° in swing', () => {
  const { motion, truth } = play('walk', 120);
  const [a, b] = [truth.left[1], truth.left[4]];
  const stride = (b.from - a.from) / 3;
  expect(truth.speedMps).toBeCloseTo(1.3, 3);
  expect((2 * 60 * motion.fps) / stride).toBeGreaterThan(108);
  expect((2 * 60 * motion.fps) / stride).toBeLessThan(114);
  expect((a.to - a.from) / stride).toBeCloseTo(0.62, 1);
  const heights = Array.from({ length: motion.frames }, (_, f) => motion.rootPositions[f * 3 + 1]);
  expect(Math.max(...heights) - Math.min(...heights)).toBeGreaterThan(0.03);
  expect(Math.max(...heights) - Math.min(...heights)).toBeLessThan(0.05);
  expect(Math.max(...kneeDegrees(motion, 'Left'))).toBeGreaterThan(60);
  expect(Math.max(...kneeDegrees(motion, 'Left'))).toBeLessThan(68);
});

test.each(['jog', 'hop'] as const)('in the flights of a %s the hips fall at 9.81 m/s²', (script) => {
  const { motion, truth } = play(script, 240);
  const grounded = new Uint8Array(motion.frames);
  for (const { from, to } of [...truth.left, ...truth.right]) grounded.fill(1, from, to);
  const falls: number[] = [];
  for (let f = 4; f < motion.frames - 4; f++) {
    if (grounded.subarray(f - 4, f + 5).some(Boolean)) continue;
    const y = (i: number) => motion.rootPositions[i * 3 + 1];
    falls.push(((y(f - 4) - 2 * y(f) + y(f + 4)) * motion.fps ** 2) / 16);
  }
  expect(falls.length).toBeGreaterThan(100);
  expect(Math.max(...falls.map((fall) => Math.abs(fall + 9.81)))).toBeLessThan(0.05);
});

test('the rounds: out along the quay, back the other way, a wait, then a jog', () => {
  const { motion } = play('rounds', 60);
  const { ground, passport } = describeTake(readBvh(new TextEncoder().encode(writeBvh(motion)), 'rounds'));
  const turned = Math.abs((ground?.headings[motion.frames - 1] ?? 0) - (ground?.headings[0] ?? 0));
  expect(turned).toBeCloseTo(Math.PI, 1);
  expect(passport.statureM).toBeCloseTo(1.78, 2);
  expect(passport.freeFall).toMatchObject({ verdict: 'consistent' });
});

test('sideways he faces at right angles to where he goes, backwards he faces away from it; on the spot he turns a quarter and back about', () => {
  const way = (script: ScriptName) => {
    const { motion } = play(script);
    const found = describeTake({ name: script, format: 'bvh', motion, warnings: [] }).ground;
    const last = (motion.frames - 1) * 3;
    const [dx, dz] = [0, 2].map((k) => motion.rootPositions[last + k] - motion.rootPositions[k]);
    const h = found?.headings ?? [0];
    return { ahead: dx * Math.sin(h[0]) + dz * Math.cos(h[0]), left: dx * Math.cos(h[0]) - dz * Math.sin(h[0]), headings: h };
  };
  expect(way('backwards').ahead).toBeCloseTo(-0.9 * 8, 0);
  expect(way('sideways').left).toBeCloseTo(0.5 * 8, 0);
  expect(Math.abs(way('sideways').ahead)).toBeLessThan(0.2);
  const { headings } = way('turn');
  // 90° on the arc, then −90° and 180° on the spot.
  expect(headings[headings.length - 1] - headings[0]).toBeCloseTo(Math.PI, 1);
});

test('up the kerb and down again the soles stand 15 cm higher in between', () => {
  const { motion, truth } = play('kerb');
  const toes = track(motion, 'Left', 'ball');
  const levels = truth.left.map(
    ({ from, to }) => Math.round(toes[Math.min(motion.frames - 1, Math.floor((Math.max(0, from) + to) / 2))][1] * 100) || 0,
  );
  expect(new Set(levels)).toEqual(new Set([0, 15]));
  expect(levels[0]).toBe(0);
  expect(levels.at(-1)).toBe(0);
});

test('the same seed is the same take; faults come in the size asked for', () => {
  const once = capture('walk', { seconds: 3, seed: 8 });
  expect([...capture('walk', { seconds: 3, seed: 8 }).motion.rotations]).toEqual([...once.motion.rotations]);
  expect([...capture('walk', { seconds: 3, seed: 9 }).motion.rotations]).not.toEqual([...once.motion.rotations]);
  const floor = (faults: number) =>
    Math.abs(
      capture('idle', { seconds: 2, faults, seed: 8 }).motion.rootPositions[1] -
        capture('idle', { seconds: 2, faults: 0, seed: 8 }).motion.rootPositions[1],
    );
  expect(floor(1)).toBeCloseTo(0.02, 2);
  expect(floor(3)).toBeCloseTo(0.06, 2);
});
