import type { Side } from '@lantern/motion';
import { gaitAt, smooth, strideRate, type GaitTable } from './gait-table';
import type { FloorPath } from './path';
import type { Random } from './random';

/** Samples a second at which the performer is worked out; every usual frame rate is read off it. */
export const FINE = 480;

/** Go along the path for `metres` at `speed`, or stand for `seconds`. */
export type Leg =
  | { readonly go: number; readonly speed: number; readonly fromStanding: boolean; readonly toStanding: boolean }
  | { readonly stand: number };

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
}

/** Left phase at which a performer who stands begins (the right foot is about to rise) and ends. */
const START_PHASE = -0.13;
/** Strides to get up to a speed or to come to a stop. */
const rampStrides = (speed: number) => 1.1 + 2 * smooth((speed - 1.4) / 1.2);

/**
 * Plans speed, stride phase and footsteps along a path: each foot lands where the hips will be half a stance later.
 */
export function plan(legs: readonly Leg[], path: FloorPath, random: Random): Plan {
  const phase: number[] = [];
  const distance: number[] = [];
  const speed: number[] = [];
  const stretches: { start: number; end: number; from: number; to: number; standsBefore: boolean; standsAfter: boolean }[] = [];
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
      continue;
    }
    if (leg.fromStanding) p = Math.ceil(p) + START_PHASE;
    const from = p;
    const ramp = rampStrides(leg.speed);
    const strides = stridesFor(leg.go, leg);
    const to = from + strides;
    while (p < to) {
      const up = leg.fromStanding ? smooth((p - from) / ramp) : 1;
      const down = leg.toStanding ? smooth((to - p) / ramp) : 1;
      const v = leg.speed * up * down;
      phase.push(p);
      distance.push(s);
      speed.push(v);
      p += strideRate(v) / FINE;
      s += v / FINE;
    }
    stretches.push({ start, end: phase.length, from, to, standsBefore: leg.fromStanding, standsAfter: leg.toStanding });
  }
  const result = {
    samples: phase.length,
    phase: Float64Array.from(phase),
    distance: Float64Array.from(distance),
    speed: Float64Array.from(speed),
  };
  return { ...result, stances: footsteps(result, stretches, path, random) };
}

/**
 * How many strides cover a distance: whole steps at the end of a leg that stops, so that the closing foot has just landed.
 */
function stridesFor(metres: number, leg: Extract<Leg, { go: number }>): number {
  const ramp = rampStrides(leg.speed);
  let p = 0;
  let s = 0;
  // The ramps each cost about half their strides; run the same sums as the plan does, without the way down, then add it.
  while (s < metres) {
    const v = leg.speed * (leg.fromStanding ? smooth(p / ramp) : 1);
    p += strideRate(v) / FINE;
    s += v / FINE;
  }
  if (!leg.toStanding) return p;
  const steps = Math.round((p + ramp / 2 + (leg.fromStanding ? START_PHASE : 0)) * 2);
  return steps / 2 + 0.1 - (leg.fromStanding ? START_PHASE : 0);
}

type Progress = Pick<Plan, 'samples' | 'phase' | 'distance' | 'speed'>;

function footsteps(
  progress: Progress,
  stretches: readonly { start: number; end: number; from: number; to: number; standsBefore: boolean; standsAfter: boolean }[],
  path: FloorPath,
  random: Random,
): Stance[] {
  const stances: Stance[] = [];
  /** Fine sample (fractional, extrapolated at the pace of the end) at which a phase is reached within a stretch. */
  const timeOf = (stretch: { start: number; end: number }, phase: number): number => {
    let low = stretch.start;
    let high = stretch.end - 1;
    if (phase < progress.phase[low]) return low - ((progress.phase[low] - phase) * FINE) / strideRate(progress.speed[low]);
    if (phase > progress.phase[high]) return high + ((phase - progress.phase[high]) * FINE) / strideRate(progress.speed[high]);
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (progress.phase[middle] <= phase) low = middle;
      else high = middle;
    }
    return low + (phase - progress.phase[low]) / (progress.phase[high] - progress.phase[low] || 1);
  };
  const sampled = (values: Float64Array, time: number) => {
    const last = values.length - 1;
    if (time <= 0) return values[0] + time * (values[1] - values[0]);
    if (time >= last) return values[last] + (time - last) * (values[last] - values[last - 1]);
    const i = Math.floor(time);
    return values[i] + (values[Math.min(last, i + 1)] - values[i]) * (time - i);
  };
  const place = (side: Side, s: number, table: GaitTable) => {
    const at = path.at(s);
    const sign = side === 'left' ? 1 : -1;
    const lateral = (table.width / 2) * sign + 0.004 * random.normal();
    return {
      x: at.x + Math.cos(at.heading) * lateral,
      z: at.z - Math.sin(at.heading) * lateral,
      yaw: at.heading + (sign * table.toesOut * Math.PI) / 180 + 0.015 * random.normal(),
    };
  };

  if (stretches.length === 0) {
    const table = gaitAt(0);
    return (['left', 'right'] as const).map((side) => standing(side, place(side, 0, table), -Infinity, Infinity));
  }
  for (const side of ['left', 'right'] as const) {
    const shift = side === 'left' ? 0 : 0.5;
    // A foot that stands when the script begins, or between two stretches, is one stance with an open end.
    let open: { strike: number; flat: number; strikePitch: number; x: number; z: number; yaw: number } | null = null;
    for (const stretch of stretches) {
      if (stretch.standsBefore && !open) {
        const s = progress.distance[stretch.start];
        open = { strike: -Infinity, flat: -Infinity, strikePitch: 0, ...place(side, s, gaitAt(0)) };
      }
      // Enough strides before a stretch that begins in mid-gait that a stance reaches into it.
      const firstStride = Math.ceil(stretch.from - shift - (stretch.standsBefore ? 0 : 1));
      for (let k = firstStride; k + shift < stretch.to + (stretch.standsAfter ? 0 : 1); k++) {
        const strikePhase = k + shift;
        const strike = timeOf(stretch, strikePhase);
        const speedAt = (time: number) => sampled(progress.speed, Math.min(stretch.end - 1, Math.max(stretch.start, time)));
        if (open && stretch.standsBefore && strikePhase - stretch.from < 0.45) {
          // He stands on this foot already: it needs no strike, only its next rise.
          stances.push(rise(side, open, stretch, strikePhase, timeOf, speedAt));
          open = null;
          continue;
        }
        if (open) {
          stances.push(rise(side, open, stretch, strikePhase - 1, timeOf, speedAt));
          open = null;
        }
        const table = gaitAt(speedAt(strike));
        const middle = timeOf(stretch, strikePhase + table.duty / 2);
        const gaitThere = gaitAt(speedAt(middle));
        const s = sampled(progress.distance, stretch.standsAfter ? Math.min(middle, stretch.end - 1) : middle);
        const landing = {
          strike,
          flat: timeOf(stretch, strikePhase + table.flat),
          strikePitch: table.strikePitch + 0.7 * random.normal(),
          ...place(side, s + gaitThere.midStance + 0.006 * random.normal(), gaitThere),
        };
        const offPhase = strikePhase + gaitAt(speedAt(timeOf(stretch, strikePhase + 0.3))).duty;
        if (stretch.standsAfter && offPhase > stretch.to) open = landing;
        else stances.push(rise(side, landing, stretch, strikePhase, timeOf, speedAt));
      }
    }
    if (open) stances.push({ side, ...open, heelOff: Infinity, off: Infinity, offPitch: 0, toeBend: 0 });
  }
  return stances.filter((stance) => stance.off > -FINE && stance.strike < progress.samples + FINE);
}

function standing(side: Side, at: { x: number; z: number; yaw: number }, strike: number, off: number): Stance {
  return { side, ...at, strike, off, flat: strike, heelOff: off, strikePitch: 0, offPitch: 0, toeBend: 0 };
}

/** Completes a landing with the way off the floor: heel off, roll over the ball, toe off. */
function rise(
  side: Side,
  landing: Pick<Stance, 'strike' | 'flat' | 'strikePitch' | 'x' | 'z' | 'yaw'>,
  stretch: { start: number; end: number },
  strikePhase: number,
  timeOf: (stretch: { start: number; end: number }, phase: number) => number,
  speedAt: (time: number) => number,
): Stance {
  const table = gaitAt(speedAt(timeOf(stretch, strikePhase + 0.3)));
  return {
    side,
    ...landing,
    heelOff: timeOf(stretch, strikePhase + table.heelOff),
    off: timeOf(stretch, strikePhase + table.duty),
    offPitch: table.offPitch,
    toeBend: table.toeBend,
  };
}
