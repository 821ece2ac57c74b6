/** @jest-environment jsdom */
import { capture } from '@lantern/capture';
import { cutMotion, stepSchema, type SetDraft } from '@lantern/motion';
import { cleanup, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useClips, type ClipDoc } from '@/data/clips-store';
import { pairsOf } from '@/data/delivery';
import { useProjectData, type TakeInfo } from '@/data/project';
import { useSets } from '@/data/sets-store';
import { useTakeHistory } from '@/data/take-edits';
import { setDocumentSchema } from '@/http/set';
import { NewDeliveries } from '@/places/takes/NewDeliveries';
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

const better = capture('walk', { seconds: 10, seed: 8, faults: 0 }).motion;
const old = madeTake('old', capture('walk', { seconds: 10, seed: 8 }).motion, { name: 'stroll' });
const fresh = madeTake('fresh', cutMotion(better, 60, better.frames - 1), { name: 'Stroll' });
const hop = madeTake('hop', capture('hop', { seconds: 6, seed: 9 }).motion, { name: 'hop' });
const other = madeTake('other', capture('idle', { seconds: 6, seed: 2 }).motion, { name: 'hop' });
const alone = madeTake('alone', capture('idle', { seconds: 4, seed: 3 }).motion, { name: 'wait' });
const all = [old, hop, alone, fresh, other];

const clip = (name: string, from: number, to: number): ClipDoc => ({
  id: `id-${name}`,
  name,
  source: { take: 'old', from, to },
  steps: [stepSchema.parse({ kind: 'loop' })],
  gait: '',
  direction: '',
});
const docs = [clip('walk', 240, 306), clip('second', 360, 426), clip('opening', 0, 40)];
const runnerUp = (from: number, to: number) => ({ source: { take: 'old', from, to }, steps: docs[0].steps, why: 'as good' });
const draft: SetDraft = {
  choices: [{ slot: 'loop/walk/forward', clip: 'id-walk', why: 'best', others: [runnerUp(300, 366), runnerUp(0, 30)], out: [] }],
  doubts: [],
  changes: [],
};

beforeAll(async () => {
  giveRoom(900, 600);
  await import('@/worker/core.worker');
});
afterEach(cleanup);

function open(clips: readonly ClipDoc[] = docs, made = all) {
  useTakeHistory.setState({ project: null, past: [], future: [], busy: [] });
  useClips.setState({ project: PROJECT.id, docs: [...clips], saved: {}, conflicts: {} });
  const set = setDocumentSchema.parse({ id: 'set', name: 'lamplighter', character: null, slots: [], draft });
  useSets.setState({ project: PROJECT.id, docs: [set], saved: {}, conflicts: {} });
  const kept = new Map(made.map(({ take }) => [take.id, take]));
  const data = () => projectData({ takes: [...kept.values()] });
  serve(({ url, method, body }) => {
    for (const { take, rows } of made) if (url.startsWith(`/api/takes/${take.id}/motion`)) return rows;
    if (url.startsWith('/api/projects')) return data();
    const take = kept.get(url.replace('/api/takes/', ''));
    if (!take || method !== 'PATCH') return 404;
    const { before: _, ...patch } = body ?? {};
    const stored = { ...take, ...patch } as TakeInfo;
    kept.set(take.id, stored);
    return stored;
  });
  const { wrapper } = place(data());
  function Strip() {
    const { data: now } = useProjectData();
    return <NewDeliveries takes={now?.takes ?? []} />;
  }
  render(<Strip />, { wrapper });
  return { user: userEvent.setup(), kept };
}
const report = () => screen.findByRole('grid', { name: 'Clips of the old takes' }, { timeout: 40_000 });

test('takes that are here twice are pairs, whatever the case of their names; of several the last two', () => {
  const again = { ...old.take, id: 'third' };
  expect(pairsOf([...all.map(({ take }) => take), again]).map(({ old: was, fresh: is }) => [was.id, is.id])).toEqual([
    ['fresh', 'third'],
    ['hop', 'other'],
  ]);
});

test('one report of all: only what has changed is listed, the rest by a switch; what is somebody else’s motion is said', async () => {
  const { user } = open();
  expect(await screen.findByText('2 takes are here twice: new deliveries?')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'see what changes…' }));
  await report();
  expect(screen.getByText(/“hop”: /)).toBeTruthy();
  expect(screen.getByText(/2 of 3 clips are in the new takes\. \d to look at:/)).toBeTruthy();
  expect(screen.getByRole('row', { name: 'opening' }).textContent).toContain('▲ not in it');
  await user.click(screen.getByRole('switch', { name: 'all 3' }));
  expect(await screen.findByRole('row', { name: 'walk' })).toBeTruthy();
});

test('accepted, clips and runners-up are cut from the new take, but those that are kept; another performance stays as it is', async () => {
  const { user, kept } = open();
  await user.click(await screen.findByRole('button', { name: 'see what changes…' }));
  await report();
  await user.click(screen.getByRole('switch', { name: 'all 3' }));
  await user.click(await screen.findByRole('checkbox', { name: 'Cut second from the new take' }));
  await user.click(screen.getByRole('button', { name: 'Accept 1 take, with 1 of 3 clips' }));
  await waitFor(() => expect(kept.get('old')?.name).toBe('stroll (earlier)'), { timeout: 20_000 });
  await waitFor(() => expect(useClips.getState().docs.map(({ source }) => source.take)).toEqual(['fresh', 'old', 'old']));
  expect(kept.get('fresh')?.name).toBe('stroll');
  expect(kept.get('other')?.name).toBe('hop');
  expect(mockPush).toHaveBeenCalledWith('/gullmouth/takes/fresh');
  const [choice] = useSets.getState().docs[0].draft?.choices ?? [];
  expect(choice.others.map(({ source }) => source)).toEqual([{ take: 'fresh', from: 240, to: 306 }]);
});

test('where nothing has changed beyond that, all clips are shown by the switch all the same', async () => {
  const { user } = open([clip('walk', 240, 306)], [old, { ...old, take: { ...old.take, id: 'again' } }]);
  await user.click(await screen.findByRole('button', { name: 'see what changes…' }));
  expect(await screen.findByText(/1 of 1 clip is in the new takes\. None has changed/, {}, { timeout: 40_000 })).toBeTruthy();
  expect(screen.queryByRole('grid')).toBeNull();
  await user.click(screen.getByRole('switch', { name: 'all 1' }));
  expect(await screen.findByRole('checkbox', { name: 'Cut walk from the new take' })).toBeTruthy();
});
