import { quantile } from './statistics';

/** The fifth difference leaves a body's movement far behind and lets white noise through; this is how much of its variance. */
const FIFTH = [1, -5, 10, -10, 5, -1] as const;
const GAIN = Math.sqrt(FIFTH.reduce<number>((sum, v) => sum + v * v, 0));
/** A stretch in which somebody may stand still, seconds; and of all stretches the share that is taken for still. */
const STRETCH = 0.4;
const STILLEST = 0.1;
/** Of stretches of noise alone the stillest tenth shows a little less than the noise is. */
const SHY = 0.8;

/**
 * The standard deviation of a sensor's noise, from the stillest moments of its curves: what differs there from frame to frame in no smooth way.
 *
 * @param channels curves of one thing, one number a frame
 * @returns in the curves' own unit, for one curve; 0 for curves without noise
 */
export function noiseFloor(channels: readonly ArrayLike<number>[], fps: number): number {
  const frames = channels[0].length;
  const size = Math.max(6, Math.round(STRETCH * fps));
  const energy = new Float64Array(Math.max(0, frames - 5));
  for (let f = 0; f < energy.length; f++) {
    for (const values of channels) {
      let difference = 0;
      for (let k = 0; k < 6; k++) difference += FIFTH[k] * values[f + k];
      energy[f] += difference * difference;
    }
  }
  const levels: number[] = [];
  for (let f = 0; f + size <= energy.length; f += Math.max(1, size >> 1)) {
    let sum = 0;
    for (let i = 0; i < size; i++) sum += energy[f + i];
    levels.push(Math.sqrt(sum / size / channels.length));
  }
  if (levels.length === 0) return 0;
  return quantile(Float64Array.from(levels), STILLEST) / GAIN / SHY;
}
