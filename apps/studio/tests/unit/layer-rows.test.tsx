/** @jest-environment jsdom */
import { layerSchema, restMotion, type Layer } from '@lantern/motion';
import { capture } from '@lantern/capture';
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { z } from 'zod';
import { useCorrecting } from '@/data/correcting';
import { CurveRow } from '@/places/bench/layers/CurveRow';
import { LayerRows } from '@/places/bench/layers/LayerRows';
import { rampOf, rampPath } from '@/places/bench/layers/ramp';
import { drag } from './pointer';
import { giveRoom } from './room';

beforeAll(() => giveRoom());
afterEach(cleanup);
beforeEach(() => useCorrecting.setState({ range: null }));

const { skeleton } = restMotion(capture('walk', { seconds: 1, seed: 3 }).motion.skeleton);
const layerOf = (change: Partial<z.input<typeof layerSchema>> = {}): Layer =>
  layerSchema.parse({
    name: 'head up',
    fadeIn: 8,
    fadeOut: 6,
    keys: [
      { frame: 20, joint: 'Head', turn: [-20, 0, 0] },
      { frame: 40, joint: 'Head', turn: [-10, 0, 0] },
    ],
    ...change,
  });
const touching = layerOf({
  name: 'hand on the rail',
  keys: [],
  touches: [{ limb: 'left hand', from: 30, to: 50, fadeIn: 10, fadeOut: 12, target: { to: 'floor' } }],
});

/** Ten pixels a frame. */
function rows(layers: readonly Layer[], open = 0) {
  const [onPut, onOpen] = [jest.fn<void, [number, Layer, boolean]>(), jest.fn()];
  const { container } = render(
    <svg>
      <LayerRows
        {...{ layers, open, onPut, onOpen, skeleton }}
        x={(frame) => frame * 10}
        frameAt={(clientX) => clientX / 10}
        y={0}
        height={130}
        x0={0}
        width={800}
        frames={80}
        cycle={null}
      />
    </svg>,
  );
  return { onPut, onOpen, container };
}
const handle = (name: string) => screen.getByRole('slider', { name });

test('a ramp rises over its fade in, is as high as the weight between its pegs, and reaches from touches as from keys', () => {
  const half = rampOf(layerOf({ weight: 0.5 }), null);
  expect([11, 12, 16, 20, 30, 40, 43, 46].map((f) => Number(half(f).toFixed(3)))).toEqual([0, 0, 0.25, 0.5, 0.5, 0.5, 0.25, 0]);
  expect([19, 25, 40, 56, 62].map((f) => Number(rampOf(touching, null)(f).toFixed(3)))).toEqual([0, 0.5, 1, 0.5, 0]);
  // Round a loop of 50 frames the fade out of a peg at 48 comes in at the beginning.
  expect(rampOf(layerOf({ keys: [{ frame: 48, joint: 'Head', turn: [9, 0, 0] }] }), 50)(1)).toBeCloseTo(0.5, 6);
  expect(
    rampPath(
      () => 1,
      [0, 10],
      (f) => f,
      { foot: 20, height: 10 },
    ),
  ).toBe('M0.0 20L0.0 10.0L2.5 10.0L5.0 10.0L7.5 10.0L10.0 10.0L10.0 20Z');
});

test('each layer is a row that says what it is; a press opens it', () => {
  const { onOpen } = rows([layerOf(), touching, layerOf({ name: 'elbow', muted: true })], 1);
  expect(screen.getByText('100 %, 2 pegs')).toBeTruthy();
  expect(screen.getByText('100 %, 1 touch')).toBeTruthy();
  expect(screen.getByText('muted')).toBeTruthy();
  const [first] = screen.getAllByText('Open the layer');
  drag(first.parentElement as Element, 10, 10);
  expect(onOpen).toHaveBeenCalledWith(0);
});

test('more layers than there is room for: those round the open one are drawn', () => {
  rows(
    Array.from({ length: 9 }, (_, i) => layerOf({ name: `layer ${i}` })),
    8,
  );
  expect(screen.queryByText('layer 0')).toBeNull();
  expect(screen.getByText('layer 8')).toBeTruthy();
});

test('a peg dragged takes its keys along; while it is dragged nothing is kept', () => {
  const { onPut } = rows([layerOf()]);
  drag(handle('Peg of head up at frame 20'), 200, 260);
  expect(onPut.mock.calls.slice(0, -1).every(([, , isDone]) => !isDone)).toBe(true);
  const [index, layer, isDone] = onPut.mock.lastCall ?? [];
  expect([index, isDone]).toEqual([0, true]);
  expect(layer?.keys.map(({ frame }) => frame)).toEqual([26, 40]);
});

test('keys move a peg and take it out', async () => {
  const { onPut } = rows([layerOf()]);
  handle('Peg of head up at frame 40').focus();
  await userEvent.keyboard('{ArrowLeft}');
  expect(onPut.mock.lastCall?.[1].keys.map(({ frame }) => frame)).toEqual([20, 39]);
  await userEvent.keyboard('{Delete}');
  expect(onPut.mock.lastCall?.[1].keys.map(({ frame }) => frame)).toEqual([20]);
});

test('the ends of a ramp are dragged to fade slower; a layer that holds has none', () => {
  const { onPut } = rows([layerOf()]);
  drag(handle('Fade in of head up'), 120, 50);
  expect(onPut.mock.lastCall?.[1]).toMatchObject({ fadeIn: 15, fadeOut: 6 });
  drag(handle('Fade out of head up'), 460, 700);
  expect(onPut.mock.lastCall?.[1].fadeOut).toBe(30);
  // Never past its own peg.
  drag(handle('Fade out of head up'), 460, 100);
  expect(onPut.mock.lastCall?.[1].fadeOut).toBe(0);
  cleanup();
  rows([layerOf({ hold: true })]);
  expect(screen.queryByRole('slider', { name: /^Fade/ })).toBeNull();
});

test('a double click sets a peg that leaves everything as it is there', () => {
  const { onPut } = rows([layerOf()]);
  fireEvent.doubleClick(screen.getByText(/^Double click to set a peg/).parentElement as Element, { clientX: 300 });
  const set = onPut.mock.lastCall?.[1].keys.find(({ frame }) => frame === 30);
  expect(set?.joint).toBe('Head');
  expect(set?.turn[0]).toBeCloseTo(-15, 1);
});

test('a touch is dragged at its ends and its fades, and is taken out', async () => {
  const { onPut } = rows([touching]);
  const touch = () => onPut.mock.lastCall?.[1].touches[0];
  drag(handle('Start of the touch of the left hand in hand on the rail'), 300, 340);
  expect(touch()).toMatchObject({ from: 34, to: 50 });
  drag(handle('End of the touch of the left hand in hand on the rail'), 500, 100);
  expect(touch()).toMatchObject({ from: 30, to: 30 });
  drag(handle('Fade out of the left hand in hand on the rail'), 620, 660);
  expect(touch()).toMatchObject({ fadeOut: 16 });
  handle('Start of the touch of the left hand in hand on the rail').focus();
  await userEvent.keyboard('{Delete}');
  expect(onPut.mock.lastCall?.[1].touches).toEqual([]);
});

describe('the curve of a joint', () => {
  const bend = {
    before: Float32Array.from({ length: 81 * 3 }, (_, i) => (i % 3 === 1 ? 10 : 0)),
    after: Float32Array.from({ length: 81 * 3 }, (_, i) => (i % 3 === 0 ? -20 : i % 3 === 1 ? 10 : 0)),
  };
  function curve(layer: Layer) {
    const onPut = jest.fn<void, [Layer, boolean]>();
    render(
      <svg>
        <CurveRow
          {...{ bend, layer, onPut }}
          joint="Head"
          x={(frame) => frame * 10}
          frameAt={(clientX) => clientX / 10}
          y={0}
          height={82}
          x0={0}
          width={800}
        />
      </svg>,
    );
    return onPut;
  }

  test('is that about which the correction does most; a press shows the next', async () => {
    curve(layerOf());
    const name = screen.getByRole('button', { name: /^Curve of Head/ });
    expect(name.textContent).toBe('Head, about the left');
    await userEvent.click(name);
    expect(name.textContent).toBe('Head, about up');
  });

  test('its pegs are dragged in time and in value', () => {
    const onPut = curve(layerOf());
    const key = handle('Key of Head at frame 20');
    const at = (clientX: number, clientY: number, buttons: number) => ({
      clientX,
      clientY,
      buttons,
      button: 0,
      pointerId: 1,
      isPrimary: true,
    });
    // 20 degrees span 60 pixels.
    fireEvent.pointerDown(key, at(200, 40, 1));
    fireEvent.pointerMove(key, at(215, 35, 1));
    fireEvent.pointerMove(key, at(230, 10, 1));
    fireEvent.pointerUp(key, at(230, 10, 0));
    const [layer, isDone] = onPut.mock.lastCall ?? [];
    expect(isDone).toBe(true);
    expect(layer?.keys.map(({ frame }) => frame)).toEqual([23, 40]);
    expect(layer?.keys[0].turn[0]).toBeCloseTo(-10, 1);
    expect(layer?.keys[0].turn.slice(1)).toEqual([0, 0]);
  });

  test('arrows move a key by a frame and by a degree, Delete takes it out', async () => {
    const onPut = curve(layerOf());
    handle('Key of Head at frame 40').focus();
    await userEvent.keyboard('{ArrowUp}');
    expect(onPut.mock.lastCall?.[0].keys[1].turn[0]).toBe(-9);
    await userEvent.keyboard('{ArrowRight}');
    expect(onPut.mock.lastCall?.[0].keys[1].frame).toBe(41);
    await userEvent.keyboard('{Delete}');
    expect(onPut.mock.lastCall?.[0].keys).toHaveLength(1);
  });
});

describe('a range of the open layer', () => {
  const row = () => screen.getByText(/^Double click to set a peg/).parentElement as Element;

  test('is chosen by dragging, either way, and let go by a press', () => {
    rows([layerOf()]);
    drag(row(), 350, 120);
    expect(useCorrecting.getState().range).toEqual({ from: 12, to: 35 });
    drag(row(), 500, 500);
    expect(useCorrecting.getState().range).toBeNull();
  });

  test('its bar takes along what lies in it, and the range goes too', () => {
    const { onPut } = rows([layerOf()]);
    drag(row(), 120, 350);
    drag(handle('Chosen range of head up, frames 12 to 35'), 150, 200);
    expect(onPut.mock.calls.slice(0, -1).every(([, , isDone]) => !isDone)).toBe(true);
    expect(onPut.mock.lastCall?.[1].keys.map(({ frame }) => frame)).toEqual([25, 40]);
    expect(useCorrecting.getState().range).toEqual({ from: 17, to: 40 });
    drag(handle('End of the chosen range of head up'), 400, 450);
    expect(useCorrecting.getState().range).toEqual({ from: 17, to: 45 });
  });
});

test('keys of the weight are rounds on the ramp: dragged in time and value, moved and taken out by keys', async () => {
  const keyed = layerOf({
    weight: [
      { frame: 10, value: 0 },
      { frame: 30, value: 1 },
    ],
  });
  const { onPut } = rows([keyed]);
  const now = () => onPut.mock.lastCall?.[1].weight;
  drag(handle('Weight of head up at frame 30'), 300, 350);
  expect(now()).toEqual([
    { frame: 10, value: 0 },
    { frame: 35, value: 1 },
  ]);
  handle('Weight of head up at frame 10').focus();
  await userEvent.keyboard('{ArrowUp}');
  expect(now()).toEqual([
    { frame: 10, value: 0.05 },
    { frame: 30, value: 1 },
  ]);
  await userEvent.keyboard('{Delete}');
  expect(now()).toEqual([{ frame: 30, value: 1 }]);
});
