import type { JoinInto, JoinPiece, Shift } from '@lantern/motion';
import { joinIntoSchema } from '@lantern/motion';
import type { JoinDoc } from '@/data/joins-store';
import type { PieceRoom } from '@/worker/core.worker';

/** What a piece is cut from. */
export type PieceOf = { readonly clip: string } | { readonly take: string; readonly from: number; readonly to: number };

/** Fewest frames of a piece. */
const LEAST = 2;

export const newPiece = (of: PieceOf): JoinPiece => ({
  ...of,
  id: crypto.randomUUID(),
  times: 1,
  into: joinIntoSchema.parse({}),
  shifts: [],
  marks: [],
});

export const indexOf = ({ pieces }: JoinDoc, id: string): number => pieces.findIndex((piece) => piece.id === id);

const withPieces = (doc: JoinDoc, pieces: readonly JoinPiece[]): JoinDoc => ({ ...doc, pieces: [...pieces] });

export const changePiece = (doc: JoinDoc, id: string, change: (piece: JoinPiece) => JoinPiece): JoinDoc =>
  withPieces(
    doc,
    doc.pieces.map((piece) => (piece.id === id ? change(piece) : piece)),
  );

export const changeInto = (doc: JoinDoc, id: string, change: Partial<JoinInto>): JoinDoc =>
  changePiece(doc, id, (piece) => ({ ...piece, into: { ...piece.into, ...change } }));

export const insertPiece = (doc: JoinDoc, piece: JoinPiece, at: number): JoinDoc =>
  withPieces(doc, [...doc.pieces.slice(0, at), piece, ...doc.pieces.slice(at)]);

export const removePiece = (doc: JoinDoc, id: string): JoinDoc =>
  withPieces(
    doc,
    doc.pieces.filter((piece) => piece.id !== id),
  );

/** A piece taken from where it is and put before the one that is `at` that index now. */
export function movePiece(doc: JoinDoc, id: string, at: number): JoinDoc {
  const from = indexOf(doc, id);
  const piece = doc.pieces[from];
  if (!piece) return doc;
  const rest = doc.pieces.filter((own) => own.id !== id);
  const to = Math.min(rest.length, Math.max(0, at > from ? at - 1 : at));
  return withPieces(doc, [...rest.slice(0, to), piece, ...rest.slice(to)]);
}

export function duplicatePiece(doc: JoinDoc, id: string): JoinDoc {
  const at = indexOf(doc, id);
  return at < 0 ? doc : insertPiece(doc, { ...doc.pieces[at], id: crypto.randomUUID() }, at + 1);
}

const within = (value: number, least: number, most: number) => Math.min(most, Math.max(least, value));

/** What stands at frames of a piece, when its first frame is another. */
function startedLater(piece: JoinPiece, by: number): JoinPiece {
  const later = <T extends { readonly at: number }>(all: readonly T[]) =>
    all.map((own) => ({ ...own, at: own.at - by })).filter(({ at }) => at >= 0);
  return { ...piece, shifts: later(piece.shifts), marks: later(piece.marks) };
}

/** A piece that begins so many frames later, or earlier as far as there is motion; a repeated loop goes on from another part of its cycle. */
export function trimStart(piece: JoinPiece, { from, to, loop, before, frames }: PieceRoom, by: number): JoinPiece {
  const off = within(Math.round(by), -before, frames - LEAST);
  const cycle = to - from;
  if (loop && piece.times !== 1) return startedLater({ ...piece, from: from + off, to: to + off, times: (frames - 1 - off) / cycle }, off);
  return startedLater({ ...piece, from: from + within(off, -before, cycle - 1), to }, off);
}

/** A piece that ends so many frames later, or earlier; a loop goes on round. */
export function trimEnd(piece: JoinPiece, room: PieceRoom, by: number): JoinPiece {
  const { from, to, loop, after, frames } = room;
  if (loop || piece.times !== 1) return withFrames(piece, room, frames + by);
  return { ...piece, from, to: to + within(Math.round(by), 1 - (to - from), after) };
}

/** A piece repeated until it has so many frames. */
export function withFrames(piece: JoinPiece, { from, to }: PieceRoom, frames: number): JoinPiece {
  return { ...piece, from, to, times: Math.max(1, Math.round(frames) - 1) / (to - from) };
}

/** A piece cut in two at one of its frames, which both share; of a cut that is repeated the copy that is cut becomes pieces of its own. */
export function splitPiece(doc: JoinDoc, id: string, at: number, room: PieceRoom): JoinDoc {
  const index = indexOf(doc, id);
  const piece = doc.pieces[index];
  if (!piece || at < 1 || at > room.frames - 2) return doc;
  const { from, to, loop, frames } = room;
  const span = to - from;
  const next = (own: Partial<JoinPiece>): JoinPiece =>
    ({ ...piece, ...own, id: crypto.randomUUID(), into: { ...piece.into, frames: 0 } }) as JoinPiece;
  const first = { ...piece, from, to, times: at / span, ...before(piece, at) };
  const rest = startedLater(piece, at);
  if (piece.times === 1) return replace(doc, index, [{ ...first, to: from + at, times: 1 }, next({ ...rest, from: from + at, to })]);
  const within = at % span;
  const left = (frames - 1 - at) / span;
  if (loop) return replace(doc, index, [first, next({ ...rest, from: from + within, to: to + within, times: left })]);
  if (within === 0) return replace(doc, index, [first, next({ ...rest, from, to, times: left })]);
  const whole = (frames - 1 - at - (span - within)) / span;
  const end = whole < 0 ? from + within + (frames - 1 - at) : to;
  const tail = next({ ...rest, from: from + within, to: end, times: 1 });
  return replace(doc, index, [first, tail, ...(whole > 0 ? [next({ ...startedLater(rest, span - within), from, to, times: whole })] : [])]);
}

const before = ({ shifts, marks }: JoinPiece, at: number) => ({
  shifts: shifts.filter((own) => own.at < at),
  marks: marks.filter((own) => own.at < at),
});

const replace = (doc: JoinDoc, index: number, pieces: readonly JoinPiece[]): JoinDoc =>
  withPieces(doc, [...doc.pieces.slice(0, index), ...pieces, ...doc.pieces.slice(index + 1)]);

/** An overlap moved along both of its pieces: the one ends so much later, the other begins so much later. */
export function slideMeet(doc: JoinDoc, index: number, rooms: readonly PieceRoom[], by: number): JoinDoc {
  const [a, b] = [rooms[index - 1], rooms[index]];
  const most = Math.min(a.loop ? Infinity : a.after, b.frames - LEAST);
  const least = -Math.min(a.frames - LEAST, b.before);
  const off = within(Math.round(by), least, most);
  const [leaving, coming] = [trimEnd(doc.pieces[index - 1], a, off), trimStart(doc.pieces[index], b, off)];
  return replace(replace(doc, index - 1, [leaving]), index, [coming]);
}

/** Two pieces that meet, in the middle of their overlap, at an instant of each: frames of what they are cut from. */
export function meetAt(
  doc: JoinDoc,
  index: number,
  rooms: readonly PieceRoom[],
  a: number,
  b: number,
  frames: number = doc.pieces[index].into.frames,
): JoinDoc {
  const half = frames >> 1;
  const end = endOf(rooms[index - 1]);
  const start = rooms[index].from;
  const leaving = trimEnd(doc.pieces[index - 1], rooms[index - 1], a + (frames - half) - end);
  const coming = trimStart(doc.pieces[index], rooms[index], b - half - start);
  return replace(replace(doc, index - 1, [leaving]), index, [{ ...coming, into: { ...coming.into, frames } }]);
}

/** The frame of what it is cut from with which a piece ends; of a loop counted on round after round. */
export const endOf = ({ from, frames }: PieceRoom): number => from + frames - 1;

/** The instants that meet in the middle of the overlap into a piece. */
export function metAt(doc: JoinDoc, index: number, rooms: readonly PieceRoom[]): { readonly a: number; readonly b: number } {
  const { frames } = doc.pieces[index].into;
  const half = frames >> 1;
  return { a: endOf(rooms[index - 1]) - (frames - half), b: rooms[index].from + half };
}

/** The longest overlap into a piece that there is room for. */
export const mostOverlap = (index: number, rooms: readonly PieceRoom[]): number =>
  Math.max(0, Math.min(600, rooms[index - 1].frames - 1, rooms[index].frames - 1));

export const setShift = (doc: JoinDoc, id: string, which: number, shift: Shift | null): JoinDoc =>
  changePiece(doc, id, (piece) => ({
    ...piece,
    shifts: shift
      ? which < piece.shifts.length
        ? piece.shifts.map((own, i) => (i === which ? shift : own))
        : [...piece.shifts, shift]
      : piece.shifts.filter((_, i) => i !== which),
  }));

/** A shift in one word. */
export const shiftWord = ({ raise, ahead, left, turnDeg }: Shift): string =>
  raise > 0 ? 'raise' : raise < 0 ? 'lower' : turnDeg !== 0 ? 'turn' : ahead !== 0 || left !== 0 ? 'move' : 'shift';
