import type { Side } from '@lantern/motion';
import { smooth, type GaitTable } from './gait-table';
import { footwork, type Footwork } from './footwork';
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

type Progress = Omit<Plan, 'stances'>;

function footsteps(
  progress: Progress,
  stretches: readonly { start: number; end: number; from: number; to: number; standsBefore: boolean; standsAfter: boolean }[],
  path: FloorPath,
  random: Random,
): Stance[] {
  const stances: Stance[] = [];
  const { style } = progress;
  const gaitAt = style.table;
  const { strideRate } = style;
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
  const place = (side: Side, s: number, table: GaitTable) => placeFoot(side, s, table, path, style, random);

  if (stretches.length === 0) {
    const table = gaitAt(0);
    return (['left', 'right'] as const).map((side) => standing(side, place(side, 0, table), -Infinity, Infinity));
  }
  for (const side of ['left', 'right'] as const) {
    const shift = side === 'left' ? 0 : 0.5;
    // A foot that stands when the script begins, or between two stretches, is one stance with an open end.
    let open: (Pick<Stance, 'strike' | 'flat' | 'strikePitch'> & FootPlace) | null = null;
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
          stances.push(rise(side, open, stretch, strikePhase, timeOf, speedAt, style));
          open = null;
          continue;
        }
        if (open) {
          stances.push(rise(side, open, stretch, strikePhase - 1, timeOf, speedAt, style));
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
        else stances.push(rise(side, landing, stretch, strikePhase, timeOf, speedAt, style));
      }
    }
    if (open) stances.push({ side, ...open, heelOff: Infinity, off: Infinity, offPitch: 0, toeBend: 0 });
  }
  return stances.filter((stance) => stance.off > -FINE && stance.strike < progress.samples + FINE);
}

type FootPlace = Pick<Stance, 'x' | 'z' | 'level' | 'yaw'>;

/** Where a foot stands when the hips are at `s`: to its side of the body, whichever way that faces along the path. */
function placeFoot(side: Side, s: number, table: GaitTable, path: FloorPath, style: Style, random: Random, spin = 0): FootPlace {
  const at = path.at(s);
  const facing = at.heading + style.facing + spin;
  const sign = side === 'left' ? 1 : -1;
  const lateral = (table.width / 2) * sign + 0.004 * random.normal();
  return {
    x: at.x + Math.cos(facing) * lateral,
    z: at.z - Math.sin(facing) * lateral,
    level: path.level(s),
    yaw: facing + (sign * table.toesOut * Math.PI) / 180 + 0.015 * random.normal(),
  };
}

/** Footwork and where it is done: its first fine sample, the distance and the turn at which it begins. */
interface Work {
  readonly start: number;
  readonly distance: number;
  readonly turned: number;
  readonly rises: ReturnType<typeof footwork>['rises'];
}

/** Puts the steps and hops of footwork in: the foot that stands leaves the ground, and stands where it lands until the next time. */
function workFeet(stances: readonly Stance[], works: readonly Work[], progress: Progress, path: FloorPath): Stance[] {
  const out = [...stances];
  const table = progress.style.table(0);
  const still: Random = { next: () => 0.5, normal: () => 0 };
  for (const { start, distance, turned, rises } of works) {
    for (const { side, off, strike, ahead, turn } of rises) {
      const leaves = start + off * FINE;
      const lands = start + strike * FINE;
      const standing = out.findIndex((stance) => stance.side === side && stance.strike < leaves && stance.off > leaves);
      if (standing < 0) continue;
      out[standing] = { ...out[standing], heelOff: leaves - 0.16 * FINE, off: leaves, offPitch: 38, toeBend: 30 };
      out.push({
        side,
        ...placeFoot(side, distance + ahead, table, path, progress.style, still, turned + turn),
        strike: lands,
        flat: lands + 0.05 * FINE,
        strikePitch: 3,
        heelOff: Infinity,
        off: Infinity,
        offPitch: 0,
        toeBend: 0,
      });
    }
  }
  return out;
}

function standing(side: Side, at: FootPlace, strike: number, off: number): Stance {
  return { side, ...at, strike, off, flat: strike, heelOff: off, strikePitch: 0, offPitch: 0, toeBend: 0 };
}

/** Completes a landing with the way off the floor: heel off, roll over the ball, toe off. */
function rise(
  side: Side,
  landing: Pick<Stance, 'strike' | 'flat' | 'strikePitch' | 'x' | 'z' | 'level' | 'yaw'>,
  stretch: { start: number; end: number },
  strikePhase: number,
  timeOf: (stretch: { start: number; end: number }, phase: number) => number,
  speedAt: (time: number) => number,
  style: Style,
): Stance {
  const table = style.table(speedAt(timeOf(stretch, strikePhase + 0.3)));
  return {
    side,
    ...landing,
    heelOff: timeOf(stretch, strikePhase + table.heelOff),
    off: timeOf(stretch, strikePhase + table.duty),
    offPitch: table.offPitch,
    toeBend: table.toeBend,
  };
}
