/** @jest-environment jsdom */
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { clipInputSchema } from '@lantern/motion';
import { useClips, type ClipDoc } from '@/data/clips-store';
import { ClipHead } from '@/places/bench/ClipHead';
import { NotesCard } from '@/places/takes/NotesCard';
import type { TakeInfo } from '@/data/project';
import { CommandFinder } from '@/shell/CommandFinder';
import { useCommands } from '@/shell/commands';
import { ConflictDialog } from '@/shell/ConflictDialog';
import { KeysDialog } from '@/shell/KeysDialog';
import { giveRoom } from './room';

beforeAll(() => giveRoom());
afterEach(cleanup);

const doc = (change: object = {}): ClipDoc => ({
  ...clipInputSchema.parse({ id: 'c', name: 'stroll', take: 't', from: 100, to: 166 }),
  ...change,
});

function head(clip: ClipDoc = doc()) {
  const acts = {
    onChange: jest.fn(),
    onNew: jest.fn(),
    onSplit: jest.fn(),
    onDuplicate: jest.fn(),
    onOtherSide: jest.fn(),
    onBake: jest.fn(),
    onRemove: jest.fn(),
  };
  render(<ClipHead doc={clip} offered={{ gait: 'walk', direction: 'forward' }} names={new Set(['jog'])} frames={300} {...acts} />);
  return { ...acts, user: userEvent.setup() };
}

async function retype(user: ReturnType<typeof userEvent.setup>, name: string, text: string) {
  const field = screen.getByRole('textbox', { name });
  await user.clear(field);
  await user.type(field, `${text}{Enter}`);
}

test('a clip is renamed on Enter; a name that another clip has, or that no file can have, is refused and put back', async () => {
  const { onChange, user } = head();
  await retype(user, 'Clip name', 'quay stroll');
  expect(onChange).toHaveBeenLastCalledWith(expect.objectContaining({ name: 'quay stroll' }));
  const field = screen.getByRole('textbox', { name: 'Clip name' });
  for (const [text, says] of [
    ['JOG', 'another clip is called that'],
    ['a/b', 'no file can be called that'],
  ]) {
    await user.clear(field);
    await user.type(field, text);
    expect(screen.getByRole('alert').textContent).toContain(says);
    onChange.mockClear();
    await user.keyboard('{Enter}');
    expect(onChange).not.toHaveBeenCalled();
    expect((field as HTMLInputElement).value).toBe('stroll');
  }
});

test('posts typed beyond the take, or beyond each other, stay inside; what is no number changes nothing', async () => {
  const { onChange, user } = head();
  await retype(user, 'Out', '9999');
  expect(onChange.mock.lastCall?.[0].source).toMatchObject({ from: 100, to: 299 });
  await retype(user, 'In', '400');
  expect(onChange.mock.lastCall?.[0].source).toMatchObject({ from: 164, to: 166 });
  onChange.mockClear();
  await retype(user, 'In', 'soon');
  expect(onChange).not.toHaveBeenCalled();
});

test('gait and direction as measured are taken by one click, which is offered as long as they differ', async () => {
  const { onChange, user } = head();
  await user.click(screen.getByRole('button', { name: /Take gait and direction as measured/ }));
  expect(onChange).toHaveBeenCalledWith(expect.objectContaining({ gait: 'walk', direction: 'forward' }));
  cleanup();
  head(doc({ gait: 'walk', direction: 'forward' }));
  expect(screen.queryByRole('button', { name: /Take gait and direction as measured/ })).toBeNull();
});

test('every act of a clip has a button with a name', async () => {
  const { user, onSplit, onDuplicate, onOtherSide, onBake, onRemove, onNew } = head();
  for (const [name, act] of [
    [/Split this clip/, onSplit],
    [/Duplicate this clip/, onDuplicate],
    [/other side of this clip/, onOtherSide],
    [/Bake this clip/, onBake],
    [/Remove this clip/, onRemove],
    [/New clip/, onNew],
  ] as const) {
    await user.click(screen.getByRole('button', { name }));
    expect(act).toHaveBeenCalledTimes(1);
  }
});

test('notes, name and tags take effect when they are left; Escape takes back; a name of nothing is none', async () => {
  const onChange = jest.fn();
  const take = { id: 't', name: 'rounds', tags: ['quay'], notes: '' } as unknown as TakeInfo;
  render(<NotesCard take={take} allTags={['quay', 'rope']} onChange={onChange} />);
  const user = userEvent.setup();
  await user.type(screen.getByRole('textbox', { name: 'Notes' }), 'gulls');
  expect(onChange).not.toHaveBeenCalled();
  await user.tab();
  expect(onChange).toHaveBeenLastCalledWith({ notes: 'gulls' });
  await user.type(screen.getByRole('textbox', { name: 'Name' }), ' two{Escape}');
  await user.tab();
  expect(onChange).toHaveBeenCalledTimes(1);
  await user.clear(screen.getByRole('textbox', { name: 'Name' }));
  await user.tab();
  expect(onChange).toHaveBeenCalledTimes(1);
  await user.type(screen.getByRole('combobox', { name: 'Tags' }), '#lamp{Enter}');
  expect(onChange).toHaveBeenLastCalledWith({ tags: ['quay', 'lamp'] });
});

test('whatever the places offer is found by its words and done by Enter; keys stand beside it', async () => {
  const [star, ship] = [jest.fn(), jest.fn()];
  useCommands.setState({
    byPlace: {
      takes: [{ id: 'star', label: 'Star this take', keys: '*', run: star }],
      ship: [{ id: 'ship', label: 'Ship two clips', run: ship }],
    },
  });
  const onClose = jest.fn();
  render(<CommandFinder open onClose={onClose} />);
  const user = userEvent.setup();
  expect(screen.getAllByRole('option').map((option) => option.textContent)).toEqual(['Star this take*', 'Ship two clips']);
  await user.keyboard('two');
  expect(screen.getAllByRole('option')).toHaveLength(1);
  await user.keyboard('{Enter}');
  expect(ship).toHaveBeenCalledTimes(1);
  expect(onClose).toHaveBeenCalled();
  await user.keyboard('zzz');
  expect(screen.getByText('Nothing here is called that')).toBeTruthy();
});

test('all keys are listed by where they work', () => {
  render(<KeysDialog open onClose={() => {}} />);
  const dialog = screen.getByRole('dialog', { name: 'Keys' });
  expect(within(dialog).getAllByRole('heading', { level: 3 }).length).toBeGreaterThan(2);
  expect(within(dialog).getAllByRole('term').length).toBeGreaterThan(15);
});

describe('a clip that was saved elsewhere', () => {
  const mine = doc({ name: 'mine' });
  const theirs = doc({ name: 'theirs', source: { take: 't', from: 90, to: 160 } });
  const conflict = () =>
    useClips.setState({
      project: 'p',
      docs: [mine],
      saved: { c: { revision: 1, doc: doc() } },
      conflicts: { c: { revision: 4, doc: theirs } },
    });

  test('says what stands there and here, and nothing is there without a conflict', () => {
    conflict();
    render(<ConflictDialog />);
    expect(screen.getByText('There: “theirs”, frames 90 to 160, 0 steps on')).toBeTruthy();
    expect(screen.getByText('Here: “mine”, frames 100 to 166, 0 steps on')).toBeTruthy();
    cleanup();
    useClips.setState({ conflicts: {} });
    render(<ConflictDialog />);
    expect(screen.queryByRole('dialog')).toBeNull();
  });

  test.each([
    ['Take theirs', ['theirs'], false],
    ['Put mine in its place', ['mine'], true],
    ['Keep mine as a copy', ['theirs', 'mine (mine)'], true],
  ])('“%s” leaves %j', async (button, names, isDirty) => {
    conflict();
    render(<ConflictDialog />);
    await userEvent.setup().click(screen.getByRole('button', { name: button }));
    const { docs, conflicts, saved } = useClips.getState();
    expect(docs.map(({ name }) => name)).toEqual(names);
    expect(conflicts).toEqual({});
    // The next save goes on from what the server has.
    expect(saved.c).toEqual({ revision: 4, doc: theirs });
    expect(docs.some((d) => JSON.stringify(d) !== JSON.stringify(saved[d.id]?.doc ?? null))).toBe(isDirty);
  });
});
