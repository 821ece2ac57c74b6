/** @jest-environment jsdom */
import { capture } from '@lantern/capture';
import { findLoops, groundwork, recipeSchema, type Motion } from '@lantern/motion';
import { act, cleanup, fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useClips, type ClipDoc } from '@/data/clips-store';
import { useJoins, type JoinDoc } from '@/data/joins-store';
import { usePlayer } from '@/data/player';
import { newPiece } from '@/places/joins/join-edits';
import { Joins } from '@/places/joins/Joins';
import type { CoreWorker } from '@/worker/core.worker';
import { madeTake, place, projectData, PROJECT, serve } from './place';
import { drag } from './pointer';
import { giveRoom } from './room';

// The worker's own code, run here: its face is what it would have exposed.
const mockFace: { api: CoreWorker | null } = { api: null };
jest.mock('comlink', () => ({
  expose: (api: CoreWorker) => (mockFace.api = api),
  transfer: <T,>(value: T) => value,
  proxy: <T,>(f: T) => f,
}));
jest.mock('@/worker/core', () => ({ core: () => mockFace.api }));
jest.mock('@/stage/StageFrame', () => ({ StageFrame: () => null, AtFrame: () => null }));
const mockHere: { join: string | null } = { join: null };
const mockGo = { push: jest.fn<void, [string]>(), replace: jest.fn<void, [string]>() };
jest.mock('next/navigation', () => ({
  useRouter: () => mockGo,
  useParams: () => (mockHere.join ? { join: [mockHere.join] } : {}),
}));
const mockUploaded: { name: string; text: string }[] = [];
jest.mock('@/data/upload', () => ({
  uploadFile: async (_: string, file: File) => {
    mockUploaded.push({ name: file.name, text: String(file.size) });
    return { takes: [{ id: 'baked', name: file.name.replace(/\.bvh$/, ''), frames: 77 }], duplicates: [], skeleton: null };
  },
}));

const [walk, jog] = (['walk', 'jog'] as const).map((script) => capture(script, { seconds: 6, seed: 6 }).motion);
const strolled = madeTake('quay-walk', walk);
const jogged = madeTake('quay-jog', jog);
const takes = [strolled.take, jogged.take];
const loopOf = (motion: Motion) => {
  const found = groundwork(motion);
  if (!found) throw new Error('nobody is there');
  return findLoops(found).candidates[0];
};
const clip = (id: string, take: string, { from, to }: { from: number; to: number }, gait: string): ClipDoc => ({
  id,
  name: id,
  source: { take, from, to },
  steps: recipeSchema.parse([{ kind: 'loop' }, { kind: 'foot-lock' }, { kind: 'travel', start: 'origin' }]),
  gait,
  direction: 'forward',
});
const clips = [clip('stroll', 'quay-walk', loopOf(walk), 'walk'), clip('jog', 'quay-jog', loopOf(jog), 'run')];
const piece = (id: string, of: string, change: object = {}) => ({ ...newPiece({ clip: of }), id, ...change }) as JoinDoc['pieces'][number];
const round = (...pieces: JoinDoc['pieces']): JoinDoc => ({ id: 'j', name: 'round', start: 'origin', pieces });

let asked: ReturnType<typeof serve>;
beforeAll(async () => {
  giveRoom();
  // jsdom draws nothing.
  HTMLCanvasElement.prototype.getContext = () => null;
  await import('@/worker/core.worker');
});
beforeEach(() => {
  useClips.setState({ project: PROJECT.id, docs: clips, saved: { stroll: { revision: 3, doc: clips[0] } }, conflicts: {} });
  useJoins.setState({ project: PROJECT.id, docs: [], saved: { j: { revision: 5, doc: null } }, conflicts: {} });
  useJoins.temporal.getState().clear();
  mockHere.join = 'j';
  mockUploaded.length = 0;
  asked = serve(({ url }) => {
    if (url.startsWith('/api/takes/quay-walk/motion')) return strolled.rows;
    if (url.startsWith('/api/takes/quay-jog/motion')) return jogged.rows;
    if (url === `/api/projects/${PROJECT.id}`) return projectData({ takes });
    if (url === '/api/takes/baked') return {};
    return 404;
  });
});
afterEach(cleanup);

const doc = () => useJoins.getState().docs.find(({ id }) => id === 'j') as JoinDoc;
const press = (key: string, init: object = {}) =>
  act(async () => void fireEvent.keyDown(document.body, { key, code: `Key${key.toUpperCase()}`, ...init }));

/** The place with a join at its address, once every crossing has its figures. */
async function joins(...pieces: JoinDoc['pieces']) {
  useJoins.setState({ docs: [round(...pieces)] });
  useJoins.temporal.getState().clear();
  const here = place(projectData({ takes }));
  render(<Joins />, { wrapper: here.wrapper });
  if (pieces.length > 1) await waitFor(() => expect(nameOf(plaque(pieces.length - 1))).toMatch(/slide \d/), { timeout: 30_000 });
  return userEvent.setup();
}
const nameOf = (element: HTMLElement) => element.getAttribute('aria-label');
const plaque = (number: number) => screen.getByRole('button', { name: new RegExp(`^Join ${number}:`) });

test('without a join the place says what to do, and makes one', async () => {
  mockHere.join = null;
  render(<Joins />, { wrapper: place(projectData({ takes })).wrapper });
  await userEvent.setup().click(screen.getByRole('button', { name: 'Make a join' }));
  expect(useJoins.getState().docs).toMatchObject([{ name: 'join-01', pieces: [] }]);
  expect(mockGo.push).toHaveBeenCalledWith(`/gullmouth/joins/${useJoins.getState().docs[0].id}`);
});

test('a join that is gone is said to be', () => {
  render(<Joins />, { wrapper: place(projectData({ takes })).wrapper });
  expect(screen.getByText('This join is not in the project any more')).toBeTruthy();
});

test('the worst crossing is open at first; what is set there is kept, and undone', async () => {
  const user = await joins(piece('a', 'stroll', { times: 2 }), piece('b', 'jog', { times: 3 }));
  const card = await screen.findByRole('region', { name: 'The chosen join' });
  expect(within(card).getByText('stroll → jog')).toBeTruthy();
  await user.click(within(card).getByRole('button', { name: 'right foot' }));
  expect(doc().pieces[1].into.line).toBe('right foot');
  await user.click(within(card).getByRole('button', { name: 'straight' }));
  await user.click(within(card).getByRole('switch', { name: 'Hold planted feet' }));
  expect(doc().pieces[1].into).toMatchObject({ curve: 'straight', hold: false });
  // Feet that are not held slide, and the plaque offers to hold them.
  const hold = await screen.findByRole('button', { name: 'hold planted feet' }, { timeout: 20_000 });
  await user.click(hold);
  expect(doc().pieces[1].into.hold).toBe(true);
  act(() => useJoins.temporal.getState().undo());
  expect(doc().pieces[1].into.hold).toBe(false);
  await user.click(within(card).getByRole('button', { name: 'drawn' }));
  const first = within(card).getByRole('slider', { name: 'Handle at the beginning' });
  fireEvent.keyDown(first, { key: 'ArrowRight' });
  expect(doc().pieces[1].into.curve).toEqual([0.45, 0, 0.6, 1]);
});

test('proposals are listed beside the map; one that is taken puts both where it says, and the ring goes there', async () => {
  const user = await joins(piece('a', 'stroll', { times: 3 }), piece('b', 'jog', { times: 3 }));
  const first = await screen.findByRole('button', { name: /^Proposal 1:/ }, { timeout: 30_000 });
  const [, a, b] = /frame (-?\d+) to (-?\d+)/.exec(first.getAttribute('aria-label') ?? '') ?? [];
  await user.click(first);
  await waitFor(() => expect(screen.getByRole('button', { name: /^Proposal 1:/ }).getAttribute('aria-pressed')).toBe('true'));
  const ring = screen.getByRole('slider', { name: /^Where both pieces meet/ });
  expect(ring.getAttribute('aria-valuetext')).toBe(`frame ${a} of the one, ${b} of the other`);
  const before = doc().pieces[1].from ?? 0;
  fireEvent.keyDown(ring, { key: 'ArrowRight' });
  expect(doc().pieces[1].from).toBe(before + 1);
});

test('the razor, a mark, a shift and the order of pieces, by keys', async () => {
  await joins(piece('a', 'stroll', { times: 2 }), piece('b', 'jog', { times: 2 }));
  act(() => usePlayer.getState().seek(60));
  await press('x');
  expect(doc().pieces.map(({ times }) => Math.round(times * 100) / 100)).toHaveLength(3);
  expect(doc().pieces[1].into.frames).toBe(0);
  await waitFor(() => expect(nameOf(plaque(2))).toMatch(/slide \d/), { timeout: 20_000 });
  act(() => usePlayer.getState().seek(30));
  await press('p');
  expect(doc().pieces[0].marks).toEqual([{ at: 30, name: 'mark 1' }]);
  await press('u');
  expect(doc().pieces[0].shifts).toMatchObject([{ at: 30, raise: 0.2 }]);
  const card = await screen.findByRole('region', { name: 'The chosen piece' });
  expect(within(card).getByRole<HTMLInputElement>('textbox', { name: 'Shift 1: raised, centimetres' }).value).toBe('20');
  expect(await screen.findByText(/\+0\.20 m over \d+ f/, {}, { timeout: 20_000 })).toBeTruthy();
  const [id] = doc().pieces.map((own) => own.id);
  await press('ArrowRight', { altKey: true, code: 'ArrowRight' });
  expect(doc().pieces.findIndex((own) => own.id === id)).toBe(1);
  await press('Delete', { code: 'Delete' });
  expect(doc().pieces.some((own) => own.id === id)).toBe(false);
});

test('what could follow is tried for every clip, and the list is in its order', async () => {
  const user = await joins(piece('a', 'stroll', { times: 2 }));
  const list = screen.getByRole('list', { name: 'Clips' });
  expect(within(list).getAllByRole('button')).toHaveLength(2);
  const search = screen.getByRole('textbox', { name: 'Search what can be joined' });
  fireEvent.change(search, { target: { value: 'jo' } });
  expect(within(list).getAllByRole('button')).toHaveLength(1);
  fireEvent.change(search, { target: { value: '' } });
  await user.click(screen.getByRole('button', { name: 'What could follow?' }));
  await waitFor(() => expect(within(list).getAllByText(/^pose \d+/)).toHaveLength(2), { timeout: 30_000 });
  // A stroll goes on as a stroll best.
  expect(nameOf(within(list).getAllByRole('button')[0])).toBe('stroll: add it to the join');
  within(list).getAllByRole('button')[1].focus();
  await user.keyboard('{Enter}');
  expect(doc().pieces.map((own) => ('clip' in own ? own.clip : ''))).toEqual(['stroll', 'jog']);
});

test('clips are cut from the join on the Bench; they are not offered to it, and while they are there it stays', async () => {
  const end = { ...clip('end', 'j', { from: 10, to: 60 }, 'walk'), steps: [] };
  useClips.setState({ docs: [...clips, end, { ...end, id: 'of-both', name: 'of-both', source: { take: 'k', from: 5, to: 40 } }] });
  const user = await joins(piece('a', 'stroll', { times: 2 }));
  act(() => useJoins.setState({ docs: [doc(), { ...round(piece('c', 'end')), id: 'k', name: 'another' }] }));
  expect(screen.getByRole('link', { name: 'Cut clips from it on the Bench' }).getAttribute('href')).toBe('/gullmouth/bench?take=j');
  const offered = within(screen.getByRole('list', { name: 'Clips' })).getAllByRole('button');
  expect(offered.map(nameOf)).toEqual(['stroll: add it to the join', 'jog: add it to the join']);
  await user.click(screen.getByRole('button', { name: 'Remove this join' }));
  await screen.findByText('“end” is cut from this join: remove it on the Bench first.');
  expect(doc()).toBeTruthy();
  act(() => useClips.setState({ docs: clips }));
  await user.click(screen.getByRole('button', { name: 'Remove this join' }));
  expect(useJoins.getState().docs.map(({ id }) => id)).toEqual(['k']);
});

test('ends, peaks and repeats are moved by arrow keys on the deck', async () => {
  await joins(piece('a', 'stroll'), piece('b', 'jog', { times: 2 }));
  const key = async (name: RegExp, with_: string) => {
    fireEvent.keyDown(screen.getByRole('slider', { name }), { key: with_ });
    await waitFor(() => expect(nameOf(plaque(1))).toMatch(/slide \d/), { timeout: 20_000 });
  };
  await key(/^Overlap into piece 2/, 'PageDown');
  expect(doc().pieces[1].into.frames).toBe(28);
  await key(/^Beginning of piece 2/, 'ArrowRight');
  expect(doc().pieces[1].from).toBe(1);
  await key(/^End of piece 1/, 'PageUp');
  expect(doc().pieces[0].times).toBeGreaterThan(1.1);
});

test('a clip that is gone is said at its piece, and nothing else is lost', async () => {
  useJoins.setState({ docs: [round(piece('a', 'stroll'), piece('b', 'nobody'))] });
  render(<Joins />, { wrapper: place(projectData({ takes })).wrapper });
  expect(doc().pieces).toHaveLength(2);
  expect(screen.getByRole<HTMLButtonElement>('button', { name: /Bake into a take/ }).disabled).toBe(true);
});

test('baked, a join is a take that knows what it was made of, with its marks', async () => {
  const user = await joins(piece('a', 'stroll', { marks: [{ at: 12, name: 'sets off' }] }), piece('b', 'jog'));
  await waitFor(() => expect(screen.getByRole<HTMLButtonElement>('button', { name: /Bake into a take/ }).disabled).toBe(false));
  await user.click(screen.getByRole('button', { name: /Bake into a take/ }));
  await screen.findByText(/is a take of its own now/, {}, { timeout: 20_000 });
  expect(mockUploaded.map(({ name }) => name)).toEqual(['round-baked.bvh']);
  const sent = asked.find(({ url }) => url === '/api/takes/baked')?.body;
  expect(sent).toMatchObject({
    made: {
      join: { id: 'j', name: 'round', revision: 5 },
      pieces: [
        { name: 'stroll', revision: 3 },
        { name: 'jog', revision: null },
      ],
    },
    markers: [{ frame: 12, name: 'sets off' }],
  });
});

/** Drags something on the deck from one pixel to another, by way of many. */
const dragBySteps = (name: RegExp, from: number, to: number) => drag(screen.getByRole('slider', { name }), from, to, { altKey: true }, 8);

test('a drag in many small movements comes to what one movement would: ends, peaks, the crossing', async () => {
  const cut = (change: object = {}) =>
    ({ ...newPiece({ take: 'quay-walk', from: 100, to: 240 }), id: 'a', ...change }) as JoinDoc['pieces'][number];
  await joins(cut(), piece('b', 'jog', { times: 2 }));
  // How many frames a movement of some pixels is.
  const last = Number(/to (\d+)$/.exec(nameOf(screen.getByRole('button', { name: /^Piece 2 of 2/ })) ?? '')?.[1]);
  const by = (pixels: number) => (pixels * last) / (900 - 72 - 14);
  dragBySteps(/^Beginning of piece 1/, 100, 140);
  expect(Math.abs((doc().pieces[0].from ?? 0) - 100 - by(40))).toBeLessThanOrEqual(1);
  act(() => useJoins.temporal.getState().undo());
  dragBySteps(/^Beginning of piece 1/, 100, 60);
  expect(Math.abs((doc().pieces[0].from ?? 0) - 100 + by(40))).toBeLessThanOrEqual(1);
  act(() => useJoins.temporal.getState().undo());
  dragBySteps(/^End of piece 1/, 500, 540);
  expect(Math.abs((doc().pieces[0].to ?? 0) - 240 - by(40))).toBeLessThanOrEqual(1);
  act(() => useJoins.temporal.getState().undo());
  dragBySteps(/^Overlap into piece 2/, 500, 460);
  expect(Math.abs(doc().pieces[1].into.frames - 18 - by(40))).toBeLessThanOrEqual(1);
  act(() => useJoins.temporal.getState().undo());
  dragBySteps(/^Where piece 1 and piece 2 meet/, 500, 520);
  expect(Math.abs((doc().pieces[0].to ?? 0) - 240 - by(20))).toBeLessThanOrEqual(1);
  expect(doc().pieces[1].from).toBe((doc().pieces[0].to ?? 0) - 240);
});

test('a cut of a take is extended as far as the take goes', async () => {
  const user = await joins({ ...newPiece({ take: 'quay-walk', from: 100, to: 180 }), id: 'a' } as JoinDoc['pieces'][number]);
  await user.click(await screen.findByRole('button', { name: /^Piece 1 of 1/ }, { timeout: 20_000 }));
  const { frames } = strolled.take;
  await screen.findByText(`There is motion for 100 more frames before it and ${frames - 1 - 180} after it.`);
});
