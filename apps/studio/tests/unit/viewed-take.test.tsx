/** @jest-environment jsdom */
import { capture } from '@lantern/capture';
import { CHUNK_FRAMES } from '@lantern/motion';
import { act, cleanup, renderHook, waitFor } from '@testing-library/react';
import { usePlayer } from '@/data/player';
import { useViewedTake } from '@/data/use-viewed-take';
import { madeTake, place, projectData, serve } from './place';

jest.mock('@/worker/core', () => ({
  core: () => ({ figure: jest.requireActual<typeof import('@/worker/figures')>('@/worker/figures').figureView }),
}));

afterEach(cleanup);

const { take, rows } = madeTake('quay-walk', capture('walk', { seconds: 28, seed: 6 }).motion);
const long = { ...take, long: true };
const width = rows.length / take.frames;

test('a part of a long take is asked for as soon as the playhead is in it, whether anything is drawn or not', async () => {
  const asked = serve(({ url }) => {
    const index = /chunks\/(\d+)$/.exec(url)?.[1];
    const from = Number(index) * CHUNK_FRAMES;
    return index === undefined ? 404 : rows.subarray(from * width, Math.min(take.frames, from + CHUNK_FRAMES) * width);
  });
  const parts = () => asked.flatMap(({ url }) => /chunks\/(\d+)$/.exec(url)?.[1] ?? []);
  const { result, unmount } = renderHook(() => useViewedTake(long), { wrapper: place(projectData({ takes: [long] })).wrapper });
  await waitFor(() => expect(result.current.data).toBeDefined());
  const ahead = ['0', '1', '2', '3', '4', '5', '6'];
  await waitFor(() => expect(parts()).toEqual(ahead));
  act(() => usePlayer.setState({ frame: 12 * CHUNK_FRAMES + 7 }));
  expect(parts().at(-1)).toBe('12');
  await waitFor(() => expect(parts()).toEqual([...ahead, '12', '13', '14']));
  unmount();
  act(() => usePlayer.setState({ frame: 9 * CHUNK_FRAMES }));
  expect(parts()).toHaveLength(10);
});
