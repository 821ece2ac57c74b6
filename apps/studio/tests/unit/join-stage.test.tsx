/** @jest-environment jsdom */
import type { Skeleton } from '@lantern/motion';
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactNode } from 'react';
import { JoinStage } from '@/places/joins/JoinStage';
import { newPiece } from '@/places/joins/join-edits';
import type { Joinery } from '@/places/joins/use-joinery';
import type { StageProps } from '@/stage/stage-props';
import type { CharacterView, JoinView, MeetView } from '@/worker/core.worker';
import { place, projectData } from './place';

const skeleton = { joints: [{ name: 'Hips' }, { name: 'Spine' }] } as unknown as Skeleton;
const mockFigure = { mesh: 'plain', markers: null };
const mockCharacter: { view: CharacterView | undefined } = { view: undefined };
const mockFrame = { at: 0 };
const mockShown: { stage: StageProps | null; notice: ReactNode } = { stage: null, notice: null };
jest.mock('@/worker/core', () => ({ core: () => null }));
jest.mock('@/data/use-figure', () => ({ useFigure: (of: Skeleton | null) => ({ data: of ? mockFigure : undefined }) }));
jest.mock('@/data/fits', () => ({ useCharacter: () => ({ data: mockCharacter.view }) }));
jest.mock('@/stage/StageFrame', () => ({
  StageFrame: ({ stage, footer, notice }: { stage: StageProps | null; footer?: ReactNode; notice?: ReactNode }) => {
    Object.assign(mockShown, { stage, notice });
    return (
      <>
        {notice}
        {footer}
      </>
    );
  },
  AtFrame: ({ children }: { children: (frame: number) => ReactNode }) => <span>{children(mockFrame.at)}</span>,
}));

beforeEach(() => {
  mockCharacter.view = undefined;
  mockFrame.at = 0;
});
afterEach(cleanup);

const part = (frames: number) => ({ frames, skeleton }) as unknown as MeetView['leaving'];
const meets = [
  { from: 40, to: 60, leaving: part(21), coming: part(21), place: [0, 0] },
  // A cut: nothing lies over each other.
  { from: 90, to: 90, leaving: part(1), coming: part(1), place: [0, 0] },
] as unknown as MeetView[];
const view = {
  motion: { frames: 130, fps: 60, skeleton },
  markers: null,
  floor: 0.02,
  meets,
  platforms: [{ id: 'block' }],
} as unknown as JoinView;
const pieces = ['a', 'b', 'c'].map((id, i) => ({
  ...newPiece({ clip: id }),
  id,
  into: { ...newPiece({ clip: id }).into, frames: i === 1 ? 20 : 0, curve: 'straight' as const },
}));
const joinery = (change: object = {}) =>
  ({ view, problem: null, isBusy: false, doc: { id: 'j', name: 'round', start: 'origin', pieces }, ...change }) as unknown as Joinery;
const open = (change: object = {}, character: string | null = null) =>
  render(<JoinStage joinery={joinery(change)} character={character} />, { wrapper: place(projectData()).wrapper });
const through = () => mockShown.stage?.through ?? [];

test('both pieces of an overlap are seen through the figure from where they overlap on, each in a colour of its own; of a cut neither', () => {
  open();
  expect(through().map(({ parts }) => parts.map(({ from, motion }) => [from, motion.frames]))).toEqual([[[40, 21]], [[40, 21]]]);
  const [going, coming] = through();
  expect(going.parts[0].motion).toBe(meets[0].leaving);
  expect(coming.parts[0].motion).toBe(meets[0].coming);
  expect(going.hue).not.toBe(coming.hue);
});

test('either is taken away by itself, and comes back', async () => {
  const user = userEvent.setup();
  open();
  const choice = (name: string) => screen.getByRole('button', { name });
  await user.click(choice('going out'));
  expect(through().map(({ parts }) => parts[0].motion)).toEqual([meets[0].coming]);
  expect([choice('going out'), choice('coming in')].map((own) => own.getAttribute('aria-pressed'))).toEqual(['false', 'true']);
  await user.click(choice('coming in'));
  expect(through()).toEqual([]);
  await user.click(choice('going out'));
  expect(through().map(({ parts }) => parts[0].motion)).toEqual([meets[0].leaving]);
});

test('where the ground is raised its blocks are shown, and rings where both meet', () => {
  open();
  expect(mockShown.stage).toMatchObject({ props: [{ id: 'block' }], floor: 0.02 });
  expect(mockShown.stage?.meets).toBe(meets);
});

test.each([
  [0, ''],
  [40, ''],
  [45, '25 % in'],
  [50, '50 % in'],
  [60, ''],
  [90, ''],
])('at frame %d: %s', (at, says) => {
  mockFrame.at = at;
  const { container } = open();
  expect(/\d+ % in/.exec(container.textContent ?? '')?.[0] ?? '').toBe(says);
  expect(container.textContent).toContain(`frame ${at} of 129`);
  expect(container.textContent).toContain(`${(at / 60).toFixed(2)} s`);
});

test('on a character it is seen in that one’s skin, once that is there and if it is of that skeleton', () => {
  open({}, 'tallow');
  expect(mockShown.stage?.mesh).toBe('plain');
  cleanup();
  mockCharacter.view = { skeleton, mesh: 'skin', markers: null } as unknown as CharacterView;
  open({}, 'tallow');
  expect(mockShown.stage?.mesh).toBe('skin');
  cleanup();
  mockCharacter.view = { skeleton: { joints: [] }, mesh: 'skin', markers: null } as unknown as CharacterView;
  open({}, 'tallow');
  expect(mockShown.stage?.mesh).toBe('plain');
});

test('until it is worked out it says so; what is wrong is said instead, or beside what was there before', () => {
  open({ view: null });
  expect(screen.getByRole('progressbar', { name: 'Working out the join' })).toBeTruthy();
  expect(mockShown.stage).toBeNull();
  cleanup();
  open({ view: null, problem: 'Piece 2: nothing is there.' });
  expect(screen.getByRole('alert').textContent).toBe('▲ Piece 2: nothing is there.');
  cleanup();
  open({ problem: 'The overlap into piece 2 is too long.', isBusy: true });
  expect(mockShown.stage).not.toBeNull();
  expect(screen.getByRole('alert').textContent).toContain('too long');
  expect(screen.getByRole('progressbar', { name: 'Working out the join' })).toBeTruthy();
});
