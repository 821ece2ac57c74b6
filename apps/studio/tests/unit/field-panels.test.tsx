/** @jest-environment jsdom */
import type { Sounding } from '@lantern/motion';
import { act, cleanup, render, renderHook, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { usePlayer } from '@/data/player';
import type { FieldDoc } from '@/data/sets-store';
import { goOn, holdStill } from '@/data/hold';
import { AskedAndComes } from '@/places/set/fields/AskedAndComes';
import { PhaseStrips } from '@/places/set/fields/PhaseStrips';
import { useGamepad } from '@/places/set/fields/use-gamepad';
import { useLiveField } from '@/places/set/fields/use-live-field';
import type { FieldView } from '@/worker/core.worker';
import { doll, legs } from '../../../../packages/drive/tests/made';

afterEach(cleanup);

const stroll = doll('stroll', { mps: 1.2, cycle: 1.1 });
const jog = doll('jog', { mps: 1.8, cycle: 0.9 });
/** A field of two clips by speed, as the core tells it. */
const view: FieldView = {
  points: [
    { id: 'a', name: 'stroll', at: [1.2], place: [1.2, 0], strides: 1 },
    { id: 'b', name: 'jog', at: [1.8], place: [1.8, 0], strides: 1 },
  ],
  left: [],
  skeleton: legs,
  joints: {
    joints: legs.names.map((name, j) => ({
      name,
      parent: legs.parents[j],
      offset: [legs.offsets[j * 3], legs.offsets[j * 3 + 1], legs.offsets[j * 3 + 2]] as const,
      restRotation: [0, 0, 0, 1] as const,
      endSites: [],
    })),
  },
  field: { name: 'strolls', clips: [stroll, jog], points: [1.2, 0, 1.8, 0], triangles: [], scale: [1, 1], holdFeet: true, pace: 0.06 },
};

describe('what is asked and what comes', () => {
  const field: FieldDoc = { id: 'f', name: 'strolls', inputs: ['speed', 'turn'], clips: ['a', 'b'], holdFeet: true, pace: 0.06 };
  const sounding = (change: Partial<Sounding>): Sounding => ({
    ...{ at: [1.5, 10], weights: {}, slideMm: 1, got: [1.5, 10], kink: 1.1, isOut: false },
    ...change,
  });
  const show = (found: Sounding | null, change: Partial<FieldDoc> = {}) => {
    const [onMove, put] = [jest.fn(), jest.fn()];
    render(<AskedAndComes field={{ ...field, ...change }} at={[1.5, 10]} sounding={found} onMove={onMove} put={put} />);
    return { onMove, put, user: userEvent.setup(), panel: screen.getByRole('region', { name: 'Asked and comes' }) };
  };

  test('what comes within its bounds bears no mark, and what does not has one of its own', () => {
    expect(show(sounding({})).panel.textContent).not.toContain('▲');
    cleanup();
    expect(show(sounding({ got: [1.4, 10] })).panel.textContent).toMatch(/▲\s*1\.40/);
    cleanup();
    expect(show(sounding({ got: [1.5, 13] })).panel.textContent).toMatch(/▲\s*13\.0/);
    cleanup();
    expect(show(sounding({ slideMm: 4.2 })).panel.textContent).toMatch(/▲\s*4\.2/);
    cleanup();
    expect(show(sounding({ kink: 1.8 })).panel.textContent).toMatch(/▲\s*1\.80/);
  });

  test('a speed and a turn are asked by typing, each leaves the other; nothing is known yet before it was sounded', async () => {
    const { onMove, user, panel } = show(null);
    expect(panel.textContent).toContain('–');
    for (const [name, text, asked] of [
      ['Asked: speed', '1.7', [1.7, 10]],
      ['Asked: turn', '-20', [1.5, -20]],
    ] as const) {
      const box = screen.getByRole('textbox', { name });
      await user.clear(box);
      await user.type(box, `${text}{Enter}`);
      expect(onMove).toHaveBeenLastCalledWith(asked);
    }
  });

  test('a field of directions asks for a direction, and one of speed alone for neither', () => {
    show(null, { inputs: ['speed', 'direction'] });
    expect(screen.getByRole('textbox', { name: 'Asked: direction' })).toBeTruthy();
    expect(screen.queryByRole('textbox', { name: 'Asked: turn' })).toBeNull();
    cleanup();
    show(null, { inputs: ['speed'] });
    expect(screen.getAllByRole('textbox')).toHaveLength(1);
  });

  test('feet are let go, and speed is made up no more, by a switch each', async () => {
    const { put, user } = show(null);
    await user.click(screen.getByRole('switch', { name: 'feet held' }));
    expect(put).toHaveBeenLastCalledWith({ holdFeet: false });
    await user.click(screen.getByRole('switch', { name: 'speed made up' }));
    expect(put).toHaveBeenLastCalledWith({ pace: 0 });
    cleanup();
    const without = show(null, { pace: 0 });
    await without.user.click(screen.getByRole('switch', { name: 'speed made up' }));
    expect(without.put).toHaveBeenLastCalledWith({ pace: 0.06 });
  });
});

describe('strips of the stride', () => {
  const strips = () => screen.getAllByRole('img').map((strip) => strip.getAttribute('aria-label'));

  test('the clips that count have one each, the stronger first, and below them stands the blend', () => {
    render(<PhaseStrips view={view} weights={{ stroll: 0.3, jog: 0.7 }} phase={0.25} />);
    expect(strips()).toEqual(['jog: when the feet bear', 'stroll: when the feet bear', 'the blend: when the feet bear']);
    expect(screen.getByText('phase 0.25')).toBeTruthy();
    // Between the 54 and the 66 frames of the two, nearer to the stronger.
    const frames = Number(/^(\d+) frames$/.exec(screen.getByText(/^\d+ frames$/).textContent ?? '')?.[1]);
    expect(frames).toBeGreaterThan(54);
    expect(frames).toBeLessThan(60);
  });

  test('one alone is no blend, and where none counts there is no strip', () => {
    render(<PhaseStrips view={view} weights={{ stroll: 1 }} phase={0} />);
    expect(strips()).toEqual(['stroll: when the feet bear']);
    cleanup();
    const { container } = render(<PhaseStrips view={view} weights={{}} phase={0} />);
    expect(container.textContent).toBe('');
  });

  test('a foot that bears beyond the end of the stride comes round at its beginning', () => {
    render(<PhaseStrips view={view} weights={{ stroll: 1 }} phase={0} />);
    const bars = [...screen.getByRole('img').querySelectorAll('rect')].map((bar) => [
      Number(bar.getAttribute('x')) - 2,
      Number(bar.getAttribute('width')),
    ]);
    // Left bears from 0 to 0.6 of the stride, right from 0.5 to 1.1.
    expect(bars.map(([x, wide]) => [x / 396, wide / 396].map((v) => Number(v.toFixed(2))))).toEqual([
      [0, 0.6],
      [0.5, 0.5],
      [0, 0.1],
    ]);
  });
});

describe('a field that plays', () => {
  const frames: FrameRequestCallback[] = [];
  let now = 0;
  beforeEach(() => {
    frames.length = 0;
    now = 1000;
    jest.spyOn(performance, 'now').mockImplementation(() => now);
    jest.spyOn(window, 'requestAnimationFrame').mockImplementation((frame) => frames.push(frame));
    jest.spyOn(window, 'cancelAnimationFrame').mockImplementation(() => frames.splice(0));
    window.matchMedia = jest.fn().mockReturnValue({ matches: false });
  });
  afterEach(() => jest.restoreAllMocks());
  /** So many frames of the screen. */
  const pass = (count: number) =>
    act(() => {
      for (let i = 0; i < count; i++) frames.splice(0).forEach((frame) => frame((now += 1000 / 60)));
    });

  test('goes by its weights at the place that is asked, leaves prints where its feet come down, and ends with the page', () => {
    const { result, rerender, unmount } = renderHook(({ x }) => useLiveField(view, [x, 0]), { initialProps: { x: 1.35 } });
    expect(usePlayer.getState().playing).toBe(true);
    pass(150);
    expect(result.current?.weights.stroll).toBeCloseTo(0.75, 2);
    expect(result.current?.radius).toBeNull();
    const { prints = [], motion } = result.current ?? {};
    // About two steps in every second of the two and a half.
    expect(prints.length).toBeGreaterThanOrEqual(3);
    expect(new Set(prints.map(({ side }) => side))).toEqual(new Set(['left', 'right']));
    expect(motion?.rootPositions[2]).toBeGreaterThan(2.5);
    rerender({ x: 1.8 });
    pass(60);
    expect(result.current?.weights.jog).toBeCloseTo(1, 1);
    unmount();
    expect(usePlayer.getState().playing).toBe(false);
    expect(frames).toEqual([]);
  });

  test('stands still where movement is not wanted, and shows what is asked at once', () => {
    window.matchMedia = jest.fn().mockReturnValue({ matches: true });
    const { result, rerender } = renderHook(({ x }) => useLiveField(view, [x, 0]), { initialProps: { x: 1.2 } });
    pass(30);
    const still = result.current?.phase;
    rerender({ x: 1.5 });
    expect(result.current?.weights).toEqual({ stroll: expect.closeTo(0.5, 5), jog: expect.closeTo(0.5, 5) });
    expect(result.current?.phase).toBe(still);
  });

  test('stands still while another page is on its way, and goes on where it was', () => {
    const { result } = renderHook(() => useLiveField(view, [1.2, 0]));
    pass(60);
    const at = () => result.current?.motion.rootPositions[2] ?? 0;
    const before = at();
    act(() => holdStill());
    pass(60);
    expect(at()).toBe(before);
    act(() => goOn());
    pass(6);
    // A tenth of a second's way, not that of the second that was waited.
    expect(at() - before).toBeGreaterThan(0.05);
    expect(at() - before).toBeLessThan(0.3);
  });

  test('there is nothing before the field is known', () => {
    expect(renderHook(() => useLiveField(null, [1, 0])).result.current).toBeNull();
  });

  test('a stick of a gamepad asks as long as it is moved; one that rests, or is hardly moved, does not', () => {
    const pads: ({ axes: number[] } | null)[] = [null];
    Object.assign(navigator, { getGamepads: () => pads });
    const onStick = jest.fn();
    const { unmount } = renderHook(() => useGamepad(onStick));
    pass(3);
    pads.push({ axes: [0.1, -0.1] });
    pass(3);
    expect(onStick).not.toHaveBeenCalled();
    pads[1] = { axes: [0.1, -0.8] };
    pass(2);
    expect(onStick.mock.calls).toEqual([
      [0, -0.8],
      [0, -0.8],
    ]);
    unmount();
    expect(frames).toEqual([]);
  });
});
