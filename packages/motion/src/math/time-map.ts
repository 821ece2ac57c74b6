import { InputError } from '../error';
import { cubic, tangent } from './monotone';

/** A matching pair of instants: a frame of what comes in, and the frame at which it shall be in the result. Fractional frames are fine. */
export interface TimePin {
  readonly from: number;
  readonly to: number;
}

/** Slowest and fastest that time may go, apart from standing still: source frames a frame. */
export const SLOWEST = 0.05;
export const FASTEST = 20;

/**
 * A course of time through pins: for each frame of the result the frame of the source. Between pins it is monotone and smooth (the cubic of
 * Fritsch and Carlson, 1980): never back, never beyond a pin, standing still between two pins of the same source frame.
 *
 * @param pins in order, the first and the last being the ends
 * @param loop the slopes at both ends are one: no tick where time meets itself
 * @returns one entry per frame of the result, from 0 to the last pin's `to`, which must be whole
 * @throws InputError `pins` when time would go back, stand at an instant, or run faster than `FASTEST`
 *
 * @example
 * [...timeMap([{ from: 0, to: 0 }, { from: 4, to: 2 }], false)]; // [0, 2, 4]
 */
export function timeMap(pins: readonly TimePin[], loop: boolean): Float64Array {
  checkPins(pins);
  const n = pins.length;
  const slope = pins.slice(1).map((pin, i) => (pin.from - pins[i].from) / (pin.to - pins[i].to));
  const width = pins.slice(1).map((pin, i) => pin.to - pins[i].to);
  const inner = (a: number, b: number) => tangent(slope[a], slope[b], width[a], width[b]);
  const round = loop ? inner(n - 2, 0) : null;
  const tangents = pins.map((_, i) => (i > 0 && i < n - 1 ? inner(i - 1, i) : (round ?? slope[i === 0 ? 0 : n - 2])));
  const first = pins[0].to;
  const frames = Math.round(pins[n - 1].to - first);
  const out = new Float64Array(frames + 1);
  for (let f = 0, k = 0; f <= frames; f++) {
    const t = first + f;
    while (k < n - 2 && t > pins[k + 1].to) k++;
    const h = width[k];
    const u = Math.min(1, Math.max(0, (t - pins[k].to) / h));
    out[f] = cubic(u, h, pins[k].from, tangents[k], pins[k + 1].from, tangents[k + 1]);
  }
  out[0] = pins[0].from;
  out[frames] = pins[n - 1].from;
  return out;
}

function checkPins(pins: readonly TimePin[]): void {
  const refuse = (i: number, why: string) => {
    throw new InputError('pins', `Time pin ${i + 1} (frame ${pins[i].from} at ${pins[i].to}): ${why}.`, {
      frame: Math.round(pins[i].from),
    });
  };
  for (let i = 1; i < pins.length; i++) {
    const [from, to] = [pins[i].from - pins[i - 1].from, pins[i].to - pins[i - 1].to];
    if (from < 0) refuse(i, 'time would go backwards');
    if (to <= 0) refuse(i, 'it comes no later than the pin before it');
    if (from > 0 && from / to < SLOWEST * (1 - 1e-9)) refuse(i, `time would go slower than ${SLOWEST} ×`);
    if (from / to > FASTEST * (1 + 1e-9)) refuse(i, `time would go faster than ${FASTEST} ×`);
  }
}

/** The frame of the result at which a frame of the source is reached first; a loop's goes on beyond its ends. */
export function resultFrame(map: ArrayLike<number>, source: number, loop: boolean): number {
  const last = map.length - 1;
  const cycle = map[last] - map[0];
  const turns = loop && cycle > 0 ? Math.floor((source - map[0]) / cycle) : 0;
  const wanted = source - turns * cycle;
  let low = 0;
  let high = last;
  while (high > low) {
    const middle = (low + high) >> 1;
    if (map[middle] >= wanted - 1e-9) high = middle;
    else low = middle + 1;
  }
  return low + turns * last;
}
