import { DEGREES, wrapAngle } from '../math/angles';
import { movingAverage } from '../math/filter';
import { median } from '../math/statistics';
import type { Clip } from '../model/clip';
import type { Contacts, Interval } from '../model/contacts';
import { gaitIn, isHopping } from '../find/segments';
import { clipContacts } from '../measure/clip-slides';
import { clipFigures, type ClipFigures } from '../measure/clip-figures';
import { legLength } from '../measure/leg-length';
import { groundwork, type Groundwork } from '../measure/groundwork';
import { played } from '../measure/played';
import { standsAt } from '../measure/stands';
import { DIRECTIONS, type Direction, type SlotKind } from './slot';
import { series } from '../math/series';
import { trackOf } from '../model/track';

/** Ways of going that can be told without knowing what a set calls fast. */
export type MeasuredGait = 'hush' | 'walk' | 'run';

/** What a clip is, measured of its motion; nothing of it comes from its name. */
export interface ClipTraits {
  /** The kind of slot that it can fill; null for what no slot asks for, as a walk that is no loop. */
  readonly kind: SlotKind | null;
  readonly seconds: number;
  readonly gait: MeasuredGait | null;
  /** The gait that it ends in, where that is another one. */
  readonly toGait: MeasuredGait | null;
  /** Where he goes against how he faces (of a start and a stop: how he faced at first). */
  readonly direction: Direction | null;
  readonly speedMps: number;
  /** Thigh and shin, metres: how quick a gait is goes by how long the legs are. Left out: those of a usual person. */
  readonly legM?: number;
  /** Degrees a second, and degrees in all, to the left. */
  readonly turnDegS: number;
  readonly turnDeg: number;
  /** Metres over the floor from the first frame to the last. */
  readonly distanceM: number;
  /** Of a start and of another gait the foot that lands first, of a stop the one that lands last, of a pivot the one that it is on. */
  readonly foot: 'left' | 'right' | null;
  /** Of a flight: the feet that land. */
  readonly on: 'left' | 'right' | 'both' | null;
  /** Metres that the ground rises by, and over how many levels. */
  readonly riseM: number;
  readonly levels: number;
  /** He stands at the first frame; at the last. */
  readonly standsFirst: boolean;
  readonly standsLast: boolean;
  /** Those of the clip as it stands. */
  readonly figures: ClipFigures;
}

/** A loop slower than this goes nowhere. */
const GOES = 0.15;
/** A loop that turns by less is straight, degrees a second. */
const STRAIGHT = 8;
/** On the spot: less far than this, metres; a turn there is at least so many degrees. */
const ON_THE_SPOT = 0.6;
const LEAST_TURN = 25;
/** Who turns on the spot steps about more slowly than this, metres a second. */
const STEPS_ABOUT = 0.7;
/** A pivot changes where he goes by this at least, degrees. */
const LEAST_PIVOT = 60;
/** A step of the ground, metres. */
const LEAST_RISE = 0.08;

/**
 * @returns null when the skeleton is not a person's
 *
 * @example
 * clipTraits(run({ from: best.from, to: best.to, steps: recipeSchema.parse([{ kind: 'loop' }]) })).kind; // 'loop'
 */
export function clipTraits(clip: Clip): ClipTraits | null {
  const figures = clipFigures(clip);
  const { motion, start } = played(clip);
  const ground = groundwork(motion);
  const contacts = clipContacts(clip);
  if (!figures || !ground || !contacts) return null;
  const last = clip.motion.frames - 1;
  const at = courseOf(ground);
  const own = { from: start, to: start + last };
  const standsFirst = !clip.loop && standsAt(ground, own.from);
  const standsLast = !clip.loop && standsAt(ground, own.to);
  const heights = levelsOf(ground, own);
  const common = {
    seconds: figures.seconds,
    gait: null,
    toGait: null,
    direction: null,
    speedMps: figures.speedMps,
    legM: legLength(ground.globals, ground.body),
    turnDegS: figures.turnDegS,
    turnDeg: (ground.headings[own.to] - ground.headings[own.from]) * DEGREES,
    distanceM: at.between(own.from, own.to),
    foot: null,
    on: null,
    riseM: heights.rise,
    levels: heights.levels,
    standsFirst,
    standsLast,
    figures,
  } as const;
  if (clip.loop) {
    // Both feet of a leap do not land in quite the same frame: where the cycle begins between the two, only the ones beside it show that they land together.
    const around = { from: 0, to: motion.frames - 1 };
    if (isHopping(ground.contacts, around)) return { ...common, kind: 'flight', on: landsOn(ground.contacts, around) };
    const turns = Math.abs(figures.turnDegS) >= STRAIGHT;
    if (figures.speedMps < GOES) return { ...common, kind: turns ? null : 'idle' };
    return {
      ...common,
      kind: turns ? 'arc' : 'loop',
      gait: gait(ground, own, figures.speedMps),
      direction: wayOfLoop(figures, ground, at, own),
    };
  }
  if (isHopping(ground.contacts, own)) return { ...common, kind: 'flight', on: landsOn(ground.contacts, own) };
  const falls = landings(contacts, last);
  const going = steadyPart(at, own, standsFirst, standsLast);
  if (common.distanceM < ON_THE_SPOT && at.fastest(own) < STEPS_ABOUT && Math.abs(common.turnDeg) >= LEAST_TURN)
    return { ...common, kind: 'turn' };
  if (standsFirst && standsLast) {
    if (Math.abs(heights.rise) >= LEAST_RISE) return { ...common, kind: 'step', gait: gait(ground, going, at.speedIn(going)) };
    return { ...common, kind: falls.length === 0 ? 'idle' : null };
  }
  const speedMps = at.speedIn(going);
  if (Math.abs(heights.rise) >= LEAST_RISE) return { ...common, kind: 'step', gait: gait(ground, going, speedMps), speedMps };
  if (standsFirst || standsLast) {
    return {
      ...common,
      kind: standsFirst ? 'start' : 'stop',
      gait: gaitAtSpeed(ground, going, speedMps),
      speedMps,
      direction: eighth(at.courseIn(going) - ground.headings[own.from]),
      foot: (standsFirst ? falls[0] : falls.at(-1))?.side ?? null,
    };
  }
  return { ...common, ...onTheMove(ground, at, own, falls) };
}

/** Somebody who goes at both ends: on in another direction, or in another gait. */
function onTheMove(
  ground: Groundwork,
  at: Course,
  own: Interval,
  falls: readonly Landing[],
): Partial<ClipTraits> & Pick<ClipTraits, 'kind'> {
  const reach = Math.max(2, Math.round(0.3 * ground.motion.fps));
  const [first, last] = [
    { from: own.from, to: Math.min(own.to, own.from + reach) },
    { from: Math.max(own.from, own.to - reach), to: own.to },
  ];
  const turned = wrapAngle(at.courseIn(last) - at.courseIn(first)) * DEGREES;
  const slowest = at.slowest(own);
  const dips = at.speed[slowest] < 0.6 * Math.min(at.speedIn(first), at.speedIn(last));
  const middle = (own.from + own.to) >> 1;
  const [before, after] = [
    gaitAtSpeed(ground, { from: own.from, to: middle }, at.speedIn(first)),
    gaitAtSpeed(ground, { from: middle, to: own.to }, at.speedIn(last)),
  ];
  if (Math.abs(turned) >= LEAST_PIVOT && dips)
    return { kind: 'pivot', gait: before, turnDeg: turned, speedMps: at.speedIn(first), foot: bearsAt(ground.contacts, slowest) };
  if (before === after) return { kind: null, gait: before, direction: eighth(at.courseIn(own) - ground.headings[own.from]) };
  const into = falls.find(({ frame }) => frame + own.from >= middle);
  return {
    kind: 'between',
    gait: before,
    toGait: after,
    foot: into?.side ?? null,
    direction: eighth(at.courseIn(own) - ground.headings[middle]),
  };
}

interface Course {
  /** Metres a second per frame, averaged over a fifth of a second. */
  readonly speed: Float64Array;
  /** Metres on the floor from one frame to another, straight. */
  between(from: number, to: number): number;
  speedIn(part: Interval): number;
  /** Direction of the way from the first frame to the last, radians. */
  courseIn(part: Interval): number;
  slowest(part: Interval): number;
  fastest(part: Interval): number;
}

function courseOf({ globals, body, motion: { fps } }: Groundwork): Course {
  const { frames } = globals;
  const channel = (k: number) => movingAverage(trackOf(globals, body.hips, k), Math.max(1, Math.round(0.2 * fps)));
  const [x, z] = [channel(0), channel(2)];
  const between = (a: number, b: number) => Math.hypot(x[b] - x[a], z[b] - z[a]);
  const speed = x.map((_, f) => {
    const [a, b] = [Math.max(0, f - 1), Math.min(frames - 1, f + 1)];
    return (between(a, b) * fps) / Math.max(1, b - a);
  });
  return {
    speed,
    between,
    speedIn: ({ from, to }) => (between(from, to) * fps) / Math.max(1, to - from),
    courseIn: ({ from, to }) => Math.atan2(x[to] - x[from], z[to] - z[from]),
    slowest: ({ from, to }) => {
      let best = from;
      for (let f = from; f <= to; f++) if (speed[f] < speed[best]) best = f;
      return best;
    },
    fastest: ({ from, to }) => speed.subarray(from, to + 1).reduce((most, v) => Math.max(most, v), 0),
  };
}

/** The part of a start or a stop in which he is up to speed: where it is at least 85 % of the fastest, to the end that goes. */
function steadyPart({ speed }: Course, { from, to }: Interval, standsFirst: boolean, standsLast: boolean): Interval {
  const part = Float64Array.from(speed.subarray(from, to + 1));
  const enough = 0.85 * part.reduce((most, v) => Math.max(most, v), 0);
  const first = from + part.findIndex((v) => v >= enough);
  const last = from + part.findLastIndex((v) => v >= enough);
  return { from: standsFirst ? Math.min(first, to - 2) : from, to: standsLast ? Math.max(last, from + 2) : to };
}

/** Nobody who goes somewhere runs slower, metres a second: what looks like it is a walk of which a contact was not seen, at a kerb for example. */
const SLOWEST_RUN = 1.35;

function gait(ground: Groundwork, part: Interval, speedMps: number): MeasuredGait {
  const isSlow = speedMps > GOES && speedMps < SLOWEST_RUN * (legLength(ground.globals, ground.body) / USUAL_LEG);
  const found = gaitIn(ground, part, isSlow);
  return found === 'sneak' ? 'hush' : found;
}

/** Thigh and shin of somebody of whom the speeds below are true, metres. */
export const USUAL_LEG = 0.87;
/** Nobody creeps faster than this, metres a second. */
const CREEPS = 1.2;
/** Nobody walks faster, metres a second: people break into a run here (Hreljac 1993). */
const RUNS = 2.07;
/** Share of the frames in which a run is in the air, at the least. */
const IN_THE_AIR = 0.06;

/** The gait where there are too few steps for a duty: a run leaves the ground. */
function gaitAtSpeed(ground: Groundwork, part: Interval, speedMps: number): MeasuredGait {
  const { left, right } = ground.contacts;
  const bears = (f: number) => [...left, ...right].some(({ from, to }) => f >= from && f < to);
  const size = legLength(ground.globals, ground.body) / USUAL_LEG;
  let air = 0;
  for (let f = part.from; f < part.to; f++) if (!bears(f)) air++;
  if (air > IN_THE_AIR * (part.to - part.from) || speedMps > RUNS * size) return 'run';
  return speedMps > CREEPS * size ? 'walk' : gait(ground, part, speedMps);
}

const eighth = (radians: number): Direction => DIRECTIONS[((Math.round(radians / (Math.PI / 4)) % 8) + 8) % 8];

function wayOfLoop(figures: ClipFigures, ground: Groundwork, at: Course, own: Interval): Direction {
  if (figures.inPlace && ground.belt) return eighth(Math.atan2(ground.belt.x, ground.belt.z) - ground.headings[own.from]);
  // Of an arc the chord points half-way.
  const facing = median(ground.headings.subarray(own.from, own.to + 1));
  return eighth(at.courseIn(own) - facing);
}

interface Landing {
  readonly side: 'left' | 'right';
  readonly frame: number;
}

/** Feet that land within a clip, in order. */
const landings = (contacts: Contacts, last: number): Landing[] =>
  (['left', 'right'] as const)
    .flatMap((side) => contacts[side].filter(({ from }) => from > 0 && from <= last).map(({ from }) => ({ side, frame: from })))
    .sort((a, b) => a.frame - b.frame);

/** The foot that has the body at a frame: of two the one that landed later. */
function bearsAt({ left, right }: Contacts, f: number): 'left' | 'right' | null {
  const since = (all: readonly Interval[]) => all.find(({ from, to }) => f >= from && f < to)?.from ?? -1;
  const [l, r] = [since(left), since(right)];
  return l < 0 && r < 0 ? null : l > r ? 'left' : 'right';
}

/** The feet that hops land on: both where they mostly land together. */
function landsOn({ left, right, fps }: Contacts, { from, to }: Interval): 'left' | 'right' | 'both' {
  const within = (all: readonly Interval[]) => all.map((c) => c.from).filter((f) => f > from && f <= to);
  const [l, r] = [within(left), within(right)];
  const together = l.filter((f) => r.some((g) => Math.abs(f - g) < 0.08 * fps)).length;
  if (together * 2 >= Math.max(l.length, r.length)) return 'both';
  return l.length > r.length ? 'left' : 'right';
}

/** How much the ground rises from the first stance to the last, and on how many levels the feet are. */
function levelsOf({ soles, contacts }: Groundwork, own: Interval): { rise: number; levels: number } {
  const stances = (['left', 'right'] as const)
    .flatMap((side) => contacts[side].map((c) => ({ ...c, side })))
    .filter(({ from, to }) => to > own.from && from <= own.to && to - from >= 4)
    .sort((a, b) => a.from - b.from)
    .map(({ side, from, to }) => {
      const { heel, ball } = soles[side];
      return median(series(to - from, (i) => Math.min(heel[(from + i) * 3 + 1], ball[(from + i) * 3 + 1])));
    });
  if (stances.length === 0) return { rise: 0, levels: 0 };
  const levels: number[] = [];
  for (const y of stances) if (levels.every((known) => Math.abs(known - y) > LEAST_RISE / 2)) levels.push(y);
  return { rise: stances[stances.length - 1] - stances[0], levels: levels.length };
}
