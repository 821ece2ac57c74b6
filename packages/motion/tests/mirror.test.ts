import {
  createMotion,
  fromAxisAngle,
  forwardKinematics,
  mirrorMap,
  mirrorMotion,
  multiply,
  multiplyInverse,
  recipeRunner,
  rotate,
  stepSchema,
  swapSides,
  type Motion,
  type Quat,
  type Skeleton,
} from '@lantern/motion';
import fc from 'fast-check';
import { farthest, gaitOf, suit } from './made';

/** The same person with other local axes: every joint's rest orientation turned, offsets and rotations expressed in it. */
function withAxes(motion: Motion, turns: readonly Quat[]): Motion {
  const { joints } = motion.skeleton;
  const J = joints.length;
  const inAxes = (v: readonly number[], q: Quat): [number, number, number] => {
    const out = [0, 0, 0];
    rotate(out, 0, [-q[0], -q[1], -q[2], q[3]], 0, v, 0);
    return [out[0], out[1], out[2]];
  };
  const skeleton: Skeleton = {
    joints: joints.map((joint, j) => {
      const rest = [...joint.restRotation] as [number, number, number, number];
      multiply(rest, 0, rest, 0, turns[j], 0);
      if (joint.parent >= 0) multiplyInverse(rest, 0, turns[joint.parent], 0, rest, 0);
      return {
        ...joint,
        offset: joint.parent >= 0 ? inAxes(joint.offset, turns[joint.parent]) : joint.offset,
        restRotation: rest,
        endSites: joint.endSites.map((site) => inAxes(site, turns[j])),
      };
    }),
  };
  const out = { ...createMotion(skeleton, motion.fps, motion.frames), rootPositions: motion.rootPositions };
  for (let i = 0; i < motion.frames * J; i++) {
    const j = i % J;
    multiply(out.rotations, i * 4, motion.rotations, i * 4, turns[j], 0);
    const { parent } = joints[j];
    if (parent >= 0) multiplyInverse(out.rotations, i * 4, turns[parent], 0, out.rotations, i * 4);
  }
  return out;
}

const quat = fc
  .tuple(
    fc.double({ min: -1, max: 1, noNaN: true }),
    fc.double({ min: -1, max: 1, noNaN: true }),
    fc.double({ min: -3, max: 3, noNaN: true }),
  )
  .map(([a, b, angle]): Quat => {
    const z = Math.sqrt(Math.max(0, 1 - a * a));
    return fromAxisAngle([z * Math.cos(Math.PI * b), z * Math.sin(Math.PI * b), a], angle);
  });

const { motion } = suit('turn', { faults: 1, seed: 4 });
const J = motion.skeleton.joints.length;

/** Greatest distance of a joint from where the mirror x = 0 shows its partner, metres. */
function offTheMirror(original: Motion, mirrored: Motion): number {
  const [a, b] = [forwardKinematics(original).positions, forwardKinematics(mirrored).positions];
  const { pairs } = mirrorMap(original.skeleton);
  let most = 0;
  for (let f = 0; f < original.frames; f++)
    for (let j = 0; j < J; j++) {
      const [p, q] = [(f * J + pairs[j].partner) * 3, (f * J + j) * 3];
      most = Math.max(most, Math.hypot(a[p] + b[q], a[p + 1] - b[q + 1], a[p + 2] - b[q + 2]));
    }
  return most;
}

test('a mirrored world pose is the world pose mirrored, whatever the rest orientations; twice is the original', () => {
  const few = { ...motion, frames: 20, rotations: motion.rotations.slice(0, 20 * J * 4), rootPositions: motion.rootPositions.slice(0, 60) };
  fc.assert(
    fc.property(fc.array(quat, { minLength: J, maxLength: J }), (turns) => {
      const odd = withAxes(few, turns);
      expect(farthest(odd, few)).toBeLessThan(1e-5);
      const mirrored = mirrorMotion(odd);
      expect(offTheMirror(odd, mirrored)).toBeLessThan(1e-5);
      expect(farthest(mirrorMotion(mirrored), odd)).toBeLessThan(1e-5);
    }),
    { numRuns: 40 },
  );
});

test('a rest pose that is not symmetric is dealt with: one arm down, the other out', () => {
  const arm = motion.skeleton.joints.findIndex(({ name }) => name === 'LeftArm');
  const down = fromAxisAngle([0, 0, 1], -1.3);
  const skeleton: Skeleton = { joints: motion.skeleton.joints.map((joint, j) => (j === arm ? { ...joint, restRotation: down } : joint)) };
  const mirrored = mirrorMotion({ ...motion, skeleton });
  // The rest pose shows the wrong place for the arm; its name and its bones do not.
  expect(offTheMirror({ ...motion, skeleton }, mirrored)).toBeLessThan(1e-5);
  expect(farthest(mirrorMotion(mirrored), { ...motion, skeleton })).toBeLessThan(1e-5);
});

test('pairs are found by name and place, by name alone, by place alone; a tail is the middle and a sword has no partner', () => {
  const { joints } = motion.skeleton;
  const named = mirrorMap(motion.skeleton).pairs;
  expect(named.every(({ joint, partner }) => joints[partner].name === swapSides(joints[joint].name))).toBe(true);
  expect(Math.min(...named.map(({ confidence }) => confidence))).toBeGreaterThan(0.95);
  const nameless = mirrorMap({ joints: joints.map((joint, j) => ({ ...joint, name: `joint ${j}` })) }).pairs;
  expect(nameless.map(({ partner }) => partner)).toEqual(named.map(({ partner }) => partner));
  expect(nameless[joints.findIndex(({ name }) => name === 'LeftFoot')].confidence).toBeLessThan(0.7);
  const more: Skeleton = {
    joints: [
      ...joints,
      { name: 'Tail', parent: 0, offset: [0, 0, -0.1], restRotation: [0, 0, 0, 1], endSites: [] },
      { name: 'Sword', parent: 0, offset: [0.2, 0, 0], restRotation: [0, 0, 0, 1], endSites: [] },
    ],
  };
  const [tail, sword] = mirrorMap(more).pairs.slice(-2);
  expect(tail).toMatchObject({ partner: tail.joint, reason: 'the middle' });
  expect(sword).toMatchObject({ partner: sword.joint, confidence: 0.2 });
});

test('names change sides where they have one', () => {
  expect(['turn-left-90', 'RightFoot', 'foot_l', 'L.Hand', 'lShin', 'hush', 'Collar', 'LEFT ARM'].map(swapSides)).toEqual([
    'turn-right-90',
    'LeftFoot',
    'foot_r',
    'R.Hand',
    'rShin',
    'hush',
    'Collar',
    'RIGHT ARM',
  ]);
});

test('the other side of a clip turns the other way, steps with the other foot, and goes the same way ahead', () => {
  const run = recipeRunner(motion);
  const steps = [stepSchema.parse({ kind: 'foot-lock' }), stepSchema.parse({ kind: 'travel', start: 'origin' })];
  const cut = { from: 0, to: motion.frames - 1 };
  const plain = run({ ...cut, steps });
  for (const mirrored of [
    run({ ...cut, steps: [stepSchema.parse({ kind: 'mirror' }), ...steps] }),
    run({ ...cut, steps: [...steps, stepSchema.parse({ kind: 'mirror' })] }),
  ]) {
    expect(mirrored.contacts?.left).toEqual(plain.contacts?.right);
    expect(mirrored.contacts?.right).toEqual(plain.contacts?.left);
    const [a, b] = [plain.travel, mirrored.travel];
    if (!a || !b) throw new Error('no travel');
    const last = motion.frames - 1;
    expect(b.heading[last]).toBeCloseTo(-a.heading[last], 3);
    expect(b.x[last]).toBeCloseTo(-a.x[last], 2);
    expect(b.z[last]).toBeCloseTo(a.z[last], 2);
    const twice = run({ ...cut, steps: [...steps, stepSchema.parse({ kind: 'mirror' }), { ...stepSchema.parse({ kind: 'mirror' }) }] });
    expect(farthest(twice.motion, plain.motion)).toBeLessThan(1e-5);
    expect(Math.max(...(twice.travel?.x ?? []).map((x, f) => Math.abs(x - a.x[f])))).toBeLessThan(1e-9);
  }
  expect(gaitOf(motion).headings[0]).toBeCloseTo(
    gaitOf(run({ ...cut, steps: [stepSchema.parse({ kind: 'mirror' })] }).motion).headings[0],
    5,
  );
});
