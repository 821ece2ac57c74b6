import { smoothStep5 } from '../math/smooth';
import { monotoneCurve, type Curve } from '../math/monotone';
import type { Layer } from './layers';

/** What a layer asks of a joint: three numbers of its turn, degrees, and three of its shift, metres. */
export const PER_KEY = 6;

/** A layer over time, in frames of the clip. */
export interface LayerCourse {
  /** The joints that it has keys of, by name. */
  readonly joints: readonly string[];
  /** What it asks of a joint at a frame, by its weight, six numbers; all of them 0 outside of its fades. */
  at(joint: string, frame: number, out: number[]): void;
  /** The same with the whole weight. */
  full(joint: string, frame: number, out: number[]): void;
  /** 0 to 1: the fades of its keys and its weight, as its ramp is drawn. */
  ramp(frame: number): number;
  /** Its weight at a frame, without fades. */
  weight(frame: number): number;
}

/**
 * The course of a layer: between keys smooth, without overshoot; outside of them it fades, or holds. In a loop whatever reaches over an end comes
 * in at the other.
 *
 * @param cycle frames of the loop; null when the clip is none
 *
 * @example
 * const layer = layerSchema.parse({ name: 'head up', fadeIn: 4, fadeOut: 4, keys: [{ frame: 20, joint: 'Head', turn: [-10, 0, 0] }] });
 * [10, 18, 20, 24].map((frame) => layerCourse(layer, null).ramp(frame)); // [0, 0.5, 1, 0]
 */
export function layerCourse(layer: Layer, cycle: number | null): LayerCourse {
  const { keys, fadeIn, fadeOut, hold } = layer;
  const frames = keys.map(({ frame }) => frame);
  const [first, last] = [Math.min(...frames), Math.max(...frames)];
  const isHeldRound = hold && cycle !== null;
  const curves = curvesOf(layer, isHeldRound ? cycle : null);
  const weight = weightOf(layer, cycle);
  const fades = (frame: number): number => {
    if (hold) return 1;
    if (frame < first) return fadeIn > 0 ? smoothStep5(1 - (first - frame) / fadeIn) : 0;
    return frame > last ? (fadeOut > 0 ? smoothStep5(1 - (frame - last) / fadeOut) : 0) : 1;
  };
  // Where it comes round, frames of the turns before and after that reach here.
  const rounds = (frame: number): number[] => {
    if (cycle === null || hold || keys.length === 0) return [frame];
    const out: number[] = [];
    const low = Math.ceil((first - fadeIn - frame) / cycle);
    const high = Math.floor((last + fadeOut - frame) / cycle);
    for (let k = low; k <= high; k++) out.push(frame + k * cycle);
    return out;
  };
  const part: number[] = new Array<number>(PER_KEY).fill(0);
  const full = (joint: string, frame: number, out: number[]) => {
    const curve = curves.get(joint);
    out.fill(0);
    if (!curve) return;
    for (const f of rounds(frame)) {
      const share = fades(f);
      if (share === 0) continue;
      curve(f, part);
      for (let k = 0; k < PER_KEY; k++) out[k] += share * part[k];
    }
  };
  return {
    joints: [...curves.keys()],
    full,
    weight,
    at(joint, frame, out) {
      full(joint, frame, out);
      const w = weight(frame);
      for (let k = 0; k < PER_KEY; k++) out[k] *= w;
    },
    ramp: (frame) => (keys.length === 0 ? 0 : weight(frame) * Math.max(0, ...rounds(frame).map(fades))),
  };
}

function curvesOf({ keys }: Layer, period: number | null): Map<string, Curve> {
  const byJoint = new Map<string, Map<number, number[]>>();
  for (const { joint, frame, turn, shift = [0, 0, 0] } of keys) {
    const own = byJoint.get(joint) ?? new Map<number, number[]>();
    // Of two at the same instant the later one in the list counts.
    own.set(period === null ? frame : ((frame % period) + period) % period, [...turn, ...shift]);
    byJoint.set(joint, own);
  }
  return new Map([...byJoint].map(([joint, own]) => [joint, through([...own], period)]));
}

function weightOf({ weight }: Layer, cycle: number | null): (frame: number) => number {
  if (typeof weight === 'number') return () => weight;
  const curve = through(
    weight.map(({ frame, value }): [number, number[]] => [frame, [value]]),
    cycle,
  );
  const out = [0];
  return (frame) => {
    curve(frame, out);
    return out[0];
  };
}

function through(points: readonly (readonly [number, number[]])[], period: number | null): Curve {
  const own = new Map(points.map(([x, y]) => [period === null ? x : ((x % period) + period) % period, y]));
  const sorted = [...own].sort(([a], [b]) => a - b);
  return monotoneCurve(
    sorted.map(([x]) => x),
    sorted.map(([, y]) => y),
    period,
  );
}
