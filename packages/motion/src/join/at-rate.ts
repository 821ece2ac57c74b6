import type { JoinPiece } from './schema';

/**
 * A piece of a join whose clip or take is brought to another rate: all that it says in frames is said of the same instants.
 *
 * @param factor frames of now to a frame of before: 0.5 from 120 to 60 a second
 *
 * @example
 * const [piece] = joinSchema.parse({ name: 'round', pieces: [{ take: 'quay', from: 20, to: 140 }] }).pieces;
 * pieceAtRate(piece, 0.5).to; // 70
 */
export function pieceAtRate(piece: JoinPiece, factor: number): JoinPiece {
  const at = (frame: number) => Math.round(frame * factor);
  const from = piece.from === undefined ? undefined : at(piece.from);
  const to = piece.to === undefined ? undefined : Math.max(at(piece.to), (from ?? 0) + 1);
  return {
    ...piece,
    ...(from !== undefined && { from }),
    ...(to !== undefined && { to }),
    into: { ...piece.into, frames: at(piece.into.frames) },
    shifts: piece.shifts.map((shift) => ({ ...shift, at: at(shift.at), frames: Math.max(1, at(shift.frames)) })),
    marks: piece.marks.map((mark) => ({ ...mark, at: at(mark.at) })),
  } as JoinPiece;
}
