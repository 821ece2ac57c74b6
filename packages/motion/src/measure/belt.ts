import { median, quantile } from '../math/statistics';
import type { Body } from '../model/body';
import type { Globals } from '../model/kinematics';
import { legLength } from './leg-length';
import { trackOf } from '../model/track';

/** The velocity at which someone who walks on the spot would go, metres a second. */
export interface Belt {
  readonly x: number;
  readonly z: number;
}

/** A foot is low within this share of the leg's length over the lowest it comes to. */
const LOW = 0.035;
/** Slower belts cannot be told from a sway, metres a second. */
const LEAST_SPEED = 0.2;
/** Hips that go themselves by more than this share of the belt's speed are on their way. */
const MOST_OWN_WAY = 0.2;
/** So much of what low feet do must agree with the belt, within this share of its speed. */
const LEAST_AGREE = 0.55;
const AGREES = 0.35;

/**
 * The speed of the floor under someone who walks or runs on the spot: the median velocity of each foot's ball (or ankle) while it is about as low
 * as it comes, when the hips get nowhere and those velocities agree. The floor's level is not asked for, so that it works where no foot is ever flat.
 *
 * @param globals metres, Y up
 * @returns null for everyone else
 */
export function findBelt(globals: Globals, body: Body, fps: number): Belt | null {
  const { frames: n, joints, positions } = globals;
  if (n < 8) return null;
  const low = LOW * legLength(globals, body);
  const vx: number[] = [];
  const vz: number[] = [];
  for (const side of ['left', 'right'] as const) {
    const { ankle, toe } = body.legs[side];
    const joint = toe >= 0 ? toe : ankle;
    const [across, heights, along] = [0, 1, 2].map((k) => trackOf(globals, joint, k));
    const level = quantile(heights, 0.03);
    for (let f = 1; f < n - 1; f++) {
      if (heights[f] > level + low) continue;
      vx.push(((across[f + 1] - across[f - 1]) * fps) / 2);
      vz.push(((along[f + 1] - along[f - 1]) * fps) / 2);
    }
  }
  if (vx.length < Math.max(4, n / 8)) return null;
  const [x, z] = [median(vx), median(vz)];
  const speed = Math.hypot(x, z);
  if (speed < LEAST_SPEED) return null;
  const agree = vx.filter((v, i) => Math.hypot(v - x, vz[i] - z) < AGREES * speed).length;
  if (agree < LEAST_AGREE * vx.length) return null;
  const hips = (f: number, k: number) => positions[(f * joints + body.hips) * 3 + k];
  const seconds = (n - 1) / fps;
  const own = Math.hypot(hips(n - 1, 0) - hips(0, 0), hips(n - 1, 2) - hips(0, 2)) / seconds;
  return own < MOST_OWN_WAY * speed + 0.03 / seconds ? { x: -x, z: -z } : null;
}

/** In place: the belt's way added to root positions, so that who walked on the spot goes; `by` −1 takes it out again. */
export function addBelt(rootPositions: Float32Array, { x, z }: Belt, fps: number, by: 1 | -1 = 1): void {
  for (let f = 0; f * 3 < rootPositions.length; f++) {
    rootPositions[f * 3] += (by * x * f) / fps;
    rootPositions[f * 3 + 2] += (by * z * f) / fps;
  }
}
