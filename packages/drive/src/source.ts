import type { PlayClip } from './play-set';
import type { Numbers } from './quat';

/** Something that gives poses over time, in the axes of the root, and says how the root goes: a clip, or a field of clips. */
export interface Source {
  /**
   * Goes on by up to so many seconds, no further than where a foot lands or lifts next.
   *
   * @param gone in place: adds metres to the left and ahead, in the axes half-way through the turn, and radians to the left
   * @returns the seconds that it went, more than 0
   */
  advance(seconds: number, gone: Float64Array): number;
  /** In place: the pose as it is now, the feet as `FOOT` has them, and which of them bear. */
  pose(rotations: Float32Array, hips: Numbers, posed: Numbers, down: Numbers): void;
  /** Begins at a place: a phase from 0 to 1 where it has one, else a share of the clip. */
  enter(at: number): void;
  /** Where it is: as `enter` has it. */
  at(): number;
  /** Position in the stride, 0 to 1, 0 at a left landing; NaN where there are no steps. */
  phase(): number;
  /** Where to enter so as to be at a phase of the stride; NaN where there are no steps, or it is never at it. */
  atPhase(phase: number): number;
  /** Seconds that it lasts, or that a cycle lasts. */
  seconds(): number;
  /** The clip that counts most, and where it is read, seconds. */
  clip(): PlayClip;
  clipSeconds(): number;
  /** It goes round. */
  readonly loops: boolean;
}
