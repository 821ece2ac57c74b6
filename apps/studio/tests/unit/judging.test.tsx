/** @jest-environment jsdom */
import { recipeSchema, restMotion, stepSchema, bodyOf, type Unsteady } from '@lantern/motion';
import { capture } from '@lantern/capture';
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useCorrecting } from '@/data/correcting';
import { ghostSteps, stepsAlone } from '@/data/seen';
import { ArcsAndBalance } from '@/places/bench/judging/ArcsAndBalance';
import { SeenAs } from '@/places/bench/recipe/SeenAs';
import { useStageOptions } from '@/stage/stage-options';
import type { ClipResult, Judged } from '@/worker/core.worker';
import { giveRoom } from './room';

beforeAll(() => giveRoom(360, 700));
afterEach(cleanup);
beforeEach(() => {
  useStageOptions.setState({ trails: [], balance: false });
  useCorrecting.setState({ ghost: null, only: null });
});

const rest = restMotion(capture('walk', { seconds: 1, seed: 3 }).motion.skeleton);
const shown = { motion: { ...rest, skeleton: { ...rest.skeleton, body: bodyOf(rest) } }, cycle: 60 } as unknown as ClipResult;
const arc = (joint: string, was: number, is: number) => ({
  joint,
  now: new Float32Array(),
  before: null,
  was: { ratio: was, kinks: [] },
  smooth: {
    ratio: is,
    kinks: [
      { frame: 43, mm: 2.14, times: 5 },
      { frame: 7, mm: 0.6, times: 2 },
    ],
  },
});
const judged = (unsteady: readonly Unsteady[] = []): Judged => ({
  arcs: [arc('LeftHand', 6.2, 1.1), arc('Head', 1, 1)],
  balance: { centre: new Float32Array(), marginCm: new Float32Array(), support: [], unsteady },
});

describe('arcs and balance', () => {
  test('trails are asked for by part of the body, with both its joints, and let go again', async () => {
    const user = userEvent.setup();
    render(<ArcsAndBalance judged={null} shown={shown} onGo={() => {}} />);
    const hands = () => screen.getByRole('button', { name: 'Trails of hands' });
    await user.click(hands());
    expect(useStageOptions.getState().trails).toEqual(['LeftHand', 'RightHand']);
    expect(hands().getAttribute('aria-pressed')).toBe('true');
    await user.click(screen.getByRole('button', { name: 'Trails of head' }));
    await user.click(hands());
    expect(useStageOptions.getState().trails).toEqual(['Head']);
  });

  test('each arc has its smoothness before and after, one figure where nothing was changed, and its kinks a click away', async () => {
    const onGo = jest.fn();
    render(<ArcsAndBalance judged={judged()} shown={shown} onGo={onGo} />);
    expect(screen.getByRole('group', { name: 'Arc of LeftHand' }).textContent).toContain('jerk × 6.2 → 1.1');
    expect(screen.getByRole('group', { name: 'Arc of Head' }).textContent).toContain('jerk × 1.0');
    const [kink] = screen.getAllByRole('button', { name: /kink of LeftHand/ });
    expect(kink.textContent).toBe('43: 2.1 mm');
    await userEvent.click(kink);
    expect(onGo).toHaveBeenCalledWith(43);
  });

  test('where nobody could stand so is listed, worst first; that it stands is said', async () => {
    const onGo = jest.fn();
    useStageOptions.setState({ balance: true });
    const { rerender } = render(<ArcsAndBalance judged={judged()} shown={shown} onGo={onGo} />);
    expect(screen.getByText('it stands')).toBeTruthy();
    const off = [
      { from: 70, to: 80, at: 74, cm: -6.2 },
      { from: 3, to: 5, at: 4, cm: -1.4 },
    ];
    rerender(<ArcsAndBalance judged={judged(off)} shown={shown} onGo={onGo} />);
    expect(screen.getByText('cannot stand so: 2 times')).toBeTruthy();
    // Frames of the cycle, however often it is played.
    await userEvent.click(screen.getByText('▲ 6.2 cm outside, frame 14'));
    expect(onGo).toHaveBeenCalledWith(74);
    await userEvent.click(screen.getByRole('switch', { name: 'Show the balance' }));
    expect(useStageOptions.getState().balance).toBe(false);
  });
});

const steps = recipeSchema.parse([{ kind: 'clean' }, { kind: 'loop' }, { kind: 'hips', sway: 0.5 }, { kind: 'travel', off: true }]);

describe('other states of a recipe', () => {
  const on = (all: readonly { readonly kind: string; readonly off?: boolean }[] | null) =>
    all?.filter(({ off }) => !off).map(({ kind }) => kind);

  test('as captured, without a step, as far as a step; none where the step is not there or is off', () => {
    expect(on(ghostSteps(steps, { how: 'captured' }))).toEqual(['loop']);
    expect(on(ghostSteps(steps, { how: 'without', id: 'loop' }))).toEqual(['clean', 'hips']);
    expect(on(ghostSteps(steps, { how: 'up to', id: 'loop' }))).toEqual(['clean', 'loop']);
    for (const id of ['travel', 'thin']) expect(ghostSteps(steps, { how: 'without', id })).toBeNull();
  });

  test('a step by itself; all of them where it is not there', () => {
    expect(on(stepsAlone(steps, 'hips'))).toEqual(['hips']);
    expect(stepsAlone(steps, 'thin')).toBe(steps);
    expect(stepsAlone(steps, null)).toBe(steps);
  });

  test('are chosen by their names', async () => {
    const user = userEvent.setup();
    render(<SeenAs steps={[...steps, stepSchema.parse({ kind: 'hips', id: 'hips-2' })]} />);
    const choose = async (field: string, option: string) => {
      await user.click(screen.getByRole('combobox', { name: field }));
      await user.click(await screen.findByRole('option', { name: option }));
    };
    await choose('shown', 'Hips 2 alone');
    expect(useCorrecting.getState().only).toBe('hips-2');
    await choose('over a ghost of', 'as far as Loop');
    expect(useCorrecting.getState().ghost).toEqual({ how: 'up to', id: 'loop' });
    await choose('over a ghost of', 'nothing');
    expect(useCorrecting.getState().ghost).toBeNull();
  });
});
