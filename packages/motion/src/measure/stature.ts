import { quantile } from '../math/statistics';
import { rotate } from '../math/quat';
import { bodyOf } from '../anatomy/body-of';
import { forwardKinematics } from '../model/kinematics';
import { mainJoints } from '../anatomy/main-joints';
import type { Body } from '../model/body';
import { cutMotion, restMotion, type Motion } from '../model/motion';
import { legLength } from './leg-length';

/** How tall somebody is, and by what that is told. */
export interface Stature {
  /** In the motion's unit. */
  readonly units: number;
  /** One standard deviation to either side, in the motion's unit. */
  readonly plusMinus: number;
  /** In words. */
  readonly from: 'crown' | 'legs and shoulders';
}

/** Legs from hip to ankle and shoulders over the floor as shares of the stature (Winter, 2009), and how much people differ in them. */
const LEGS = { share: 0.491, spread: 0.05 };
const SHOULDERS = { share: 0.818, spread: 0.035 };
/** Of a crown that is one. */
const CROWN_SPREAD = 0.01;
/** The crown lies over the shoulders by this share of the stature; of people it is 0.18. Less is no crown, more is a hat, or a face. */
const CROWN = [0.145, 0.235] as const;

/**
 * How tall the performer is: the top of the body above its lowest point, in the rest pose if that stands, else in the tallest of the frames (their
 * 90th percentile, so that a reach overhead does not count). End sites count: the top of the head and the toes are usually those. Where the head's
 * last point is too near to the shoulders, or too far from them, to be its crown, legs and shoulders tell it by the proportions of people.
 *
 * @param motion Y up, any unit
 * @example
 * statureOf(motion).from; // 'crown'
 */
export function statureOf(motion: Motion): Stature {
  const body = bodyOf(motion);
  const frames: Extent[] = [];
  const step = Math.max(1, Math.floor(motion.frames / 120));
  for (let f = 0; f < motion.frames; f += step) frames.push(extent(cutMotion(motion, f, f), body));
  const standing = quantile(
    frames.map(({ height }) => height),
    0.9,
  );
  const rest = extent(restMotion(motion.skeleton), body);
  const whole = 1 + ankleShare(motion);
  // A rest pose that stands is about as tall as the frames; arms overhead or a folded pose is not.
  const top = (Math.abs(rest.height / standing - 1) < 0.12 ? rest.height : standing) * whole;
  const crown: Stature = { units: top, plusMinus: CROWN_SPREAD * top, from: 'crown' };
  if (!body) return crown;
  const shoulders =
    whole *
    quantile(
      frames.flatMap((frame) => frame.shoulders ?? []),
      0.9,
    );
  const byLegs = legLength(forwardKinematics(cutMotion(motion, 0, 0)), body) / LEGS.share;
  const above = (top - shoulders) / top;
  if (!Number.isFinite(shoulders) || shoulders <= 0) return crown;
  if (above > CROWN[0] && above < CROWN[1]) return crown;
  return weighed(byLegs, shoulders / SHOULDERS.share);
}

/** Both by how sure they are; what they differ by makes neither surer. */
function weighed(legs: number, shoulders: number): Stature {
  const [a, b] = [1 / LEGS.spread ** 2, 1 / SHOULDERS.spread ** 2];
  const units = (a * legs + b * shoulders) / (a + b);
  const apart = Math.abs(legs - shoulders) / 2;
  return { units, plusMinus: Math.hypot(units / Math.sqrt(a + b), apart), from: 'legs and shoulders' };
}

/** What is missing below ankles at which the legs end: they are at 4.5 % of the stature (Winter, 2009, and a sole). */
function ankleShare(motion: Motion): number {
  const body = bodyOf(motion);
  const { joints } = motion.skeleton;
  const isEnd = (j: number) => joints.every(({ parent }) => parent !== j) && joints[j].endSites.every((tip) => Math.hypot(...tip) < 1e-9);
  return body && isEnd(body.legs.left.ankle) && isEnd(body.legs.right.ankle) ? 0.045 / (1 - 0.045) : 0;
}

/** How high a body reaches over its lowest point in a pose, and how high its shoulders are. */
interface Extent {
  readonly height: number;
  readonly shoulders: number | null;
}

/** Of a motion of one frame; joints and end sites count. */
function extent(motion: Motion, body: Body | null): Extent {
  const { positions, rotations } = forwardKinematics(motion);
  let low = Infinity;
  let high = -Infinity;
  const tip = [0, 0, 0];
  mainJoints(motion.skeleton).forEach((j) => {
    const joint = motion.skeleton.joints[j];
    const y = positions[j * 3 + 1];
    low = Math.min(low, y);
    high = Math.max(high, y);
    for (const site of joint.endSites) {
      rotate(tip, 0, rotations, j * 4, site, 0);
      low = Math.min(low, y + tip[1]);
      high = Math.max(high, y + tip[1]);
    }
  });
  const both = body ? [body.arms.left.shoulder, body.arms.right.shoulder].filter((j) => j >= 0) : [];
  const shoulders = both.length === 2 ? both.reduce((sum, j) => sum + positions[j * 3 + 1] / 2, 0) - low : null;
  return { height: high - low, shoulders };
}
