/** @jest-environment jsdom */
import { slotSchema, type ClipTraits, type Sounding } from '@lantern/motion';
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { SnackbarProvider } from 'notistack';
import type { SetMember, SetView } from '@/data/set-view';
import { useSets, type FieldDoc, type SetDoc } from '@/data/sets-store';
import { setDocumentSchema } from '@/http/set';
import { FieldHead } from '@/places/set/fields/FieldHead';
import { FieldsPage } from '@/places/set/fields/FieldsPage';
import { Shallows } from '@/places/set/fields/Shallows';
import type { OpenField } from '@/places/set/fields/use-field';

afterEach(cleanup);

const field: FieldDoc = { id: 'f', name: 'strolls', inputs: ['speed', 'turn'], clips: ['a', 'b'], holdFeet: true, pace: 0.06 };
const doc: SetDoc = setDocumentSchema.parse({ id: 's', name: 'lamplighter', slots: [slotSchema.parse({ kind: 'idle' })], fields: [field] });
const member = (id: string, name: string) => ({ doc: { id, name } }) as SetMember;
const traits = (kind: ClipTraits['kind'], loop: boolean) => ({ kind, direction: 'forward', figures: { loop } }) as ClipTraits;
const view: SetView = {
  ...{ failed: [], done: 4, measured: null, error: null, isBusy: false },
  members: [member('a', 'stroll'), member('b', 'jog'), member('c', 'waiting'), member('d', 'leap')],
  traits: new Map([
    ['a', traits('loop', true)],
    ['b', traits('loop', true)],
    ['c', traits('idle', true)],
    ['d', traits('flight', false)],
  ]),
};
const sounding = (slideMm: number, change: Partial<Sounding> = {}): Sounding => ({
  ...{ at: [1.5, 10], weights: {}, slideMm, got: [1.5, 10], kink: 1.1, isOut: slideMm > 3 },
  ...change,
});
const open = (soundings: readonly Sounding[], grid = soundings.length): OpenField => ({
  view: { left: [{ id: 'b', why: 'It has no steps.' }] } as unknown as OpenField['view'],
  ...{ isPending: false, error: null, asked: [] },
  grid: Array.from({ length: grid }, (_, index) => ({ index, place: [1.5, 10] as const, at: [1.5, 10] })),
  soundings: new Map(soundings.map((own, i) => [i, own])),
  isDone: soundings.length === grid,
});

beforeEach(() => useSets.setState({ project: 'gullmouth', docs: [doc], saved: {}, conflicts: {} }));

describe('the head of a field', () => {
  const show = (opened = open([])) => {
    const [put, onChoose, onAdd] = [jest.fn(), jest.fn(), jest.fn()];
    render(<FieldHead {...{ doc, field, view, put, onChoose, onAdd }} open={opened} />);
    return { put, onAdd, user: userEvent.setup() };
  };

  test('loops with steps can be blended, an idle and a leap cannot; one that does not come into step says why', async () => {
    const { put, user } = show();
    await user.click(screen.getByRole('button', { name: 'Clips of strolls' }));
    expect(screen.getAllByRole('checkbox').map((box) => box.closest('label')?.textContent)).toEqual(['stroll', 'jog▲ It has no steps.']);
    await user.click(screen.getByRole('checkbox', { name: 'stroll' }));
    expect(put).toHaveBeenCalledWith({ clips: ['b'] });
  });

  test('it is called and asked by other words, and removed', async () => {
    const { put, user } = show();
    await user.click(screen.getByRole('button', { name: 'More about strolls' }));
    await user.click(screen.getByRole('menuitem', { name: 'by speed and direction' }));
    expect(put).toHaveBeenCalledWith({ inputs: ['speed', 'direction'] });
    await user.click(screen.getByRole('button', { name: 'More about strolls' }));
    const name = screen.getByRole('textbox', { name: 'Name' });
    await user.clear(name);
    await user.type(name, 'ambles{Enter}');
    expect(put).toHaveBeenLastCalledWith({ name: 'ambles' });
    await user.click(screen.getByRole('menuitem', { name: 'Remove “strolls”' }));
    expect(useSets.getState().docs[0].fields).toEqual([]);
  });

  test('while it is sounded it says how far it is, then how much half of it slides', () => {
    show(open([sounding(1), sounding(2)], 5));
    expect(screen.getByRole('status').textContent).toBe('2 of 5 soundings');
    cleanup();
    show(open([sounding(2.5), sounding(0.5), sounding(1.5)]));
    expect(screen.getByRole('status').textContent).toBe('half of it under 1.5 mm');
  });
});

test('what is out of bounds is named with its worst figure, and comes onto the shot list once', async () => {
  render(
    <SnackbarProvider>
      <Shallows doc={doc} field={field} open={open([sounding(1), sounding(6)])} />
    </SnackbarProvider>,
  );
  const user = userEvent.setup();
  const part = screen.getByRole('region', { name: 'Shallows' });
  expect(part.textContent).toContain('1 shallow, out of bounds');
  expect(part.textContent).toContain('slide 6.0 mm');
  await user.click(screen.getByRole('button', { name: 'Put it on the shot list' }));
  expect(useSets.getState().docs[0].shots.map(({ text }) => text)).toEqual([
    expect.stringMatching(/^For strolls: .*, four good strides\.$/),
  ]);
});

test('a set without a field makes one of its walks and jogs, and of nothing else', async () => {
  const bare = { ...doc, fields: [] };
  useSets.setState({ docs: [bare] });
  render(<FieldsPage doc={bare} view={view} />);
  await userEvent.setup().click(screen.getByRole('button', { name: 'Make a field' }));
  expect(useSets.getState().docs[0].fields).toMatchObject([{ name: 'field', clips: ['a', 'b'] }]);
});
