import { capture, type ScriptName } from '@lantern/capture';
import { castGlb } from '@lantern/cast';
import {
  beyondLimits,
  fitMotion,
  fitReport,
  fitSettingsSchema,
  fitTake,
  forwardKinematics,
  limbWeights,
  matchChain,
  mismatches,
  readCharacter,
  stepSchema,
  withFits,
  type Character,
  type Fitted,
  type FitSettingsInput,
  type Motion,
  angleBetween,
  fromAxisAngle,
  multiply,
  turnedOn,
  turnOf,
} from '@lantern/motion';
import fc from 'fast-check';

let character: Character;
beforeAll(async () => {
  character = readCharacter(await castGlb('tallow'), 'tallow');
});

const take = (script: ScriptName): Motion => capture(script, { seed: 5, seconds: 5, fps: 60 }).motion;
const onto = (motion: Motion, input: FitSettingsInput = {}, start = 0) =>
  fitMotion(motion, character, fitSettingsSchema.parse(input), start);

/** A joint's place in a frame of the source or the target. */
function placeOf(motion: Motion, joint: number, frame: number): number[] {
  const { positions, joints } = forwardKinematics(motion);
  return [...positions.subarray((frame * joints + joint) * 3, (frame * joints + joint) * 3 + 3)];
}
const apart = (a: readonly number[], b: readonly number[]) => Math.hypot(...a.map((v, k) => v - b[k]));
const wrist = ({ plan }: Fitted) => [plan.sourceBody.arms.left.wrist, plan.targetBody.arms.left.wrist] as const;

test('a hand at weight 1 keeps its place over the floor, scaled like the way; at 0 it does not', () => {
  const motion = take('walk');
  const kept = onto(motion, { placement: { leftHand: { weight: 1 } } });
  const free = onto(motion);
  const [from, to] = wrist(kept);
  const { alongScale, heightScale, floorM } = kept.space;
  for (const f of [40, 120, 260]) {
    const [x, y, z] = placeOf(motion, from, f);
    const wanted = [alongScale * x, floorM + heightScale * (y - floorM), alongScale * z];
    // As near as the arm reaches, and how far that is is said.
    expect(apart(placeOf(kept.motion, to, f), wanted)).toBeLessThan((kept.lacks.leftHand ?? 0) + 0.001);
    expect(kept.lacks.leftHand).toBeLessThan(0.02);
    expect(apart(placeOf(free.motion, to, f), wanted)).toBeGreaterThan(0.01);
  }
});

test('a hand that keeps its place against the other is as far from it as captured, as if both held one thing', () => {
  const motion = take('idle');
  const { motion: out, plan } = onto(motion, { placement: { leftHand: { weight: 1, to: 'other-hand' } } });
  const [a, b] = [plan.sourceBody.arms, plan.targetBody.arms];
  for (const f of [10, 150]) {
    const captured = placeOf(motion, a.left.wrist, f).map((v, k) => v - placeOf(motion, a.right.wrist, f)[k]);
    const now = placeOf(out, b.left.wrist, f).map((v, k) => v - placeOf(out, b.right.wrist, f)[k]);
    // The arms are shorter: what cannot be reached is said.
    expect(Math.hypot(...now) / Math.hypot(...captured)).toBeGreaterThan(0.8);
    expect(now[0] * captured[0]).toBeGreaterThan(0);
  }
});

test('a hold leads its weight in and out around its frames', () => {
  const weights = limbWeights({ weight: 0.2, holds: [{ from: 30, to: 40, weight: 1, fade: 0.25 }] }, 100, 40, 0);
  expect(weights[35]).toBe(1);
  expect(weights[5]).toBeCloseTo(0.2, 6);
  expect(weights[25]).toBeGreaterThan(0.2);
  expect(weights[25]).toBeLessThan(1);
  // Frames count from the clip's own start, also before it.
  expect(limbWeights({ weight: 0, holds: [{ from: 0, to: 5, weight: 1, fade: 0 }] }, 20, 40, -10)[12]).toBe(1);
});

test('hands that lean on a rail stay where they rest', () => {
  const motion = take('lean');
  const { motion: out, contacts, plan } = onto(motion);
  expect(contacts.leftHand?.length).toBeGreaterThan(0);
  const { from, to } = contacts.leftHand?.[0] ?? { from: 0, to: 1 };
  const { positions, joints } = forwardKinematics(out);
  const at = (f: number) =>
    positions.subarray((f * joints + plan.targetBody.arms.left.wrist) * 3, (f * joints + plan.targetBody.arms.left.wrist) * 3 + 3);
  for (let f = from + 12; f < to - 12; f += 5) expect(apart([...at(f)], [...at(from + 12)])).toBeLessThan(0.003);
});

test('travel in the ratio of the legs, as captured, or by a factor', () => {
  const motion = take('walk');
  const way = (m: Motion) =>
    Math.hypot(m.rootPositions[(m.frames - 1) * 3] - m.rootPositions[0], m.rootPositions[(m.frames - 1) * 3 + 2] - m.rootPositions[2]);
  const whole = way(motion);
  const { plan, motion: legs } = onto(motion);
  expect(way(legs) / whole).toBeCloseTo(plan.legRatio, 2);
  expect(way(onto(motion, { travel: 'captured' }).motion) / whole).toBeCloseTo(1, 2);
  expect(way(onto(motion, { travel: 0.5 }).motion) / whole).toBeCloseTo(0.5, 2);
});

test('an offset turns a part with all that hangs from it, and nothing above it', () => {
  const motion = take('walk');
  const [plain, offset] = [onto(motion), onto(motion, { offsets: { leftUpperArm: [0, 0, 20] } })];
  const { left } = plain.plan.targetBody.arms;
  expect(apart(placeOf(plain.motion, left.shoulder, 60), placeOf(offset.motion, left.shoulder, 60))).toBeLessThan(0.0005);
  const [before, after] = [plain, offset].map((f) =>
    placeOf(f.motion, left.wrist, 60).map((v, k) => v - placeOf(f.motion, left.shoulder, 60)[k]),
  );
  // Forearm and hand go along as one: the arm is as bent as it was.
  expect(Math.hypot(...after)).toBeCloseTo(Math.hypot(...before), 4);
  expect(apart(before, after)).toBeGreaterThan(0.05);
});

test('soles that are higher or lower than the skin stand there, and sink is measured from there', () => {
  const motion = take('walk');
  const [plain, high, low] = [0, 3, -2].map((soleCm) => onto(motion, { soleCm }));
  const ankle = plain.plan.targetBody.legs.left.ankle;
  const { from, to } = plain.contacts.left[2];
  const middle = (from + to) >> 1;
  const height = (f: Fitted) => placeOf(f.motion, ankle, middle)[1];
  expect(height(high) - height(plain)).toBeCloseTo(0.03, 3);
  expect(height(low) - height(plain)).toBeCloseTo(-0.02, 3);
  for (const fitted of [plain, high, low]) expect(fitReport(fitted).sinkCm).toBeLessThan(0.5);
});

test('hands of someone who bends down to the floor stay out of it, however long the arms of the character are', () => {
  const motion = take('idle');
  const joints = motion.skeleton.joints;
  const turn = (name: string, radians: number) => {
    const j = joints.findIndex((joint) => joint.name === name);
    for (let f = 0; f < motion.frames; f++) {
      const at = (f * joints.length + j) * 4;
      multiply(motion.rotations, at, fromAxisAngle([1, 0, 0], radians), 0, motion.rotations, at);
    }
  };
  turn('Hips', 2.5);
  for (const limb of ['LeftThigh', 'RightThigh', 'LeftArm', 'RightArm']) turn(limb, -2.5);
  const lowestHand = (input: FitSettingsInput) => {
    const { motion: out, plan, groundM } = onto(motion, input);
    const { arms } = plan.targetBody;
    return Math.min(...[arms.left.wrist, arms.right.wrist].map((wrist) => placeOf(out, wrist, 100)[1])) - groundM;
  };
  expect(lowestHand({ planted: 'free' })).toBeLessThan(0);
  expect(lowestHand({})).toBeGreaterThan(0);
  expect(lowestHand({ soleCm: 2 })).toBeGreaterThan(0);
});

test('a turn given by angles and turned on about an axis is the one after the other', () => {
  const angle = fc.integer({ min: -179, max: 179 });
  fc.assert(
    fc.property(fc.tuple(angle, angle, angle), fc.constantFrom(0, 1, 2), angle, (angles, axis, by) => {
      const about = ([0, 1, 2] as const).find((k) => k === axis) ?? 0;
      const [then, whole] = [turnOf([0, 0, 0].map((_, k) => (k === about ? by : 0)) as [number, number, number]), [0, 0, 0, 1]];
      multiply(whole, 0, then, 0, turnOf(angles), 0);
      return angleBetween(whole, 0, turnOf(turnedOn(angles, about, by)), 0) < 0.0005;
    }),
  );
});

test('straightened, both references agree in every limb; a turn by hand shows as that mismatch', () => {
  const motion = take('walk');
  const limbs = mismatches(onto(motion).plan);
  for (const part of ['leftUpperArm', 'rightForearm', 'leftThigh', 'rightShin'] as const) expect(limbs[part]).toBeLessThan(0.1);
  const turned = mismatches(onto(motion, { reference: { turns: { target: { leftUpperArm: [0, 0, -15] } } } }).plan);
  expect(turned.leftUpperArm).toBeCloseTo(15, 1);
  expect(turned.rightUpperArm).toBeLessThan(0.1);
});

test('a knee that bends backwards is beyond its limit, by as much; a walk is within', () => {
  const motion = take('walk');
  const fitted = onto(motion);
  expect(fitReport(fitted).limits).toEqual([]);
  const knee = fitted.plan.targetBody.legs.left.knee;
  const broken = onto(motion, { offsets: { leftShin: [-60, 0, 0] } });
  const found = beyondLimits(broken.plan, forwardKinematics(broken.motion)).find(({ part }) => part === 'leftShin');
  expect(found?.degrees).toBeGreaterThan(20);
  expect(knee).toBeGreaterThan(0);
});

test('what a clip says goes before what is saved for its suit', () => {
  const steps = [stepSchema.parse({ kind: 'fit', character: 'tallow', soleCm: 2 })];
  const [step] = withFits(steps, 'abc', [
    { character: 'tallow', source: 'other', curlDeg: 1 },
    { character: 'tallow', source: 'abc', curlDeg: 40, soleCm: 1 },
  ]);
  expect(step).toEqual({ id: 'fit', kind: 'fit', character: 'tallow', curlDeg: 40, soleCm: 2 });
  expect(matchChain([], [0.5])).toEqual([{ a: -1, b: 0, u: 0.5 }]);
});

test('a long take is fitted stretch by stretch: no seam where two meet, feet held as in one piece; it can be stopped', async () => {
  const { motion } = capture('walk', { seed: 5, seconds: 45, fps: 60 });
  const settings = fitSettingsSchema.parse({});
  const shares: number[] = [];
  const goOn = (share: number) => shares.push(share) > 0;
  const parts = await fitTake(motion, character, settings, goOn, 21 * 60 * 10);
  const whole = await fitTake(motion, character, settings);
  expect(shares.length).toBeGreaterThan(2);
  expect(parts?.report.slideCm).toBeLessThan(0.2);
  // What stretches share is counted once, and frames are those of the whole take.
  expect(parts?.report.contacts).toBe(whole?.report.contacts);
  const fitted = onto(motion);
  expect(whole?.report.contacts).toBe(fitReport(fitted).contacts);
  expect(fitReport(fitted, 100).slideFrame - fitReport(fitted).slideFrame).toBe(100);
  if (!parts || !whole) throw new Error('stopped');
  const [p, q] = [forwardKinematics(parts.motion), forwardKinematics(whole.motion)];
  let most = 0;
  let jolt = 0;
  const at = (g: typeof p, f: number, j: number) => [0, 1, 2].map((k) => g.positions[(f * g.joints + j) * 3 + k]);
  for (let f = 1; f < motion.frames - 1; f++) {
    for (let j = 0; j < p.joints; j++) {
      most = Math.max(most, apart(at(p, f, j), at(q, f, j)));
      const bend = (g: typeof p) =>
        apart(
          at(g, f + 1, j).map((v, k) => v + at(g, f - 1, j)[k]),
          at(g, f, j).map((v) => 2 * v),
        );
      jolt = Math.max(jolt, bend(p) - bend(q));
    }
  }
  expect(most).toBeLessThan(0.01);
  expect(jolt).toBeLessThan(0.002);
  expect(await fitTake(motion, character, settings, () => false)).toBeNull();
});

test('a hand that meets the floor comes up without a pop of its elbow', () => {
  const motion = take('idle');
  const joints = motion.skeleton.joints;
  const turn = (name: string, radians: (f: number) => number) => {
    const j = joints.findIndex((joint) => joint.name === name);
    for (let f = 0; f < motion.frames; f++) {
      const at = (f * joints.length + j) * 4;
      multiply(motion.rotations, at, fromAxisAngle([1, 0, 0], radians(f)), 0, motion.rotations, at);
    }
  };
  // Down within a second, and up again.
  const bend = (f: number) => 2.5 * Math.sin((Math.PI * f) / (motion.frames - 1)) ** 2;
  turn('Hips', bend);
  for (const limb of ['LeftThigh', 'RightThigh', 'LeftArm', 'RightArm']) turn(limb, (f) => -bend(f));
  const fitted = onto(motion);
  const bends = (frame: number) => {
    const { shoulder, elbow, wrist } = fitted.plan.targetBody.arms.left;
    const [a, b, c] = [shoulder, elbow, wrist].map((j) => placeOf(fitted.motion, j, frame));
    const [u, v] = [b.map((x, k) => x - a[k]), c.map((x, k) => x - b[k])];
    return (Math.acos(u.reduce((sum, x, k) => sum + x * v[k], 0) / Math.hypot(...u) / Math.hypot(...v)) * 180) / Math.PI;
  };
  const angles = Array.from({ length: motion.frames }, (_, f) => bends(f));
  // The arm is bent by the floor, by far, and over many frames.
  expect(Math.max(...angles) - Math.min(...angles)).toBeGreaterThan(30);
  expect(Math.max(...angles.slice(1).map((angle, f) => Math.abs(angle - angles[f])))).toBeLessThan(6);
});

test('who sits down sinks into the floor and says so, or is lifted out of it by choice', () => {
  // Too short a wait for him to stand on one leg.
  const { motion } = capture('idle', { seed: 5, seconds: 4, fps: 60 });
  const joints = motion.skeleton.joints;
  for (let f = 0; f < motion.frames; f++) {
    motion.rootPositions[f * 3 + 1] -= 0.93;
    for (const name of ['LeftThigh', 'RightThigh']) {
      const at = (f * joints.length + joints.findIndex((joint) => joint.name === name)) * 4;
      multiply(motion.rotations, at, fromAxisAngle([1, 0, 0], -Math.PI / 2 - 0.05), 0, motion.rotations, at);
    }
  }
  const sinks = fitReport(onto(motion, { planted: 'free' }));
  expect(sinks.seatCm).toBeGreaterThan(3);
  expect(fitReport(onto(motion, { planted: 'free', seat: 'out' })).seatCm).toBeLessThan(0.5);
});
