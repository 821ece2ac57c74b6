import type { FixedPoint } from '../model/fixed-point';

/** Points on a sole, each fixed to a joint of the foot. */
export interface SolePoints {
  readonly heel: FixedPoint;
  readonly ball: FixedPoint;
  readonly tip: FixedPoint;
}
