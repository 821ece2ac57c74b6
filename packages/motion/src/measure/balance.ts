import { convexHull, insideBy, type Place2 } from '../math/convex';
import type { Contacts, Interval } from '../model/contacts';
import { centreOfMass } from './centre-of-mass';
import type { Groundwork } from './groundwork';
import { legLength } from './leg-length';
import { lowPassedPoint } from './low-passed';

/** How the body stands over its feet. */
export interface Balance {
  /** The centre of mass's place on the floor, x and z a frame, metres. */
  readonly centre: Float32Array;
  /** How far it is inside the soles' support (positive) or outside of it, cm; not a number where no foot bears. */
  readonly marginCm: Float32Array;
  /** The support's outline: its corners' x and z, none where no foot bears. */
  readonly support: readonly Float32Array[];
  /** Where nobody could stand so: both feet bear, the body is slow, and the centre is outside. */
  readonly unsteady: readonly Unsteady[];
}

/** Frames in which the body could not stand so; the first after it, and the worst of them. */
export interface Unsteady extends Interval {
  readonly at: number;
  readonly cm: number;
}

/** A body whose centre is quicker than this is on its way, metres a second: it need not be above its feet. */
const SLOW = 0.2;
/** So near the edge of the soles nobody can tell, cm. */
const DOUBT = 1;
/** Half a sole's width at the heel and at the ball as shares of the leg. */
const HALF_HEEL = 0.036;
const HALF_BALL = 0.052;
/** A point of a bearing foot that is higher than this above its lowest bears nothing, metres. */
const LIFTED = 0.03;

/**
 * Centre of mass and support of a motion in the world.
 *
 * @param contacts when the feet bear
 *
 * @example
 * const found = groundwork(motion);
 * balance(found, found.contacts).marginCm.length === motion.frames; // true
 */
export function balance(found: Groundwork, contacts: Contacts = found.contacts): Balance {
  const { frames } = found.globals;
  const mass = Float32Array.from(centreOfMass(found));
  const centre = new Float32Array(frames * 2);
  const marginCm = new Float32Array(frames).fill(NaN);
  const support: Float32Array[] = [];
  const isDown = { left: framesOf(contacts.left, frames), right: framesOf(contacts.right, frames) };
  const leg = legLength(found.globals, found.body);
  for (let f = 0; f < frames; f++) {
    centre.set([mass[f * 3], mass[f * 3 + 2]], f * 2);
    const corners = (['left', 'right'] as const).flatMap((side) => (isDown[side][f] ? cornersOf(found.soles[side], f, leg) : []));
    const hull = convexHull(corners);
    support.push(Float32Array.from(hull.flat()));
    if (hull.length > 0) marginCm[f] = 100 * insideBy(hull, [centre[f * 2], centre[f * 2 + 1]]);
  }
  return { centre, marginCm, support, unsteady: unsteadyOf(mass, marginCm, isDown, found.motion.fps) };
}

function framesOf(intervals: readonly Interval[], frames: number): Uint8Array {
  const out = new Uint8Array(frames);
  for (const { from, to } of intervals) out.fill(1, Math.max(0, from), Math.min(frames, to));
  return out;
}

/** The corners of what of a sole is down. */
function cornersOf(sole: Groundwork['soles']['left'], f: number, leg: number): Place2[] {
  const place = (track: Float32Array) => [track[f * 3], track[f * 3 + 1], track[f * 3 + 2]] as const;
  const [heel, ball, tip] = [place(sole.heel), place(sole.ball), place(sole.tip)];
  const low = Math.min(heel[1], ball[1], tip[1]);
  const [dx, dz] = [ball[0] - heel[0], ball[2] - heel[2]];
  const length = Math.hypot(dx, dz) || 1;
  const beside = ([x, y, z]: readonly [number, number, number], half: number): Place2[] =>
    y > low + LIFTED ? [] : [-1, 1].map((side): Place2 => [x - (side * half * leg * dz) / length, z + (side * half * leg * dx) / length]);
  const end: Place2[] = tip[1] > low + LIFTED ? [] : [[tip[0], tip[2]]];
  return [...beside(heel, HALF_HEEL), ...beside(ball, HALF_BALL), ...end];
}

function unsteadyOf(mass: Float32Array, marginCm: Float32Array, isDown: Record<'left' | 'right', Uint8Array>, fps: number): Unsteady[] {
  const { x, z } = lowPassedPoint(mass, fps);
  const n = x.length;
  const speed = (f: number) => {
    const [a, b] = [Math.max(0, f - 1), Math.min(n - 1, f + 1)];
    return b > a ? (Math.hypot(x[b] - x[a], z[b] - z[a]) * fps) / (b - a) : 0;
  };
  const out: Unsteady[] = [];
  for (let f = 0; f < n; f++) {
    if (!(marginCm[f] < -DOUBT) || !isDown.left[f] || !isDown.right[f] || speed(f) >= SLOW) continue;
    const last = out.at(-1);
    const worst = last && last.to === f ? last : { from: f, to: f, at: f, cm: 0 };
    const next = { from: worst.from, to: f + 1, ...(marginCm[f] < worst.cm ? { at: f, cm: marginCm[f] } : { at: worst.at, cm: worst.cm }) };
    if (last && last.to === f) out[out.length - 1] = next;
    else out.push(next);
  }
  return out.sort((a, b) => a.cm - b.cm);
}
