import { RADIANS } from '@lantern/motion';
import type { Figure } from './figure';
import type { Stance } from './plan-data';

/** A foot in the world: where the ankle is, how the foot points. Angles in radians; pitch is positive with the toes up. */
export interface FootPose {
  ankle: [number, number, number];
  pitch: number;
  yaw: number;
  /** How far the toes bend up against the foot. */
  bend: number;
}

/**
 * A foot in stance rolls over three rockers: the heel until it is flat, the ball once the heel rises, and late the toe tip.
 * Whatever it pivots on stays exactly where it is.
 *
 * @param time fine samples, within strike to off
 */
export function footInStance(figure: Figure, stance: Stance, time: number): FootPose {
  const { ankleHeight: high, heelBack, ballAhead, ballHeight, toeLength } = figure;
  if (time < stance.flat) {
    const left = (stance.flat - time) / (stance.flat - stance.strike);
    // No angular acceleration at the strike nor when the foot is flat, so that knee and swing join without a kick.
    const pitch = stance.strikePitch * RADIANS * left ** 3 * (2 - left);
    // The ankle turns about the heel point on the floor.
    const c = Math.cos(pitch),
      s = Math.sin(pitch);
    return poseOf(stance, -heelBack + heelBack * c - high * s, heelBack * s + high * c, pitch, 0);
  }
  if (!(time > stance.heelOff)) return poseOf(stance, 0, high, 0, 0);
  const y = (time - stance.heelOff) / (stance.off - stance.heelOff);
  const pitch = stance.offPitch * RADIANS * y * y * (2 - y);
  const toes = softRamp(pitch - stance.toeBend * RADIANS, 9 * RADIANS);
  // First the toes about their tip, then the foot about the ball; both angles are toes-down.
  const ballUp = ballHeight * Math.cos(toes) + toeLength * Math.sin(toes);
  const ballOn = ballAhead + toeLength - toeLength * Math.cos(toes) + ballHeight * Math.sin(toes);
  const rise = high - ballHeight;
  const c = Math.cos(pitch),
    s = Math.sin(pitch);
  return poseOf(stance, ballOn - ballAhead * c + rise * s, ballUp + ballAhead * s + rise * c, -pitch, pitch - toes);
}

/** @param ahead of where the stance is, along the foot, metres */
function poseOf({ x, z, level, yaw }: Stance, ahead: number, up: number, pitch: number, bend: number): FootPose {
  return { ankle: [x + Math.sin(yaw) * ahead, up + level, z + Math.cos(yaw) * ahead], pitch, yaw, bend };
}

/** 0 below −width, x above width, smooth to the second derivative in between. */
function softRamp(x: number, width: number): number {
  if (x <= -width) return 0;
  if (x >= width) return x;
  const t = (x + width) / (2 * width);
  return 2 * width * t * t * t * (1 - t / 2);
}
