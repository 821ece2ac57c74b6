import { RADIANS, random, type Side } from '@lantern/motion';
import { smooth, type GaitTable } from './gait-table';
import type { Style } from './style';
import { longMemory } from './wander';

/** How somebody feels, each from 0 (not at all) to 1. */
export interface Mood {
  /** Slow and heavy: the trunk hangs, the arms hardly swing, the head looks down. */
  readonly tired: number;
  /** Quick and upright: shorter strides, arms that swing far. */
  readonly brisk: number;
  /** On his guard: lower, the hands ready, the head never at rest. */
  readonly wary: number;
}

export const MOODS = ['tired', 'brisk', 'wary'] as const;
export const EVEN: Mood = { tired: 0, brisk: 0, wary: 0 };

/** What is somebody's own: no side is quite like the other, and no stride quite like the one before. */
export interface Person {
  readonly mood: Mood;
  /** The cadence at a phase as a share of what his gait has; of people, about 2 % to either side. */
  readonly pace: (phase: number) => number;
  /** The same of the swing of each arm, and of what the trunk does. */
  readonly armSwing: Readonly<Record<Side, (phase: number) => number>>;
  readonly trunk: (phase: number) => number;
  /** By how many seconds each arm is behind the body in a leap: the weaker one is a little later. */
  readonly lateArm: Readonly<Record<Side, number>>;
  /** By how many seconds each foot leaves the ground before the other in a leap off both: one is always the first. */
  readonly earlyFoot: Readonly<Record<Side, number>>;
  /** How much lower the right shoulder hangs, and how far the head is held aside, radians. */
  readonly shoulder: number;
  readonly headTilt: number;
}

/** Strides over which what he does wanders, the slowest and the quickest. */
const SLOWEST = 60;
const QUICKEST = 7;

/** Seconds that an arm is late for each whole that it swings less than it might; so of most people 10 to 40 ms. */
const LATE_BY = 0.3;
/** Seconds by which one foot leaves the ground before the other, as of most people, and at most. */
const EARLY_BY = 0.035;
const EARLIEST = 0.07;

/** @param uneven how much one stride differs from another: 0 not at all, 1 as those of people do */
export function personOf(seed: number, uneven: number, mood: Partial<Mood> = {}): Person {
  const own = random(seed ^ 0x9e50);
  const unlike = 0.1 * own.normal();
  const share = (size: number, sign = 0) => {
    const varies = longMemory(own, SLOWEST, QUICKEST);
    return (phase: number) => 1 + sign * unlike + size * varies(phase);
  };
  return {
    mood: { ...EVEN, ...mood },
    pace: share(0.021 * uneven),
    // One arm swings further than the other: which one, and by how much, is his own.
    armSwing: { left: share(0.07, 1), right: share(0.07, -1) },
    trunk: share(0.07),
    lateArm: { left: LATE_BY * Math.max(0, -unlike), right: LATE_BY * Math.max(0, unlike) },
    shoulder: 0.9 * own.normal() * RADIANS,
    headTilt: 0.8 * own.normal() * RADIANS,
    earlyFoot: earlier(EARLY_BY * own.normal()),
  };
}

/** @param by seconds by which the left foot is the first, negative where the right one is */
const earlier = (by: number): Record<Side, number> => ({
  left: Math.min(EARLIEST, Math.max(0, by)),
  right: Math.min(EARLIEST, Math.max(0, -by)),
});

type Change = Partial<Record<keyof GaitTable, (value: number) => number>>;

const times = (factor: number) => (value: number) => value * factor;
const more = (by: number) => (value: number) => value + by;

/** What a mood makes of a gait, at 1. */
const GAITS: Readonly<Record<keyof Mood, Change & { readonly cadence: number }>> = {
  tired: {
    cadence: 0.93,
    lean: more(4),
    rise: more(-0.012),
    bob: times(0.8),
    armSwing: times(0.5),
    elbow: times(0.8),
    axial: times(0.7),
    strikePitch: times(0.7),
    kneePeak: more(-4),
    width: more(0.015),
  },
  brisk: {
    cadence: 1.06,
    lean: more(1),
    armSwing: times(1.45),
    elbow: more(12),
    elbowSwing: times(1.3),
    axial: times(1.25),
    list: times(1.1),
  },
  wary: {
    cadence: 0.96,
    lean: more(5),
    rise: more(-0.035),
    armSwing: times(0.5),
    elbow: more(26),
    strikePitch: times(0.6),
    width: more(0.03),
  },
};

/** A manner of going, gone in a mood. Who stands is changed half as much as who goes. */
export function inMood(style: Style, mood: Mood): Style {
  const felt = MOODS.filter((name) => mood[name] > 0);
  if (felt.length === 0) return style;
  return {
    ...style,
    strideRate: (speed) => felt.reduce((rate, name) => rate * (1 + (GAITS[name].cadence - 1) * mood[name]), style.strideRate(speed)),
    table(speed) {
      const table: Record<keyof GaitTable, number> = { ...style.table(speed) };
      const on = 0.5 + 0.5 * smooth(speed / 0.6);
      for (const name of felt) {
        const { cadence: _, ...changes } = GAITS[name];
        for (const key of Object.keys(changes) as (keyof GaitTable)[]) {
          const changed = changes[key]?.(table[key]) ?? table[key];
          table[key] += (changed - table[key]) * mood[name] * on;
        }
      }
      return table;
    },
  };
}
