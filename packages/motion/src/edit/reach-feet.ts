import { lowPass } from '../math/filter';
import type { Body, Side } from '../model/body';
import type { Globals } from '../model/kinematics';
import { kneeAxis, reachWithLeg, softReach } from '../anatomy/leg-ik';
import type { Motion } from '../model/motion';

/** The hips come down and up no quicker than this filter lets them, hertz. */
const HIPS_HERTZ = 3;
const SIDES = ['left', 'right'] as const;

/**
 * In place: brings both ankles to where they are wanted, the feet keeping their rotations in the world; where a leg would not reach, the hips
 * come down smoothly first.
 *
 * @param globals of the motion as it comes
 * @param targets of the ankles, three numbers a frame, metres
 * @param lowerHips whether the hips may come down
 * @returns how far the hips came down in every frame, metres
 */
export function reachFeet(
  motion: Motion,
  globals: Globals,
  body: Body,
  targets: Readonly<Record<Side, ArrayLike<number>>>,
  lowerHips: boolean,
): Float64Array {
  const { frames } = motion;
  const drop = lowerHips ? hipsDrop(globals, body, targets, motion.fps) : new Float64Array(frames);
  const isLowered = drop.some((value) => value > 0);
  for (let f = 0; isLowered && f < frames; f++) motion.rootPositions[f * 3 + 1] -= drop[f];
  const lowered = isLowered ? loweredBy(globals, drop) : globals;
  for (const side of SIDES) {
    const leg = body.legs[side];
    const bend = kneeAxis(globals, leg);
    const target = targets[side];
    const place = new Float64Array(3);
    for (let f = 0; f < frames; f++) {
      for (let k = 0; k < 3; k++) place[k] = target[f * 3 + k];
      reachWithLeg(motion, lowered, f, leg, place, bend);
    }
  }
  return drop;
}

/** The same pose, each frame lower. */
export function loweredBy(globals: Globals, drop: Float64Array): Globals {
  const positions = globals.positions.slice();
  const { joints, frames } = globals;
  for (let f = 0; f < frames; f++) {
    if (drop[f] === 0) continue;
    for (let i = f * joints * 3 + 1; i < (f + 1) * joints * 3; i += 3) positions[i] -= drop[f];
  }
  return { ...globals, positions };
}

/** How far the hips come down in every frame so that both legs reach: the least that is needed about each frame, smoothed from above. */
export function hipsDrop(globals: Globals, body: Body, targets: Readonly<Record<Side, ArrayLike<number>>>, fps: number): Float64Array {
  const { positions, joints, frames } = globals;
  const need = new Float64Array(frames);
  for (const side of SIDES) {
    const leg = body.legs[side];
    const target = targets[side];
    const between = (p: number, q: number) => {
      const x = positions[q] - positions[p],
        y = positions[q + 1] - positions[p + 1],
        z = positions[q + 2] - positions[p + 2];
      return Math.sqrt(x * x + y * y + z * z);
    };
    for (let f = 0; f < frames; f++) {
      const h = (f * joints + leg.hip) * 3,
        k = (f * joints + leg.knee) * 3,
        a = (f * joints + leg.ankle) * 3;
      const whole = between(h, k) + between(k, a);
      const captured = between(h, a);
      // As near to full stretch as it was captured it may be, but no nearer than a soft reach loses half a millimetre.
      const most = Math.max(captured, whole * 0.988);
      const x = target[f * 3] - positions[h],
        y = target[f * 3 + 1] - positions[h + 1],
        z = target[f * 3 + 2] - positions[h + 2];
      const far = Math.sqrt(x * x + y * y + z * z);
      if (far <= most || far - softReach(far, whole, captured) < 0.0002) continue;
      // Lowering by s leaves √(flat² + (drop − s)²).
      need[f] = Math.max(need[f], -y - Math.sqrt(Math.max(0, most * most - x * x - z * z)));
    }
  }
  if (need.every((value) => value === 0)) return need;
  const window = Math.max(1, Math.round((0.5 * fps) / HIPS_HERTZ / 2));
  const envelope = need.map((_, f) => Math.max(...need.subarray(Math.max(0, f - window), f + window + 1)));
  return lowPass(envelope, HIPS_HERTZ, fps).map((value) => Math.max(0, value));
}
