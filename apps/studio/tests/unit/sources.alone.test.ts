import { stepSchema, type JoinPiece } from '@lantern/motion';
import type { ClipDoc } from '@/data/clips-store';
import type { JoinDoc } from '@/data/joins-store';
import type { TakeInfo } from '@/data/project';
import { characterOf, findSources, isMadeOf } from '@/data/sources';
import { sourceOf, takeKey } from '@/data/use-open-take';
import { newPiece } from '@/places/joins/join-edits';
import { plainTake } from './place';

jest.mock('@/worker/core', () => ({ core: () => null }));

const takes = [plainTake('quay', { mapping: { Hips: 'hips' } as unknown as TakeInfo['mapping'] }), plainTake('hop')];
const clip = (id: string, take: string, change: Partial<ClipDoc> = {}): ClipDoc => ({
  ...{ id, name: id, source: { take, from: 10, to: 70 }, steps: [], gait: '', direction: '' },
  ...change,
});
const piece = (of: string, times = 1) => ({ ...newPiece({ clip: of }), id: of, times }) as JoinPiece;
const cut = (take: string) => ({ ...newPiece({ take, from: 0, to: 50 }), id: take }) as JoinPiece;
const join = (id: string, ...pieces: JoinPiece[]): JoinDoc => ({ id, name: `join ${id}`, start: 'origin', pieces });
const find = (docs: ClipDoc[], joins: JoinDoc[]) => findSources({ takes, docs, joins, whole: (steps) => steps });
const problemOf = (take: TakeInfo | undefined) => (take?.join && 'problem' in take.join ? take.join.problem : null);

test('takes come first, then the joins that have pieces', () => {
  const { all } = find([clip('a', 'quay')], [join('j', piece('a')), join('empty')]);
  expect(all.map(({ id }) => id)).toEqual(['quay', 'hop', 'j']);
  expect(all[2]).toMatchObject({ name: 'join j', overrides: {}, long: false, mapping: { Hips: 'hips' }, signature: 'suit' });
});

test('a join is opened with what its pieces are cut from, each once', () => {
  const { all } = find(
    [clip('a', 'quay'), clip('b', 'quay', { source: { take: 'quay', from: 5, to: 9 } })],
    [join('j', piece('a', 3), piece('b'), cut('hop'))],
  );
  const source = sourceOf(all[2]);
  if (!('join' in source)) throw new Error('a join was expected');
  expect(source.opens.map(({ key }) => key)).toEqual([takeKey(takes[0]), takeKey(takes[1])]);
  expect(source.join.pieces.map(({ take, recipe }) => [take, recipe])).toEqual([
    [takeKey(takes[0]), { from: 10, to: 70, steps: [] }],
    [takeKey(takes[0]), { from: 5, to: 9, steps: [] }],
    [takeKey(takes[1]), null],
  ]);
});

test('as soon as anything of it changes it goes by another key; as it was, by the one that it had', () => {
  const keyOf = (times: number, from = 10) =>
    takeKey(find([clip('a', 'quay', { source: { take: 'quay', from, to: 70 } })], [join('j', piece('a', times))]).all[2]);
  const first = keyOf(2);
  expect(keyOf(3)).not.toBe(first);
  expect(keyOf(2, 11)).not.toBe(first);
  expect(keyOf(2)).toBe(first);
});

test('joins are cut into clips of joins; a change below reaches what is on top', () => {
  const docs = [clip('a', 'quay'), clip('of-j', 'j')];
  const made = (times: number) => find(docs, [join('k', piece('of-j'), cut('hop')), join('j', piece('a', times))]).all;
  const [, , k, j] = made(2);
  expect([k.id, j.id]).toEqual(['k', 'j']);
  expect(takeKey(made(4)[2])).not.toBe(takeKey(k));
  expect(isMadeOf(k, 'j')).toBe(true);
  expect(isMadeOf(j, 'k')).toBe(false);
  expect(isMadeOf(takes[0], 'j')).toBe(false);
});

test('on a character it has nothing of the suit left to settle, however deep the fit is', () => {
  const fit = stepSchema.parse({ kind: 'fit', character: 'tallow' });
  const { all } = find([clip('a', 'quay', { steps: [fit] }), clip('of-j', 'j')], [join('j', piece('a')), join('k', piece('of-j'))]);
  expect(all.slice(2).map((take) => [characterOf(take), take.signature, take.mapping])).toEqual([
    ['tallow', '', undefined],
    ['tallow', '', undefined],
  ]);
  expect(characterOf(takes[0])).toBeNull();
});

test('what is missing is said with the piece that lacks it, and what rests on that says so too', () => {
  const { all, pieceOf } = find(
    [clip('lost', 'nowhere'), clip('of-j', 'j')],
    [join('j', cut('quay'), piece('gone')), join('k', piece('lost')), join('l', piece('of-j'))],
  );
  const of = (id: string) => problemOf(all.find((take) => take.id === id));
  expect(of('j')).toBe('Piece 2: The clip of this piece was removed: take the piece out, or undo.');
  expect(of('k')).toBe('Piece 1: What this piece is cut from is not in the project any more.');
  expect(of('l')).toBe('Piece 1: Join “join j”, piece 2: The clip of this piece was removed: take the piece out, or undo.');
  expect(pieceOf(cut('hop'))).toMatchObject({ open: { id: 'hop' }, recipe: null });
  expect(() => sourceOf(all[2])).toThrow(/^Piece 2: The clip of this piece was removed/);
});

test('a join that goes round says so, by itself and through another', () => {
  const round = find([clip('own', 'j')], [join('j', cut('quay'), piece('own'))]).all;
  expect(problemOf(round[2])).toMatch(/^Piece 2: It is cut from this very join/);
  const through = find([clip('of-k', 'k'), clip('of-j', 'j')], [join('j', piece('of-k')), join('k', piece('of-j'))]).all;
  expect(
    through
      .slice(2)
      .map(problemOf)
      .every((problem) => problem?.includes('cut from this very join')),
  ).toBe(true);
});
