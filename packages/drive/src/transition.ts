import { inputNamed, stateNamed, type PlayCondition, type PlaySet, type PlayTransition } from './play-graph';

/** Feet that have landed. */
export const LEFT = 1,
  RIGHT = 2;

/** A transition with its names as places in the graph. */
export interface Compiled {
  /** −1: any state but the one that it leads to. */
  readonly from: number;
  readonly to: number;
  readonly when: readonly { readonly input: number; readonly is: PlayCondition['is']; readonly value: number }[];
  /** Inputs that are used up by it. */
  readonly presses: readonly number[];
  /** −1: at any time. */
  readonly share: number;
  /** 0: at any time; else `LEFT` or `RIGHT`. */
  readonly landing: number;
  readonly overlap: number;
  readonly entry: PlayTransition['entry'];
  readonly breakOff: PlayTransition['breakOff'];
  readonly urgent: boolean;
  readonly fades: boolean;
}

/** @throws Error with a sentence when there is no state, or no input, of a name in it */
export function compiled(set: PlaySet, { from, to, when, leaveAfter, overlap, entry, breakOff, urgent, fade }: PlayTransition): Compiled {
  const conditions = when.map((own) => ({ input: inputNamed(set, own.input), is: own.is, value: 'value' in own ? own.value : 0 }));
  return {
    from: from === null ? -1 : stateNamed(set, from),
    to: stateNamed(set, to),
    when: conditions,
    presses: conditions.filter(({ is }) => is === 'pressed').map(({ input }) => input),
    share: leaveAfter && 'share' in leaveAfter ? leaveAfter.share : -1,
    landing: leaveAfter && 'landing' in leaveAfter ? (leaveAfter.landing === 'left' ? LEFT : RIGHT) : 0,
    overlap,
    entry,
    breakOff,
    urgent,
    fades: fade,
  };
}
