import { rootToHipsCm } from './root-to-hips';
import { DEGREES } from '../math/angles';
import type { Clip } from '../model/clip';
import type { Travel } from '../model/travel';
import { leading } from '../model/floor-transform';
import { clipSlides } from './clip-slides';
import { played } from './played';
import { posesOnly } from './poses';
import { groundwork, onTheWay, type Groundwork } from './groundwork';
import { crosswise, seamAligned, type Seam } from './seam';
import { hoverCm, sinkCm } from './slide';
import { strideFrames } from './strides';
import { asymmetryCm } from './symmetry';
import { tick } from './tick';

/** The figures of a finished clip. */
export interface ClipFigures {
  readonly seconds: number;
  readonly fps: number;
  readonly frames: number;
  readonly loop: boolean;
  readonly seam: Seam;
  readonly tick: number;
  readonly speedMps: number;
  /** The clip goes nowhere itself; its speed was read from the planted feet, which all move alike, backwards. */
  readonly inPlace: boolean;
  readonly turnDegS: number;
  /** Metres gone over the floor, of a loop in a cycle. */
  readonly distanceM: number;
  /** How much the root's speed varies, from its least to its most; 0 while there is no travel. */
  readonly rippleMps: number;
  /** How unlike its two halves a cycle is; null for what is no straight loop of steps. */
  readonly asymmetryCm: number | null;
  /** Largest excursion of a bearing foot over all contacts. */
  readonly slideCm: number;
  readonly sinkCm: number;
  /** Highest that a bearing foot is over its ground. */
  readonly hoverCm: number;
  /** Greatest distance on the floor between hips and root (the capsule problem). */
  readonly rootToHipsCm: number;
}

/**
 * Measures a finished clip.
 *
 * @returns null when the skeleton is not a person's
 *
 * @example
 * clipFigures(cutClip(motion, best.from, best.to)).speedMps.toFixed(1); // '1.3'
 */
export function clipFigures(clip: Pick<Clip, 'motion' | 'travel' | 'loop' | 'contacts'>): ClipFigures | null {
  const { motion, travel, loop } = clip;
  const body = groundwork(motion);
  if (!body) return null;
  const { fps, frames } = motion;
  const seconds = (frames - 1) / fps;
  const belt = travel && !isStill(travel) ? null : body.belt;
  // A loop is judged as it plays, so that contacts across the seam are whole.
  const shown = played(clip).motion;
  const ground = groundwork(belt ? onTheWay(shown, belt) : shown) ?? body;
  const way = wayFigures(clip, ground);
  return {
    seconds,
    fps,
    frames,
    loop,
    seam: seamOf(clip, body),
    tick: loop ? tick(clip) : 0,
    speedMps: belt ? Math.hypot(belt.x, belt.z) : way.speed,
    inPlace: belt !== null,
    turnDegS: way.turn * DEGREES,
    distanceM: belt ? 0 : way.distance,
    rippleMps: belt ? 0 : way.ripple,
    asymmetryCm: loop ? asymmetryCm(clip) : null,
    slideCm: Math.max(0, ...clipSlides(clip, clip.contacts, ground).map((slide) => slide.excursionCm)),
    sinkCm: sinkCm(ground.soles),
    hoverCm: hoverCm(ground.soles, ground.contacts),
    rootToHipsCm: travel ? rootToHipsCm(motion) : 0,
  };
}

/** What can be measured of a clip without knowing feet: what needs them is null. */
export type PoseFigures = { readonly [K in keyof ClipFigures]: ClipFigures[K] | null };

/**
 * The figures of a finished clip of anything: of a person all, of anything else those of its poses and its root.
 *
 * @example
 * anyFigures(cutClip(motion, 0, 60)).frames; // 61
 */
export function anyFigures(clip: Pick<Clip, 'motion' | 'travel' | 'loop' | 'contacts'>): PoseFigures {
  const known = clipFigures(clip);
  if (known) return known;
  const { motion, travel, loop } = clip;
  const found = posesOnly(motion);
  const way = wayFigures(clip, found);
  return {
    seconds: (motion.frames - 1) / motion.fps,
    fps: motion.fps,
    frames: motion.frames,
    loop,
    seam: seamOf(clip, found),
    tick: loop ? tick(clip) : 0,
    speedMps: way.speed,
    inPlace: null,
    turnDegS: way.turn * DEGREES,
    distanceM: way.distance,
    rippleMps: way.ripple,
    asymmetryCm: null,
    slideCm: null,
    sinkCm: null,
    hoverCm: null,
    rootToHipsCm: travel ? rootToHipsCm(motion) : 0,
  };
}

/** Last frame against the first: in the root's space once there is one, else one cycle on as the hips went. */
function seamOf({ motion, travel }: Pick<Clip, 'motion' | 'travel'>, body: Groundwork): Seam {
  const last = motion.frames - 1;
  if (travel) {
    const seam = seamAligned(body, 0, last, { turn: 0, x: 0, z: 0 });
    const dx = travel.x[last] - travel.x[0],
      dz = travel.z[last] - travel.z[0];
    // What the body turns against its root: nothing, when the root took the turn of the cycle.
    const headingDeg = (body.headings[last] - body.headings[0]) * DEGREES;
    return { ...seam, headingDeg, driftCm: crosswise(dx, dz, travel.heading[0]) * 100 };
  }
  const p = motion.rootPositions;
  const at = (f: number) => ({ x: p[f * 3], z: p[f * 3 + 2] });
  return seamAligned(body, 0, last, leading(at(last), at(0), body.headings[0] - body.headings[last]));
}

const isStill = ({ x, z }: Travel) => Math.hypot(x[x.length - 1] - x[0], z[z.length - 1] - z[0]) < 0.05;

/** Speed and turn rate over the whole cycle of a loop, or over whole strides of anything else. */
function wayFigures(
  { motion, travel, loop }: Pick<Clip, 'motion' | 'travel' | 'loop'>,
  { globals, body, headings, contacts }: Groundwork,
): { speed: number; turn: number; distance: number; ripple: number } {
  const last = motion.frames - 1;
  const { fps } = motion;
  const root = travel && rootFigures(travel, fps);
  // Along an arc the arc counts, not its chord.
  if (root && loop) return { ...root, speed: (root.distance * fps) / last, turn: ((headings[last] - headings[0]) * fps) / last };
  const at = (f: number, k: number) => globals.positions[(f * globals.joints + body.hips) * 3 + k];
  const stride = loop ? last : strideFrames(contacts);
  const whole = stride && stride <= last ? Math.floor(last / stride) * stride : last;
  const parts = Math.max(1, Math.round(whole / (stride ?? whole)));
  let length = 0;
  for (let i = 0; i < parts; i++) {
    const [a, b] = [Math.round((i * whole) / parts), Math.round(((i + 1) * whole) / parts)];
    length += Math.hypot(at(b, 0) - at(a, 0), at(b, 2) - at(a, 2));
  }
  const seconds = whole / fps;
  const turn = (headings[whole] - headings[0]) / seconds;
  return { distance: (length * last) / whole, ripple: 0, ...root, speed: length / seconds, turn };
}

/** How far the root goes, metres, and by how much its speed varies, metres a second. */
function rootFigures({ x, z }: Travel, fps: number): { distance: number; ripple: number } {
  let [distance, least, most] = [0, Infinity, 0];
  for (let f = 1; f < x.length; f++) {
    const step = Math.hypot(x[f] - x[f - 1], z[f] - z[f - 1]);
    distance += step;
    least = Math.min(least, step);
    most = Math.max(most, step);
  }
  return { distance, ripple: Math.max(0, most - least) * fps };
}
