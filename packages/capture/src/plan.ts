import type { Side } from '@lantern/motion';
import { footsteps, workFeet, type Stretch, type Work } from './footsteps';
import { footwork, type Footwork } from './footwork';
import { smooth } from './gait-table';
import type { FloorPath } from './path';
import type { Random } from './random';
import type { Style } from './style';

/** Samples a second at which the performer is worked out; every usual frame rate is read off it. */
export const FINE = 480;

/** Go along the path for `metres` at `speed`, stand for `seconds`, or do some footwork from standing to standing. */
export type Leg =
  | { readonly go: number; readonly speed: number; readonly fromStanding: boolean; readonly toStanding: boolean }
  | { readonly stand: number }
  | Footwork;

/** One foot on the ground. Times in fine samples (fractional); places on the floor, metres. */
export interface Stance {
  readonly side: Side;
  /** −Infinity for a foot that stood there from the start. */
  readonly strike: number;
  /** Infinity for one that stays. */
  readonly off: number;
  readonly flat: number;
  readonly heelOff: number;
  readonly x: number;
  readonly z: number;
  /** Of the ground under the foot, metres. */
  readonly level: number;
  readonly yaw: number;
  readonly strikePitch: number;
  readonly offPitch: number;
  readonly toeBend: number;
}

/** The performer's progress, one number per fine sample. */
export interface Plan {
  readonly samples: number;
  /** Strides since the start of the script, 0 at a left strike. */
  readonly phase: Float64Array;
  /** Metres along the path. */
  readonly distance: Float64Array;
  readonly speed: Float64Array;
  readonly stances: readonly Stance[];
  /** Turned on the spot so far, radians. */
  readonly spin: Float64Array;
  /** Height of the hips above standing where footwork sets it, else NaN. */
  readonly height: Float64Array;
  readonly style: Style;
  /** Which leg of the script each stretch of fine samples is. */
  readonly spans: readonly { readonly leg: Leg; readonly start: number; readonly end: number }[];
}

/** Left phase at which a performer who stands begins (the right foot is about to rise) and ends. */
const START_PHASE = -0.13;
/** Strides to get up to a speed or to come to a stop. */
const rampStrides = (speed: number) => 1.1 + 2 * smooth((speed - 1.4) / 1.2);

/**
 * Plans speed, stride phase and footsteps along a path: each foot lands where the hips will be half a stance later.
 */
export function plan(legs: readonly Leg[], path: FloorPath, random: Random, style: Style): Plan {
  const phase: number[] = [];
  const distance: number[] = [];
  const speed: number[] = [];
  const spin: number[] = [];
  const height: number[] = [];
  const worked: Work[] = [];
  const stretches: Stretch[] = [];
  const spans: { leg: Leg; start: number; end: number }[] = [];
  const ends = (leg: Leg, start: number) => spans.push({ leg, start, end: phase.length });
  let p = START_PHASE;
  let s = 0;
  for (const leg of legs) {
    const start = phase.length;
    if ('stand' in leg) {
      for (let i = 0; i < leg.stand * FINE; i++) {
        phase.push(p);
        distance.push(s);
        speed.push(0);
      }
      ends(leg, start);
      continue;
    }
    if (!('go' in leg)) {
      const work = footwork(leg);
      const turned = spin.at(-1) ?? 0;
      while (spin.length < start) spin.push(turned);
      while (height.length < start) height.push(Number.NaN);
      for (let i = 0; i < work.samples; i++) {
        phase.push(p);
        distance.push(s + work.ahead[i]);
        speed.push(0);
        spin.push(turned + work.turn[i]);
        height.push(work.height[i]);
      }
      worked.push({ start, distance: s, turned, rises: work.rises });
      s += work.ahead[work.samples - 1];
      ends(leg, start);
      continue;
    }
    if (leg.fromStanding) p = Math.ceil(p) + START_PHASE;
    const from = p;
    const ramp = rampStrides(leg.speed);
    const strides = stridesFor(leg.go, leg, style);
    const to = from + strides;
    while (p < to) {
      const up = leg.fromStanding ? smooth((p - from) / ramp) : 1;
      const down = leg.toStanding ? smooth((to - p) / ramp) : 1;
      const v = leg.speed * up * down;
      phase.push(p);
      distance.push(s);
      speed.push(v);
      p += style.strideRate(v) / FINE;
      s += v / FINE;
    }
    ends(leg, start);
    stretches.push({ start, end: phase.length, from, to, standsBefore: leg.fromStanding, standsAfter: leg.toStanding });
  }
  const result = {
    samples: phase.length,
    phase: Float64Array.from(phase),
    distance: Float64Array.from(distance),
    speed: Float64Array.from(speed),
    spin: Float64Array.from(phase, (_, i) => spin[i] ?? spin.at(-1) ?? 0),
    height: Float64Array.from(phase, (_, i) => height[i] ?? Number.NaN),
    style,
    spans,
  };
  return { ...result, stances: workFeet(footsteps(result, stretches, path, random), worked, result, path) };
}

/**
 * How many strides cover a distance: whole steps at the end of a leg that stops, so that the closing foot has just landed.
 */
function stridesFor(metres: number, leg: Extract<Leg, { go: number }>, style: Style): number {
  const ramp = rampStrides(leg.speed);
  let p = 0;
  let s = 0;
  // The ramps each cost about half their strides; run the same sums as the plan does, without the way down, then add it.
  while (s < metres) {
    const v = leg.speed * (leg.fromStanding ? smooth(p / ramp) : 1);
    p += style.strideRate(v) / FINE;
    s += v / FINE;
  }
  if (!leg.toStanding) return p;
  const steps = Math.round((p + ramp / 2 + (leg.fromStanding ? START_PHASE : 0)) * 2);
  return steps / 2 + 0.1 - (leg.fromStanding ? START_PHASE : 0);
}
