/** @jest-environment jsdom */
import { act, cleanup, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useClips, type ClipDoc } from '@/data/clips-store';
import { useSets } from '@/data/sets-store';
import type { ReadyRow, ShipmentRow } from '@/http/shipment';
import { Ship } from '@/places/ship/Ship';
import { useDesk } from '@/places/ship/use-desk';
import { useCommands } from '@/shell/commands';
import { place, projectData, PROJECT, serve } from './place';
import { giveRoom } from './room';
import { about, row, set, shipment } from './ship-rows';

jest.mock('next/navigation', () => ({ useRouter: () => ({ push: jest.fn() }) }));

/** Addresses that the browser was told to keep. */
let kept: string[] = [];
beforeAll(() => {
  giveRoom(1400, 600);
  window.matchMedia = (query: string) =>
    ({ matches: true, media: query, addEventListener() {}, removeEventListener() {} }) as unknown as MediaQueryList;
  URL.createObjectURL = () => 'blob:here';
  URL.revokeObjectURL = () => {};
  HTMLAnchorElement.prototype.click = function (this: HTMLAnchorElement) {
    kept.push(this.getAttribute('href') ?? '');
  };
});
afterEach(() => {
  cleanup();
  useDesk.setState({ project: '', choice: null, picked: {} });
  useSets.setState({ docs: [] });
});

interface Server {
  rows: ReadyRow[];
  shipments: ShipmentRow[];
  readonly asked: { ship: { without?: string[]; fps?: number } }[];
}

const doc = (name: string): ClipDoc => ({
  id: `id-${name}`,
  name,
  source: { take: 't', from: 0, to: 9 },
  steps: [],
  gait: '',
  direction: '',
});

/** Ship, beside a server that knows these clips. */
function open(rows: ReadyRow[], shipments: ShipmentRow[] = []) {
  kept = [];
  const server: Server = { rows, shipments, asked: [] };
  useClips.setState({ project: PROJECT.id, docs: rows.map(({ name }) => doc(name)), saved: {}, conflicts: {}, state: 'saved' });
  const data = projectData({});
  serve(({ url, method, body }) => {
    if (url.endsWith('/readiness')) return { rows: server.rows };
    if (url.endsWith('/shipments') && method === 'POST') {
      server.asked.push(body as Server['asked'][number]);
      server.shipments = [shipment({ id: 'new', state: 'making', done: 1, of: 2, files: [], written: [] }), ...server.shipments];
      return { id: 'new' };
    }
    if (url.endsWith('/shipments')) return { shipments: server.shipments };
    if (url.startsWith('/api/shipments/')) {
      if (method === 'DELETE') server.shipments = server.shipments.filter(({ id }) => !url.endsWith(id));
      return { clips: [], guarantees: [{ id: 'root', what: 'one root joint', ok: true, found: [] }] };
    }
    return url.startsWith('/api/projects') ? data : 404;
  });
  const { wrapper } = place(data);
  render(<Ship />, { wrapper });
  return { user: userEvent.setup(), server };
}

test('without a clip the place says what to do first', () => {
  open([]);
  expect(screen.getByText('Nothing to ship yet')).toBeTruthy();
  expect(screen.getByRole('link', { name: 'Go to the Bench' }).getAttribute('href')).toBe('/gullmouth/bench');
});

test('what is ready leaves, the others stay behind unless they are put in; what arrives is kept by the browser', async () => {
  const { user, server } = open([row('stroll'), row('skating', { about: about({ slideCm: 3 }) })]);
  await screen.findByRole('heading', { name: '1 of 2 are ready' });
  expect(screen.getByText('the other one stays behind')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Ship 1 clip' }));
  await screen.findByRole('progressbar', { name: 'Shipping' });
  expect(server.asked[0].ship).toMatchObject({ without: ['id-skating'], fps: 60, thin: { boundMm: 0.5 }, glb: 'wick.glb' });
  expect(kept).toEqual([]);
  server.shipments = server.shipments.map((own) => ({ ...own, state: 'done' as const }));
  await waitFor(() => expect(kept).toEqual(['/api/shipments/new/zip']));
  expect(await screen.findByText('none touched')).toBeTruthy();
  await user.click(screen.getByRole('checkbox', { name: 'Ship skating' }));
  expect((screen.getByRole('button', { name: 'Ship 2 clips' }) as HTMLButtonElement).disabled).toBe(false);
  await user.click(screen.getByRole('button', { name: 'ship what is ready' }));
  expect(screen.getByRole('button', { name: 'Ship 1 clip' })).toBeTruthy();
});

test('while clips are measured they are counted, and their figures come by themselves', async () => {
  const { server } = open([row('stroll', { state: 'waiting', about: null })]);
  expect(await screen.findByText('1 clip still being measured')).toBeTruthy();
  expect((screen.getByRole('button', { name: 'Ship 0 clips' }) as HTMLButtonElement).disabled).toBe(true);
  server.rows = [row('stroll')];
  expect(await screen.findByRole('heading', { name: '1 of 1 is ready' })).toBeTruthy();
});

test('bounds are kept with the sets, as one step of undo, and clips are held to them at once', async () => {
  useSets.setState({ docs: [set], state: 'saved' });
  useSets.temporal.getState().clear();
  const { user } = open([row('stroll', { about: about({ slideCm: 0.4 }) })]);
  await screen.findByRole('heading', { name: '1 of 1 is ready' });
  const field = screen.getByRole('textbox', { name: 'Bound of slide' });
  await user.clear(field);
  await user.type(field, '0.2{Enter}');
  expect(useSets.getState().docs[0].bounds.slideCm).toBe(0.2);
  expect(await screen.findByRole('heading', { name: '0 of 1 is ready' })).toBeTruthy();
  act(() => useSets.temporal.getState().undo());
  expect(await screen.findByRole('heading', { name: '1 of 1 is ready' })).toBeTruthy();
});

test('it ships as last time until something is changed, and again when that is asked for', async () => {
  const last = shipment({ ship: { ...shipment().ship, fps: 30, bvh: true } });
  const { user, server } = open([row('stroll')], [last]);
  await screen.findByText(/at 30 frames a second/);
  expect(screen.getByText('as last time')).toBeTruthy();
  await user.click(screen.getByRole('radio', { name: '50' }));
  await screen.findByText(/at 50 frames a second/);
  await user.click(screen.getByRole('button', { name: 'as last time' }));
  await screen.findByText(/at 30 frames a second/);
  await user.click(screen.getByRole('button', { name: 'Ship 1 clip' }));
  await waitFor(() => expect(server.asked).toHaveLength(1));
  expect(server.asked[0].ship).toMatchObject({ fps: 30, bvh: true });
});

test('what is on its way is stopped; what shipped is taken back, with undo', async () => {
  const { user, server } = open([row('stroll')], [shipment({ id: 'now', state: 'making' }), shipment({ id: 'old' })]);
  await user.click(await screen.findByRole('button', { name: 'stop' }));
  await waitFor(() => expect(server.shipments.map(({ id }) => id)).toEqual(['old']));
  await user.click(await screen.findByRole('button', { name: /^Take the shipment of .* back$/ }));
  await waitFor(() => expect(server.shipments).toEqual([]));
  expect(await screen.findByRole('button', { name: 'undo' })).toBeTruthy();
});

test('the other sides of the chosen clips are made at once, as one step of undo; rates are commands', async () => {
  const { user } = open([row('turn-left'), row('stroll')]);
  await screen.findByRole('heading', { name: '2 of 2 are ready' });
  useClips.temporal.getState().clear();
  await user.click(screen.getByRole('button', { name: 'Make the other side of 2 clips' }));
  expect(
    useClips
      .getState()
      .docs.map(({ name }) => name)
      .sort(),
  ).toEqual(['stroll', 'stroll-mirrored', 'turn-left', 'turn-right']);
  act(() => useClips.temporal.getState().undo());
  expect(useClips.getState().docs).toHaveLength(2);
  act(() =>
    useCommands
      .getState()
      .byPlace.ship.find(({ id }) => id === 'rate-24')
      ?.run(),
  );
  expect(await screen.findByText(/at 24 frames a second/)).toBeTruthy();
  expect(within(screen.getByRole('grid', { name: 'Readiness' })).queryByText('turn-right')).toBeNull();
});
