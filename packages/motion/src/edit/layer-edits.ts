import { multiply, type Quat, type Vec3 } from '../math/quat';
import type { Skeleton } from '../model/skeleton';
import { jointTurns } from './joint-turns';
import { layerCourse, PER_KEY } from './layer-course';
import type { Layer, LayerKey } from './layers';

/** Frames at which a layer has keys, in order: its pegs. */
export const pegsOf = ({ keys }: Pick<Layer, 'keys'>): number[] => [...new Set(keys.map(({ frame }) => frame))].sort((a, b) => a - b);

/**
 * A layer with a key; one of the same joint at the same frame is replaced.
 *
 * @example
 * const up = withKey(layerSchema.parse({ name: 'head up' }), { frame: 12, joint: 'Head', turn: [-10, 0, 0] });
 * withKey(up, { frame: 12, joint: 'Head', turn: [-20, 0, 0] }).keys.length; // 1
 */
export function withKey(layer: Layer, key: LayerKey): Layer {
  const others = layer.keys.filter(({ frame, joint }) => frame !== key.frame || joint !== key.joint);
  return { ...layer, keys: [...others, key].sort((a, b) => a.frame - b.frame) };
}

/** A layer without the keys at a frame. */
export const withoutPeg = (layer: Layer, frame: number): Layer => ({ ...layer, keys: layer.keys.filter((key) => key.frame !== frame) });

/** A layer whose keys of one frame are at another; what was there is replaced. */
export function withPegAt(layer: Layer, from: number, to: number): Layer {
  if (from === to) return layer;
  const moved = layer.keys.filter(({ frame }) => frame === from);
  const others = withoutPeg(layer, from).keys.filter(({ frame, joint }) => frame !== to || !moved.some((key) => key.joint === joint));
  return { ...layer, keys: [...others, ...moved.map((key) => ({ ...key, frame: to }))].sort((a, b) => a.frame - b.frame) };
}

/** How a joint is moved by hand at a frame. */
export interface HandTurn {
  readonly joint: number;
  readonly frame: number;
  /** In the joint's own axes, before its rotation as it is shown; left out: not turned. */
  readonly local?: Quat;
  /** Of the first joint, metres to the left, up and to the front. */
  readonly shift?: Vec3;
}

/**
 * A layer with a key that adds to what it does already: as if the joint had been taken hold of and turned on. Whatever weight the layer has, what is
 * shown turns by so much (as far as its weight is not nothing).
 *
 * @param cycle frames of the loop; null when the clip is none
 *
 * @example
 * const layer = layerSchema.parse({ name: 'elbow out' });
 * handTurned(layer, motion.skeleton, null, { joint: 3, frame: 12, local: [0, 0, 0, 1] }).keys[0].turn; // [0, 0, 0]
 */
export function handTurned(layer: Layer, skeleton: Skeleton, cycle: number | null, { joint, frame, local, shift }: HandTurn): Layer {
  const { name } = skeleton.joints[joint];
  const course = layerCourse(layer, cycle);
  const asked = new Array<number>(PER_KEY).fill(0);
  course.at(name, frame, asked);
  const weight = Math.max(0.05, course.weight(frame));
  const turns = jointTurns(skeleton);
  const turn = [0, 0, 0, 1];
  turns.toLocal(turn, 0, joint, asked);
  if (local) multiply(turn, 0, turn, 0, local, 0);
  const round = (value: number, digits: number) => Number((value / weight).toFixed(digits)) || 0;
  const [x, y, z] = turns.toDegrees(joint, turn, 0);
  const [left, up, front] = [3, 4, 5].map((k) => asked[k] + (shift?.[k - 3] ?? 0));
  const isShifted = joint === 0 && (left !== 0 || up !== 0 || front !== 0);
  return withKey(layer, {
    frame,
    joint: name,
    turn: [round(x, 3), round(y, 3), round(z, 3)],
    ...(isShifted && { shift: [round(left, 5), round(up, 5), round(front, 5)] }),
  });
}

/**
 * A layer parted in two: the keys of some joints, and all the rest with the touches.
 *
 * @example
 * const layer = layerSchema.parse({ name: 'both', keys: ['Head', 'Neck'].map((joint) => ({ frame: 3, joint })) });
 * splitLayer(layer, new Set(['Neck']), 'neck').map(({ keys }) => keys.length); // [1, 1]
 */
export function splitLayer(layer: Layer, joints: ReadonlySet<string>, name: string): [rest: Layer, off: Layer] {
  const isOff = ({ joint }: LayerKey) => joints.has(joint);
  return [
    { ...layer, keys: layer.keys.filter((key) => !isOff(key)) },
    { ...layer, name, keys: layer.keys.filter(isOff), touches: [] },
  ];
}
