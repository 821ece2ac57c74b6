import { scaleLinear } from 'd3-scale';

/** A line of a ruler; with room for words beside it when it is labelled. */
export interface Tick {
  readonly at: number;
  readonly isLabelled: boolean;
}

/**
 * The lines of a ruler at round places, five or so between two that have room for words. Between whole frames there are none.
 *
 * @param width of the ruler, pixels
 * @param room that a label needs, pixels
 *
 * @example
 * ticks(0, 100, 800, 64).filter(({ isLabelled }) => isLabelled).map(({ at }) => at); // [0, 10, 20, … 100]
 */
export function ticks(from: number, to: number, width: number, room: number): Tick[] {
  const scale = scaleLinear().domain([from, to]);
  // A scale may give more ticks than it is asked for, by half.
  const count = Math.max(1, width / room / 1.5);
  const whole = (places: readonly number[]) => places.filter(Number.isInteger);
  const labelled = new Set(whole(scale.ticks(count)));
  return whole(scale.ticks(5 * count)).map((at) => ({ at, isLabelled: labelled.has(at) }));
}
