import { FASTEST, SLOWEST, type RecipeStep, type TimePin } from '@lantern/motion';

type RetimeStep = Extract<RecipeStep, { kind: 'retime' }>;

/** Pins with one more, in order of time; one at the same place is replaced. */
export function pinsWith(pins: readonly TimePin[], pin: TimePin): TimePin[] {
  // The clip's beginning is held anyway.
  if (pin.to <= 0) return [...pins];
  const others = pins.filter(({ to }) => Math.abs(to - pin.to) >= 1);
  return [...others, pin].sort((a, b) => a.to - b.to);
}

export const pinsWithout = (pins: readonly TimePin[], index: number): TimePin[] => pins.filter((_, i) => i !== index);

/** A pose held for some frames; what comes later comes later by as much. */
export function holdAt(step: RetimeStep, { from, to }: TimePin, frames: number): RetimeStep {
  const pins = step.pins.map((pin) => (pin.to > to ? { ...pin, to: pin.to + frames } : pin));
  return {
    ...step,
    frames: step.frames === undefined ? undefined : step.frames + frames,
    pins: pinsWith(pinsWith(pins, { from, to }), { from, to: to + frames }),
  };
}

/** A pin moved as far as its neighbours and the bounds of time let it. */
export function movedPin(all: readonly TimePin[], index: number, asked: TimePin): TimePin {
  const before = all[index - 1];
  const after = all[index + 1];
  const from = Math.min(after?.from ?? Infinity, Math.max(before?.from ?? 0, asked.from));
  let to = asked.to;
  const least = (a: TimePin, b: { from: number }) => Math.max(1, (b.from - a.from) / FASTEST);
  const most = (a: TimePin, b: { from: number }) => (b.from > a.from ? (b.from - a.from) / SLOWEST : Infinity);
  if (before) to = Math.min(before.to + most(before, { from }), Math.max(before.to + least(before, { from }), to));
  if (after) to = Math.max(after.to - most({ from, to }, after), Math.min(after.to - least({ from, to }, after), to));
  return { from, to };
}

/** A clip's landings, and how long its cycle is. */
export interface Footfalls {
  readonly frames: number;
  readonly landings: readonly { readonly side: 'left' | 'right'; readonly at: number }[];
}

/**
 * Pins that bring a clip's landings to the same share of its length as another's.
 *
 * @returns null when the two do not land on the same feet in the same order
 */
export function pinsInStep(own: Footfalls, other: Footfalls): TimePin[] | null {
  const [a, b] = [own.landings, other.landings];
  if (a.length === 0 || a.length !== b.length || a.some(({ side }, i) => side !== b[i].side)) return null;
  return a
    .map(({ at }, i) => ({ from: at, to: Math.round((b[i].at / other.frames) * own.frames) }))
    .filter(({ from, to }) => from > 0 && to > 0 && from < own.frames && to < own.frames);
}
