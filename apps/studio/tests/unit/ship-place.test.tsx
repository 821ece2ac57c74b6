/** @jest-environment jsdom */
import { capture } from '@lantern/capture';
import { readTakes, stepSchema } from '@lantern/motion';
import { act, cleanup, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { unzipSync } from 'fflate';
import { useClips, type ClipDoc } from '@/data/clips-store';
import { useJoins } from '@/data/joins-store';
import { newPiece } from '@/places/joins/join-edits';
import { Ship } from '@/places/ship/Ship';
import { useCommands } from '@/shell/commands';
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
jest.mock('next/navigation', () => ({ useRouter: () => ({ push: jest.fn() }) }));

const { take, rows } = madeTake('quay-walk', capture('walk', { seconds: 5, seed: 6 }).motion);
const clip = (name: string, from: number, to: number, change: Partial<ClipDoc> = {}): ClipDoc => ({
  id: `id-${name}`,
  name,
  source: { take: 'quay-walk', from, to },
  steps: ['loop', 'foot-lock', 'travel'].map((kind) => stepSchema.parse({ kind })),
  gait: 'walk',
  direction: 'forward',
  ...change,
});

/** What the browser was given to keep. */
let saved: { name: string; blob: Blob } | null = null;
beforeAll(async () => {
  giveRoom(1400, 600);
  await import('@/worker/core.worker');
  window.matchMedia = (query: string) =>
    ({ matches: true, media: query, addEventListener() {}, removeEventListener() {} }) as unknown as MediaQueryList;
  let last: Blob | null = null;
  URL.createObjectURL = (blob: Blob) => ((last = blob), 'blob:here');
  URL.revokeObjectURL = () => {};
  HTMLAnchorElement.prototype.click = function (this: HTMLAnchorElement) {
    if (last) saved = { name: this.download, blob: last };
  };
});
afterEach(cleanup);

function open(docs: readonly ClipDoc[], takes = [take]) {
  saved = null;
  useClips.setState({ project: PROJECT.id, docs, saved: {}, conflicts: {} });
  const data = projectData({ takes });
  serve(({ url }) => (url.startsWith('/api/takes/quay-walk/motion') ? rows : url.startsWith('/api/projects') ? data : 404));
  const { wrapper } = place(data);
  render(<Ship />, { wrapper });
  return userEvent.setup();
}

async function bytesOf(blob: Blob): Promise<Uint8Array> {
  return new Promise((resolve) => {
    const reader = new FileReader();
    reader.onload = () => resolve(new Uint8Array(reader.result as ArrayBuffer));
    reader.readAsArrayBuffer(blob);
  });
}
const shipped = async () => {
  await waitFor(() => expect(saved).not.toBeNull(), { timeout: 20_000 });
  return { name: saved?.name ?? '', bytes: await bytesOf(saved?.blob ?? new Blob()) };
};

/** Names of the animations in a GLB, from the JSON at its head. */
function animationsOf(bytes: Uint8Array): string[] {
  const length = new DataView(bytes.buffer, bytes.byteOffset).getUint32(12, true);
  const { animations } = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + length))) as { animations: { name: string }[] };
  return animations.map(({ name }) => name);
}

test('without a clip the place says what to do first', () => {
  open([]);
  expect(screen.getByText('Nothing to ship yet')).toBeTruthy();
  expect(screen.getByRole('link', { name: 'Go to the Bench' }).getAttribute('href')).toBe('/gullmouth/bench');
});

test('every clip is measured as it would leave, and what is chosen leaves as one GLB that reads back', async () => {
  const user = open([clip('stroll', 120, 186), clip('second', 100, 166)]);
  await waitFor(() => expect(screen.queryAllByRole('progressbar')).toEqual([]), { timeout: 20_000 });
  expect(screen.getByRole('row', { name: 'stroll' }).textContent).toMatch(/\d\.\d\d cm/);
  await user.click(screen.getByRole('checkbox', { name: 'Ship second' }));
  await user.click(screen.getByRole('button', { name: 'Ship 1 clip' }));
  const { name, bytes } = await shipped();
  expect(name).toBe('wick.glb');
  const [read] = readTakes(bytes, 'wick.glb');
  expect(animationsOf(bytes)).toEqual(['stroll']);
  expect(read.motion.frames).toBe(67);
  expect(read.motion.fps).toBe(60);
  expect(screen.getByText(/wick\.glb, .* MB, is in your downloads\./)).toBeTruthy();
});

test('one file for each clip and a BVH each come in one archive with a report in which takes have their names', async () => {
  const user = open([clip('stroll', 120, 186), clip('a/b: odd?', 100, 166)]);
  await user.click(screen.getByRole('radio', { name: 'One GLB for each clip' }));
  await user.click(screen.getByRole('switch', { name: 'BVH of each clip too' }));
  await user.click(screen.getByRole('button', { name: 'Ship 2 clips' }));
  const { name, bytes } = await shipped();
  expect(name).toBe('gullmouth-wick.zip');
  const files = unzipSync(bytes);
  expect(Object.keys(files).sort()).toEqual(['a-b- odd-.bvh', 'a-b- odd-.glb', 'report.json', 'stroll.bvh', 'stroll.glb']);
  const report = JSON.parse(new TextDecoder().decode(files['report.json']));
  expect(report.clips.map(({ take: from }: { take: string }) => from)).toEqual(['quay-walk', 'quay-walk']);
});

test('at another rate the figures and the files are of that rate', async () => {
  const user = open([clip('stroll', 120, 186)]);
  await waitFor(() => expect(screen.queryAllByRole('progressbar')).toEqual([]), { timeout: 20_000 });
  act(() =>
    useCommands
      .getState()
      .byPlace.ship.find(({ id }) => id === 'rate-30')
      ?.run(),
  );
  expect(screen.getByText(/as it would leave at 30 frames a second/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Ship 1 clip' }));
  const [read] = readTakes((await shipped()).bytes, 'wick.glb');
  expect([read.motion.fps, read.motion.frames]).toEqual([30, 34]);
});

test('a clip whose take is gone says so in the list, and the others leave', async () => {
  const lost = clip('lost', 0, 60, { source: { take: 'gone', from: 0, to: 60 } });
  const user = open([clip('stroll', 120, 186), lost]);
  await waitFor(() => expect(screen.getByRole('row', { name: 'lost' }).textContent).toContain('is not in the project'), {
    timeout: 20_000,
  });
  await user.click(screen.getByRole('checkbox', { name: 'Ship lost' }));
  await user.click(screen.getByRole('button', { name: 'Ship 1 clip' }));
  expect((await shipped()).name).toBe('wick.glb');
});

test('a clip that is cut from a join leaves with the others, as the join is now', async () => {
  const piece = { ...newPiece({ clip: 'id-stroll' }), times: 3 };
  const joined = (times: number) =>
    useJoins.setState({ project: PROJECT.id, docs: [{ id: 'j', name: 'long', start: 'origin', pieces: [{ ...piece, times }] }] });
  joined(3);
  const user = open([clip('stroll', 120, 186), clip('out-of-it', 20, 150, { source: { take: 'j', from: 20, to: 150 }, steps: [] })]);
  await user.click(screen.getByRole('switch', { name: 'BVH of each clip too' }));
  await user.click(screen.getByRole('button', { name: 'Ship 2 clips' }));
  const files = unzipSync((await shipped()).bytes);
  const [read] = readTakes(files['out-of-it.bvh'], 'out-of-it.bvh');
  expect(read.motion.frames).toBe(131);
  const report = JSON.parse(new TextDecoder().decode(files['report.json']));
  expect(report.clips.map(({ take: from }: { take: string }) => from)).toEqual(['quay-walk', 'long']);
  // It got shorter than the cut: that is said, and nothing else is lost.
  saved = null;
  act(() => joined(1));
  await user.click(screen.getByRole('button', { name: 'Ship 2 clips' }));
  const alert = await screen.findByRole('alert', {}, { timeout: 20_000 });
  expect(alert.textContent).toMatch(/Not in it: out-of-it\./);
  expect(Object.keys(unzipSync((await shipped()).bytes))).toContain('stroll.bvh');
  act(() => useJoins.setState({ docs: [] }));
});

test('a clip that cannot be made is left out and named, with why', async () => {
  const odd = clip('cycle', 120, 140, { steps: [stepSchema.parse({ kind: 'typical-cycle' })] });
  const user = open([clip('stroll', 120, 186), odd]);
  await user.click(screen.getByRole('button', { name: 'Ship 2 clips' }));
  const alert = await screen.findByRole('alert', {}, { timeout: 20_000 });
  expect(alert.textContent).toMatch(/Not in it: cycle\. .+stride/);
  expect(animationsOf((await shipped()).bytes)).toEqual(['stroll']);
});

test('the other sides of the chosen clips are made at once, as one step of undo', async () => {
  const user = open([clip('turn-left', 120, 186), clip('stroll', 100, 166)]);
  useClips.temporal.getState().clear();
  await user.click(screen.getByRole('button', { name: 'Make the other side of 2 clips' }));
  expect(useClips.getState().docs.map(({ name }) => name)).toEqual(['turn-left', 'stroll', 'turn-right', 'stroll-mirrored']);
  act(() => useClips.temporal.getState().undo());
  expect(useClips.getState().docs).toHaveLength(2);
  expect(within(screen.getByRole('grid', { name: 'Readiness' })).queryByText('turn-right')).toBeNull();
});
