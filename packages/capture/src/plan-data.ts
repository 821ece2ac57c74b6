import type { Footwork } from './footwork';
import type { Style } from './style';
import type { Side } from '@lantern/motion';

/** Samples a second at which the performer is worked out; every usual frame rate is read off it. */
export const FINE = 480;

/** One foot on the ground. Times in fine samples (fractional); places on the floor, metres. */
export interface Stance {
  readonly side: Side;
  /** −Infinity for a foot that stood there from the start. */
  readonly strike: number;
  /** Infinity for one that stays. */
  readonly off: number;
  readonly flat: number;
  readonly heelOff: number;
  readonly x: number;
  readonly z: number;
  /** Of the ground under the foot, metres. */
  readonly level: number;
  readonly yaw: number;
  readonly strikePitch: number;
  readonly offPitch: number;
  readonly toeBend: number;
}

/** He goes slower for a while: at its deepest by a share of his speed, `at` metres from where the leg begins, led in and out over `metres` to either side. */
export interface Dip {
  readonly at: number;
  readonly by: number;
  readonly metres: number;
  /** Degrees that he falls forward by at its deepest. */
  readonly lurch?: number;
}

export interface Going {
  readonly go: number;
  readonly speed: number;
  readonly fromStanding: boolean;
  readonly toStanding: boolean;
  /** The foot that lands first, of one who has stood; the right one unless it is said. */
  readonly first?: Side;
  /** The foot that closes up to the other last, of one who will stand; whichever it comes to unless it is said. */
  readonly last?: Side;
  readonly dips?: readonly Dip[];
}

/** Go along the path for `metres` at `speed`, stand for `seconds`, or do some footwork from standing to standing. */
export type Leg = Going | { readonly stand: number } | Footwork;

/** The performer's progress, one number per fine sample. */
export interface Plan {
  readonly samples: number;
  /** Strides since the start of the script, 0 at a left strike. */
  readonly phase: Float64Array;
  /** Metres along the path. */
  readonly distance: Float64Array;
  readonly speed: Float64Array;
  readonly stances: readonly Stance[];
  /** Turned on the spot so far, radians. */
  readonly spin: Float64Array;
  /** Height of the hips above standing where footwork sets it, else NaN. */
  readonly height: Float64Array;
  /** Degrees that the trunk falls forward by, where he stumbles. */
  readonly lurch: Float64Array;
  readonly style: Style;
  /** Which leg of the script each stretch of fine samples is. */
  readonly spans: readonly { readonly leg: Leg; readonly start: number; readonly end: number }[];
}
