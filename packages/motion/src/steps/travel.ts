import { z } from 'zod';
import { movingAverage } from '../math/filter';
import { wrapAngle } from '../math/angles';
import { fromHeading, multiplyInverse, rotate } from '../math/quat';
import { gait } from '../measure/gait';
import { strideFrames } from '../measure/strides';
import { worldMotion, type Travel } from '../model/clip';
import { alignSigns, copyMotion, type Motion } from '../model/motion';
import type { Step } from './step';

const where = z.enum(['root', 'body', 'drop']);
export type Where = z.infer<typeof where>;

export const travelParams = z.object({
  kind: z.literal('travel'),
  off: z.boolean().optional(),
  forward: where.default('root'),
  sideways: where.default('root'),
  heading: where.default('root'),
  height: where.default('body'),
  /** `origin`: the first frame's root stands at the origin, on the floor, and faces +Z. `captured`: every joint stays where it was in the world. */
  start: z.enum(['captured', 'origin']).default('captured'),
});
export type TravelParams = z.infer<typeof travelParams>;

/**
 * Takes the way over the ground out of a clip and gives it to the root. The way is what remains of the hips' when a stride's
 * own sway and ripple are averaged out; of a loop it is exactly even: a straight line, or an arc. Each of forward, sideways,
 * heading and height goes to the root, stays in the body, or is dropped; dropping nothing leaves every joint where it was.
 *
 * A mover's root faces along one of the eight directions to its travel, so that a forward loop has no drift.
 */
export const travel: Step<'travel', TravelParams> = {
  kind: 'travel',
  params: travelParams,
  apply(clip, params) {
    if (clip.travel) return clip;
    const trend = clip.loop ? loopTrend(clip.motion) : captureTrend(clip.motion);
    const kept = layOut(trend, (part) => params[part] !== 'drop');
    // A loop that climbs could not come round with its climb in the body.
    const climbs = clip.loop && Math.abs(trend.y[trend.y.length - 1]) > 1e-4;
    const root = layOut(trend, (part) => params[part] === 'root' || (part === 'height' && climbs && params.height === 'body'));
    const relative = toSpaceOf(clip.motion, trend);
    const world = worldMotion({ motion: relative, travel: kept });
    const motion = toSpaceOf(world, root);
    if (clip.loop && kept.x.length > 1) closeExactly(motion, params);
    alignSigns(motion);
    if (params.start === 'captured') return { ...clip, motion, travel: root };
    // The root stands on the floor, wherever the suit believed the floor to be.
    const floor = gait(clip.motion)?.soles.floor ?? 0;
    for (let f = 0; f < motion.frames; f++) motion.rootPositions[f * 3 + 1] -= floor;
    return { ...clip, motion, travel: toOrigin(root) };
  },
};

type Part = 'forward' | 'sideways' | 'heading' | 'height';

/** Facing of the hips over time, and the travel direction's nearest eighth of a turn to it. */
function facings(motion: Motion): { heading: Float64Array; stride: number } {
  const found = gait(motion);
  if (found) {
    const stride = strideFrames(found.contacts) ?? Math.min(motion.frames, motion.fps);
    return { heading: found.headings, stride };
  }
  const heading = new Float64Array(motion.frames);
  const forward = [0, 0, 0];
  const joints = motion.skeleton.joints.length;
  for (let f = 0; f < motion.frames; f++) {
    rotate(forward, 0, motion.rotations, f * joints * 4, [0, 0, 1], 0);
    heading[f] = Math.atan2(forward[0], forward[2]);
    if (f > 0) heading[f] = heading[f - 1] + wrapAngle(heading[f] - heading[f - 1]);
  }
  return { heading, stride: motion.fps };
}

/** Turns facing into the direction of travel when that lies within 22.5° of one of the eight directions about it. */
function declaredHeading(facing: number, dx: number, dz: number, seconds: number): number {
  if (Math.hypot(dx, dz) / seconds < 0.2) return facing;
  const eighth = Math.PI / 4;
  const going = Math.atan2(dx, dz);
  const turn = wrapAngle(going - facing);
  return facing + (turn - Math.round(turn / eighth) * eighth);
}

/** The even way of a loop: constant speed and turn rate, through the mean of the hips about it. */
function loopTrend(motion: Motion): Travel {
  const n = motion.frames - 1;
  const p = motion.rootPositions;
  const { heading } = facings(motion);
  const turn = heading[n] - heading[0];
  const dx = p[n * 3] - p[0];
  const dz = p[n * 3 + 2] - p[2];
  const out = emptyTravel(n + 1);
  // Facing without the share of the turn, averaged over the cycle.
  let facing = 0;
  for (let f = 0; f < n; f++) facing += (heading[f] - (turn * f) / n) / n;
  // The cycle turns by `turn` about a pivot; without a turn the pivot is at infinity and the way a straight line.
  const isStraight = Math.abs(turn) < 1e-3;
  if (isStraight) {
    const declared = declaredHeading(facing, dx, dz, n / motion.fps);
    let ox = 0,
      oz = 0;
    for (let f = 0; f < n; f++) {
      ox += (p[f * 3] - (dx * f) / n) / n;
      oz += (p[f * 3 + 2] - (dz * f) / n) / n;
    }
    for (let f = 0; f <= n; f++) {
      out.x[f] = ox + (dx * f) / n;
      out.z[f] = oz + (dz * f) / n;
      out.heading[f] = declared;
    }
  } else {
    const c = Math.cos(turn),
      s = Math.sin(turn);
    // pivot = R·pivot + t, with t from p[n] = R·p[0] + t.
    const tx = p[n * 3] - (c * p[0] + s * p[2]);
    const tz = p[n * 3 + 2] - (c * p[2] - s * p[0]);
    const det = (1 - c) * (1 - c) + s * s;
    const px = ((1 - c) * tx + s * tz) / det;
    const pz = ((1 - c) * tz - s * tx) / det;
    let rx = 0,
      rz = 0;
    for (let f = 0; f < n; f++) {
      const a = (-turn * f) / n;
      const x = p[f * 3] - px,
        z = p[f * 3 + 2] - pz;
      rx += (Math.cos(a) * x + Math.sin(a) * z) / n;
      rz += (Math.cos(a) * z - Math.sin(a) * x) / n;
    }
    // Direction of travel at the start of the arc: at right angles to the radius.
    const declared = declaredHeading(facing, turn * rz, -turn * rx, n / motion.fps);
    for (let f = 0; f <= n; f++) {
      const a = (turn * f) / n;
      out.x[f] = px + Math.cos(a) * rx + Math.sin(a) * rz;
      out.z[f] = pz + Math.cos(a) * rz - Math.sin(a) * rx;
      out.heading[f] = declared + a;
    }
  }
  const dy = p[n * 3 + 1] - p[1];
  for (let f = 0; f <= n; f++) out.y[f] = (dy * f) / n;
  return out;
}

/** The way of a clip that does not loop: hips and facing averaged over a stride. */
function captureTrend(motion: Motion): Travel {
  const n = motion.frames;
  const { heading, stride } = facings(motion);
  const channel = (k: number) => Float64Array.from({ length: n }, (_, f) => motion.rootPositions[f * 3 + k]);
  const y = movingAverage(channel(1), stride);
  const first = y[0];
  return {
    x: movingAverage(channel(0), stride),
    y: y.map((value) => value - first),
    z: movingAverage(channel(2), stride),
    heading: movingAverage(heading, stride),
  };
}

function emptyTravel(frames: number): Travel {
  const make = () => new Float64Array(frames);
  return { x: make(), y: make(), z: make(), heading: make() };
}

/** A way made of some parts of another, begun at the same place; with all parts it is the other itself. */
function layOut(trend: Travel, keeps: (part: Part) => boolean): Travel {
  const parts = { forward: keeps('forward'), sideways: keeps('sideways'), heading: keeps('heading'), height: keeps('height') };
  const n = trend.x.length;
  const out = emptyTravel(n);
  const all = parts.forward && parts.sideways && parts.heading;
  for (let f = 0; f < n; f++) {
    out.y[f] = parts.height ? trend.y[f] : 0;
    out.heading[f] = parts.heading ? trend.heading[f] : trend.heading[0];
    if (f === 0 || all) {
      out.x[f] = trend.x[f];
      out.z[f] = trend.z[f];
      continue;
    }
    // Progress in the way's own directions, laid down in those of the new one.
    const h = (trend.heading[f] + trend.heading[f - 1]) / 2;
    const dx = trend.x[f] - trend.x[f - 1];
    const dz = trend.z[f] - trend.z[f - 1];
    const forward = parts.forward ? dx * Math.sin(h) + dz * Math.cos(h) : 0;
    const left = parts.sideways ? dx * Math.cos(h) - dz * Math.sin(h) : 0;
    const g = (out.heading[f] + out.heading[f - 1]) / 2;
    out.x[f] = out.x[f - 1] + forward * Math.sin(g) + left * Math.cos(g);
    out.z[f] = out.z[f - 1] + forward * Math.cos(g) - left * Math.sin(g);
  }
  return out;
}

/** The motion as seen from a way. */
export function toSpaceOf(motion: Motion, way: Travel): Motion {
  const out = copyMotion(motion);
  const joints = motion.skeleton.joints.length;
  const q = [0, 0, 0, 1];
  for (let f = 0; f < motion.frames; f++) {
    const turn = fromHeading(way.heading[f]);
    const p = [
      motion.rootPositions[f * 3] - way.x[f],
      motion.rootPositions[f * 3 + 1] - way.y[f],
      motion.rootPositions[f * 3 + 2] - way.z[f],
    ];
    rotate(out.rootPositions, f * 3, fromHeading(-way.heading[f]), 0, p, 0);
    multiplyInverse(q, 0, turn, 0, motion.rotations, f * joints * 4);
    out.rotations.set(q, f * joints * 4);
  }
  return out;
}

/** In place: what is still in the body comes round to the very numbers of the first frame. */
function closeExactly(motion: Motion, params: TravelParams): void {
  const joints = motion.skeleton.joints.length;
  const last = motion.frames - 1;
  if (params.heading !== 'body') motion.rotations.copyWithin(last * joints * 4, 0, joints * 4);
  if (params.heading !== 'body' && params.forward !== 'body' && params.sideways !== 'body') {
    motion.rootPositions[last * 3] = motion.rootPositions[0];
    motion.rootPositions[last * 3 + 2] = motion.rootPositions[2];
  }
  motion.translations?.forEach((t) => t.copyWithin(last * 3, 0, 3));
}

/** The way moved and turned so that it begins at the origin, facing +Z. */
function toOrigin(way: Travel): Travel {
  const n = way.x.length;
  const out = emptyTravel(n);
  const c = Math.cos(-way.heading[0]);
  const s = Math.sin(-way.heading[0]);
  for (let f = 0; f < n; f++) {
    const x = way.x[f] - way.x[0];
    const z = way.z[f] - way.z[0];
    out.x[f] = c * x + s * z;
    out.z[f] = c * z - s * x;
    out.y[f] = way.y[f];
    out.heading[f] = way.heading[f] - way.heading[0];
  }
  return out;
}
