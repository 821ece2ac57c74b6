import { capture, expressOn, zoo } from '@lantern/capture';
import { bodyOf, layFigure, type BodyMesh, type Motion } from '@lantern/motion';
import { fingersOf } from '../src/character/find-fingers';

const bare = capture('idle', { seconds: 1, seed: 2 }).motion;
const gloved = capture('idle', { seconds: 1, seed: 2, gloves: true }).motion;

const onRig = (name: string): Motion => {
  const member = zoo().find((one) => one.name === name);
  if (!member) throw new Error(`no ${name}`);
  return expressOn(member.rig, bare).motion;
};

/** The figure as it was made, and where its joints were. */
function made(motion: Motion) {
  const body = bodyOf(motion);
  const mesh = layFigure(motion.skeleton, body);
  const places = mesh.skin?.bindPositions;
  if (!body || !places) throw new Error('no figure');
  const at = (j: number) => [...places.slice(j * 3, j * 3 + 3)];
  return { mesh, body, places, at };
}

/** How far the vertices that a joint carries most reach from a place, and how many they are. */
function carriedBy({ joints, positions }: BodyMesh, joint: number, from: readonly number[]): { count: number; furthest: number } {
  const own = Array.from(joints.keys()).filter((v) => joints[v] === joint);
  return {
    count: own.length,
    furthest: Math.max(0, ...own.map((v) => Math.hypot(...from.map((p, k) => positions[v * 3 + k] - p)))),
  };
}

test.each([
  ['the suit with gloves', () => gloved, 5],
  ['fingers', () => onRig('fingers'), 5],
  ['fingers, no names', () => onRig('fingers, no names'), 5],
  ['thumbs only', () => onRig('thumbs only'), 1],
])('on “%s” every joint of a finger carries a stick of its own, no longer than its bone', (_name, make, fingers) => {
  const motion = make();
  const { mesh, body, places, at } = made(motion);
  for (const side of ['left', 'right'] as const) {
    const { elbow, wrist } = body.arms[side];
    const chains = fingersOf(motion.skeleton, places, elbow, wrist);
    expect(chains.size).toBe(fingers);
    for (const chain of chains.values())
      for (const joint of chain) {
        const { count, furthest } = carriedBy(mesh, joint, at(joint));
        expect(count).toBeGreaterThan(20);
        expect(furthest).toBeLessThan(0.065);
      }
  }
});

test('a hand goes on from its forearm, wherever its thumb begins', () => {
  for (const motion of [gloved, onRig('fingers'), onRig('collars from the neck, short words, fingers')]) {
    const { body, places, at } = made(motion);
    for (const side of ['left', 'right'] as const) {
      const { elbow, wrist } = body.arms[side];
      const chains = fingersOf(motion.skeleton, places, elbow, wrist);
      const knuckles = [...chains].filter(([finger]) => finger !== 'Thumb').map(([, [knuckle]]) => at(knuckle));
      const hand = [0, 1, 2].map((k) => knuckles.reduce((sum, p) => sum + p[k] / knuckles.length, 0) - at(wrist)[k]);
      const fore = [0, 1, 2].map((k) => at(wrist)[k] - at(elbow)[k]);
      const along = hand.reduce((sum, v, k) => sum + v * fore[k], 0) / Math.hypot(...hand) / Math.hypot(...fore);
      expect(along).toBeGreaterThan(0.999);
    }
  }
});

test('a thumb whose joint lies in the wrist, as on some suits, is that of a mitten', () => {
  const joints = gloved.skeleton.joints.map((joint) => (/Thumb1$/.test(joint.name) ? { ...joint, offset: [0, 0, 0] as const } : joint));
  const { mesh, body, at } = made({ ...gloved, skeleton: { joints } });
  const thumb = joints.findIndex(({ name }) => name === 'LeftThumb1');
  expect(carriedBy(mesh, thumb, at(thumb)).count).toBe(0);
  // Ahead of the palm, which is 4 cm wide to either side.
  const wrist = body.arms.left.wrist;
  const ahead = Array.from(mesh.joints.keys())
    .filter((v) => mesh.joints[v] === wrist)
    .map((v) => mesh.positions[v * 3 + 2] - at(wrist)[2]);
  expect(Math.max(...ahead)).toBeGreaterThan(0.048);
});

test('a hand without fingers is a mitten with a thumb, as before', () => {
  const { mesh, body, at } = made(bare);
  const { count, furthest } = carriedBy(mesh, body.arms.left.wrist, at(body.arms.left.wrist));
  expect(count).toBeGreaterThan(80);
  expect(furthest).toBeGreaterThan(0.15);
});
