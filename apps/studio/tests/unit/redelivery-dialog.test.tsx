/** @jest-environment jsdom */
import { capture } from '@lantern/capture';
import { cutMotion, stepSchema } from '@lantern/motion';
import { cleanup, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useClips, type ClipDoc } from '@/data/clips-store';
import { useProjectData, type TakeInfo } from '@/data/project';
import { useTakeHistory } from '@/data/take-edits';
import { Redelivery } from '@/places/takes/Redelivery';
import type { CoreWorker } from '@/worker/core.worker';
import { madeTake, place, projectData, PROJECT, serve } from './place';
import { giveRoom } from './room';

const mockFace: { api: CoreWorker | null } = { api: null };
jest.mock('comlink', () => ({
  expose: (api: CoreWorker) => (mockFace.api = api),
  transfer: <T,>(value: T) => value,
  proxy: <T,>(f: T) => f,
}));
jest.mock('@/worker/core', () => ({ core: () => mockFace.api }));
const mockPush = jest.fn<void, [string]>();
jest.mock('next/navigation', () => ({ useRouter: () => ({ push: mockPush }) }));

const captured = capture('walk', { seconds: 10, seed: 8 }).motion;
const better = capture('walk', { seconds: 10, seed: 8, faults: 0 }).motion;
const about = { tags: ['quay'], notes: 'the good one', star: true, markers: [{ frame: 300, name: 'gull' }] };
const old = madeTake('old', captured, { name: 'quay-walk', ...about });
const fresh = madeTake('fresh', cutMotion(better, 60, better.frames - 1), { name: 'quay-walk-solved' });
const slow = madeTake('slow', { ...captured, fps: 30 });
const stranger = madeTake('stranger', capture('idle', { seconds: 4, seed: 3 }).motion);

const clip = (name: string, from: number, to: number): ClipDoc => ({
  id: `id-${name}`,
  name,
  source: { take: 'old', from, to },
  steps: [stepSchema.parse({ kind: 'loop' })],
  gait: '',
  direction: '',
});
const docs = [clip('stroll', 240, 306), clip('second', 360, 426), clip('opening', 0, 40)];

beforeAll(async () => {
  giveRoom(900, 600);
  await import('@/worker/core.worker');
});
afterEach(cleanup);

function open(by: { take: TakeInfo }, clips: readonly ClipDoc[] = docs) {
  mockPush.mockClear();
  useTakeHistory.setState({ project: null, past: [], future: [], busy: [] });
  useClips.setState({ project: PROJECT.id, docs: clips, saved: {}, conflicts: {} });
  const kept = new Map([old.take, by.take].map((take) => [take.id, take]));
  const data = () => projectData({ takes: [...kept.values()] });
  serve(({ url, method, body }) => {
    for (const { take, rows } of [old, fresh, slow, stranger]) if (url.startsWith(`/api/takes/${take.id}/motion`)) return rows;
    if (url.startsWith('/api/projects')) return data();
    const take = kept.get(url.replace('/api/takes/', ''));
    if (!take || method !== 'PATCH') return 404;
    const { before: _, ...patch } = body ?? {};
    const stored = { ...take, ...patch } as TakeInfo;
    kept.set(take.id, stored);
    return stored;
  });
  const { wrapper } = place(data());
  const onClose = jest.fn();
  function Dialog() {
    useProjectData();
    return <Redelivery old={old.take} fresh={by.take} onClose={onClose} />;
  }
  render(<Dialog />, { wrapper });
  return { user: userEvent.setup(), onClose, kept };
}
const found = () => screen.findByRole('grid', { name: 'Clips of the old take' }, { timeout: 30_000 });

test('it says how the new one lies to the old one, and which clips are in it', async () => {
  open(fresh);
  await found();
  expect(
    screen.getByText(/The new one begins 1\.00 s into it, holds 90 % of it, and its poses differ by \d\.\d cm as a rule\./),
  ).toBeTruthy();
  expect(screen.getByRole('row', { name: 'stroll' }).textContent).toContain('180–246');
  expect(screen.getByRole('row', { name: 'opening' }).textContent).toContain('▲ not in it');
  expect(screen.getByText(/With it go 1 marker, its name, tags and notes\..*1 clip not found stays with the old take\./)).toBeTruthy();
});

test('accepted, the new one has the name and all that stood beside the old one, and only the ticked clips move', async () => {
  const { user, onClose, kept } = open(fresh);
  await found();
  await user.click(screen.getByRole('checkbox', { name: 'Cut second from the new take' }));
  await user.click(screen.getByRole('button', { name: 'Accept, with 1 of 3 clips' }));
  await waitFor(() => expect(onClose).toHaveBeenCalled(), { timeout: 20_000 });
  expect(kept.get('old')?.name).toBe('quay-walk (earlier)');
  expect(kept.get('fresh')).toMatchObject({ name: 'quay-walk', tags: ['quay'], notes: 'the good one', star: true });
  expect(Math.abs((kept.get('fresh')?.markers[0].frame ?? 0) - 240)).toBeLessThanOrEqual(2);
  expect(useClips.getState().docs.map(({ source }) => source)).toEqual([
    { take: 'fresh', from: 180, to: 246 },
    { take: 'old', from: 360, to: 426 },
    { take: 'old', from: 0, to: 40 },
  ]);
  expect(mockPush).toHaveBeenCalledWith('/gullmouth/takes/fresh');
});

test('left as it is, nothing has changed', async () => {
  const { user, onClose, kept } = open(fresh);
  await found();
  await user.click(screen.getByRole('button', { name: 'Leave all as it is' }));
  expect(onClose).toHaveBeenCalled();
  expect([...kept.values()].map(({ name }) => name)).toEqual(['quay-walk', 'quay-walk-solved']);
  expect(useClips.getState().docs).toEqual(docs);
});

test('a take of something else says that it may be another performance, or that nothing of it was found', async () => {
  open(stranger);
  const said = await screen.findByText(/another performance|stays in the list as a take of its own/, {}, { timeout: 30_000 });
  expect(said).toBeTruthy();
  expect(useClips.getState().docs).toEqual(docs);
});

test('a delivery that was read at half its rate is told, with its repair', async () => {
  open(slow);
  expect(
    await screen.findByText(/It takes 2\.00 times as long: it was probably read at a wrong rate\./, {}, { timeout: 30_000 }),
  ).toBeTruthy();
  expect(screen.getByRole('button', { name: 'read it at 60' })).toBeTruthy();
});
