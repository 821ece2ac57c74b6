/** Left and right, in this order, wherever something is held for both. */
export const SIDES = ['left', 'right'] as const;
export type Side = (typeof SIDES)[number];

/** The joints of a leg, by index; `toe` is −1 where a foot has none. */
export interface PlayLeg {
  readonly hip: number;
  readonly knee: number;
  readonly ankle: number;
  readonly toe: number;
}

/** A point of the sole: the joint that it is fixed to, and its place in that joint's axes, metres. */
export interface SolePoint {
  readonly joint: number;
  readonly x: number;
  readonly y: number;
  readonly z: number;
}

/** The joints that are played: each after its parent. Joint 0 hangs on the root, which is the place of the character in the world. */
export interface PlaySkeleton {
  readonly names: readonly string[];
  readonly parents: ArrayLike<number>;
  /** Three numbers a joint, metres in its parent's axes. */
  readonly offsets: ArrayLike<number>;
  readonly legs: Readonly<Record<Side, PlayLeg>>;
  /** Heel, ball and tip of each foot. */
  readonly soles: Readonly<Record<Side, readonly SolePoint[]>>;
}

/** A foot on the ground, seconds; of a loop an end may lie beyond its length. */
export type PlayContact = readonly [from: number, to: number];

/** A clip as it is played: dense keys at an even rate. */
export interface PlayClip {
  readonly name: string;
  readonly fps: number;
  /** Keys, first and last included. Of a loop the last is the first, one cycle on. */
  readonly frames: number;
  readonly loop: boolean;
  /** `(frame · joints + joint) · 4`: `x y z w` against the parent, joint 0 in the root's axes. */
  readonly rotations: Float32Array;
  /** Of joint 0 in the root's axes, three numbers a frame, metres. */
  readonly hips: Float32Array;
  /** Of the root, three numbers a frame: x and z in metres, heading in radians. */
  readonly root: Float32Array;
  readonly contacts: Readonly<Record<Side, readonly PlayContact[]>>;
}
