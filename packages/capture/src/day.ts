import { random, type Motion, type Random, type Side } from '@lantern/motion';
import { captureScript, type Truth } from './capture';
import { DAY, type Shot, type Try } from './day-shots';
import { floorPath, type FloorPath } from './path';
import { personOf } from './person';
import { plan } from './plan';
import { FINE, type Going, type Leg, type Plan } from './plan-data';
import type { Script } from './scripts';

/** What went wrong with a try: he stumbled, the suit was still being started, or it was the other foot. */
export type Spoilt = 'stumble' | 'cut' | 'wrong-foot';

/** One try of a take, as it was: frames, the first and the first after. */
export interface DayTry {
  readonly from: number;
  readonly to: number;
  /** Slots of a set that it was asked for, and those that it is good for: with a wrong foot, others. */
  readonly asked: readonly string[];
  readonly gives: readonly string[];
  readonly spoilt: Spoilt | null;
}

/** A take of a capture day. */
export interface DayTake {
  readonly name: string;
  readonly motion: Motion;
  readonly truth: Omit<Truth, 'script'> & { readonly tries: readonly DayTry[] };
}

export interface DayOptions {
  readonly fps?: number;
  /** 0 none, 1 the usual faults of a suit. */
  readonly faults?: number;
  /** The same day solved anew: other noise, and takes that begin a little earlier or later. */
  readonly solve?: number;
  readonly stature?: number;
}

/** How often a take of several tries has one that went wrong. */
const SPOILS = 0.55;

/**
 * A capture day, take by take: what a performer gives for the full list of slots, several tries of each, some of them spoilt, recorded by the simulated suit.
 *
 * @example
 * const [first] = captureDay(1);
 * first.truth.tries.length; // 1
 */
export function* captureDay(seed: number, options: DayOptions = {}): Generator<DayTake, void> {
  for (const name of DAY_TAKES) yield captureDayTake(name, seed, options);
}

/** What the takes of a day are called, in the order in which they are captured. */
export const DAY_TAKES: readonly string[] = DAY.map(({ name }) => name);

/**
 * One take of a capture day, the same as among all of them.
 *
 * @throws Error when no take of a day is called so
 *
 * @example
 * captureDayTake('turns', 1).truth.tries.length; // 6
 */
export function captureDayTake(name: string, seed: number, options: DayOptions = {}): DayTake {
  const at = DAY.findIndex((shot) => shot.name === name);
  if (at < 0) throw new Error(`No take of a day is called “${name}”.`);
  return captureShot(DAY[at], (seed * 1009 + at * 31) >>> 0, options);
}

function captureShot(shot: Shot, seed: number, { fps = 60, faults = 1, solve, stature }: DayOptions): DayTake {
  const chance = random(seed ^ 0xda1);
  const tries = shot.tries(chance);
  const spoils = spoiltTries(tries, shot.backwards ?? false, chance);
  const played = tries.map((own, i) => spoil(own, spoils.get(i) ?? null, chance));
  const script = scriptOf(shot, played, seed);
  const { motion, truth, steps } = captureScript(script, {
    fps,
    faults,
    seed,
    uneven: 1,
    solve: solve === undefined ? seed : seed ^ (solve * 7919),
    stature,
  });
  // The suit of a cut start was switched on when he was already on his way; a delivery of its own begins where its solver began.
  const setsOff = steps.spans.find(({ leg }) => 'go' in leg)?.start ?? 0;
  const cut = spoils.get(0) === 'cut' ? Math.round((setsOff / FINE + 0.4 + 0.6 * chance.next()) * fps) : 0;
  const first = cut + (solve === undefined ? 0 : Math.round(random(seed ^ solve).next() * 0.25 * fps));
  const frames = motion.frames - first;
  const spans = legSpans(played);
  const inFrames = (sample: number) => Math.round((sample / FINE) * fps) - first;
  return {
    name: shot.name,
    motion: cutFrom(motion, first),
    truth: {
      ...truth,
      motion: cutFrom(truth.motion, first),
      left: shifted(truth.left, first, frames),
      right: shifted(truth.right, first, frames),
      labels: shifted(truth.labels, first, frames),
      tries: played.map((own, i) => {
        const { start } = steps.spans[spans[i].first];
        const { end } = steps.spans[spans[i].last];
        const [from, to] = shot.backwards ? [steps.samples - end, steps.samples - start] : [start, end];
        const spoilt = spoils.get(i) ?? null;
        const asked = own.pivots ? [`pivot/jog/${footAtSlowest(steps, start, end)}/180`] : own.gives;
        const gives = spoilt === 'wrong-foot' ? asked.map(onOtherFoot) : asked;
        return { from: Math.max(0, inFrames(from)), to: Math.min(frames, inFrames(to)), asked, gives, spoilt };
      }),
    },
  };
}

/** `stop/jog/left` for `stop/jog/right`: what a try with the wrong foot is good for. */
const onOtherFoot = (slot: string): string =>
  /^(start|stop)\//.test(slot) ? slot.replace(/(left|right)$/, (side) => (side === 'left' ? 'right' : 'left')) : slot;

/** The foot that bears where somebody who is under way is slowest: the later one to have landed. */
function footAtSlowest({ speed, stances }: Plan, start: number, end: number): Side {
  const most = speed.subarray(start, end).reduce((quickest, v) => Math.max(quickest, v), 0);
  const quick = (i: number) => speed[i] > 0.8 * most;
  const span = Array.from({ length: end - start }, (_, i) => start + i);
  const [first, last] = [span.find(quick) ?? start, span.findLast(quick) ?? end];
  let slowest = first;
  for (let i = first; i <= last; i++) if (speed[i] < speed[slowest]) slowest = i;
  const bearing = stances.filter(({ strike, off }) => strike <= slowest && off > slowest);
  return bearing.reduce((a, b) => (b.strike > a.strike ? b : a), bearing[0] ?? stances[0]).side;
}

/** Which tries went wrong, and how; one of each kind of try is always left. */
function spoiltTries(tries: readonly Try[], backwards: boolean, chance: Random): Map<number, Spoilt> {
  const out = new Map<number, Spoilt>();
  if (chance.next() > SPOILS) return out;
  const likeIt = (i: number) => tries.filter((own) => own.gives.join() === tries[i].gives.join()).length;
  const able = tries.flatMap(({ legs }, i) => (likeIt(i) > 1 ? legs.flatMap((leg) => ('go' in leg ? [{ i, leg }] : [])) : []));
  if (able.length === 0) return out;
  const { i, leg } = able[Math.floor(chance.next() * able.length)];
  const kinds: Spoilt[] = ['stumble', ...(i === 0 && !backwards ? (['cut'] as const) : []), ...(leg.last ? (['wrong-foot'] as const) : [])];
  out.set(i, kinds[Math.floor(chance.next() * kinds.length)]);
  return out;
}

const other = (side: Side | undefined): Side | undefined => side && (side === 'left' ? 'right' : 'left');

function spoil(own: Try, how: Spoilt | null, chance: Random): Try {
  if (how === null || how === 'cut') return own;
  const legs = own.legs.map((leg): Leg => {
    if (!('go' in leg)) return leg;
    if (how === 'wrong-foot') return { ...leg, first: other(leg.first), last: other(leg.last) };
    const at = leg.go * (0.35 + 0.3 * chance.next());
    return { ...leg, dips: [...(leg.dips ?? []), { at, by: 0.6, metres: 0.25 * leg.speed, lurch: 22 }] };
  });
  return { ...own, legs };
}

/** The legs of a try among those of all, each try followed by a stand. */
function legSpans(tries: readonly Try[]): { first: number; last: number }[] {
  let next = 0;
  return tries.map(({ legs }) => {
    const first = next;
    next += legs.length;
    return { first, last: next - 1 };
  });
}

function scriptOf(shot: Shot, tries: readonly Try[], seed: number): Script {
  const legs = tries.flatMap((own) => own.legs);
  // How far he has come by when does not depend on where the way bends.
  const { spans, distance } = plan(legs, STRAIGHT, random(1), shot.style, personOf(seed, 1));
  const starts = tries.flatMap((own, i) => {
    const { first } = legSpans(tries)[i];
    return own.legs.map((leg, k) => ({
      leg,
      at: distance[Math.min(distance.length - 1, spans[first + k].start)],
      bends: own.bends,
      kerbs: own.kerbs,
    }));
  });
  const going = starts.filter((own): own is typeof own & { leg: Going } => 'go' in own.leg);
  const pieces: { metres: number; turn?: number }[] = [];
  let along = 0;
  for (const { at, bends = [] } of going) {
    for (const bend of bends) {
      pieces.push({ metres: at + bend.at - along }, { metres: bend.metres, turn: bend.turn });
      along = at + bend.at + bend.metres;
    }
  }
  pieces.push({ metres: Math.max(1, distance[distance.length - 1] + 4 - along) });
  const kerbs = going.flatMap(({ at, kerbs: own = [] }) => own.map((kerb) => ({ ...kerb, at: at + kerb.at })));
  return { legs, path: pieces, margin: 0, style: shot.style, kerbs: kerbs.length > 0 ? kerbs : undefined, backwards: shot.backwards };
}

const STRAIGHT: FloorPath = floorPath([{ metres: 1 }]);

function cutFrom(motion: Motion, first: number): Motion {
  const width = motion.skeleton.joints.length * 4;
  return {
    ...motion,
    frames: motion.frames - first,
    rotations: motion.rotations.slice(first * width),
    rootPositions: motion.rootPositions.slice(first * 3),
  };
}

const shifted = <Span extends { readonly from: number; readonly to: number }>(all: readonly Span[], by: number, frames: number): Span[] =>
  all.flatMap((own) => (own.to > by ? [{ ...own, from: Math.max(0, own.from - by), to: Math.min(frames, own.to - by) }] : []));
