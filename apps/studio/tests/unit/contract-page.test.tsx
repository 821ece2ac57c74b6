/** @jest-environment jsdom */
import { recipeSchema, type ClipTraits, type ContractLine } from '@lantern/motion';
import { act, cleanup, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useClips, type ClipDoc } from '@/data/clips-store';
import type { SetView } from '@/data/set-view';
import { useSets } from '@/data/sets-store';
import { setDocumentSchema } from '@/http/set';
import { ContractPage } from '@/places/set/contract/ContractPage';
import { place, PROJECT } from './place';

const mockKept: { name: string; text: string }[] = [];
jest.mock('@/data/keep-file', () => ({ keepFile: (name: string, text: string) => mockKept.push({ name, text }) }));
// Charts are looked at in a browser.
jest.mock('@/places/set/contract/SpeedChart', () => ({ SpeedChart: () => null }));

const clip = (id: string): ClipDoc => ({
  id,
  name: `wick-${id}`,
  source: { take: 't', from: 0, to: 60 },
  steps: recipeSchema.parse([{ kind: 'loop' }]),
  gait: '',
  direction: '',
});
const traits = (change: Partial<ClipTraits>): ClipTraits =>
  ({ speedMps: 1.3, turnDegS: 0, turnDeg: 0, distanceM: 2, ...change }) as ClipTraits;
const line = (change: Partial<ContractLine>): ContractLine => ({
  ...{ id: 'speedMps/walk/forward', title: 'walk ahead', unit: 'm/s', digits: 2, asked: 1.5, slot: 'w', clip: 'walk', measured: 1.3 },
  ...{ warp: { time: 0.87, stride: 1, path: 1 }, breaks: null, reach: [1.1, 1.6] },
  ...change,
});
const LINES: readonly ContractLine[] = [
  line({}),
  line({
    id: 'speedMps/jog/forward',
    title: 'jog ahead',
    clip: 'jog',
    asked: 3.9,
    measured: 2.8,
    breaks: 'strides would be 1.4 times as long',
  }),
  line({ id: 'speedMps/hush/forward', title: 'hush ahead', clip: 'hush', asked: null, measured: 0.712, warp: null, reach: null }),
  line({
    id: 'turnAnglesDeg/90',
    title: 'turn by 90',
    unit: '°',
    digits: 0,
    clip: 'turn',
    asked: 90,
    measured: 90,
    warp: null,
    reach: null,
  }),
  line({
    id: 'stoppingM/walk',
    title: 'stop from a walk',
    unit: 'm',
    clip: null,
    slot: null,
    asked: 1.2,
    measured: null,
    warp: null,
    reach: null,
  }),
];

function opened(measured: readonly ContractLine[] | null = LINES) {
  const doc = setDocumentSchema.parse({ id: 's', name: 'lamplighter', slots: [], contract: { speedMps: { walk: { forward: 1.5 } } } });
  useSets.setState({ project: PROJECT.id, docs: [doc], saved: {}, conflicts: {} });
  const docs = ['walk', 'jog', 'hush', 'turn'].map(clip);
  useClips.setState({ project: PROJECT.id, docs, saved: {}, conflicts: {} });
  const view = {
    members: docs.map((own) => ({ doc: own })),
    traits: new Map(docs.map(({ id }) => [id, traits(id === 'turn' ? { turnDeg: 90 } : {})])),
    measured: measured && { contract: measured },
  } as unknown as SetView;
  const Page = () => <ContractPage doc={useSets((state) => state.docs[0])} view={view} />;
  render(<Page />, { wrapper: place().wrapper });
  return userEvent.setup();
}
const row = (title: string) => within(screen.getByRole('row', { name: title }));
const asked = () => useSets.getState().docs[0].contract;
const steps = (id: string) => useClips.getState().docs.find((own) => own.id === id)?.steps ?? [];
/** A file, which says its text here too. */
const json = (text: string, name = 'game.json') =>
  Object.assign(new File([text], name, { type: 'application/json' }), { text: async () => text });

beforeEach(() => {
  globalThis.ResizeObserver ??= class {
    observe() {}
    unobserve() {}
    disconnect() {}
  };
  mockKept.length = 0;
});
afterEach(cleanup);

test('while a set is measured the page says so', () => {
  opened(null);
  expect(screen.getByRole('progressbar', { name: 'Measuring the set' })).toBeTruthy();
});

test('a line says what is asked, what the clip does, the warp between them, and where it breaks', () => {
  opened();
  const walk = row('walk ahead');
  expect(walk.getByText('wick-walk')).toBeTruthy();
  expect(walk.getByText('1.30 m/s')).toBeTruthy();
  expect(walk.getByText('× 0.87')).toBeTruthy();
  expect(walk.getByText('good from 1.10 to 1.60 m/s')).toBeTruthy();
  expect(row('jog ahead').getByText('▲ strides would be 1.4 times as long')).toBeTruthy();
  const stop = row('stop from a walk');
  expect(stop.getByText('no clip')).toBeTruthy();
  expect(stop.getByText('–')).toBeTruthy();
});

test('a number is asked for as it was measured, typed anew, and asked for no more; an angle of the list cannot be left out', async () => {
  const user = opened();
  await user.click(row('hush ahead').getByRole('button', { name: 'Ask for a number: hush ahead' }));
  expect(asked().speedMps.hush?.forward).toBe(0.71);
  // Without a layout, what divides the page takes every press of the pointer.
  const field = row('walk ahead').getByRole<HTMLInputElement>('textbox', { name: 'The game asks: walk ahead' });
  act(() => {
    field.focus();
    field.select();
  });
  await user.keyboard('1.45{Enter}');
  expect(asked().speedMps.walk?.forward).toBe(1.45);
  await user.click(row('walk ahead').getByRole('button', { name: 'Ask for nothing: walk ahead' }));
  expect(asked().speedMps.walk?.forward).toBeUndefined();
  expect(row('turn by 90').queryByRole('button', { name: /nothing/ })).toBeNull();
});

test('a line is applied to its own clip alone, all of them at once; what is there already asks for nothing', async () => {
  const user = opened();
  expect(row('turn by 90').queryByRole('button', { name: /Apply/ })).toBeNull();
  await user.click(row('jog ahead').getByRole('button', { name: 'Apply: jog ahead' }));
  expect(steps('jog').find(({ kind }) => kind === 'speed')).toMatchObject({ mps: 3.9 });
  expect(steps('walk').some(({ kind }) => kind === 'speed')).toBe(false);
  expect(await screen.findByText('1 clip was brought to the game’s numbers; undo takes it back.')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Apply to 2 clips' }));
  expect(steps('walk').find(({ kind }) => kind === 'speed')).toMatchObject({ mps: 1.5 });
  expect(steps('hush').some(({ kind }) => kind === 'speed')).toBe(false);
});

test('numbers come as JSON, alone or within a set; what is none of it is refused by name, and nothing is lost', async () => {
  const user = opened();
  const input = screen.getByLabelText<HTMLInputElement>('A contract as JSON');
  await user.upload(input, json('{ "speedMps": { "walk": { "forward": 1.6 } } }'));
  await waitFor(() => expect(asked().speedMps.walk?.forward).toBe(1.6));
  await user.upload(input, json('{ "contract": { "speedMps": { "walk": { "forward": 1.7 } } } }'));
  await waitFor(() => expect(asked().speedMps.walk?.forward).toBe(1.7));
  await user.upload(input, json('speed: 3', 'notes.json'));
  expect(await screen.findByText('“notes.json” was not taken: it is not JSON.')).toBeTruthy();
  await user.upload(input, json('{ "speedMps": { "walk": { "forward": -4 } } }', 'back.json'));
  expect(await screen.findByText(/“back.json” was not taken: it has none of the fields/)).toBeTruthy();
  expect(asked().speedMps.walk?.forward).toBe(1.7);
});

test('the set’s own numbers become the contract, and it is kept as JSON and as a table', async () => {
  const user = opened();
  await user.click(screen.getByRole('button', { name: 'the set’s own numbers' }));
  expect(asked().speedMps.jog?.forward).toBeCloseTo(2.8, 2);
  await user.click(screen.getByRole('button', { name: 'Save the contract as JSON' }));
  await user.click(screen.getByRole('button', { name: 'Save the contract as CSV' }));
  expect(mockKept.map(({ name }) => name)).toEqual(['lamplighter-contract.json', 'lamplighter-contract.csv']);
  expect(JSON.parse(mockKept[0].text)).toMatchObject({ speedMps: { walk: { forward: 1.3 } } });
  expect(mockKept[1].text).toContain('walk ahead');
});
