import fc from 'fast-check';
import type { JoinPiece } from '@lantern/motion';
import type { JoinDoc } from '@/data/joins-store';
import * as edits from '@/places/joins/join-edits';
import { layoutOf, pieceAt, placeFor, roomNow, type Known } from '@/places/joins/layout';
import { overlapOf, silhouette } from '@/places/joins/silhouette';
import type { PieceRoom } from '@/worker/core.worker';

const LOOP: PieceRoom = { from: 0, to: 66, loop: true, before: Infinity, after: Infinity, frames: 67 };
const CUT: PieceRoom = { from: 40, to: 200, loop: false, before: 30, after: 20, frames: 161 };

const piece = (id: string, change: object = {}): JoinPiece => ({ ...edits.newPiece({ clip: id }), id, ...change }) as JoinPiece;
const doc = (...pieces: JoinPiece[]): JoinDoc => ({ id: 'j', name: 'round', start: 'origin', pieces });
const ids = ({ pieces }: JoinDoc) => pieces.map(({ id }) => id);
const known = (rooms: Record<string, PieceRoom>, inStep: Record<string, number> = {}): Known => ({ rooms, inStep });

describe('order', () => {
  const three = doc(piece('a'), piece('b'), piece('c'));

  test('a piece is moved before the one that stands where it is dropped, and behind the last', () => {
    expect(ids(edits.movePiece(three, 'a', 2))).toEqual(['b', 'a', 'c']);
    expect(ids(edits.movePiece(three, 'c', 0))).toEqual(['c', 'a', 'b']);
    expect(ids(edits.movePiece(three, 'a', 3))).toEqual(['b', 'c', 'a']);
    expect(edits.movePiece(three, 'nobody', 1)).toBe(three);
  });

  test('wherever pieces are moved, all of them are still there', () => {
    fc.assert(
      fc.property(fc.constantFrom('a', 'b', 'c'), fc.integer({ min: 0, max: 3 }), (id, at) => {
        expect([...ids(edits.movePiece(three, id, at))].sort()).toEqual(['a', 'b', 'c']);
      }),
    );
  });

  test('a copy stands behind its piece, by a name of its own', () => {
    const copied = edits.duplicatePiece(three, 'b');
    expect(copied.pieces).toHaveLength(4);
    expect(copied.pieces[2]).toMatchObject({ clip: 'b' });
    expect(copied.pieces[2].id).not.toBe('b');
    expect(ids(edits.removePiece(three, 'b'))).toEqual(['a', 'c']);
  });
});

describe('trimming', () => {
  test('a cut is trimmed and extended as far as there is motion', () => {
    expect(edits.trimStart(piece('a'), CUT, 12)).toMatchObject({ from: 52, to: 200 });
    expect(edits.trimStart(piece('a'), CUT, -90)).toMatchObject({ from: 10 });
    expect(edits.trimEnd(piece('a'), CUT, 90)).toMatchObject({ from: 40, to: 220 });
    expect(edits.trimEnd(piece('a'), CUT, -500)).toMatchObject({ to: 41 });
  });

  test('a loop that is trimmed goes on from another part of its cycle; its end goes on round', () => {
    const three = { ...LOOP, frames: 199 };
    const later = edits.trimStart(piece('a', { times: 3 }), three, 20);
    expect(later).toMatchObject({ from: 20, to: 86 });
    expect(Math.round(later.times * 66) + 1).toBe(179);
    expect(edits.trimEnd(piece('a'), LOOP, 33).times).toBeCloseTo(1.5, 6);
  });

  test('what stands in a piece stays with its motion: shifts and marks move against a new beginning', () => {
    const marked = piece('a', {
      marks: [
        { at: 5, name: 'sets off' },
        { at: 30, name: 'there' },
      ],
      shifts: [{ at: 40, frames: 18, raise: 0.2, ahead: 0, left: 0, turnDeg: 0 }],
    });
    const later = edits.trimStart(marked, CUT, 10);
    expect(later.marks).toEqual([{ at: 20, name: 'there' }]);
    expect(later.shifts[0].at).toBe(30);
  });
});

describe('the razor', () => {
  const lengths = (join: JoinDoc, room: PieceRoom) =>
    layoutOf(join.pieces, known(Object.fromEntries(join.pieces.map(({ id }) => [id ?? '', room])))).frames;

  test('leaves as many frames as there were, wherever it cuts', () => {
    fc.assert(
      fc.property(fc.constantFrom(1, 2, 3.4), fc.boolean(), fc.integer({ min: 1, max: 200 }), (times, isLoop, at) => {
        const room = isLoop ? LOOP : CUT;
        const whole = { ...room, frames: Math.round(times * (room.to - room.from)) + 1 };
        const one = doc(piece('a', { times, from: room.from, to: room.to }));
        const cut = edits.splitPiece(one, 'a', at, whole);
        expect(lengths(cut, room)).toBe(whole.frames);
        for (const own of cut.pieces.slice(1)) expect(own.into.frames).toBe(0);
      }),
    );
  });

  test('leaves each shift and mark in the piece that has its frame', () => {
    const one = doc(
      piece('a', {
        marks: [
          { at: 20, name: 'one' },
          { at: 90, name: 'two' },
        ],
      }),
    );
    const [first, second] = edits.splitPiece(one, 'a', 60, CUT).pieces;
    expect(first).toMatchObject({ from: 40, to: 100, marks: [{ at: 20, name: 'one' }] });
    expect(second).toMatchObject({ from: 100, to: 200, marks: [{ at: 30, name: 'two' }] });
  });

  test('does nothing at the ends', () => {
    const one = doc(piece('a'));
    for (const at of [0, 160, 400]) expect(edits.splitPiece(one, 'a', at, CUT)).toBe(one);
  });
});

describe('where two meet', () => {
  const two = doc(piece('a'), piece('b'));
  const rooms = [CUT, LOOP];

  test('the instants that are asked for are those that meet', () => {
    const moved = edits.meetAt(two, 1, rooms, 180, 30);
    const now = moved.pieces.map((own, i) => roomNow(own, rooms[i]));
    expect(edits.metAt(moved, 1, now)).toEqual({ a: 180, b: 30 });
  });

  test('moved along both, the one ends later by as much as the other begins later', () => {
    const moved = edits.slideMeet(two, 1, rooms, 8);
    expect(moved.pieces[0].to).toBe(208);
    expect(moved.pieces[1].from).toBe(8);
    // No further than the leaving piece has motion.
    expect(edits.slideMeet(two, 1, rooms, 80).pieces[0].to).toBe(220);
  });

  test('an overlap has room in the shorter of both', () => {
    expect(edits.mostOverlap(1, rooms)).toBe(66);
  });
});

describe('the layout', () => {
  const cut = { from: 40, to: 200 };
  const join = doc(piece('a', cut), piece('b', { times: 2 }), piece('c', { ...cut, into: { ...piece('c').into, frames: 0 } }));
  const all = known({ a: CUT, b: { ...LOOP, frames: 133 }, c: CUT }, { b: 5 });

  test('overlaps lie over each other, time in step begins elsewhere, and a cut shares one frame', () => {
    const { placed, frames } = layoutOf(join.pieces, all);
    expect(placed[0]).toEqual({ from: 0, to: 160, start: 0 });
    expect(placed[1]).toEqual({ from: 142, to: 279, start: 147 });
    expect(placed[2]).toEqual({ from: 279, to: 439, start: 279 });
    expect(frames).toBe(440);
    expect([10, 145, 158, 400].map((frame) => pieceAt(placed, frame))).toEqual([0, 0, 1, 2]);
    expect([10, 100, 300, 500].map((frame) => placeFor(placed, frame))).toEqual([0, 1, 2, 3]);
  });

  test('what is not known yet is left out, with all behind it', () => {
    expect(layoutOf(join.pieces, known({ a: CUT, c: CUT })).placed).toHaveLength(1);
  });

  test('a sail’s outline rises over the overlap into it and falls over the one out of it, where the next one rises', () => {
    const { placed } = layoutOf(join.pieces, all);
    const overlap = overlapOf(placed[0], placed[1], join.pieces[1].into);
    expect(overlap).toMatchObject({ from: 142, to: 160 });
    const path = silhouette(
      placed[1],
      overlap,
      null,
      (frame) => frame,
      (weight) => weight * 100,
    );
    const numbers = (path.match(/[-\d.]+ [-\d.]+/g) ?? []).map((pair) => pair.split(' ').map(Number));
    expect(numbers[0]).toEqual([142, 0]);
    expect(numbers.find(([x]) => x === 151)?.[1]).toBeCloseTo(50, 0);
    expect(numbers.at(-1)).toEqual([279, 0]);
  });
});
