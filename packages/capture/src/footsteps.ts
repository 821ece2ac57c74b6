import type { Side, Random } from '@lantern/motion';
import type { footwork } from './footwork';
import type { GaitTable } from './gait-table';
import type { FloorPath } from './path';
import { FINE, type Plan, type Stance } from './plan-data';
import type { Style } from './style';

type Progress = Omit<Plan, 'stances'>;

/** A stretch of going: its fine samples, its phases, and whether he stands at its ends. */
export interface Stretch {
  readonly start: number;
  readonly end: number;
  readonly from: number;
  readonly to: number;
  readonly standsBefore: boolean;
  readonly standsAfter: boolean;
}

/** Where and when each foot stands. */
export function footsteps(progress: Progress, stretches: readonly Stretch[], path: FloorPath, random: Random): Stance[] {
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
export interface Work {
  readonly start: number;
  readonly distance: number;
  readonly turned: number;
  readonly rises: ReturnType<typeof footwork>['rises'];
}

/** Puts the steps and hops of footwork in: the foot that stands leaves the ground, and stands where it lands until the next time. */
export function workFeet(stances: readonly Stance[], works: readonly Work[], progress: Progress, path: FloorPath): Stance[] {
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
