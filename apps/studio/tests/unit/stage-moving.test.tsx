/** @jest-environment jsdom */
import { act, cleanup, renderHook } from '@testing-library/react';
import { usePlayer } from '@/data/player';
import { useResolution } from '@/stage/use-resolution';
import { useLed, useMoving } from '@/stage/use-moving';

jest.mock('@/stage/drawn-by-software', () => ({ isDrawnBySoftware: () => true }));

beforeEach(() => jest.useFakeTimers());
afterEach(() => {
  cleanup();
  act(() => {
    usePlayer.setState({ playing: false, frame: 0 });
    useLed.setState({ isLed: false });
  });
  jest.useRealTimers();
});

const step = (frame: number, ms: number) =>
  act(() => {
    jest.advanceTimersByTime(ms);
    usePlayer.setState({ frame });
  });

test('a stage moves while it plays, while its camera is led, and while it is dragged along its frames', () => {
  const { result } = renderHook(useMoving);
  expect(result.current).toEqual({ playing: false, moving: false });
  act(() => usePlayer.setState({ playing: true }));
  expect(result.current).toEqual({ playing: true, moving: true });
  act(() => usePlayer.setState({ playing: false }));
  act(() => useLed.setState({ isLed: true }));
  expect(result.current).toEqual({ playing: false, moving: true });
  act(() => useLed.setState({ isLed: false }));
  step(10, 1000);
  step(11, 20);
  step(12, 20);
  expect(result.current.moving).toBe(true);
  act(() => void jest.advanceTimersByTime(1000));
  expect(result.current.moving).toBe(false);
});

test('single steps, one after another in peace, are no movement', () => {
  const { result } = renderHook(useMoving);
  for (let frame = 1; frame < 5; frame++) {
    step(frame, 400);
    expect(result.current.moving).toBe(false);
  }
});

test('where the processor draws, what moves is coarser than the screen, and finer again once it rests', () => {
  const { result } = renderHook(useResolution);
  const resting = result.current.dpr;
  expect(resting).toBeGreaterThan(1);
  act(() => usePlayer.setState({ playing: true }));
  const first = result.current.dpr;
  expect(first).toBeLessThan(1);
  act(() => result.current.slower());
  expect(result.current.dpr).toBeLessThan(first);
  for (let i = 0; i < 9; i++) act(() => result.current.slower());
  expect(result.current.dpr).toBeGreaterThan(0.3);
  for (let i = 0; i < 20; i++) act(() => result.current.faster());
  expect(result.current.dpr).toBe(1);
  act(() => usePlayer.setState({ playing: false }));
  expect(result.current.dpr).toBe(resting);
});

test('what one stage found of the pace is known to the next', () => {
  act(() => usePlayer.setState({ playing: true }));
  const { result, unmount } = renderHook(useResolution);
  act(() => result.current.slower());
  const found = result.current.dpr;
  unmount();
  expect(renderHook(useResolution).result.current.dpr).toBe(found);
});
