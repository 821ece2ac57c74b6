import type { JoinPiece } from '@lantern/motion';
import type { JoinView, PieceRoom } from '@/worker/core.worker';

/** Where a piece lies along the join, frames. */
export interface Placed {
  readonly from: number;
  readonly to: number;
  /** Where its own first frame is, or would be. */
  readonly start: number;
}

/** What is known of the pieces of a join, by their ids. */
export interface Known {
  readonly rooms: Readonly<Record<string, PieceRoom>>;
  /** By how much a piece begins elsewhere in itself because time runs in step. */
  readonly inStep: Readonly<Record<string, number>>;
}

export const NOTHING_KNOWN: Known = { rooms: {}, inStep: {} };

/** What a view says of the pieces that it was made of. */
export function knownOf(pieces: readonly JoinPiece[], { spans, rooms }: JoinView): Known {
  const ids = pieces.map(({ id }) => id ?? '');
  return {
    rooms: Object.fromEntries(ids.map((id, i) => [id, rooms[i]])),
    inStep: Object.fromEntries(ids.map((id, i) => [id, spans[i].start - spans[i].from])),
  };
}

/** How a piece lies in what it is cut from now, after what was known of it has been changed. */
export function roomNow(piece: JoinPiece, known: PieceRoom): PieceRoom {
  const from = piece.from ?? 0;
  const to = piece.to ?? known.to;
  const frames = Math.max(2, Math.round(piece.times * (to - from)) + 1);
  return {
    ...known,
    from,
    to,
    frames,
    before: known.before + (from - known.from),
    after: known.after - (to - known.to),
  };
}

/** Where the pieces of a join lie, as far as they are known; the first that is not, and all behind it, are left out. */
export function layoutOf(pieces: readonly JoinPiece[], { rooms, inStep }: Known): { placed: Placed[]; rooms: PieceRoom[]; frames: number } {
  const placed: Placed[] = [];
  const now: PieceRoom[] = [];
  for (const piece of pieces) {
    const known = rooms[piece.id ?? ''];
    if (!known) break;
    const room = roomNow(piece, known);
    const before = placed.at(-1);
    const isBlended = piece.into.how === 'fade' && piece.into.frames > 0;
    const from = before ? before.to - (isBlended ? piece.into.frames : 0) : 0;
    const start = from + (before && isBlended && piece.into.inStep ? (inStep[piece.id ?? ''] ?? 0) : 0);
    placed.push({ from, to: Math.max(from + 1, start + room.frames - 1), start });
    now.push(room);
  }
  return { placed, rooms: now, frames: (placed.at(-1)?.to ?? 0) + 1 };
}

/** The piece that has a frame of the join; in an overlap the one that has more of it. */
export function pieceAt(placed: readonly Placed[], frame: number): number {
  for (let i = placed.length - 1; i > 0; i--) if (frame >= (placed[i].from + placed[i - 1].to) / 2) return i;
  return 0;
}

/** Before which piece something comes that is dropped at a frame. */
export const placeFor = (placed: readonly Placed[], frame: number): number =>
  placed.filter(({ from, to }) => (from + to) / 2 < frame).length;
