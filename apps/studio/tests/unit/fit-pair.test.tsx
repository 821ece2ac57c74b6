/** @jest-environment jsdom */
import { capture } from '@lantern/capture';
import { castGlb } from '@lantern/cast';
import { act, cleanup, renderHook, waitFor } from '@testing-library/react';
import { useProjectData } from '@/data/project';
import { usePlayer } from '@/data/player';
import { hueOf } from '@/places/fit/use-fit';
import { usePair, usePairStage, type Panel } from '@/places/fit/use-pair';
import { inMinute, stretchOf } from '@/places/fit/Minute';
import type { CoreWorker } from '@/worker/core.worker';
import { madeTake, place, projectData, serve } from './place';

const mockFace: { api: CoreWorker | null } = { api: null };
jest.mock('comlink', () => ({
  expose: (api: CoreWorker) => (mockFace.api = api),
  transfer: <T,>(value: T) => value,
  proxy: <T,>(f: T) => f,
}));
jest.mock('@/worker/core', () => ({ core: () => mockFace.api }));

const { take, rows } = madeTake('quay-walk', capture('walk', { seconds: 3, seed: 6 }).motion);
let tallow: Uint8Array;
beforeAll(async () => {
  await import('@/worker/core.worker');
  tallow = await castGlb('tallow');
});
afterEach(cleanup);

async function pair(panel: Panel, { overlaid = false, at = null as number | null, character = 'tallow' } = {}) {
  const fits: { source: string; character: string; settings: object }[] = [];
  serve(({ url, method, body }) => {
    if (url.startsWith('/api/takes/quay-walk/motion')) return rows;
    if (url.endsWith('/characters/tallow/file')) return tallow;
    if (url.endsWith('/file')) return 404;
    if (url.endsWith('/fits') && method === 'PUT') return (fits.push(body as never), {});
    if (url.startsWith('/api/projects')) return projectData({ takes: [take], fits });
    return 404;
  });
  const here = place(projectData({ takes: [take] }));
  const { result } = renderHook(
    () => {
      useProjectData();
      const own = usePair({ take, character, panel, at });
      return { own, stage: usePairStage(own, panel, overlaid) };
    },
    { wrapper: here.wrapper },
  );
  await waitFor(() => expect(result.current.own.view.data ?? result.current.own.trouble).toBeTruthy(), { timeout: 20_000 });
  return { now: () => result.current.own, stage: () => result.current.stage, fits };
}

test('the take and the character stand beside each other in step, the take on its own legs', async () => {
  const { now, stage } = await pair('limbs');
  await waitFor(() => expect(stage()?.other).not.toBeNull(), { timeout: 20_000 });
  expect(stage()?.motion.frames).toBe(take.frames);
  expect(stage()?.other?.motion.frames).toBe(take.frames);
  expect(stage()?.other).toMatchObject({ beside: 0.95, scale: 1, solid: true });
  expect(now().fitted.data?.report.slideCm).toBeLessThan(0.3);
  expect(now().view.data?.legRatio).toBeLessThan(1);
  expect(stage()?.picking).toBeNull();
});

test('overlaid, the character is made as large as the performer', async () => {
  const { now, stage } = await pair('limbs', { overlaid: true });
  await waitFor(() => expect(stage()?.other).not.toBeNull(), { timeout: 20_000 });
  expect(stage()?.other?.scale).toBeCloseTo(1 / (now().view.data?.legRatio ?? 1), 9);
  expect(stage()?.other?.beside).toBe(0);
});

test('the frame that was asked for is gone to once; afterwards one goes where one likes', async () => {
  const { now } = await pair('limbs', { at: 90 });
  await waitFor(() => expect(usePlayer.getState().frame).toBe(90));
  act(() => usePlayer.getState().seek(12));
  await act(async () => now().change({ soleCm: 1 }));
  expect(usePlayer.getState().frame).toBe(12);
});

test('a click on a joint adds it to the chosen part, another takes it out, and it is saved for the suit', async () => {
  const { now, stage, fits } = await pair('parts');
  await waitFor(() => expect(stage()).not.toBeNull(), { timeout: 20_000 });
  act(() => now().setChosen('head'));
  const target = now().view.data?.target;
  const names = target?.names ?? [];
  const [head] = target?.parts.head?.joints ?? [0];
  expect(stage()?.picking?.chosen[1].has(head)).toBe(true);
  const neck = names.indexOf('NeckHigh');
  await act(async () => stage()?.picking?.onPick(1, neck));
  expect(now().settings.mapping?.target.head).toEqual([names[head], 'NeckHigh']);
  await waitFor(() => expect(now().view.data?.target.parts.head?.joints).toContain(neck), { timeout: 20_000 });
  await act(async () => stage()?.picking?.onPick(1, neck));
  expect(now().settings.mapping?.target.head).toEqual([names[head]]);
  await waitFor(() => expect(fits).toHaveLength(2));
  expect(fits[0]).toMatchObject({ source: take.signature, character: 'tallow' });
});

test('parts have colours, the same on both figures and apart from each other', async () => {
  const { stage, now } = await pair('parts');
  await waitFor(() => expect(stage()?.other).not.toBeNull(), { timeout: 20_000 });
  const { source, target } = now().view.data ?? {};
  const tints = [stage()?.tint, stage()?.other?.tint];
  expect(tints[0]?.get(source?.parts.leftThigh?.joints[0] ?? -1)).toBe(hueOf('leftThigh'));
  expect(tints[1]?.get(target?.parts.leftThigh?.joints[0] ?? -1)).toBe(hueOf('leftThigh'));
  expect(new Set([hueOf('leftThigh'), hueOf('rightThigh'), hueOf('leftShin'), hueOf('head')]).size).toBe(4);
});

test('in the reference both stand still; a turn by the ring shows at once and is saved when it is let go, as one change', async () => {
  const { now, stage, fits } = await pair('reference');
  await waitFor(() => expect(stage()?.turning).not.toBeNull(), { timeout: 20_000 });
  expect([stage()?.motion.frames, stage()?.other?.motion.frames, stage()?.other?.beside]).toEqual([1, 1, 1.75]);
  expect(stage()?.turning?.figure).toBe(1);
  const before = now().view.data?.mismatch.leftUpperArm ?? 0;
  for (const degrees of [5, 10, 20]) await act(async () => stage()?.turning?.onTurn([0, 0, 1], degrees, false));
  await waitFor(() => expect(now().view.data?.mismatch.leftUpperArm ?? 0).toBeGreaterThan(before + 15), { timeout: 20_000 });
  expect(fits).toEqual([]);
  await act(async () => stage()?.turning?.onTurn([0, 0, 1], 20, true));
  expect(now().settings.reference?.turns.target).toEqual({ leftUpperArm: [0, 0, 20] });
  await waitFor(() => expect(fits).toHaveLength(1));
});

test('in the reference a click on a joint says which part the ring turns', async () => {
  const { now, stage } = await pair('reference');
  await waitFor(() => expect(stage()?.picking).not.toBeNull(), { timeout: 20_000 });
  const thigh = now().view.data?.source.parts.rightThigh?.joints[0] ?? -1;
  act(() => stage()?.picking?.onPick(0, thigh));
  expect(now().hand).toEqual({ part: 'rightThigh', side: 'source' });
  expect(stage()?.turning).toMatchObject({ figure: 0, joint: thigh });
});

test('a character that cannot be loaded says so', async () => {
  const { now } = await pair('limbs', { character: 'nobody' });
  await waitFor(() => expect(now().trouble?.message).toContain('nobody'), { timeout: 20_000 });
});

test('long takes are fitted a minute at a time: which minute a frame is in, and which chunks that is', () => {
  const long = { ...take, long: true, frames: 60 * 60 * 5, fps: 60 };
  expect(stretchOf(take, 0)).toBeUndefined();
  expect(inMinute(take, 100)).toEqual({ minute: 0, frame: 100 });
  const { minute, frame } = inMinute(long, 60 * 60 * 2 + 30);
  const stretch = stretchOf(long, minute);
  // The frame is in the stretch, and where it was said to be.
  expect((stretch?.from ?? 0) * 120 + frame).toBe(60 * 60 * 2 + 30);
  expect(frame).toBeLessThan((stretch?.chunks ?? 0) * 120);
});
