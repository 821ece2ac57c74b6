/** @jest-environment jsdom */
import { recipeSchema } from '@lantern/motion';
import { act, cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useClips, type ClipDoc } from '@/data/clips-store';
import type { SetView } from '@/data/set-view';
import { setDocumentSchema } from '@/http/set';
import { ManyAtOnce } from '@/places/set/slots/many/ManyAtOnce';
import { place } from './place';

afterEach(cleanup);

const clip = (id: string, change: Partial<ClipDoc> = {}): ClipDoc => ({
  ...{ id, name: id, gait: '', direction: '' },
  source: { take: 't', from: 0, to: 60 },
  steps: recipeSchema.parse([{ kind: 'foot-lock' }, { kind: 'travel' }]),
  ...change,
});
const docs = [clip('stroll'), clip('amble', { steps: recipeSchema.parse([{ kind: 'loop' }, { kind: 'travel' }]) }), clip('turn-about')];
const view = {
  members: docs.map((doc) => ({ doc })),
  traits: new Map([
    ['stroll', { kind: 'loop', gait: 'walk', direction: 'forward' }],
    ['amble', { kind: 'loop', gait: 'walk', direction: 'forward' }],
    ['turn-about', { kind: 'turn', gait: null, turnDeg: 176 }],
  ]),
} as unknown as SetView;
const doc = setDocumentSchema.parse({ id: 's', name: 'lamplighter', slots: [{ kind: 'idle' }] });

const open = () => {
  useClips.setState({ project: 'gullmouth', docs, saved: {}, conflicts: {} });
  useClips.temporal.getState().clear();
  const onClose = jest.fn();
  render(<ManyAtOnce doc={doc} view={view} onClose={onClose} />, { wrapper: place().wrapper });
  const user = userEvent.setup();
  return {
    onClose,
    user,
    choose: async (...names: string[]) => {
      for (const name of names) await user.click(screen.getByRole('checkbox', { name }));
    },
    pick: async (list: string, option: string) => {
      await user.click(screen.getByRole('combobox', { name: list }));
      await user.click(await screen.findByRole('option', { name: option }));
    },
    tab: (name: string) => user.click(screen.getByRole('tab', { name })),
    press: (name: string) => user.click(screen.getByRole('button', { name })),
  };
};
const known = () => useClips.getState().docs;
const stepOf = (id: string, kind: string) =>
  known()
    .find((own) => own.id === id)
    ?.steps.find((step) => step.kind === kind);
const undo = () => act(() => useClips.temporal.getState().undo());

test('clips stand by what they are; a heading takes all of its own, and shows when it has some of them', async () => {
  const { choose } = open();
  const group = within(screen.getByRole('group', { name: 'Clips' }));
  expect(group.getAllByRole('checkbox').map((box) => box.closest('label')?.textContent)).toEqual([
    ...['walk loop', 'stroll', 'amble', 'turn', 'turn-about'],
  ]);
  await choose('walk loop');
  for (const name of ['stroll', 'amble']) expect(group.getByRole<HTMLInputElement>('checkbox', { name }).checked).toBe(true);
  await choose('stroll');
  const heading = group.getByRole<HTMLInputElement>('checkbox', { name: 'walk loop' });
  expect(heading.checked).toBe(false);
  expect(heading.dataset.indeterminate).toBe('true');
  expect(group.getByRole<HTMLInputElement>('checkbox', { name: 'turn-about' }).checked).toBe(false);
});

test('one number of a step is set on those that are chosen, added where there is none, and one undo takes all of it back', async () => {
  const { choose, pick, press, user } = open();
  expect(screen.getByText('Choose some clips on the left.')).toBeTruthy();
  await choose('walk loop');
  await pick('Step', 'Foot lock');
  await pick('What of it', 'blend');
  expect(screen.getByText(/1 of 2 have the step; to the others it is added/)).toBeTruthy();
  await user.type(screen.getByRole('textbox', { name: 'is' }), '0.4');
  await press('Set it on 2 clips');
  expect([stepOf('stroll', 'foot-lock'), stepOf('amble', 'foot-lock')]).toMatchObject([{ blend: 0.4 }, { blend: 0.4 }]);
  expect(stepOf('turn-about', 'foot-lock')).toMatchObject({ blend: 0.2 });
  expect(await screen.findByText(/“Foot lock” was set: 2 clips. Undo takes it back./)).toBeTruthy();
  undo();
  expect(known()).toEqual(docs);
});

test('a number that the step does not take is refused in a sentence, what was typed stays, and nothing is changed', async () => {
  const { choose, pick, press, user } = open();
  await choose('stroll');
  await pick('Step', 'Foot lock');
  await pick('What of it', 'blend');
  const field = screen.getByRole<HTMLInputElement>('textbox', { name: 'is' });
  await user.type(field, '900');
  await press('Set it on 1 clip');
  expect(screen.getByRole('alert').textContent).toMatch(/^It has to be \d[\d.]* at the most\.$/);
  expect(field.value).toBe('900');
  await user.clear(field);
  expect(screen.queryByText(/It has to be/)).toBeNull();
  await user.type(field, '-1');
  await press('Set it on 1 clip');
  expect(screen.getByRole('alert').textContent).toMatch(/at the least\.$/);
  expect(known()).toEqual(docs);
  // What is no number at all cannot be sent.
  await user.clear(field);
  await user.type(field, 'soon');
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Set it on 1 clip' }).disabled).toBe(true);
});

test('a word that the step does not know is refused with those that it knows', async () => {
  const { choose, pick, press, user } = open();
  await choose('amble');
  await pick('Step', 'Loop');
  await pick('What of it', 'close');
  await user.type(screen.getByRole('textbox', { name: 'is' }), 'glue');
  await press('Set it on 1 clip');
  expect(screen.getByRole('alert').textContent).toBe('It has to be one of these: blend, around, spread.');
  expect(known()).toEqual(docs);
});

test('a switch of a step is set by yes and no', async () => {
  const { choose, pick, press } = open();
  await choose('stroll', 'turn-about');
  await pick('Step', 'Foot lock');
  await pick('What of it', 'hips');
  await pick('is', 'no');
  await press('Set it on 2 clips');
  expect([stepOf('stroll', 'foot-lock'), stepOf('turn-about', 'foot-lock')]).toMatchObject([{ hips: false }, { hips: false }]);
});

test('the steps of one are given to others, in place of those of their kind; other steps stay', async () => {
  const { choose, pick, press, tab } = open();
  await choose('stroll', 'amble');
  await tab('a template');
  await pick('The recipe of', 'amble');
  await press('Give it to 2 clips');
  expect(known().map(({ steps }) => steps.map(({ kind }) => kind))).toEqual([
    ['loop', 'foot-lock', 'travel'],
    ['loop', 'travel'],
    ['foot-lock', 'travel'],
  ]);
  undo();
  expect(known()).toEqual(docs);
});

test('names after a pattern are shown before they are given', async () => {
  const { choose, press, tab, user } = open();
  await choose('walk loop', 'turn-about');
  await tab('names');
  const pattern = screen.getByRole('textbox', { name: 'Pattern' });
  await user.clear(pattern);
  await user.type(pattern, '{{gait}-{{direction}');
  const list = within(screen.getByRole('list', { name: 'New names' }));
  expect(list.getAllByRole('listitem').map(({ textContent }) => textContent)).toEqual([
    'stroll → walk-forward',
    'amble → walk-forward-01',
    'turn-about → turn-left-180',
  ]);
  await press('Rename 3 clips');
  expect(known().map(({ name }) => name)).toEqual(['walk-forward', 'walk-forward-01', 'turn-left-180']);
});

test('a tag that is left empty stays as it is in each', async () => {
  const { choose, onClose, press, tab, user } = open();
  await choose('stroll');
  await tab('tags');
  const button = screen.getByRole<HTMLButtonElement>('button', { name: 'Tag 1 clip' });
  expect(button.disabled).toBe(true);
  await user.type(screen.getByRole('textbox', { name: 'Gait' }), ' saunter ');
  await user.click(button);
  expect(known()[0]).toMatchObject({ gait: 'saunter', direction: '' });
  await press('Done');
  expect(onClose).toHaveBeenCalledTimes(1);
});
