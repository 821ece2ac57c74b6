import type { PlayClip, PlayGraph, PlaySet, PlaySkeleton, PlayTransition } from '@lantern/drive';

/** Hips, and two legs of thigh, shin, foot and toe, facing +Z; left is +X. */
export const legs: PlaySkeleton = {
  names: ['hips', 'lThigh', 'lShin', 'lFoot', 'lToe', 'rThigh', 'rShin', 'rFoot', 'rToe'],
  parents: [-1, 0, 1, 2, 3, 0, 5, 6, 7],
  offsets: [0, 0, 0, 0.1, 0, 0, 0, -0.42, 0, 0, -0.42, 0, 0, -0.08, 0.14, -0.1, 0, 0, 0, -0.42, 0, 0, -0.42, 0, 0, -0.08, 0.14],
  legs: { left: { hip: 1, knee: 2, ankle: 3, toe: 4 }, right: { hip: 5, knee: 6, ankle: 7, toe: 8 } },
  soles: {
    left: [
      { joint: 3, x: 0, y: -0.08, z: -0.05 },
      { joint: 4, x: 0, y: 0, z: 0 },
      { joint: 4, x: 0, y: 0, z: 0.07 },
    ],
    right: [
      { joint: 7, x: 0, y: -0.08, z: -0.05 },
      { joint: 8, x: 0, y: 0, z: 0 },
      { joint: 8, x: 0, y: 0, z: 0.07 },
    ],
  },
};

const FPS = 60;

/**
 * Somebody who walks stiffly, at a speed and round a bend, his feet exactly on the ground while they bear: the legs of a doll by two-bone trigonometry.
 *
 * @param turn radians a second, to the left
 */
export function doll(
  name: string,
  { mps, cycle, turn = 0, duty = 0.6 }: { mps: number; cycle: number; turn?: number; duty?: number },
): PlayClip {
  const frames = Math.round(cycle * FPS) + 1;
  const J = legs.names.length;
  const rotations = new Float32Array(frames * J * 4);
  const hips = new Float32Array(frames * 3);
  const root = new Float32Array(frames * 3);
  const height = 0.86;
  for (let f = 0; f < frames; f++) {
    const u = f / (frames - 1);
    const heading = turn * u * cycle;
    const radius = turn === 0 ? 0 : mps / turn;
    root.set(turn === 0 ? [0, mps * u * cycle, 0] : [radius * (1 - Math.cos(heading)), radius * Math.sin(heading), heading], f * 3);
    hips.set([0, height, 0], f * 3);
    for (let j = 0; j < J; j++) rotations[(f * J + j) * 4 + 3] = 1;
    for (const [side, first] of [
      [0, 1],
      [1, 5],
    ]) {
      const phase = (u + (side === 0 ? 0 : 0.5)) % 1;
      const stance = mps * duty * cycle;
      // Along the way in the root's axes: back evenly while it bears, ahead smoothly while it swings.
      const swing = (phase - duty) / (1 - duty);
      const z = phase < duty ? stance * (0.5 - phase / duty) : stance * (swing * swing * (3 - 2 * swing) - 0.5);
      const y = phase < duty ? 0 : 0.06 * Math.sin(Math.PI * swing);
      const [dy, dz] = [height - 0.08 - y, z];
      const far = Math.min(0.8399, Math.hypot(dy, dz));
      const knee = Math.PI - Math.acos((0.42 * 0.42 * 2 - far * far) / (2 * 0.42 * 0.42));
      const thigh = -Math.atan2(dz, dy) - knee / 2;
      const about = (j: number, a: number) => rotations.set([Math.sin(a / 2), 0, 0, Math.cos(a / 2)], (f * J + j) * 4);
      about(first, thigh);
      about(first + 1, knee);
      about(first + 2, -thigh - knee);
    }
  }
  const contacts = { left: [[0, duty * cycle] as const], right: [[cycle / 2, cycle / 2 + duty * cycle] as const] };
  return { name, fps: FPS, frames, loop: true, rotations, hips, root, contacts };
}

/** A clip seen in a mirror: sides exchanged. */
export function mirrored(clip: PlayClip, name: string): PlayClip {
  const J = legs.names.length;
  const other = [0, 5, 6, 7, 8, 1, 2, 3, 4];
  const rotations = new Float32Array(clip.rotations.length);
  for (let f = 0; f < clip.frames; f++)
    for (let j = 0; j < J; j++) {
      const [x, y, z, w] = clip.rotations.subarray((f * J + other[j]) * 4, (f * J + other[j]) * 4 + 4);
      rotations.set([x, -y, -z, w], (f * J + j) * 4);
    }
  const flip = (values: Float32Array, signs: readonly number[]) => values.map((v, i) => v * signs[i % 3]);
  return {
    ...clip,
    name,
    rotations,
    hips: flip(clip.hips, [-1, 1, 1]),
    root: flip(clip.root, [-1, 1, -1]),
    contacts: { left: clip.contacts.right, right: clip.contacts.left },
  };
}

/** Somebody who stands and breathes, a loop. */
export function standing(name: string, seconds = 2): PlayClip {
  const frames = Math.round(seconds * FPS) + 1;
  const still = doll(name, { mps: 0, cycle: seconds, duty: 0.99 });
  // The pose of the middle of a stance, the knees giving way a little with every breath.
  const J = legs.names.length;
  const rotations = new Float32Array(frames * J * 4);
  const hips = new Float32Array(frames * 3);
  for (let f = 0; f < frames; f++) {
    const height = 0.86 + 0.004 * Math.sin((2 * Math.PI * f) / (frames - 1));
    hips[f * 3 + 1] = height;
    const knee = Math.PI - Math.acos((0.42 * 0.42 * 2 - (height - 0.08) ** 2) / (2 * 0.42 * 0.42));
    for (let j = 0; j < J; j++) rotations[(f * J + j) * 4 + 3] = 1;
    for (const first of [1, 5])
      [-knee / 2, knee, -knee / 2].forEach((angle, k) =>
        rotations.set([Math.sin(angle / 2), 0, 0, Math.cos(angle / 2)], (f * J + first + k) * 4),
      );
  }
  const all = [[0, (frames - 1) / FPS] as const];
  return { ...still, frames, rotations, hips, root: new Float32Array(frames * 3), contacts: { left: all, right: all } };
}

/** The first part of a clip, played once. */
export function once(clip: PlayClip, name: string, seconds: number): PlayClip {
  const frames = Math.round(seconds * clip.fps) + 1;
  const J = legs.names.length;
  const within = (all: PlayClip['contacts']['left']) =>
    all.filter(([from]) => from < seconds).map(([from, to]) => [from, Math.min(to, seconds)] as const);
  return {
    ...clip,
    name,
    frames,
    loop: false,
    rotations: clip.rotations.slice(0, frames * J * 4),
    hips: clip.hips.slice(0, frames * 3),
    root: clip.root.slice(0, frames * 3),
    contacts: { left: within(clip.contacts.left), right: within(clip.contacts.right) },
  };
}

const go = (from: string | null, to: string, when: PlayTransition['when'], more: Partial<PlayTransition> = {}): PlayTransition => ({
  from,
  to,
  when,
  leaveAfter: null,
  overlap: 0.2,
  entry: 'beginning',
  breakOff: 'anything',
  urgent: false,
  fade: false,
  ...more,
});

/** A graph like a game's: waiting, moving in a field, a clip once ("hopping"). */
export function dollSet(change: Partial<PlayGraph> = {}): PlaySet {
  const walk = doll('walk', { mps: 1.2, cycle: 1.1 });
  const jog = doll('jog', { mps: 2.4, cycle: 0.8, duty: 0.45 });
  const bend = doll('bend', { mps: 1.2, cycle: 1.1, turn: 0.8 });
  const idle = standing('idle');
  const hop = once(doll('hop-source', { mps: 1.2, cycle: 1.1 }), 'hop', 0.7);
  return {
    skeleton: legs,
    clips: [walk, jog, bend, idle, hop],
    fields: [
      {
        name: 'ways',
        clips: [walk, jog, bend, mirrored(bend, 'other bend')],
        holdFeet: true,
        pace: 0.06,
        points: [1.2, 0, 2.4, 0, 1.2, (0.8 * 180) / Math.PI, 1.2, (-0.8 * 180) / Math.PI],
        triangles: [0, 1, 2, 0, 1, 3],
        scale: [1, 1 / 60],
      },
    ],
    graph: {
      inputs: [
        { name: 'speed', kind: 'number', from: 0, to: 4, start: 0 },
        { name: 'turn', kind: 'number', from: -180, to: 180, start: 0 },
        { name: 'hop', kind: 'press' },
        { name: 'tired', kind: 'switch', start: false },
      ],
      initial: 'waiting',
      states: [
        { name: 'waiting', plays: { clip: 'idle', loop: true } },
        { name: 'moving', plays: { field: 'ways', inputs: ['speed', 'turn'] } },
        { name: 'hopping', plays: { clip: 'hop', loop: false } },
      ],
      transitions: [
        go('waiting', 'moving', [{ input: 'speed', is: 'above', value: 0.3 }], { entry: 'foot' }),
        go('moving', 'waiting', [{ input: 'speed', is: 'below', value: 0.2 }]),
        go('moving', 'hopping', [{ input: 'hop', is: 'pressed' }], { leaveAfter: { landing: 'left' } }),
        go('hopping', 'moving', [], { leaveAfter: { share: 0.8 }, entry: 'phase' }),
      ],
      ...change,
    },
  };
}
