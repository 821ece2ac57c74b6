/** @jest-environment jsdom */
import { act, cleanup, fireEvent, renderHook } from '@testing-library/react';
import { useHelm } from '@/places/drive/use-helm';

const frames: FrameRequestCallback[] = [];
let pads: ({ axes: number[]; buttons: { pressed: boolean }[] } | null)[] = [];
beforeEach(() => {
  frames.length = 0;
  pads = [null];
  jest.spyOn(window, 'requestAnimationFrame').mockImplementation((frame) => frames.push(frame));
  jest.spyOn(window, 'cancelAnimationFrame').mockImplementation(() => frames.splice(0));
  Object.assign(navigator, { getGamepads: () => pads });
});
afterEach(() => {
  cleanup();
  jest.restoreAllMocks();
  document.body.replaceChildren();
});
const pass = () => act(() => frames.splice(0).forEach((frame) => frame(0)));

const atHelm = () => {
  const [onHelm, onPress] = [jest.fn(), jest.fn()];
  const { result, unmount } = renderHook(() => useHelm({ onHelm, onPress }));
  const last = () => onHelm.mock.lastCall?.[0];
  const down = (key: string, about: object = {}) => fireEvent.keyDown(document.body, { key, ...about });
  const up = (key: string) => fireEvent.keyUp(document.body, { key });
  return { onHelm, onPress, result, unmount, last, down, up };
};

test('keys that are held are the helm, two at once as well; Shift makes haste; let go they are at rest', () => {
  const { last, down, up, result, onHelm } = atHelm();
  down('w');
  expect(last()).toEqual({ x: 0, y: 0.5 });
  down('ArrowRight');
  expect(last()).toEqual({ x: 1, y: 0.5 });
  // With Shift the same key has a capital letter.
  down('Shift');
  expect(last()).toEqual({ x: 1, y: 1 });
  expect([...result.current.held].sort()).toEqual(['arrowright', 'shift', 'w']);
  const calls = onHelm.mock.calls.length;
  down('W', { repeat: true });
  expect(onHelm).toHaveBeenCalledTimes(calls);
  up('W');
  up('Shift');
  up('ArrowRight');
  expect(last()).toEqual({ x: 0, y: 0 });
});

test.each([
  ['Escape', () => fireEvent.keyDown(document.body, { key: 'Escape' })],
  ['another window', () => fireEvent.blur(window)],
])('%s lets go of all keys at once', (_, letGo) => {
  const { last, down, result } = atHelm();
  down('w');
  down('a');
  letGo();
  expect(last()).toEqual({ x: 0, y: 0 });
  expect(result.current.held.size).toBe(0);
});

test('what is typed into a field, or said with Ctrl, is not at the helm', () => {
  const { onHelm, onPress, down } = atHelm();
  const field = document.body.appendChild(document.createElement('input'));
  for (const key of ['w', ' ', '3']) fireEvent.keyDown(field, { key });
  down('s', { ctrlKey: true });
  down('w', { metaKey: true });
  expect(onHelm).not.toHaveBeenCalled();
  expect(onPress).not.toHaveBeenCalled();
});

test('the space bar presses the first act once, and not the button that has the focus; numbers press the others', () => {
  const { onPress, down } = atHelm();
  const button = document.body.appendChild(document.createElement('button'));
  button.focus();
  expect(fireEvent.keyDown(button, { key: ' ' })).toBe(false);
  expect(document.activeElement).not.toBe(button);
  down(' ', { repeat: true });
  down('2');
  down('9');
  down('1');
  expect(onPress.mock.calls).toEqual([[0], [1], [8]]);
});

test('a pad has the helm as long as its stick is moved, gives it back once, and its buttons press once', () => {
  const { onHelm, onPress, last, result, down, unmount } = atHelm();
  pass();
  expect(result.current.pad).toBe(false);
  const pad = { axes: [0.05, -0.9], buttons: [{ pressed: false }, { pressed: true }] };
  pads = [null, pad];
  pass();
  expect(result.current.pad).toBe(true);
  expect(last()).toEqual({ x: 0, y: 0.9 });
  pass();
  expect(onPress.mock.calls).toEqual([[1]]);
  pad.axes = [0.1, 0.05];
  pass();
  expect(last()).toEqual({ x: 0, y: 0 });
  const calls = onHelm.mock.calls.length;
  pass();
  expect(onHelm).toHaveBeenCalledTimes(calls);
  // At rest it leaves the helm to the keys.
  down('s');
  pass();
  expect(last()).toEqual({ x: 0, y: -1 });
  pads = [];
  pass();
  expect(result.current.pad).toBe(false);
  unmount();
  expect(frames).toEqual([]);
});
