import { bodyCapsules, type Capsule } from '../character/body-capsules';
import { fixedAt } from '../character/fixed-at';
import { mirrorMap } from '../anatomy/mirror-map';
import { lowPass } from '../math/filter';
import { rotate, type Vec3 } from '../math/quat';
import { nearestOfSegments } from '../math/segments';
import { minus, norm, plus, times, vecAt } from '../math/vec';
import type { StageProp } from '../model/prop';
import { nearestOnProp } from '../measure/prop-surface';
import { handContacts, isHanging } from '../measure/hand-contacts';
import type { Groundwork } from '../measure/groundwork';
import type { Side } from '../model/body';
import type { FixedPoint } from '../model/fixed-point';
import type { Interval } from '../model/contacts';
import type { TouchTarget } from './layers';
import { pointAt, touchingLimb } from './touch-limb';

/** A hand that rests on something: frames, the first and the first after, and what it rests on. */
export interface HandHold extends Interval {
  readonly on: TouchTarget;
  /** It goes along what it rests on, as along a rail. */
  readonly slide?: boolean;
}

export type HandHolds = Readonly<Record<Side, readonly HandHold[]>>;

/** The middle of a hand on the body is so near its surface at the most, metres, and slower against it than this, metres a second. */
const NEAR = 0.055;
const SLOW = 0.12;
/** A hand that wanders so far on a part rests less likely on it than on another on which it wanders less, metres. */
const QUITE_STILL = 0.004;
/** A hand that rests is looked at without what is quicker than this, hertz. */
const STILL = 4;
/** The middle of a hand on a prop is so near its surface at the most, metres, and comes nearer or goes away more slowly than this, metres a second. */
const NEAR_PROP = 0.09;
const STEADY = 0.25;
/** A hand that goes further than this along a prop slides on it, metres. */
const SLIDES = 0.06;
/** A shorter rest on the body or a prop is not believed, nor is a gap as short, seconds. */
const SHORTEST = 0.3;

/**
 * What the hands of a motion rest on: a prop whose surface they keep to; the body's own trunk, legs and arms, against which a hand stands still though both move; or something in the world,
 * where it keeps its place while the shoulder moves over it.
 *
 * @param found of a motion in the world
 * @param props that hands may rest on
 */
export function findHandHolds(found: Groundwork, props: readonly StageProp[] = []): HandHolds {
  const world = handContacts(found.globals, found.body, found.motion.fps);
  const of = (side: Side) => {
    const onProps = likeliest(props.flatMap((prop) => propRests(found, side, prop)));
    const onBody = bodyRests(found, side).filter((own) => isApart(own, onProps));
    const others = world[side].filter((own) => isApart(own, [...onProps, ...onBody]));
    return [...onProps, ...onBody, ...others.map((rest) => placed(found, side, rest))].sort((a, b) => a.from - b.from);
  };
  return { left: of('left'), right: of('right') };
}

/**
 * A rest of a hand whose frames are set by hand, on what is nearest to it: a part of the body if the hand is beside it, else its mean place in the world.
 */
export function placed(found: Groundwork, side: Side, { from, to }: Interval): HandHold {
  const hand = handOf(found, side);
  const [first, last] = [Math.max(0, from), Math.min(found.globals.frames, to)];
  if (!hand || last <= first) return { from, to, on: { to: 'place', at: [0, 0, 0] } };
  const frames = Array.from({ length: last - first }, (_, i) => first + i);
  const gaps = partsBeside(found, side).map((part) => {
    const all = frames.map((f) => gapTo(found, part, pointAt(found.globals, hand, f), f));
    return { part, gap: all.reduce((sum, gap) => sum + gap, 0) / all.length };
  });
  // Of the parts that it is beside, that which it moves least against.
  const restless = ({ part }: (typeof gaps)[number]) =>
    spreadOf(frames.map((f) => inJoint(found.globals, part.from.joint, pointAt(found.globals, hand, f), f)));
  const beside = gaps.filter(({ gap }) => gap < NEAR).sort((a, b) => restless(a) - restless(b))[0];
  if (beside) return { from, to, on: onPart(found, beside.part, hand, frames) };
  const at = times(
    frames.reduce<Vec3>((sum, f) => plus(sum, pointAt(found.globals, hand, f)), [0, 0, 0]),
    1 / frames.length,
  );
  return { from, to, on: { to: 'place', at: [at[0], at[1], at[2]] } };
}

function handOf({ motion, body }: Groundwork, side: Side): FixedPoint | null {
  return touchingLimb(motion.skeleton, body, `${side} hand`, null)?.point ?? null;
}

/** The parts of the body that a hand can rest on: all but its own arm. */
function partsBeside({ motion, body }: Groundwork, side: Side): Capsule[] {
  const { trunk, thighs, shins, arms } = bodyCapsules(motion.skeleton, body);
  const other = side === 'left' ? 'right' : 'left';
  return [...trunk, ...Object.values(thighs), ...Object.values(shins), ...arms[other]];
}

function gapTo({ globals }: Groundwork, { from, to, radius }: Capsule, hand: Vec3, f: number): number {
  const { a, b } = nearestOfSegments(pointAt(globals, from, f), pointAt(globals, to, f), hand, hand);
  return norm(minus(a, b)) - radius;
}

/** The hand's mean place on a part, in the axes of its joint as they are in the rest pose. */
function onPart({ motion, globals }: Groundwork, { from }: Capsule, hand: FixedPoint, frames: readonly number[]): TouchTarget {
  let sum: Vec3 = [0, 0, 0];
  for (const f of frames) sum = plus(sum, inJoint(globals, from.joint, pointAt(globals, hand, f), f));
  const out: [number, number, number] = [0, 0, 0];
  rotate(out, 0, mirrorMap(motion.skeleton).reference, from.joint * 4, times(sum, 1 / frames.length), 0);
  return { to: 'joint', joint: motion.skeleton.joints[from.joint].name, at: out };
}

function inJoint({ positions, rotations, joints }: Groundwork['globals'], joint: number, place: Vec3, f: number): Vec3 {
  const pose = {
    positions: vecAt(positions, f * joints + joint),
    rotations: rotations.subarray((f * joints + joint) * 4, (f * joints + joint) * 4 + 4),
  };
  return fixedAt(pose, 0, place).local as Vec3;
}

function bodyRests(found: Groundwork, side: Side): HandHold[] {
  const { globals, motion, body } = found;
  const hand = handOf(found, side);
  if (!hand) return [];
  const points = Array.from({ length: globals.frames }, (_, f) => pointAt(globals, hand, f));
  const shortest = Math.round(SHORTEST * motion.fps);
  const holds: Rest[] = [];
  for (const part of partsBeside(found, side)) {
    const local = smoothed(
      points.map((point, f) => inJoint(globals, part.from.joint, point, f)),
      motion.fps,
    );
    const speed = (f: number) => {
      const [a, b] = [Math.max(0, f - 1), Math.min(points.length - 1, f + 1)];
      return b > a ? (norm(minus(local[b], local[a])) * motion.fps) / (b - a) : 0;
    };
    const rests = (f: number) => speed(f) < SLOW && !isHanging(globals, body.arms[side], f) && gapTo(found, part, points[f], f) < NEAR;
    for (const { from, to } of stretches(points.length, rests, shortest)) {
      const frames = Array.from({ length: to - from }, (_, i) => from + i);
      const restless = spreadOf(local.slice(from, to)) / QUITE_STILL ** 2;
      holds.push({ hold: { from, to, on: onPart(found, part, hand, frames) }, worth: (to - from) / (1 + restless) });
    }
  }
  return likeliest(holds);
}

/** A rest that may be one, and how much speaks for it: its length, the less the more it moves. */
interface Rest {
  readonly hold: HandHold;
  readonly worth: number;
}

/** Without what is quicker than a hand that rests: a suit's noise. */
function smoothed(places: readonly Vec3[], fps: number): Vec3[] {
  const [x, y, z] = [0, 1, 2].map((k) =>
    lowPass(
      places.map((place) => place[k]),
      STILL,
      fps,
    ),
  );
  return places.map((_, f) => [x[f], y[f], z[f]]);
}

/** Mean square distance from the mean place. */
function spreadOf(places: readonly Vec3[]): number {
  const mean = times(
    places.reduce<Vec3>((sum, place) => plus(sum, place), [0, 0, 0]),
    1 / places.length,
  );
  return places.reduce((sum, place) => sum + norm(minus(place, mean)) ** 2, 0) / places.length;
}

/** Of rests that overlap the likelier. */
function likeliest(rests: readonly Rest[]): HandHold[] {
  const out: HandHold[] = [];
  for (const { hold } of [...rests].sort((a, b) => b.worth - a.worth)) if (isApart(hold, out)) out.push(hold);
  return out;
}

const isApart = (one: Interval, others: readonly Interval[]): boolean => others.every(({ from, to }) => to <= one.from || from >= one.to);

function propRests(found: Groundwork, side: Side, prop: StageProp): Rest[] {
  const { globals, motion, contacts } = found;
  const hand = handOf(found, side);
  if (!hand) return [];
  const points = smoothed(
    Array.from({ length: globals.frames }, (_, f) => pointAt(globals, hand, f)),
    motion.fps,
  );
  const onIt = points.map(([x, y, z]): Vec3 => {
    const [px, py, pz] = nearestOnProp(prop, [x, y - contacts.floorM, z]).place;
    return [px, py + contacts.floorM, pz];
  });
  const gaps = points.map((point, f) => norm(minus(point, onIt[f])));
  const rests = (f: number) => {
    const [a, b] = [Math.max(0, f - 1), Math.min(points.length - 1, f + 1)];
    const isSteady = b > a && (Math.abs(gaps[b] - gaps[a]) * motion.fps) / (b - a) < STEADY;
    return gaps[f] < NEAR_PROP && isSteady && !isHanging(globals, found.body.arms[side], f);
  };
  return stretches(points.length, rests, Math.round(SHORTEST * motion.fps)).map(({ from, to }) => {
    const way = Math.max(...onIt.slice(from, to).map((place) => norm(minus(place, onIt[from]))));
    return { hold: { from, to, on: { to: 'prop', prop }, ...(way > SLIDES && { slide: true }) }, worth: to - from };
  });
}

/** Stretches of frames in which something holds; gaps up to the shortest are bridged, and shorter stretches left out. */
function stretches(frames: number, holds: (f: number) => boolean, shortest: number): Interval[] {
  const out: { from: number; to: number }[] = [];
  for (let f = 0; f < frames; f++) {
    if (!holds(f)) continue;
    const last = out.at(-1);
    if (last && f - last.to <= shortest) last.to = f + 1;
    else out.push({ from: f, to: f + 1 });
  }
  return out.filter(({ from, to }) => to - from >= shortest);
}
