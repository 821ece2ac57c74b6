import { InputError } from '../error';
import { median } from '../math/statistics';
import type { Groundwork } from '../measure/groundwork';
import { legLength } from '../measure/leg-length';
import type { FloorTransform } from '../model/floor-transform';
import { solveFloor } from '../measure/align';
import { bestLine, evidence, isLike, paces, settle, spread, type Line } from './match-line';
import { poseDistance, posesOf } from './poses';

/** Where the instants of one take lie in another of the same performance. */
export interface TakeMatch {
  /** Seconds of the new take per second of the old: other than 1 when one of them was read at a wrong rate. */
  readonly pace: number;
  /** Where the old take's first frame lies in the new one, seconds. */
  readonly offsetSeconds: number;
  /** Size of the new body against the old. */
  readonly scale: number;
  /** Brings a place on the old take's floor to the same one on the new take's. */
  readonly floor: FloorTransform;
  /** Pose distance, cm, of every frame of the old take from its instant in the new one; NaN where the new one has none. */
  readonly differenceCm: Float32Array;
  /** The usual one of these. */
  readonly medianCm: number;
  /** The instant of the new take, in its frames, of a frame of the old one; may lie outside. */
  frameOf(frame: number): number;
  /** Finds the place of what was made from some frames of the old take. */
  place(from: number, to: number): PlacedSpan;
}

/** The place in the new take of a stretch of the old one, in whole frames. */
export interface PlacedSpan {
  /** `same` motion; `changed`: the same time, solved anew; `moved`: it lies elsewhere than the rest of the take; `lost`: not there. */
  readonly outcome: 'same' | 'changed' | 'moved' | 'lost';
  readonly from: number;
  readonly to: number;
  /** Mean pose distance over it, cm; NaN of a lost one. */
  readonly differenceCm: number;
}

/** Anchors over the whole take, and over a single stretch. */
const ANCHORS = 160;
const SPAN_ANCHORS = 24;
/** Share of the new take, on average over the anchors, that must be farther from an anchor than its like, for the likeness to tell anything. */
const TELLING = 0.6;
/** The same where a rate would have been read wrongly. */
const VERY_TELLING = 0.85;
/** A stretch has a place of its own when it costs this much less there than at the next best one. */
const UNIQUE = 0.6;
/** Mean distance, cm, up to which a stretch is the same motion, and beyond which it is another. */
const SAME_CM = 2;
const OTHER_CM = 10;

/**
 * Matches a take with another delivery of the same performance: shifted, at another rate, of another size, turned on the floor, with
 * another skeleton, with stretches solved anew or left out. Every anchor pose votes for the shifts that put it on its like; repeated
 * strides tie in one anchor and part over many. The line so found is settled between frames by the anchors' own best instants.
 *
 * Costs anchors × frames at 30 a second × the pose's width: tens of milliseconds for a minute.
 *
 * @throws InputError `no-match` when no shift explains the poses
 *
 * @example
 * const later = groundwork(cutMotion(motion, 60, motion.frames - 1));
 * matchTakes(ground, later).offsetSeconds.toFixed(1); // '-1.0'
 */
export function matchTakes(old: Groundwork, fresh: Groundwork): TakeMatch {
  const [before, after] = posesOf(old, fresh);
  if (before.width < 12) throw new InputError('no-match', 'The two takes have hardly a body part in common.');
  const anchors = spread(0, before.frames - 1, ANCHORS);
  const first = bestLine(before, after, anchors, paces());
  const near = anchors.filter((a) => isLike(before, after, a, first));
  const telling = first.pace === 1 ? TELLING : VERY_TELLING;
  const nothing = () => new InputError('no-match', 'The motion of the old take is not in the new one.');
  if (near.length < 3 || evidence(before, after, near, first) < telling) throw nothing();
  const line = settle(before, after, near, first);
  const leg = legLength(old.globals, old.body);
  const at = (frame: number, { pace, offset }: Line = line) => (pace * (frame / before.fps) + offset) * after.fps;
  const isInside = (t: number) => t > -0.5 && t < after.frames - 0.5;
  const cm = (frame: number, on: Line = line) =>
    isInside(at(frame, on)) ? Math.sqrt(poseDistance(before, frame, after, at(frame, on))) * leg * 100 : Number.NaN;
  const differenceCm = Float32Array.from({ length: before.frames }, (_, f) => cm(f));
  const medianCm = median(differenceCm.filter(Number.isFinite));
  if (!(medianCm <= OTHER_CM)) throw nothing();
  const meanOf = (frames: readonly number[], on: Line) => frames.reduce((sum, f) => sum + cm(f, on), 0) / frames.length;
  const spanOf = (from: number, to: number, on: Line, outcome: PlacedSpan['outcome'], differenceCm: number): PlacedSpan => ({
    outcome,
    from: Math.min(after.frames - 1, Math.max(0, Math.round(at(from, on)))),
    to: Math.min(after.frames - 1, Math.max(0, Math.round(at(to, on)))),
    differenceCm,
  });
  return {
    pace: line.pace,
    offsetSeconds: line.offset || 0,
    scale: legLength(fresh.globals, fresh.body) / leg,
    floor: floorBetween(old, fresh, near, (frame) => at(frame)),
    differenceCm,
    medianCm,
    frameOf: (frame) => at(frame),
    place(from, to) {
      const inside = isInside(at(from)) && isInside(at(to));
      const frames = spread(from, to, SPAN_ANCHORS * 2);
      const here = inside ? meanOf(frames, line) : Number.NaN;
      if (here <= Math.max(SAME_CM, 2 * medianCm)) return spanOf(from, to, line, 'same', here);
      // It may lie elsewhere, but another stride of the same walk is not it: only what fits as well as the rest of the take does.
      const own = spread(from, to, SPAN_ANCHORS);
      const found = bestLine(before, after, own, [line.pace]);
      const [there, next] = [found.offset, found.next].map((offset) => {
        const on = settle(before, after, own, { ...found, offset }, false);
        return { on, cm: isInside(at(from, on)) && isInside(at(to, on)) ? meanOf(frames, on) : Infinity };
      });
      if (there.cm <= 1.3 * medianCm + 0.2 && there.cm < UNIQUE * next.cm) return spanOf(from, to, there.on, 'moved', there.cm);
      return here <= OTHER_CM ? spanOf(from, to, line, 'changed', here) : spanOf(from, to, line, 'lost', Number.NaN);
    },
  };
}

/** The turn and shift that bring the old take's hips and head to the new one's, over all anchors at once. */
function floorBetween(old: Groundwork, fresh: Groundwork, anchors: readonly number[], frameOf: (frame: number) => number): FloorTransform {
  const sums = { total: 0, ax: 0, az: 0, bx: 0, bz: 0, cross: 0, dot: 0 };
  for (const part of old.weighted.parts) {
    const [j, k] = [old, fresh].map(({ weighted }) => weighted.joints[weighted.parts.indexOf(part)]);
    if (k === undefined) continue;
    for (const anchor of anchors) {
      const f = Math.min(fresh.globals.frames - 1, Math.max(0, Math.round(frameOf(anchor))));
      const q = (anchor * old.globals.joints + j) * 3;
      const p = (f * fresh.globals.joints + k) * 3;
      const [px, pz] = [fresh.globals.positions[p], fresh.globals.positions[p + 2]];
      const [qx, qz] = [old.globals.positions[q], old.globals.positions[q + 2]];
      sums.total += 1;
      sums.ax += px;
      sums.az += pz;
      sums.bx += qx;
      sums.bz += qz;
      sums.dot += px * qx + pz * qz;
      sums.cross += px * qz - pz * qx;
    }
  }
  return solveFloor(sums);
}
