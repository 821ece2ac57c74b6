/** @jest-environment jsdom */
import type { AgainstSource, ClipFigures, LoopCandidate, Seam } from '@lantern/motion';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { setFold, useFolds } from '@/controls/folds';
import { CandidateList } from '@/places/bench/glasses/CandidateList';
import { SeamFigures } from '@/places/bench/glasses/SeamFigures';
import { Comparison } from '@/places/takes/Comparison';
import { usePlayer } from '@/data/player';
import { Arrivals } from '@/shell/Arrivals';
import type { Arrival } from '@/shell/use-bring-in';

afterEach(cleanup);
beforeEach(() => {
  useFolds.setState({ open: {} });
  setFold('bench loops', true);
});

const seam = (poseCm: number): Seam =>
  ({
    poseCm,
    worstDeg: 3.2,
    velocityCmS: -12,
    headingDeg: 0.4,
    heightCm: 0.1,
    driftCm: 0.2,
    worstJoint: 'LeftHand',
    worstCm: 4.26,
  }) as Seam;
const candidate = (from: number, poseCm: number, strides: number, startsOn: LoopCandidate['startsOn'] = 'left'): LoopCandidate =>
  ({ from, to: from + 66, seconds: 1.1, strides, startsOn, seam: seam(poseCm) }) as LoopCandidate;

test('loops are listed by what they are; the best is one button away until it is taken', async () => {
  const onTake = jest.fn();
  const candidates = [candidate(100, 1.2, 1), candidate(300, 1.9, 2), candidate(500, 0.2, 0, null)];
  const list = (cut: { from: number; to: number } | null, isSearching = false) => (
    <CandidateList candidates={candidates} isSearching={isSearching} cut={cut} onTake={onTake} />
  );
  const { rerender } = render(list(null));
  expect(screen.getByText('best of 3')).toBeTruthy();
  expect(screen.getByText('1.10 s · 1 stride')).toBeTruthy();
  expect(screen.getByText('1.10 s · 2 strides')).toBeTruthy();
  expect(screen.getByText('1.10 s · standing')).toBeTruthy();
  await userEvent.setup().click(screen.getByRole('button', { name: 'Take the best loop' }));
  expect(onTake).toHaveBeenCalledWith(candidates[0]);
  rerender(list({ from: 100, to: 166 }));
  expect(screen.queryByRole('button', { name: 'Take the best loop' })).toBeNull();
  expect(screen.getAllByRole('button', { pressed: true })).toHaveLength(1);
});

test('while loops are searched nothing is said of them, and a take without any says what to do', () => {
  const { rerender } = render(<CandidateList candidates={[]} isSearching cut={null} onTake={jest.fn()} />);
  expect(screen.getByText('searching…')).toBeTruthy();
  expect(screen.queryByText(/comes round again/)).toBeNull();
  rerender(<CandidateList candidates={[]} isSearching={false} cut={null} onTake={jest.fn()} />);
  expect(screen.getByText(/Nothing in this take comes round again/)).toBeTruthy();
});

const figures = (loop: boolean, slideCm: number) =>
  ({ loop, seam: seam(0.004), tick: 1.02, speedMps: 1.24, turnDegS: -3, slideCm, sinkCm: 0.1, hoverCm: 0.2 }) as unknown as ClipFigures;
const against = {
  likeness: { medianCm: 0.5, worstCm: 2.6, worstPart: 'left hand', worstFrame: 8 },
  kink: { hinge: 'left knee', ratio: 1.7, frame: 3 },
};

test('the seam as captured and the clip as it is stand side by side, with the worst joint and what is off the take', () => {
  const { container, rerender } = render(
    <SeamFigures seam={seam(2)} figures={figures(true, 0.9)} against={against as unknown as AgainstSource} />,
  );
  const group = (name: string) => container.querySelector(`[data-figures=${name}]`)?.textContent ?? '';
  expect(group('captured')).toContain('pose2.0 cm');
  expect(group('captured')).toContain('velocity−12 cm/s');
  expect(group('finished')).toContain('pose0.00 cm');
  expect(group('finished')).toContain('▲ 0.90 cm');
  expect(screen.getByText('worst joint LeftHand, 4.3 cm')).toBeTruthy();
  expect(screen.getByLabelText('Beside the take').textContent).toBe('off the take 0.5 cm, left hand 2.6 cm · kink ▲ left knee × 1.70');
  rerender(<SeamFigures seam={null} figures={figures(false, 0.1)} against={null} />);
  expect(group('finished')).toContain('pose–');
  expect(screen.getByLabelText('Beside the take').textContent).toBe('off the take –');
});

test('of two takes the joints farthest apart are named, each a click away from its frame', async () => {
  usePlayer.getState().load(100, 60, 0);
  const [onStand, onDone] = [jest.fn(), jest.fn()];
  const joint = (name: string, worstCm: number, frame: number) => ({ joint: name, meanCm: worstCm / 3, worstCm, frame });
  const comparison = { joints: [joint('LeftHand', 9, 42), joint('Head', 6, 7)], distanceCm: new Float32Array(3) } as never;
  const { rerender } = render(<Comparison name="stroll" comparison={comparison} stands="over" onStand={onStand} onDone={onDone} />);
  const user = userEvent.setup();
  await user.click(screen.getByText('LeftHand'));
  expect(usePlayer.getState().frame).toBe(42);
  await user.click(screen.getByRole('button', { name: 'side by side' }));
  expect(onStand).toHaveBeenCalledWith('beside');
  await user.click(screen.getByRole('button', { name: 'done' }));
  expect(onDone).toHaveBeenCalled();
  rerender(<Comparison name="stroll" comparison={undefined} stands="over" onStand={onStand} onDone={onDone} />);
  expect(screen.getByRole('progressbar', { name: 'Comparing' })).toBeTruthy();
});

const arrival = (id: number, state: Arrival['state'], more: Partial<Arrival> = {}): Arrival => ({
  id,
  name: `file-${id}.bvh`,
  share: 0.4,
  state,
  stop: new AbortController(),
  ...more,
});

test('of many files that arrive, what went wrong stands first, then what is being done, what waits, and what is in', () => {
  const states = ['done', 'waiting', 'stopped', 'reading', 'failed', 'sending', 'waiting', 'done'] as const;
  render(<Arrivals arrivals={states.map((state, i) => arrival(i, state))} onClose={jest.fn()} />);
  const names = within(screen.getByRole('region', { name: 'Arriving takes' })).getAllByText(/^file-/);
  expect(names.map((name) => states[Number(/\d+/.exec(name.textContent)?.[0])])).toEqual([
    ...['failed', 'reading', 'sending', 'waiting', 'waiting'],
    ...['done', 'stopped', 'done'],
  ]);
});

test('files that arrive say how far they are, can be stopped one by one or all, and a bad one says why', async () => {
  const onClose = jest.fn();
  const arrivals = [arrival(1, 'sending'), arrival(2, 'waiting'), arrival(3, 'failed', { problem: 'Line 3: not a number.' })];
  const { rerender } = render(<Arrivals arrivals={arrivals} onClose={onClose} />);
  expect(screen.getByRole('status').textContent).toBe('Bringing takes in: 0 of 3');
  expect(screen.getByRole('progressbar', { name: 'file-1.bvh progress' }).getAttribute('aria-valuenow')).toBe('40');
  expect(screen.getByRole('alert').textContent).toBe('▲ Line 3: not a number.');
  const user = userEvent.setup();
  await user.click(screen.getAllByRole('button', { name: 'stop' })[1]);
  expect(arrivals.map(({ stop }) => stop.signal.aborted)).toEqual([false, true, false]);
  await user.click(screen.getByRole('button', { name: 'stop all' }));
  expect(arrivals.every(({ stop }) => stop.signal.aborted)).toBe(true);
  rerender(<Arrivals arrivals={[arrival(1, 'done', { said: '2 takes' }), arrivals[2]]} onClose={onClose} />);
  const region = screen.getByRole('region', { name: 'Arriving takes' });
  expect(within(region).getByRole('status').textContent).toBe('1 of 2 files came in');
  expect(within(region).getByText('2 takes')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Close' }));
  expect(onClose).toHaveBeenCalled();
});
