/** @jest-environment jsdom */
import { act, cleanup, renderHook } from '@testing-library/react';
import { goOn, LONGEST } from '@/data/hold';
import { usePlayer } from '@/data/player';
import { onRouterTransitionStart } from '@/instrumentation-client';
import { useArrival } from '@/shell/use-arrival';
import { useFrameloop } from '@/stage/use-frameloop';

let mockPath = '/gullmouth/takes';
let mockQuery = new URLSearchParams();
jest.mock('next/navigation', () => ({ usePathname: () => mockPath, useSearchParams: () => mockQuery }));

beforeEach(() => {
  jest.useFakeTimers();
  window.history.replaceState(null, '', '/gullmouth/takes?capture');
});
afterEach(() => {
  cleanup();
  act(() => goOn());
  jest.useRealTimers();
});
const isHeld = () => usePlayer.getState().held;

test('what plays stands still from the moment that another page is asked for, until that page is there', () => {
  const { result } = renderHook(useFrameloop);
  act(() => usePlayer.setState({ playing: true }));
  expect(result.current).toBe('always');
  act(() => onRouterTransitionStart('/gullmouth/takes', 'push'));
  expect(result.current).toBe('never');
  act(() => goOn());
  expect(result.current).toBe('always');
  // It still plays: nobody has stopped it.
  expect(usePlayer.getState().playing).toBe(true);
  act(() => usePlayer.setState({ playing: false }));
  expect(result.current).toBe('demand');
});

test('a page that leads to itself holds nothing, one with other words behind the question mark does', () => {
  onRouterTransitionStart('/gullmouth/takes?capture', 'push');
  expect(isHeld()).toBe(false);
  onRouterTransitionStart('/gullmouth/takes?capture=walks', 'replace');
  expect(isHeld()).toBe(true);
});

test('who changes their mind and stays is not kept waiting for the page that was asked for first', () => {
  onRouterTransitionStart('/gullmouth/ship', 'push');
  expect(isHeld()).toBe(true);
  onRouterTransitionStart('/gullmouth/takes?capture', 'push');
  expect(isHeld()).toBe(false);
  jest.advanceTimersByTime(LONGEST);
  expect(isHeld()).toBe(false);
});

test('back and forward hold too: the address is the other page’s already when they are told', () => {
  onRouterTransitionStart('/gullmouth/takes?capture', 'traverse');
  expect(isHeld()).toBe(true);
});

test('a page that does not come is not waited for for long', () => {
  onRouterTransitionStart('/gullmouth/set', 'push');
  jest.advanceTimersByTime(LONGEST - 1);
  expect(isHeld()).toBe(true);
  // Another one asked for meanwhile is waited for as long.
  onRouterTransitionStart('/gullmouth/ship', 'push');
  jest.advanceTimersByTime(LONGEST - 1);
  expect(isHeld()).toBe(true);
  jest.advanceTimersByTime(1);
  expect(isHeld()).toBe(false);
});

test('it goes on when a project is opened from the list of all, when the place changes, and when only what is behind the question mark does', () => {
  onRouterTransitionStart('/gullmouth/bench', 'push');
  const { rerender } = renderHook(useArrival);
  expect(isHeld()).toBe(false);
  for (const arrive of [() => (mockPath = '/gullmouth/set'), () => (mockQuery = new URLSearchParams('capture'))]) {
    onRouterTransitionStart('/gullmouth/bench', 'push');
    // What is drawn anew meanwhile is not the page that was asked for.
    rerender();
    expect(isHeld()).toBe(true);
    arrive();
    rerender();
    expect(isHeld()).toBe(false);
  }
});
