/** @jest-environment jsdom */
import { stepOf, stepSchema, type RecipeStepInput } from '@lantern/motion';
import { act, cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useClips, type ClipDoc } from '@/data/clips-store';
import { CopySteps } from '@/places/bench/recipe/CopySteps';
import { giveRoom } from './room';

beforeAll(() => giveRoom());
afterEach(cleanup);

const doc = (id: string, take: string, from: number, gait: string, ...steps: RecipeStepInput[]): ClipDoc => ({
  id,
  name: id,
  source: { take, from, to: from + 80 },
  steps: steps.map((step) => stepSchema.parse(step)),
  gait,
  direction: '',
});
const layer = (name: string, frame: number) => ({ name, keys: [{ frame, joint: 'Head', turn: [-10, 0, 0] as [number, number, number] }] });
const own = doc(
  'stroll',
  'rounds',
  100,
  'walk',
  { kind: 'loop' },
  { kind: 'hips', sway: 0.5 },
  { kind: 'corrections', layers: [layer('head up', 20)] },
  { kind: 'travel' },
);
const others = [
  doc('same-take', 'rounds', 110, 'walk', { kind: 'loop' }, { kind: 'hips', sway: 1.5 }, { kind: 'travel' }),
  doc('other-take', 'jogs', 7, 'walk', { kind: 'corrections', layers: [layer('head up', 3), layer('elbow', 9)] }),
  doc('jog', 'jogs', 40, 'run', { kind: 'loop' }),
];
beforeEach(() => {
  useClips.setState({ docs: [own, ...others] });
  useClips.temporal.getState().clear();
});
const now = (id: string) => useClips.getState().docs.find((own) => own.id === id) ?? own;

function dialog() {
  const onClose = jest.fn();
  render(<CopySteps doc={own} onClose={onClose} />);
  return {
    onClose,
    user: userEvent.setup(),
    steps: within(screen.getByRole('group', { name: 'Steps to copy' })),
    clips: within(screen.getByRole('group', { name: 'Clips that get them' })),
  };
}

test('what is of one clip alone is left out at first; nothing goes without a clip', () => {
  const { steps } = dialog();
  expect(steps.getByRole('checkbox', { name: 'Loop' })).toHaveProperty('checked', false);
  expect(steps.getByRole('checkbox', { name: 'Hips' })).toHaveProperty('checked', true);
  expect(screen.getByRole('button', { name: 'Copy 3 steps to 0 clips' })).toHaveProperty('disabled', true);
});

test('steps go to all clips of the take: those of a kind in place, others where they belong, frames at the same instants, one undo', async () => {
  const { user, clips, onClose } = dialog();
  await user.click(clips.getByRole('button', { name: 'of this take' }));
  await user.click(screen.getByRole('button', { name: 'Copy 3 steps to 1 clip' }));
  expect(onClose).toHaveBeenCalled();
  expect(now('same-take').steps.map(({ kind }) => kind)).toEqual(['loop', 'hips', 'corrections', 'travel']);
  expect(stepOf(now('same-take').steps, 'hips')?.sway).toBe(0.5);
  // Ten frames into the other clip's cut lies what is twenty frames into this one's.
  expect(stepOf(now('same-take').steps, 'corrections')?.layers[0].keys[0].frame).toBe(10);
  expect(now('other-take')).toBe(others[1]);
  act(() => useClips.temporal.getState().undo());
  expect(now('same-take')).toBe(others[0]);
});

test('a gait’s clips in other takes: layers are laid over those that are there, the same one once', async () => {
  const { user, steps, clips } = dialog();
  await user.click(steps.getByRole('checkbox', { name: 'Hips' }));
  await user.click(steps.getByRole('checkbox', { name: 'Travel' }));
  await user.click(clips.getByRole('button', { name: 'of this gait' }));
  await user.click(screen.getByRole('button', { name: 'Copy 1 step to 2 clips' }));
  expect(stepOf(now('other-take').steps, 'corrections')?.layers.map(({ name, keys }) => [name, keys[0].frame])).toEqual([
    ['elbow', 9],
    ['head up', 20],
  ]);
  expect(now('jog')).toBe(others[2]);
});
