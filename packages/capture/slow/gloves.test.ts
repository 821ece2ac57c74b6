import { findParts, forwardKinematics, restPose, type Motion } from '@lantern/motion';
import { capture, JOINTS, type CaptureOptions } from '../src';

const DEGREES = 180 / Math.PI;
const FINGERS = ['Thumb', 'Index', 'Middle', 'Ring', 'Little'] as const;

const play = (script: Parameters<typeof capture>[0], options: CaptureOptions = {}) =>
  capture(script, { seconds: 12, seed: 6, gloves: true, ...options });

/** How far a joint is bent in every frame, degrees. */
function bend({ skeleton, rotations, frames }: Motion, name: string): number[] {
  const j = skeleton.joints.findIndex((joint) => joint.name === name);
  return Array.from(
    { length: frames },
    (_, f) => 2 * Math.acos(Math.min(1, Math.abs(rotations[(f * skeleton.joints.length + j) * 4 + 3]))) * DEGREES,
  );
}

const mean = (values: readonly number[]) => values.reduce((sum, v) => sum + v, 0) / values.length;
const range = (values: readonly number[]) => Math.max(...values) - Math.min(...values);

test('with gloves the body does what it does without them, to the bit', () => {
  for (const options of [{ faults: 1 }, { faults: 0, rootByFeet: true }]) {
    const [worn, bare] = [play('turns', options), play('turns', { ...options, gloves: false })];
    for (const [a, b] of [
      [worn.motion, bare.motion],
      [worn.truth.motion, bare.truth.motion],
    ]) {
      expect(a.skeleton.joints.slice(0, JOINTS.length).map(({ name }) => name)).toEqual([...JOINTS]);
      expect(a.rootPositions).toEqual(b.rootPositions);
      const count = a.skeleton.joints.length;
      const body = Array.from({ length: a.frames }, (_, f) => [...a.rotations.subarray(f * count * 4, (f * count + JOINTS.length) * 4)]);
      expect(body.flat()).toEqual([...b.rotations]);
    }
    expect(worn.truth.left).toEqual(bare.truth.left);
  }
});

test('a hand is as long as without gloves, and its fingers are known by their names', () => {
  for (const stature of [1.5, 1.78]) {
    const { skeleton } = play('idle', { seconds: 1, stature }).motion;
    expect(skeleton.joints).toHaveLength(JOINTS.length + 30);
    const parts = findParts(skeleton, restPose(skeleton))?.parts;
    for (const side of ['left', 'right'] as const)
      for (const finger of FINGERS) expect(parts?.[`${side}${finger}`]?.joints).toHaveLength(3);
    const tip = skeleton.joints.findIndex(({ name }) => name === 'LeftMiddle3');
    let length = skeleton.joints[tip].endSites[0][0];
    for (let j = tip; skeleton.joints[j].name !== 'LeftHand'; j = skeleton.joints[j].parent) length += skeleton.joints[j].offset[0];
    expect(length / stature).toBeCloseTo(0.18 / 1.78, 2);
  }
});

test('fingers bend as fingers do: within what joints allow, more towards the little one, the last joint two thirds of the middle one', () => {
  for (const script of ['walk', 'jog', 'idle', 'hush'] as const) {
    const { motion } = play(script, { faults: 0 });
    for (const side of ['Left', 'Right']) {
      for (const finger of FINGERS) {
        const [first, middle, last] = [1, 2, 3].map((n) => bend(motion, `${side}${finger}${n}`));
        expect(Math.max(...first)).toBeLessThan(89);
        expect(Math.max(...middle)).toBeLessThan(106);
        last.forEach((angle, f) => expect(angle).toBeCloseTo((middle[f] * 2) / 3, 2));
      }
      const knuckles = FINGERS.slice(1).map((finger) => mean(bend(motion, `${side}${finger}1`)));
      expect(knuckles[3]).toBeGreaterThan(knuckles[0] + 5);
    }
  }
});

test('what rests on the rail holds it: the fingers go round towards the palm, the thumb in front of it, on both sides', () => {
  const { motion, truth } = play('lean', { seconds: 15, faults: 0 });
  const { positions, joints } = forwardKinematics(motion);
  const at = (name: string, f: number) => {
    const j = motion.skeleton.joints.findIndex((joint) => joint.name === name);
    return [0, 1, 2].map((k) => positions[(f * joints + j) * 3 + k]);
  };
  const apart = (a: string, b: string, f: number) => Math.hypot(...at(a, f).map((v, k) => v - at(b, f)[k]));
  for (const [side, holds] of [
    ['Left', truth.leftHand],
    ['Right', truth.rightHand],
  ] as const) {
    const [{ from, to }] = holds ?? [];
    const held = Math.round((from + to) / 2);
    expect(apart(`${side}Hand`, `${side}Middle3`, held)).toBeLessThan(apart(`${side}Hand`, `${side}Middle3`, 0) - 0.03);
    expect(apart(`${side}Thumb3`, `${side}Little1`, held)).toBeLessThan(apart(`${side}Thumb3`, `${side}Little1`, 0));
  }
});

test('no finger is ever still, and who stands closes a hand now and then', () => {
  const { motion } = play('idle', { seconds: 24, faults: 0 });
  for (const side of ['Left', 'Right']) {
    for (const finger of FINGERS) expect(range(bend(motion, `${side}${finger}1`))).toBeGreaterThan(3);
    expect(range(bend(motion, `${side}Middle2`))).toBeGreaterThan(15);
  }
});

test('running closes the hands half, and brisk people close them more', () => {
  const knuckle = (script: 'walk' | 'jog', options: CaptureOptions = {}) =>
    mean(bend(play(script, { faults: 0, ...options }).motion, 'RightMiddle2'));
  expect(knuckle('jog')).toBeGreaterThan(knuckle('walk') + 15);
  expect(knuckle('walk', { mood: { brisk: 1 } })).toBeGreaterThan(knuckle('walk') + 8);
});

test('a knuckle goes along with the wrist, which its tendons cross', () => {
  const { motion } = play('walk', { faults: 0 });
  const count = motion.skeleton.joints.length;
  const hand = motion.skeleton.joints.findIndex(({ name }) => name === 'LeftHand');
  // Up out of the palm's plane: the middle row of the rotation that the wrist has.
  const back = Array.from({ length: motion.frames }, (_, f) => {
    const [x, y, z, w] = motion.rotations.subarray((f * count + hand) * 4, (f * count + hand) * 4 + 4);
    return 2 * (x * y + w * z);
  });
  const knuckle = bend(motion, 'LeftRing1');
  const [mb, mk] = [mean(back), mean(knuckle)];
  expect(mean(back.map((b, f) => (b - mb) * (knuckle[f] - mk)))).toBeGreaterThan(0);
});
