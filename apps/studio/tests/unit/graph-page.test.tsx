/** @jest-environment jsdom */
import { capture } from '@lantern/capture';
import { findLoops, groundwork, recipeSchema, type Graph, type Motion } from '@lantern/motion';
import { act, cleanup, fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useClips, type ClipDoc } from '@/data/clips-store';
import { useReplay } from '@/data/replay';
import { useSets, type SetDoc } from '@/data/sets-store';
import { keepRecording, recordingOf, useWeather } from '@/data/weather';
import { setDocumentSchema } from '@/http/set';
import { DrivePlace } from '@/places/drive/DrivePlace';
import { SetPlace } from '@/places/set/SetPlace';
import type { CoreWorker } from '@/worker/core.worker';
import { madeTake, place, projectData, PROJECT, serve } from './place';
import { giveRoom } from './room';

// The worker's own code, run here: its face is what it would have exposed.
const mockFace: { api: CoreWorker | null } = { api: null };
jest.mock('comlink', () => ({
  expose: (api: CoreWorker) => (mockFace.api = api),
  transfer: <T,>(value: T) => value,
  proxy: <T,>(f: T) => f,
}));
jest.mock('@/worker/core', () => ({ core: () => mockFace.api }));
// What is drawn is looked at in a browser.
jest.mock('@/stage/pose-pictures', () => ({ posePicture: () => null }));
jest.mock('next/dynamic', () => () => () => null);
const mockGo = { push: jest.fn<void, [string]>(), replace: jest.fn<void, [string]>() };
const mockParams: { page?: string[]; set?: string[] } = {};
jest.mock('next/navigation', () => ({ useRouter: () => mockGo, useParams: () => mockParams, usePathname: () => '/gullmouth/set' }));

const [walk, jog] = (['walk', 'jog'] as const).map((script) => capture(script, { seconds: 6, seed: 6 }).motion);
const idle = capture('idle', { seconds: 6, seed: 6 }).motion;
const made = [madeTake('quay-walk', walk), madeTake('quay-jog', jog), madeTake('quay-wait', idle)];
const loopOf = (motion: Motion) => {
  const found = groundwork(motion);
  if (!found) throw new Error('nobody is there');
  return findLoops(found).candidates[0];
};
const clip = (id: string, take: string, { from, to }: { from: number; to: number }): ClipDoc => ({
  id,
  name: id,
  source: { take, from, to },
  steps: recipeSchema.parse([{ kind: 'loop' }, { kind: 'foot-lock' }, { kind: 'travel', start: 'origin' }]),
  gait: '',
  direction: '',
});
const clips = [
  clip('stroll', 'quay-walk', loopOf(walk)),
  clip('jog', 'quay-jog', loopOf(jog)),
  clip('wait', 'quay-wait', { from: 30, to: 300 }),
];
const doc = (change: Partial<SetDoc> = {}): SetDoc =>
  setDocumentSchema.parse({
    id: 's',
    name: 'lamplighter',
    slots: [{ kind: 'idle' }],
    fields: [{ id: 'f', name: 'strolls', inputs: ['speed'], clips: ['stroll', 'jog'] }],
    ...change,
  });
const data = projectData({ takes: made.map(({ take }) => take) });
const graphNow = (): Graph | undefined => useSets.getState().docs[0].graph;

beforeAll(async () => {
  giveRoom();
  HTMLCanvasElement.prototype.getContext = () => null;
  window.matchMedia ??= () => ({ matches: true, addEventListener() {}, removeEventListener() {} }) as unknown as MediaQueryList;
  globalThis.ResizeObserver ??= class {
    observe() {}
    unobserve() {}
    disconnect() {}
  };
  globalThis.DOMMatrixReadOnly ??= class {
    m22 = 1;
  } as unknown as typeof DOMMatrixReadOnly;
  await import('@/worker/core.worker');
});
beforeEach(() => {
  useClips.setState({ project: PROJECT.id, docs: clips, saved: {}, conflicts: {} });
  useSets.setState({ project: PROJECT.id, docs: [doc()], saved: {}, conflicts: {} });
  useSets.temporal.getState().clear();
  useWeather.setState({ key: '', weather: null, share: null, error: null, recorded: {} });
  useReplay.setState({ wanted: null });
  mockGo.push.mockClear();
  mockParams.page = ['s', 'graph'];
  mockParams.set = ['s'];
  serve(({ url }) => {
    for (const { take, rows } of made) if (url.startsWith(`/api/takes/${take.id}/motion`)) return rows;
    if (url === `/api/projects/${PROJECT.id}`) return data;
    return 404;
  });
});
afterEach(cleanup);

/** The graph's page, as a table: what is drawn needs a browser. */
async function asTable() {
  const user = userEvent.setup();
  render(<SetPlace />, { wrapper: place(data).wrapper });
  await user.click(await screen.findByRole('button', { name: 'As a table' }));
  const table = await screen.findByRole('table', { name: 'Transitions' });
  return { user, table };
}

test('without a graph of its own a set has the ready one; every transition is tried, and a change makes it the set’s', async () => {
  const { user, table } = await asTable();
  const states = screen.getByRole('table', { name: 'States' });
  expect(within(states).getByRole('button', { name: /^waiting/ }).textContent).toContain('begins here');
  expect(within(states).getByText('the field of strolls')).toBeTruthy();
  expect(graphNow()).toBeUndefined();
  await waitFor(() => expect(within(table).getAllByText(/^\d\.\d cm$/).length).toBeGreaterThanOrEqual(4));
  await user.click(within(table).getByRole('button', { name: 'moving' }));
  const panel = await screen.findByRole('region', { name: 'Transition' });
  expect(within(panel).getByRole('heading', { level: 1 }).textContent).toBe('From waiting to moving');
  await within(panel).findByText(/Tried from 24 phases/);
  // Its words can be changed: at another speed, on the beginning.
  const overlap = within(panel).getByRole('textbox', { name: 'Overlap' });
  fireEvent.focus(overlap);
  fireEvent.change(overlap, { target: { value: '18' } });
  fireEvent.keyDown(overlap, { key: 'Enter' });
  fireEvent.blur(overlap);
  await waitFor(() => expect(graphNow()?.transitions[0].overlap).toBeCloseTo(0.3, 6));
  fireEvent.mouseDown(within(panel).getByRole('combobox', { name: 'Starting' }));
  await user.click(await screen.findByRole('option', { name: 'at the beginning' }));
  expect(graphNow()?.transitions[0].entry).toBe('beginning');
  await user.click(within(panel).getByRole('button', { name: 'and when …' }));
  expect(graphNow()?.transitions[0].when).toHaveLength(2);
  act(() => useSets.temporal.getState().undo());
  expect(graphNow()?.transitions[0].when).toHaveLength(1);
});

test('a state that is added warns until it is reached and left; what mends a warning is one click', async () => {
  const { user } = await asTable();
  await user.click(screen.getByRole('button', { name: 'Add a state' }));
  const warnings = await screen.findByRole('region', { name: 'Warnings' });
  await within(warnings).findByText('new state cannot be reached from waiting.');
  within(warnings).getByText('new state cannot be left.');
  within(warnings).getByText('new state plays nothing yet.');
  const panel = await screen.findByRole('region', { name: 'State' });
  fireEvent.mouseDown(within(panel).getByRole('combobox', { name: 'Plays' }));
  await user.click(await screen.findByRole('option', { name: 'wait' }));
  expect(graphNow()?.states.at(-1)?.plays).toEqual({ clip: 'wait', loop: true });
  fireEvent.mouseDown(within(panel).getByRole('combobox', { name: 'Lead to another state' }));
  await user.click(await screen.findByRole('option', { name: 'waiting' }));
  expect(graphNow()?.transitions.at(-1)).toMatchObject({ from: 'new state', to: 'waiting' });
  await waitFor(() => expect(within(warnings).queryByText('new state cannot be left.')).toBeNull());
});

test('inputs are asked for, renamed and taken out, and conditions go along', async () => {
  const { user } = await asTable();
  await user.click(await screen.findByRole('button', { name: 'Change the input speed' }));
  const name = await screen.findByRole('textbox', { name: 'Name' });
  await user.clear(name);
  await user.type(name, 'pace{Enter}');
  await waitFor(() => expect(graphNow()?.transitions[0].when[0].input).toBe('pace'));
  await user.keyboard('{Escape}');
  await user.click(screen.getByRole('button', { name: 'add an input' }));
  await user.click(await screen.findByRole('menuitem', { name: /a press/ }));
  expect(graphNow()?.inputs.map(({ kind }) => kind)).toEqual(['number', 'press']);
});

test('Drive opens the same set; rough weather finds the worst, which is seen again and opened on the Bench', async () => {
  const user = userEvent.setup();
  render(<DrivePlace />, { wrapper: place(data).wrapper });
  await screen.findByRole('region', { name: 'Where it is in the graph' });
  screen.getByRole('group', { name: /^slide: / });
  expect(screen.queryByRole('group', { name: /^gap: / })).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Led by a capsule' }));
  await screen.findByRole('group', { name: /^gap: / });
  await user.click(screen.getByRole('button', { name: 'Try it' }));
  await screen.findByRole('button', { name: 'Try it again' });
  const findings = screen.getByRole('list', { name: 'Findings' });
  const rows = within(findings).getAllByRole('listitem');
  expect(rows.length).toBeGreaterThan(0);
  await user.click(within(rows[0]).getByRole('button', { name: /^See pop/ }));
  await screen.findByText(/played again: pop/);
  await user.click(within(rows[0]).getByRole('button', { name: /on the Bench/ }));
  expect(mockGo.push.mock.calls.at(-1)?.[0]).toMatch(/^\/gullmouth\/bench\/(stroll|jog|wait)$/);
});

test('what is recorded is kept beyond the visit', () => {
  const script = { state: 0, at: 0, led: 'root' as const, inputs: [0], changes: [{ step: 3, input: 0, value: 1 }], steps: 20 };
  keepRecording('s', script);
  useWeather.setState({ recorded: {} });
  expect(recordingOf('s')).toEqual(script);
  expect(recordingOf('other')).toBeNull();
});
