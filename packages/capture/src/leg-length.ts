import { RADIANS } from '@lantern/motion';
import type { Figure } from './figure';

/** Least bend of the knee in stance, degrees. */
export const STANCE_KNEE = 9;

/** Hip to ankle with the knee bent by some degrees. */
export const legLength = ({ thigh, shin }: Figure, knee: number) =>
  Math.sqrt(thigh ** 2 + shin ** 2 + 2 * thigh * shin * Math.cos(knee * RADIANS));

/** The inverse of `legLength`, degrees. */
export const kneeOf = ({ thigh, shin }: Figure, length: number) =>
  Math.acos(Math.min(1, (length ** 2 - thigh ** 2 - shin ** 2) / (2 * thigh * shin))) / RADIANS;
