/** @jest-environment jsdom */
import { recipeSchema, slotSchema, type Shot, type SlotReport } from '@lantern/motion';
import { act, cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useClips, type ClipDoc } from '@/data/clips-store';
import type { SetView } from '@/data/set-view';
import { useSets, type SetDoc } from '@/data/sets-store';
import { setDocumentSchema } from '@/http/set';
import { CoveragePage } from '@/places/set/slots/CoveragePage';
import { place, projectData } from './place';
import { giveRoom } from './room';

// What is drawn is looked at in a browser.
jest.mock('next/dynamic', () => () => () => null);
const mockPush = jest.fn<void, [string]>();
jest.mock('next/navigation', () => ({ useRouter: () => ({ push: mockPush }), useParams: () => ({}) }));

const report = (slot: Parameters<typeof slotSchema.parse>[0], id: string, change: Partial<SlotReport> = {}): SlotReport => ({
  ...{ id, slot: slotSchema.parse(slot), state: 'filled', clip: null, isPinned: false, others: [], ends: [] },
  ...{ homeCm: null, loop: null, speedMps: null, askedMps: null, turnDegS: 0, figure: null },
  ...change,
});
const walk = report({ kind: 'loop', gait: 'walk' }, 'loop/walk/forward', { clip: 'a', speedMps: 1.3, askedMps: 1.6 });
const turn = report({ kind: 'turn', angle: 90, side: 'left' }, 'turn/left/90', {
  ...{ clip: 'b', homeCm: 2.4, ends: [{ end: 'last', cm: 2.4, worstJoint: 'LeftHand', worstDeg: 9 }] },
});
const mirrored = report({ kind: 'turn', angle: 90, side: 'right' }, 'turn/right/90', { state: 'mirror', clip: 'b' });
const missing = report({ kind: 'loop', gait: 'walk', direction: 'left' }, 'loop/walk/left', { state: 'missing' });
const shot: Shot = {
  ...{ id: missing.id, number: 1, slot: missing.id, gives: 'walk-left', text: 'Walk to the left along the quay.' },
  ...{ isEdited: false, done: false, by: null, sketch: null, script: null },
};
const clip = (id: string, name: string): ClipDoc => ({
  ...{ id, name, gait: '', direction: '', source: { take: 't', from: 0, to: 60 } },
  steps: recipeSchema.parse([{ kind: 'foot-lock' }, { kind: 'travel' }]),
});
const doc: SetDoc = setDocumentSchema.parse({
  id: 's',
  name: 'lamplighter',
  slots: [walk, turn, mirrored, missing].map(({ slot }) => slot),
});

function viewOf(slots: readonly SlotReport[] | null): SetView {
  const count = (state: SlotReport['state']) => slots?.filter((own) => own.state === state).length ?? 0;
  const counts = { filled: count('filled'), mirror: count('mirror'), missing: count('missing'), doubted: count('doubted') };
  return {
    ...{ members: [], traits: new Map(), failed: [], done: 0, error: null, isBusy: slots === null },
    measured: slots && { coverage: { slots, counts, spare: [] }, contract: [], shots: [shot], proposal: null, home: null },
  };
}
const show = (slots: readonly SlotReport[] | null = [walk, turn, mirrored, missing]) =>
  render(<CoveragePage doc={doc} view={viewOf(slots)} />, { wrapper: place(projectData({})).wrapper });

beforeAll(() => giveRoom());
beforeEach(() => {
  useClips.setState({ project: 'gullmouth', docs: [clip('a', 'stroll'), clip('b', 'turn-left-90')], saved: {}, conflicts: {} });
  useSets.setState({ project: 'gullmouth', docs: [doc], saved: {}, conflicts: {} });
  useClips.temporal.getState().clear();
  mockPush.mockClear();
});
afterEach(cleanup);

test('says how much is there, and that it is measured while it is', () => {
  show(null);
  expect(screen.getByRole('progressbar', { name: 'Measuring the set' })).toBeTruthy();
  cleanup();
  show();
  const said = screen.getAllByRole('status').map(({ textContent }) => textContent);
  expect(said).toContain('2 of 4 there · 1 by mirroring · 1 to capture');
});

test('what mirroring fills is made at once and said; where nothing is to be mirrored nothing offers it', async () => {
  show();
  await userEvent.click(screen.getByRole('button', { name: 'Mirror the 1' }));
  const made = useClips.getState().docs;
  expect(made.map(({ name }) => name)).toEqual(['stroll', 'turn-left-90', 'turn-right-90']);
  expect(made[2].steps.map(({ kind }) => kind)).toContain('mirror');
  expect(await screen.findByText('1 clip was mirrored; undo takes it back.')).toBeTruthy();
  act(() => useClips.temporal.getState().undo());
  expect(useClips.getState().docs).toHaveLength(2);
  cleanup();
  show([walk, missing]);
  expect(screen.queryByRole('button', { name: /^Mirror/ })).toBeNull();
});

test('a lamp that is lit leads to the Bench, one that is missing nowhere', () => {
  show();
  fireEvent.keyDown(screen.getByRole('button', { name: /^stroll: there/ }), { key: 'Enter' });
  expect(mockPush).toHaveBeenCalledWith('/gullmouth/bench/a');
  fireEvent.keyDown(screen.getByRole('button', { name: /on the shot list$/ }), { key: 'Enter' });
  expect(mockPush).toHaveBeenCalledTimes(1);
});

test('what wants doing is told one at a time, and its button does it', async () => {
  show();
  expect(screen.getByText('▲ turn-left-90 ends 2.4 cm from home, 1.5 at most')).toBeTruthy();
  await userEvent.click(screen.getByRole('button', { name: 'Next of 2 things to do' }));
  expect(screen.getByText('▲ stroll goes 1.30 m/s, the game 1.6')).toBeTruthy();
  await userEvent.click(screen.getByRole('button', { name: 'bring it to that speed' }));
  expect(useClips.getState().docs[0].steps).toContainEqual(expect.objectContaining({ kind: 'speed', mps: 1.6 }));
  cleanup();
  show([missing]);
  expect(screen.getByText('Nothing is out of bounds, and no two clips contend.')).toBeTruthy();
});

test('every tool of the page opens, and closes again', async () => {
  show();
  for (const tool of ['fill from takes', 'many at once', 'edit the slots']) {
    await userEvent.click(screen.getByRole('button', { name: tool }));
    await screen.findByRole('dialog');
    await userEvent.keyboard('{Escape}');
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  }
});
