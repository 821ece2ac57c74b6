import { InputError } from '../error';
import { cutClip, type Clip } from '../model/clip';
import type { Motion } from '../model/motion';
import { joinPieces } from './join-pieces';
import type { Joined, PlacedPiece } from './joined';
import { layPiece, type LaidPiece } from './piece';
import type { Join, JoinPiece } from './schema';
import { shiftPiece } from './shift';

/** Where pieces come from. */
export interface JoinSources {
  /** A clip as its recipe leaves it, by name; null where there is none. */
  clip(name: string): Clip | null;
  /** A take in metres; null where there is none. */
  take(id: string): Motion | null;
}

/**
 * Lays the pieces of a join end to end.
 *
 * @throws InputError `piece` or `join` with the piece in which something is wrong
 *
 * @example
 * const own = joinSchema.parse({ name: 'round', pieces: [{ take: 'a', from: 10, to: 90 }, { take: 'a', from: 40, to: 160 }] });
 * buildJoin(own, { clip: () => null, take: () => motion }).meets.length; // 1
 */
export function buildJoin({ name, pieces, start }: Join, sources: JoinSources): Joined {
  return joinPieces(layPieces(name, pieces, sources), start);
}

/** Lays out each of the pieces. @throws as `buildJoin` does */
export function layPieces(name: string, pieces: readonly JoinPiece[], sources: JoinSources): PlacedPiece[] {
  return pieces.map((piece, i) => {
    try {
      return { piece: layOut(piece, sources), into: piece.into };
    } catch (error) {
      if (error instanceof InputError) throw new InputError(error.code, `Piece ${i + 1} of join "${name}": ${error.message}`, error.place);
      throw error;
    }
  });
}

/** Lays out one piece, with its shifts. @throws InputError `piece` */
export function layOut(piece: JoinPiece, sources: JoinSources): LaidPiece {
  return piece.shifts.reduce(shiftPiece, unshifted(piece, sources));
}

function unshifted(piece: JoinPiece, sources: JoinSources): LaidPiece {
  if ('clip' in piece) {
    const clip = sources.clip(piece.clip);
    if (!clip) throw new InputError('piece', `there is no clip "${piece.clip}".`, { field: 'joins' });
    return layPiece(clip, piece);
  }
  const motion = sources.take(piece.take);
  if (!motion) throw new InputError('piece', `there is no take "${piece.take}".`, { field: 'joins' });
  if (piece.to >= motion.frames || piece.to <= piece.from)
    throw new InputError(
      'piece',
      `the cut ${piece.from} to ${piece.to} does not lie in the take, whose frames go to ${motion.frames - 1}.`,
      {
        frame: piece.from,
      },
    );
  // What the take has beside the cut goes along.
  return layPiece(cutClip(motion, piece.from, piece.to), { times: piece.times });
}
