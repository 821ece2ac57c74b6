import { alignSigns, copyMotion } from '../model/motion';
import type { Joined, PlacedPiece } from './joined';
import { begin, checkAlike, followed, overlapped, type Sofar } from './put-on';

/**
 * Pieces end to end, each put where the one before it leads.
 *
 * @param pieces each with how it follows the one before it; the first one's is not looked at
 * @throws InputError `join` when pieces are of different skeletons, or an overlap is longer than a piece
 *
 * @example
 * const cut = layPiece(cutClip(motion, 20, 120), { times: 1 });
 * joinPieces([cut, cut].map((piece) => ({ piece, into: joinIntoSchema.parse({ frames: 10 }) })), 'origin').meets.length; // 1
 */
export function joinPieces(pieces: readonly PlacedPiece[], start: 'origin' | 'captured'): Joined {
  return joiner().join(pieces, start);
}

/** Joins again and again. */
export interface Joiner {
  readonly join: (pieces: readonly PlacedPiece[], start: 'origin' | 'captured') => Joined;
  /** Joins one more of the pieces, where a person waits and something else may be wanted meanwhile. @returns whether all are joined */
  readonly step: (pieces: readonly PlacedPiece[], start: 'origin' | 'captured') => boolean;
}

/**
 * Joins as `joinPieces` does, again and again: what has not changed since the last time, from the first piece on, is not joined anew.
 *
 * @example
 * const cut = layPiece(cutClip(motion, 20, 120), { times: 1 });
 * const pieces = [cut, cut].map((piece) => ({ piece, into: joinIntoSchema.parse({ frames: 10 }) }));
 * const { join } = joiner();
 * join(pieces, 'origin').motion.frames === join(pieces, 'origin').motion.frames; // true
 */
export function joiner(): Joiner {
  let before: readonly PlacedPiece[] = [];
  let from: 'origin' | 'captured' | null = null;
  let states: Sofar[] = [];
  const forget = (pieces: readonly PlacedPiece[], start: 'origin' | 'captured') => {
    let known = 0;
    const isKnown = ({ piece, into }: PlacedPiece, i: number) =>
      from === start && piece === before[i]?.piece && (i === 0 || JSON.stringify(into) === JSON.stringify(before[i].into));
    while (known < Math.min(pieces.length, states.length) && isKnown(pieces[known], known)) known++;
    states = states.slice(0, known);
    [before, from] = [pieces, start];
  };
  const next = () => {
    const { piece, into } = before[states.length];
    const sofar = states.at(-1);
    if (!sofar) states.push(begin(piece, from ?? 'origin'));
    else {
      const number = states.length + 1;
      checkAlike(sofar.motion, piece.motion, number);
      states.push(into.frames === 0 || into.how === 'carry' ? followed(sofar, piece, into) : overlapped(sofar, piece, into, number));
    }
  };
  return {
    step(pieces, start) {
      forget(pieces, start);
      if (states.length < pieces.length) next();
      return states.length === pieces.length;
    },
    join(pieces, start) {
      forget(pieces, start);
      while (states.length < pieces.length) next();
      const { motion, contacts, spans, meets, levels } = states[states.length - 1];
      const whole = copyMotion(motion);
      alignSigns(whole);
      return { motion: whole, contacts, spans, meets, levels };
    },
  };
}
