import {
  createMotion,
  fromAxisAngle,
  IDENTITY,
  RADIANS,
  random,
  rotate,
  type Joint,
  type Motion,
  type Random,
  type Side,
  type Vec3,
} from '@lantern/motion';
import { holding, type Hold } from './arms';
import type { Figure } from './figure';
import { smooth } from './gait-table';
import type { Mood } from './person';
import { wander } from './wander';

/** A finger of the left hand in a T-pose with the palms down, for a stature of 1.78 m: metres, X towards the tips, Z towards the thumb. */
interface Finger {
  readonly name: string;
  readonly knuckle: Vec3;
  /** The way it points; its bones, the last to the tip. */
  readonly along: Vec3;
  readonly bones: readonly [number, number, number];
  /** About which axis it bends: of fingers across the palm; a thumb comes round in front of it. */
  readonly bends: 'across' | 'round';
  /** Degrees at rest of the first and of the middle joint. */
  readonly rest: Pair;
  /** How far each of them goes on when the hand closes. */
  readonly closes: Pair;
}

type Pair = readonly [number, number];

const finger = (name: string, knuckle: Vec3, bones: Finger['bones'], rest: Pair, closes: Pair): Finger => ({
  name,
  knuckle,
  along: [1, 0, 0],
  bones,
  bends: 'across',
  rest,
  closes,
});

/** Lengths after Buryanov and Kotiuk, *Proportions of hand segments*, 2010. At rest a hand is bent more towards the little finger. */
const HAND: readonly Finger[] = [
  {
    ...finger('Thumb', [0.024, -0.008, 0.022], [0.046, 0.032, 0.026], [14, 12], [16, 26]),
    along: [Math.SQRT1_2, 0, Math.SQRT1_2],
    bends: 'round',
  },
  finger('Index', [0.093, 0, 0.026], [0.04, 0.022, 0.02], [20, 26], [42, 60]),
  finger('Middle', [0.09, 0, 0.005], [0.045, 0.026, 0.021], [25, 31], [44, 60]),
  finger('Ring', [0.084, 0, -0.014], [0.041, 0.026, 0.021], [29, 35], [46, 56]),
  finger('Little', [0.079, 0, -0.032], [0.033, 0.018, 0.02], [33, 38], [48, 52]),
];

/** The last joint bends along with the middle one. Source: Rijpkema and Girard, *Computer animation of knowledge-based human grasping*, 1991. */
const LAST = 2 / 3;

/** Degrees that a knuckle bends for each degree that the wrist goes back: the tendons are pulled. */
const TENODESIS = 0.45;

/** How closed a hand is that holds something, on the scale on which 0 is at rest and 1 a fist. */
const GRIP = 0.8;

/** Standard deviation of a finger's joint in a suit with the usual faults, degrees. */
const JITTER = 0.3;

const within = (least: number, value: number, most: number) => Math.min(most, Math.max(least, value));

/** What gloves are to know of who wears them. */
export interface Worn {
  readonly figure: Figure;
  readonly seed: number;
  /** What the suit gets wrong, by a seed of its own. */
  readonly solve: number;
  readonly mood: Mood;
  readonly holds?: readonly Hold[];
  /** Seconds into the script of each frame. */
  readonly at: readonly number[];
  /** 0 none, 1 the usual faults of a suit. */
  readonly faults: number;
}

/**
 * The same motion with the fingers that gloves record: three joints a finger. What the body does stays what it was, to the bit.
 * Fingers are never still: a hand half closes as its owner runs, more in one who is brisk; it holds what it rests on, a finger follows
 * the wrist by its tendons, and each wanders by itself.
 */
export function withFingers(motion: Motion, worn: Worn): Motion {
  const { figure, seed, solve, at, faults } = worn;
  const own = random(seed ^ 0x61f5);
  const noise = random(solve ^ 0x3d17);
  const size = figure.stature / 1.78;
  const joints: Joint[] = motion.skeleton.joints.map((joint) => (/Hand$/.test(joint.name) ? { ...joint, endSites: [] } : joint));
  const bent: { readonly joint: number; readonly axis: Vec3; readonly degrees: (frame: number) => number }[] = [];
  const speed = floorSpeed(motion);
  for (const side of ['left', 'right'] as const) {
    const named = side === 'left' ? 'Left' : 'Right';
    const sign = side === 'left' ? 1 : -1;
    const hand = joints.findIndex(({ name }) => name === `${named}Hand`);
    const closed = closing(own, side, speed, worn);
    const back = wristBack(motion, hand, sign);
    for (const { name, knuckle, along, bones, bends, rest, closes } of HAND) {
      const toSide = ([x, y, z]: Vec3, by: number): Vec3 => [x * by * sign, y * by, z * by];
      const axis: Vec3 = bends === 'across' ? [0, 0, -sign] : [0.35, 0.9 * sign, 0];
      const alone = wander(own, 4 + 3 * own.next());
      const pulled = bends === 'across' ? TENODESIS : 0;
      const first = (f: number) => within(-8, rest[0] + closes[0] * closed[f] + pulled * back[f] + 2.2 * alone(at[f]), 88);
      const middle = (f: number) => within(0, rest[1] + closes[1] * closed[f] + 2.6 * alone(at[f] - 0.08), 105);
      const degrees = [first, middle, (f: number) => LAST * middle(f)];
      degrees.forEach((degreesAt, i) => {
        const isLast = i === bones.length - 1;
        joints.push({
          name: `${named}${name}${i + 1}`,
          parent: i === 0 ? hand : joints.length - 1,
          offset: i === 0 ? toSide(knuckle, size) : toSide(along, bones[i - 1] * size),
          restRotation: IDENTITY,
          endSites: isLast ? [toSide(along, bones[i] * size)] : [],
        });
        bent.push({ joint: joints.length - 1, axis, degrees: degreesAt });
      });
    }
  }
  const out = createMotion({ joints }, motion.fps, motion.frames);
  out.rootPositions.set(motion.rootPositions);
  const had = motion.skeleton.joints.length;
  for (let f = 0; f < motion.frames; f++) {
    out.rotations.set(motion.rotations.subarray(f * had * 4, (f + 1) * had * 4), f * joints.length * 4);
    for (const { joint, axis, degrees } of bent) {
      out.rotations.set(fromAxisAngle(axis, (degrees(f) + JITTER * faults * noise.normal()) * RADIANS), (f * joints.length + joint) * 4);
    }
  }
  return out;
}

/** How closed a hand is in each frame: 0 at rest, 1 a fist. */
function closing(own: Random, side: Side, speed: Float64Array, { mood, holds = [], at }: Worn): Float64Array {
  const base = 0.22 * mood.brisk - 0.12 * mood.wary - 0.05 * mood.tired + 0.05 * own.normal();
  const slowly = wander(own, 9);
  const held = holds.filter((hold) => hold.side === side);
  const fidgets = fidgetsUntil(own, Math.max(at[0], at[at.length - 1]));
  return Float64Array.from(at, (t, f) => {
    const fidget = fidgets.reduce((sum, { from, lasts }) => sum + Math.sin(Math.PI * within(0, (t - from) / lasts, 1)) ** 2, 0);
    const running = smooth((speed[f] - 1.7) / 1.5);
    const free = base + 0.42 * running + 0.05 * slowly(t) + 0.3 * fidget * (1 - smooth(speed[f] / 0.5));
    return free + (GRIP - free) * held.reduce((most, hold) => Math.max(most, holding(hold, t)), 0);
  });
}

/** When somebody who stands closes his hand for a moment. */
function fidgetsUntil(own: Random, seconds: number): readonly { readonly from: number; readonly lasts: number }[] {
  const out = [];
  for (let t = 3 + 8 * own.next(); t < seconds; t += 6 + 12 * own.next()) out.push({ from: t, lasts: 0.9 + 0.8 * own.next() });
  return out;
}

/** How far a wrist is bent towards the back of the hand in each frame, degrees. */
function wristBack({ rotations, frames, skeleton }: Motion, hand: number, sign: number): Float64Array {
  const joints = skeleton.joints.length;
  const along = [0, 0, 0];
  return Float64Array.from({ length: frames }, (_, f) => {
    rotate(along, 0, rotations, (f * joints + hand) * 4, [sign, 0, 0], 0);
    return Math.asin(within(-1, along[1], 1)) / RADIANS;
  });
}

/** Metres a second over the floor in each frame, over half a second. */
function floorSpeed({ rootPositions, frames, fps }: Motion): Float64Array {
  const reach = Math.max(1, Math.round(fps / 4));
  return Float64Array.from({ length: frames }, (_, f) => {
    const [a, b] = [Math.max(0, f - reach), Math.min(frames - 1, f + reach)];
    const way = Math.hypot(rootPositions[b * 3] - rootPositions[a * 3], rootPositions[b * 3 + 2] - rootPositions[a * 3 + 2]);
    return b > a ? (way * fps) / (b - a) : 0;
  });
}
