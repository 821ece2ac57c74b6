/** @jest-environment jsdom */
import { slotId, slotSchema, type SlotReport } from '@lantern/motion';
import { act, cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useClips } from '@/data/clips-store';
import type { Offer, Wanted } from '@/data/offers';
import type { TakeInfo } from '@/data/project';
import { setDocumentSchema } from '@/http/set';
import { FillFromTakes } from '@/places/set/slots/FillFromTakes';
import { place, plainTake, projectData } from './place';

/** What the takes offer, by name; one that is an error cannot be read. */
let mockOffers: Record<string, readonly Offer[] | Error> = {};
const mockAsked: { take: string; wanted: Wanted }[] = [];
let mockWaits: Promise<void> = Promise.resolve();
jest.mock('@/data/offers', () => ({
  async *offersOf(take: TakeInfo, wanted: Wanted) {
    mockAsked.push({ take: take.id, wanted });
    await mockWaits;
    const own = mockOffers[take.id] ?? [];
    if (own instanceof Error) throw own;
    yield* own;
  },
}));

beforeEach(() => {
  mockOffers = {};
  mockAsked.length = 0;
  mockWaits = Promise.resolve();
  useClips.setState({ project: 'gullmouth', docs: [], saved: {}, conflicts: {} });
});
afterEach(cleanup);

const walk = slotSchema.parse({ kind: 'loop', gait: 'walk' });
const turn = slotSchema.parse({ kind: 'turn', angle: 90, side: 'left' });
const reports = [
  { slot: walk, id: slotId(walk), state: 'missing' },
  { slot: turn, id: slotId(turn), state: 'mirror' },
  { slot: slotSchema.parse({ kind: 'idle' }), id: 'idle', state: 'filled' },
] as unknown as SlotReport[];
const doc = setDocumentSchema.parse({ id: 's', name: 'lamplighter', slots: [{ kind: 'idle' }], character: 'wick' });
const offer = (slot: typeof walk, name: string, take: TakeInfo, from: number, cost: number): Offer =>
  ({
    ...{ id: `${take.id} ${from} ${slotId(slot)}`, slot: slotId(slot), name, take, cost },
    proposal: { from, to: from + 60, isLoop: slot === walk, name, tags: { gait: 'walk', direction: '' } },
    traits: { kind: slot.kind, turnDeg: 88.4, speedMps: 1.31, figures: { slideCm: 0.12, tick: 0.6, loop: slot === walk } },
  }) as unknown as Offer;
const [quay, pier] = ['quay', 'pier'].map((id) => plainTake(id));
const long = plainTake('long-day', { long: true });

const open = (takes: readonly TakeInfo[]) => {
  const onClose = jest.fn();
  render(<FillFromTakes doc={doc} reports={reports} onClose={onClose} />, { wrapper: place(projectData({ takes: [...takes] })).wrapper });
  return { onClose, user: userEvent.setup() };
};
const offers = () => within(screen.getByRole('list', { name: 'Offers' })).queryAllByRole('listitem');
const ticked = () =>
  screen
    .getAllByRole<HTMLInputElement>('checkbox')
    .filter(({ checked }) => checked)
    .map((box) => box.getAttribute('aria-label'));

test('every take is held against what is missing or would be mirrored; the best of each slot is ticked, and what is ticked is cut', async () => {
  mockOffers = {
    quay: [offer(walk, 'walk-forward', quay, 10, 0.9), offer(turn, 'turn-left-90', quay, 200, 0.4)],
    pier: [offer(walk, 'walk-forward', pier, 30, 0.3)],
  };
  const { onClose, user } = open([quay, pier]);
  expect(await screen.findByRole('button', { name: 'Close' })).toBeTruthy();
  expect(mockAsked.map(({ take, wanted }) => [take, wanted.slots.map(slotId), wanted.character])).toEqual(
    ['quay', 'pier'].map((take) => [take, [slotId(walk), slotId(turn)], 'wick']),
  );
  expect(offers()).toHaveLength(3);
  expect(ticked().sort()).toEqual(['Cut turn-left-90 from quay, frame 200', 'Cut walk-forward from pier, frame 30']);
  // Another than the best is taken as well: it gets a name of its own.
  await user.click(screen.getByRole('checkbox', { name: 'Cut walk-forward from quay, frame 10' }));
  await user.click(screen.getByRole('button', { name: 'Make 3 clips' }));
  const made = useClips.getState().docs;
  expect(made.map(({ source }) => [source.take, source.from]).sort()).toEqual([
    ['pier', 30],
    ['quay', 10],
    ['quay', 200],
  ]);
  expect(new Set(made.map(({ name }) => name.toLowerCase())).size).toBe(3);
  expect(made.find(({ name }) => name === 'turn-left-90')?.steps.map(({ kind }) => kind)).not.toContain('loop');
  expect(onClose).toHaveBeenCalledTimes(1);
  expect(await screen.findByText('3 clips were cut; undo takes them back.')).toBeTruthy();
});

test('a take that cannot be read is named with why, and the others go on', async () => {
  mockOffers = { quay: new Error('The server cannot be reached.'), pier: [offer(walk, 'walk-forward', pier, 30, 0.3)] };
  open([quay, pier]);
  expect((await screen.findByRole('alert')).textContent).toBe('▲ quay: The server cannot be reached.');
  expect(await screen.findByRole('button', { name: 'Make 1 clip' })).toBeTruthy();
});

test('where nothing fits it says so, and of takes that are too long that they were left out', async () => {
  open([quay, long]);
  expect(await screen.findByText(/None of the takes has anything for a slot that is missing/)).toBeTruthy();
  expect(screen.getByText(/One take is too long to be read whole and is left out: cut it on the Bench./)).toBeTruthy();
  expect(mockAsked.map(({ take }) => take)).toEqual(['quay']);
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Make 0 clips' }).disabled).toBe(true);
});

test('while it reads it says how far it is, and can be stopped', async () => {
  let go = () => {};
  mockWaits = new Promise((resolve) => (go = resolve));
  const { onClose, user } = open([quay, pier]);
  expect(screen.getByRole('status').textContent).toBe('reading take 1 of 2: quay');
  await user.click(screen.getByRole('button', { name: 'Stop' }));
  expect(onClose).toHaveBeenCalledTimes(1);
  cleanup();
  await act(async () => go());
  expect(useClips.getState().docs).toEqual([]);
});
