/** @jest-environment jsdom */
import { capture } from '@lantern/capture';
import { castGlb } from '@lantern/cast';
import { cutMotion, forwardKinematics, stepOf, stepSchema } from '@lantern/motion';
import { act, cleanup, fireEvent, renderHook, screen, waitFor } from '@testing-library/react';
import { useClips, type ClipDoc } from '@/data/clips-store';
import { toggleGhost, useCorrecting } from '@/data/correcting';
import { useProjectData } from '@/data/project';
import { useJoins, type JoinDoc } from '@/data/joins-store';
import { usePlayer } from '@/data/player';
import { useSources } from '@/data/sources';
import { newPiece } from '@/places/joins/join-edits';
import { takeKey } from '@/data/use-open-take';
import { useWorkbench } from '@/places/bench/use-workbench';
import { useCommands } from '@/shell/commands';
import type { CoreWorker } from '@/worker/core.worker';
import { madeTake, place, projectData, PROJECT, serve } from './place';

// The worker's own code, run here: its face is what it would have exposed.
const mockFace: { api: CoreWorker | null } = { api: null };
jest.mock('comlink', () => ({
  expose: (api: CoreWorker) => (mockFace.api = api),
  transfer: <T,>(value: T) => value,
  proxy: <T,>(f: T) => f,
}));
jest.mock('@/worker/core', () => ({ core: () => mockFace.api }));
const mockGo = { push: jest.fn<void, [string]>(), replace: jest.fn<void, [string]>() };
jest.mock('next/navigation', () => ({ useRouter: () => mockGo }));

const { take, rows } = madeTake('quay-walk', capture('walk', { seconds: 8, seed: 6 }).motion);
const { take: idle, rows: idleRows } = madeTake('waiting', capture('idle', { seconds: 3, seed: 2 }).motion);
const takes = [take, idle];
let tallow: Uint8Array;

beforeAll(async () => {
  await import('@/worker/core.worker');
  tallow = await castGlb('tallow');
});
beforeEach(() => {
  useClips.setState({ project: PROJECT.id, docs: [], saved: {}, conflicts: {} });
  useClips.temporal.getState().clear();
  mockGo.push.mockClear();
  mockGo.replace.mockClear();
  serve(({ url }) => {
    if (url.startsWith('/api/takes/quay-walk/motion')) return rows;
    if (url.startsWith('/api/takes/waiting/motion')) return idleRows;
    if (url.endsWith('/characters/tallow/file')) return tallow;
    if (url === `/api/projects/${PROJECT.id}`) return data;
    return 404;
  });
});
afterEach(cleanup);

const facts = { statureM: 1.5, joints: 60, confidence: 1, warnings: [] };
const data = projectData({
  takes,
  characters: [{ project: PROJECT.id, id: 'tallow', name: 'Tallow', file: 'tallow.glb', hash: 'x', facts }],
});
const stroll = (change: Partial<ClipDoc> = {}): ClipDoc => ({
  id: 'c1',
  name: 'quay-walk-01',
  source: { take: 'quay-walk', from: 120, to: 186 },
  steps: [stepSchema.parse({ kind: 'foot-lock' }), stepSchema.parse({ kind: 'travel' })],
  gait: '',
  direction: '',
  ...change,
});

/** The Bench with a clip at its address, once its take is open and its clip is there. */
async function bench(clip: string | null, wanted: string | null = null) {
  const here = place(data);
  const { result } = renderHook(() => (useProjectData(), useWorkbench(takes, clip, wanted)), { wrapper: here.wrapper });
  await waitFor(() => expect(result.current.isOpen).toBe(true), { timeout: 20_000 });
  if (result.current.doc) await waitFor(() => expect(result.current.measured).not.toBeNull(), { timeout: 20_000 });
  return { ...here, now: () => result.current };
}
const docs = () => useClips.getState().docs;
const press = (key: string) =>
  act(async () => void fireEvent.keyDown(document.body, { key, code: /\d/.test(key) ? `Digit${key}` : `Key${key.toUpperCase()}` }));

test('a take is opened with its loops and what is done in it; a loop that is taken becomes a clip with a recipe', async () => {
  const { now } = await bench(null, 'quay-walk');
  expect(now()).toMatchObject({ doc: null, take: { id: 'quay-walk' }, cut: null, shown: null });
  await waitFor(() => expect(now().candidates.length).toBeGreaterThan(0), { timeout: 20_000 });
  await waitFor(() => expect(now().segments.length).toBeGreaterThan(0), { timeout: 20_000 });
  const [best] = now().candidates;
  act(() => now().edits.takeLoop(best));
  expect(docs()).toMatchObject([{ name: 'quay-walk-01', source: { take: 'quay-walk', from: best.from, to: best.to } }]);
  expect(docs()[0].steps.map(({ kind }) => kind)).toEqual(['loop', 'foot-lock', 'travel']);
  expect(mockGo.push).toHaveBeenCalledWith(`/gullmouth/bench/${docs()[0].id}`);
});

test('a clip is shown, measured, and its steps say what they did', async () => {
  useClips.setState({ docs: [stroll()] });
  const { now } = await bench('c1');
  const { shown, measured, character } = now();
  expect(shown?.cycle).toBe(66);
  expect(measured?.steps['foot-lock'].report?.after).toBeLessThan(0.2);
  expect(measured?.figures?.seconds).toBeCloseTo(1.1, 6);
  expect(character).toBeNull();
  expect(usePlayer.getState().frames).toBe(shown?.motion.frames);
});

describe('a clip that is cut from a join', () => {
  const piece = (times: number, of = 'c1') => ({ ...newPiece({ clip: of }), id: of, times });
  const join = (pieces: JoinDoc['pieces']): JoinDoc => ({ id: 'j', name: 'long-way', start: 'origin', pieces });
  const within = (change: Partial<ClipDoc> = {}) => stroll({ id: 'c2', name: 'of-it', source: { take: 'j', from: 30, to: 96 }, ...change });
  const put = (...pieces: JoinDoc['pieces']) => act(() => useJoins.setState({ project: PROJECT.id, docs: [join(pieces)] }));
  afterEach(() => put());
  const open = async (clip: string | null, wanted: string | null = null) => {
    const here = place(data);
    const { result } = renderHook(() => (useProjectData(), useWorkbench(useSources(takes).all, clip, wanted)), { wrapper: here.wrapper });
    return () => result.current;
  };
  const framesOf = (now: Awaited<ReturnType<typeof open>>, frames: number) =>
    waitFor(() => expect(now().opened.data?.motion.frames).toBe(frames), { timeout: 20_000 });

  test('is worked on like one of a take, and follows when a piece changes', async () => {
    useClips.setState({ docs: [stroll(), within()] });
    put(piece(3));
    const now = await open('c2');
    await framesOf(now, 3 * 66 + 1);
    await waitFor(() => expect(now().measured).not.toBeNull(), { timeout: 20_000 });
    expect(now().take).toMatchObject({ id: 'j', name: 'long-way' });
    expect(now().shown?.cycle).toBe(66);
    put(piece(2));
    await framesOf(now, 2 * 66 + 1);
    // What the piece's own recipe makes is what the join is made of.
    act(() => useClips.getState().put(stroll({ source: { take: 'quay-walk', from: 120, to: 180 } })));
    await framesOf(now, 2 * 60 + 1);
    await waitFor(() => expect(now().result.isPlaceholderData).toBe(false), { timeout: 20_000 });
    expect(now().result.error).toBeNull();
    // Shorter than the cut, it says so, and the cut stays as it was set.
    put(piece(1));
    await waitFor(() => expect(now().result.error?.message).toMatch(/30 to 96/), { timeout: 20_000 });
    expect(docs()[1].source).toEqual({ take: 'j', from: 30, to: 96 });
  });

  test('begins from the join itself; a new clip is named after it', async () => {
    useClips.setState({ docs: [stroll()] });
    put(piece(3));
    const now = await open(null, 'j');
    await framesOf(now, 3 * 66 + 1);
    await waitFor(() => expect(now().isOpen).toBe(true));
    await act(async () => now().edits.newClip());
    expect(docs()[1]).toMatchObject({ name: 'long-way-01', source: { take: 'j', from: 0 } });
  });

  test('is on whom the pieces are', async () => {
    const fit = stepSchema.parse({ kind: 'fit', character: 'tallow' });
    useClips.setState({ docs: [stroll({ steps: [fit] }), within({ steps: [] })] });
    put(piece(2));
    const now = await open('c2');
    await waitFor(() => expect(now().shown).not.toBeNull(), { timeout: 20_000 });
    expect(now().character).toBe('tallow');
    expect(now().shown?.motion.skeleton.joints.length).toBeGreaterThan(40);
  });

  test('says what is wrong where the join goes round, or lacks a piece', async () => {
    useClips.setState({ docs: [stroll(), within()] });
    put(piece(2), piece(1, 'c2'));
    const now = await open('c2');
    await waitFor(() => expect(now().opened.error?.message).toMatch(/^Piece 2: It is cut from this very join/), { timeout: 20_000 });
    put(piece(2), piece(1, 'nobody'));
    await waitFor(() => expect(now().opened.error?.message).toMatch(/^Piece 2: The clip of this piece was removed/));
  });
});

test('what opens by itself stands in the address', async () => {
  useClips.setState({ docs: [stroll()] });
  await bench(null);
  expect(mockGo.replace).toHaveBeenCalledWith('/gullmouth/bench/c1');
});

test('a post that is dragged moves nothing until it is let go; then it is one step of undo', async () => {
  useClips.setState({ docs: [stroll()] });
  const { now } = await bench('c1');
  for (const from of [118, 112, 104]) await act(async () => now().edits.moveCut({ from, to: 186 }, false));
  expect(now().cut).toEqual({ from: 104, to: 186 });
  expect(docs()[0].source.from).toBe(120);
  await act(async () => now().edits.moveCut({ from: 104, to: 186 }, true));
  expect(docs()[0].source).toEqual({ take: 'quay-walk', from: 104, to: 186 });
  await act(async () => useClips.temporal.getState().undo());
  expect(docs()[0].source.from).toBe(120);
  // Put down where it was, nothing has happened.
  const states = () => useClips.temporal.getState().pastStates.length;
  const before = states();
  await act(async () => now().edits.moveCut({ from: 120, to: 186 }, true));
  expect(states()).toBe(before);
});

test('the seam’s figures follow the cut', async () => {
  useClips.setState({ docs: [stroll()] });
  const { now } = await bench('c1');
  await waitFor(() => expect(now().seam).not.toBeNull());
  const { poseCm } = now().seam ?? { poseCm: 0 };
  // Half a stride is no loop.
  await act(async () => now().edits.moveCut({ from: 120, to: 153 }, false));
  await waitFor(() => expect(now().seam?.poseCm).toBeGreaterThan(2 * poseCm));
});

test('keys put posts at the playhead, never closer than two frames nor beyond the take', async () => {
  useClips.setState({ docs: [stroll()] });
  const { now } = await bench('c1');
  act(() => usePlayer.getState().seek(10));
  await press('i');
  expect(docs()[0].source).toMatchObject({ from: 130, to: 186 });
  await waitFor(() => expect(now().shown?.cycle).toBe(56));
  act(() => usePlayer.getState().seek(40));
  await press('o');
  expect(docs()[0].source).toMatchObject({ from: 130, to: 170 });
  await waitFor(() => expect(now().shown?.cycle).toBe(40));
  act(() => usePlayer.getState().seek(0));
  await press('o');
  expect(docs()[0].source).toMatchObject({ from: 130, to: 170 });
});

test('x splits at the playhead, y makes the other side, n begins a clip of a stride, a number takes that loop', async () => {
  useClips.setState({ docs: [stroll()] });
  const { now } = await bench('c1');
  act(() => usePlayer.getState().seek(30));
  await press('x');
  expect(docs().map(({ source: { from, to } }) => [from, to])).toEqual([
    [120, 150],
    [150, 186],
  ]);
  await press('y');
  expect(docs()[2].name).toBe('quay-walk-01-mirrored');
  expect(stepOf(docs()[2].steps, 'mirror')).toBeTruthy();
  act(() => usePlayer.getState().seek(5));
  await press('n');
  const made = docs()[3].source;
  expect(made.from).toBe(125);
  expect(made.to - made.from).toBe(now().opened.data?.stride);
  await waitFor(() => expect(now().candidates.length).toBeGreaterThan(1), { timeout: 20_000 });
  await press('2');
  const { from, to } = now().candidates[1];
  expect(docs()[0].source).toMatchObject({ from, to });
});

test('the playhead goes along the take: inside the cut the clip is shown, outside it the take', async () => {
  useClips.setState({ docs: [stroll()] });
  const { now } = await bench('c1');
  act(() => now().travels.scrub(130));
  expect(now().preview).toBe('travel');
  expect(usePlayer.getState().frame).toBe(10);
  act(() => now().travels.scrub(300));
  expect(now().preview).toBe('take');
  expect(usePlayer.getState()).toMatchObject({ frame: 300, frames: take.frames });
  act(() => now().travels.scrub(140));
  act(() => now().setPreview('place'));
  await waitFor(() => expect(now().shown?.motion.frames).toBeGreaterThan(66));
  expect(usePlayer.getState().frame).toBe(20);
});

test('worrying the seam plays the half second around it slowly, and once more ends that', async () => {
  useClips.setState({ docs: [stroll({ steps: [stepSchema.parse({ kind: 'loop' })] })] });
  await bench('c1');
  await press('q');
  expect(usePlayer.getState()).toMatchObject({ range: { from: 51, to: 81 }, speed: 0.25, playing: true });
  await press('q');
  expect(usePlayer.getState()).toMatchObject({ range: null, speed: 1 });
});

test('whatever can be done to the open clip is among the commands, each step of it too', async () => {
  useClips.setState({ docs: [stroll()] });
  await bench('c1');
  const { bench: ofPlace } = useCommands.getState().byPlace;
  expect(ofPlace.map(({ id }) => id)).toEqual(expect.arrayContaining(['new-clip', 'propose', 'map', 'loop-0']));
  const run = (id: string) =>
    act(async () =>
      useCommands
        .getState()
        .byPlace.clip.find((command) => command.id === id)
        ?.run(),
    );
  await run('off-foot-lock');
  expect(docs()[0].steps[0]).toMatchObject({ kind: 'foot-lock', off: true });
  await run('remove-travel');
  expect(docs()[0].steps.map(({ kind }) => kind)).not.toContain('travel');
  await run('duplicate-clip');
  expect(docs()).toHaveLength(2);
});

test('a new step begins with what is good for the clip', async () => {
  useClips.setState({ docs: [stroll()] });
  const { now } = await bench('c1');
  const speed = await now().about.created('speed');
  expect(speed).toMatchObject({ kind: 'speed' });
  // As fast as it is: the step changes nothing before it is set.
  expect((speed as { mps: number }).mps).toBeCloseTo(now().measured?.figures?.speedMps ?? 0, 1);
  expect(await now().about.created('fit')).toMatchObject({ kind: 'fit', character: 'tallow' });
});

test('a clip that is fitted to a character is that character on the stage', async () => {
  useClips.setState({ docs: [stroll({ steps: [stepSchema.parse({ kind: 'fit', character: 'tallow' }), ...stroll().steps] })] });
  const { now } = await bench('c1');
  expect(now().character).toBe('tallow');
  expect(now().shown?.motion.skeleton.joints.map(({ name }) => name)).toContain('ThighTwistL');
  expect(now().measured?.figures?.slideCm).toBeLessThan(0.5);
});

describe('corrections', () => {
  beforeEach(() =>
    useCorrecting.setState({ isOn: false, layer: 0, joint: null, mode: 'turn', range: null, given: null, ghost: null, only: null }),
  );
  const layers = () => stepOf(docs()[0].steps, 'corrections')?.layers ?? [];

  test('a joint turned by hand lays a key into a layer that is made and named for it; while it is dragged nothing is kept', async () => {
    useClips.setState({ docs: [stroll()] });
    const { now } = await bench('c1');
    await press('c');
    expect(now().corrections.isOn).toBe(true);
    act(() => useCorrecting.setState({ joint: 'LeftForearm' }));
    act(() => usePlayer.getState().seek(12));
    const before = now().shown;
    await act(async () => now().corrections.turn([0, 1, 0], 15, false));
    await waitFor(() => expect(now().shown).not.toBe(before));
    expect(layers()).toEqual([]);
    expect(useClips.temporal.getState().pastStates).toHaveLength(1);
    await act(async () => now().corrections.turn([0, 1, 0], 30, true));
    expect(layers()).toMatchObject([{ name: 'left forearm turned', keys: [{ frame: 12, joint: 'LeftForearm' }] }]);
    expect(Math.hypot(...layers()[0].keys[0].turn)).toBeCloseTo(30, 1);
    expect(docs()[0].steps.map(({ kind }) => kind)).toEqual(['foot-lock', 'corrections', 'travel']);
    await act(async () => useClips.temporal.getState().undo());
    expect(layers()).toEqual([]);
  });

  test('a hand drawn to a place is there once the clip is made, and its curve can be seen', async () => {
    useClips.setState({ docs: [stroll()] });
    const { now } = await bench('c1');
    await press('c');
    act(() => useCorrecting.setState({ joint: 'LeftHand', mode: 'grab' }));
    act(() => usePlayer.getState().seek(20));
    const hand = () => {
      const motion = now().shown?.motion;
      if (!motion) throw new Error('nothing is shown');
      const joint = motion.skeleton.joints.findIndex(({ name }) => name === 'LeftHand');
      return [...forwardKinematics(cutMotion(motion, 20, 20)).positions.subarray(joint * 3, joint * 3 + 3)];
    };
    const [x, y, z] = hand();
    await act(async () => now().corrections.draw([x, y + 0.1, z], true));
    await waitFor(() => expect(hand()[1]).toBeCloseTo(y + 0.1, 3), { timeout: 10_000 });
    expect(
      layers()[0]
        .keys.map(({ joint }) => joint)
        .sort(),
    ).toEqual(['LeftArm', 'LeftForearm', 'LeftHand']);
    await waitFor(() => expect(now().bend?.joint).toBe('LeftHand'), { timeout: 10_000 });
  });

  test('the clip without a step is there as a ghost; frames are those that came into the layers', async () => {
    const keyed = stepSchema.parse({
      kind: 'corrections',
      layers: [{ name: 'head', keys: [{ frame: 30, joint: 'Head', turn: [-20, 0, 0] }] }],
    });
    const slower = stepSchema.parse({ kind: 'retime', factor: 0.5 });
    useClips.setState({ docs: [stroll({ steps: [keyed, stepSchema.parse({ kind: 'travel' }), slower] })] });
    const { now } = await bench('c1');
    act(() => toggleGhost('corrections'));
    await waitFor(() => expect(now().ghost).not.toBeNull(), { timeout: 10_000 });
    expect(now().ghost?.motion.frames).toBe(now().shown?.motion.frames);
    // At half the speed the frame 30 that came in is seen at 60.
    act(() => usePlayer.getState().seek(60));
    expect(now().corrections.frameNow()).toBe(30);
    expect(Math.abs(now().corrections.clipFrame(30) - 60)).toBeLessThanOrEqual(1);
    await press('e');
    expect(layers()[0].keys).toHaveLength(1);
    act(() => usePlayer.getState().seek(80));
    await press('e');
    expect(layers()[0].keys.map(({ frame }) => frame)).toEqual([30, 40]);
    act(() => useCorrecting.setState({ joint: 'LeftArm' }));
    await press('e');
    await press('u');
    expect(
      layers()[0]
        .keys.filter(({ frame }) => frame === 40)
        .map(({ joint }) => joint)
        .sort(),
    ).toEqual(['Head', 'LeftArm', 'RightArm']);
  });
});

test('a clip that cannot be made says why, and the Bench goes on', async () => {
  useClips.setState({ docs: [stroll({ steps: [stepSchema.parse({ kind: 'fit', character: 'nobody' })] })] });
  const here = place(data);
  const { result } = renderHook(() => (useProjectData(), useWorkbench(takes, 'c1', null)), { wrapper: here.wrapper });
  await waitFor(() => expect(result.current.result.error).not.toBeNull(), { timeout: 20_000 });
  expect(result.current.result.error?.message).toContain('nobody');
  expect(result.current.opened.data?.id).toBe(takeKey(take));
});

test('a clip is removed and the Bench stays with its take', async () => {
  useClips.setState({ docs: [stroll()] });
  const { now } = await bench('c1');
  act(() => now().acts.remove());
  expect(docs()).toEqual([]);
  expect(mockGo.push).toHaveBeenLastCalledWith('/gullmouth/bench?take=quay-walk');
});

test('someone who stands offers no stride, and the proposals of a take become clips by the project’s pattern', async () => {
  const { now } = await bench(null, 'waiting');
  expect(now().opened.data?.stride).toBeNull();
  act(() => now().edits.newClip());
  expect(docs()[0].source).toMatchObject({ take: 'waiting', from: expect.any(Number) });
  act(() =>
    now().acts.makeAll(
      [
        { from: 0, to: 60, isLoop: true, tags: { gait: 'idle', direction: '' } },
        { from: 60, to: 120, isLoop: false, tags: { gait: 'idle', direction: '' } },
      ] as never,
      '{character}-{gait}-{number}',
    ),
  );
  expect(
    docs()
      .slice(1)
      .map(({ name, steps }) => [name, steps[0].kind]),
  ).toEqual([
    ['wick-idle-01', 'loop'],
    ['wick-idle-02', 'foot-lock'],
  ]);
  expect(screen.queryByRole('alert')).toBeNull();
});
