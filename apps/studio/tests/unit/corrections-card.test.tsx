/** @jest-environment jsdom */
import { stepSchema, type Layer, type StageProp, type StepOfKind } from '@lantern/motion';
import { act, cleanup, fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { setFold } from '@/controls/folds';
import { useCorrecting } from '@/data/correcting';
import { usePlayer } from '@/data/player';
import { CorrectionsContext, type CorrectionsTools } from '@/places/bench/layers/corrections-context';
import { CorrectionsCard } from '@/places/bench/layers/CorrectionsCard';
import type { AboutRecipe } from '@/places/bench/recipe/use-about-recipe';
import { giveRoom } from './room';

type Step = StepOfKind<'corrections'>;

beforeAll(() => giveRoom(360, 700));
beforeEach(() => {
  setFold('step corrections', true);
  useCorrecting.setState({ isOn: true, layer: 0, joint: null, mode: 'turn', range: null });
  usePlayer.setState({ frame: 24 });
});
afterEach(cleanup);

const rail: StageProp = { id: 'r1', kind: 'rail', x: 0, z: 1, turn: 0, width: 3, height: 0.9, depth: 0.05 };

/** The card with the tools of a Bench around it; what it was told last. */
function card(layers: object[], change: { about?: Partial<AboutRecipe>; tools?: Partial<CorrectionsTools> | null } = {}) {
  const told: { last: Step | null } = { last: null };
  const about = { measured: null, onGo: jest.fn(), ...change.about } as unknown as AboutRecipe;
  const tools = {
    joints: ['Hips', 'Head', 'LeftArm', 'RightArm', 'LeftHand'],
    props: [rail],
    cycle: null,
    fps: 60,
    frameNow: () => Math.round(usePlayer.getState().frame),
    clipFrame: (frame: number) => frame + 1,
    place: jest.fn(async () => [0.1234567, 1, 2] as const),
    merge: jest.fn(async () => {}),
    peg: jest.fn(),
    ...change.tools,
  } as unknown as CorrectionsTools;
  function Kept() {
    const [step, setStep] = useState(() => stepSchema.parse({ kind: 'corrections', layers }) as Step);
    return (
      <CorrectionsContext value={change.tools === null ? null : tools}>
        <CorrectionsCard
          step={step}
          about={about}
          onChange={(next) => {
            told.last = next;
            setStep(next);
          }}
        />
      </CorrectionsContext>
    );
  }
  render(<Kept />);
  const all = (): readonly Layer[] => told.last?.layers ?? [];
  return { told, all, about, tools, user: userEvent.setup() };
}
const two = [
  { name: 'head up', keys: [{ frame: 24, joint: 'Head', turn: [-12, 3, 0] }] },
  { name: 'elbow', weight: 0.6 },
];
async function type(user: ReturnType<typeof userEvent.setup>, name: string, value: string) {
  const field = screen.getByRole('textbox', { name });
  await user.clear(field);
  await user.type(field, `${value}{Enter}`);
}
async function choose(user: ReturnType<typeof userEvent.setup>, shown: string, wanted: string) {
  // Of a list that is just closing the same words are still there.
  await user.click(screen.getAllByText(shown)[0]);
  await user.click(await screen.findByRole('option', { name: wanted }));
}

test('the open layer is marked; a press opens another and takes hold of the figure', async () => {
  useCorrecting.setState({ isOn: false });
  const { user } = card(two);
  expect(screen.getByRole('button', { name: 'Open layer head up', pressed: true })).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Open layer elbow' }));
  expect(useCorrecting.getState()).toMatchObject({ layer: 1, isOn: true });
  expect(screen.getByRole('textbox', { name: 'Name of the layer' })).toHaveProperty('value', 'elbow');
});

test('weight, mute, alone, hold and feet of a layer', async () => {
  const { user, all } = card(two);
  act(() => screen.getByRole('slider', { name: 'Weight of head up' }).focus());
  await user.keyboard('{Home}');
  expect(all()[0].weight).toBe(0);
  await user.click(screen.getByRole('button', { name: 'Mute elbow' }));
  expect(all()[1].muted).toBe(true);
  await user.click(screen.getByRole('button', { name: 'Do this layer alone' }));
  await user.click(screen.getByRole('button', { name: 'Hold to the ends of the clip' }));
  await user.click(screen.getByRole('switch', { name: 'Feet stay when the hips are moved' }));
  expect(all()[0]).toMatchObject({ alone: true, hold: true, feet: false });
});

test('layers are added, doubled, moved, merged and removed', async () => {
  const { user, all, tools } = card(two);
  const names = () => all().map(({ name }) => name);
  await user.click(screen.getByRole('button', { name: 'Add a layer' }));
  expect(names()).toEqual(['head up', 'elbow', 'layer 3']);
  await user.click(screen.getByRole('button', { name: 'Open layer head up' }));
  await user.click(screen.getByRole('button', { name: 'Duplicate the layer' }));
  expect(names()).toEqual(['head up', 'head up 2', 'elbow', 'layer 3']);
  await user.click(screen.getByRole('button', { name: 'Do the layer later' }));
  expect(names()).toEqual(['head up', 'elbow', 'head up 2', 'layer 3']);
  expect(useCorrecting.getState().layer).toBe(2);
  await user.click(screen.getByRole('button', { name: 'Merge the layer with the one before it' }));
  expect(tools.merge).toHaveBeenCalledWith(1, 2);
  await waitFor(() => expect(useCorrecting.getState().layer).toBe(1));
  await user.click(screen.getByRole('button', { name: 'Remove the layer' }));
  expect(names()).toEqual(['head up', 'head up 2', 'layer 3']);
});

test('a layer is renamed; no name is none', async () => {
  const { user, all } = card(two);
  await type(user, 'Name of the layer', 'chin up');
  expect(all()[0].name).toBe('chin up');
  await type(user, 'Name of the layer', '  ');
  expect(all()[0].name).toBe('chin up');
});

test('at the playhead the turn of the joint taken hold of is typed, as a key', async () => {
  useCorrecting.setState({ joint: 'Head' });
  const { user, all } = card(two);
  expect(screen.getByText('a peg here, at 24')).toBeTruthy();
  await type(user, 'About the line to the left, degrees', '-20');
  expect(all()[0].keys).toEqual([{ frame: 24, joint: 'Head', turn: [-20, 3, 0] }]);
  act(() => usePlayer.setState({ frame: 40 }));
  expect(screen.getByText('no peg at 40')).toBeTruthy();
  await type(user, 'About the line upwards, degrees', '5');
  expect(all()[0].keys.map(({ frame }) => frame)).toEqual([24, 40]);
});

test('the first joint is shifted in centimetres', async () => {
  useCorrecting.setState({ joint: 'Hips' });
  const { user, all } = card([{ name: 'lower' }]);
  await type(user, 'Upwards, centimetres', '-4');
  expect(all()[0].keys[0]).toMatchObject({ joint: 'Hips', shift: [0, -0.04, 0] });
});

test('a peg is laid on the other side too, taken out, or set where there is none', async () => {
  const arm = [{ name: 'arm', keys: [{ frame: 24, joint: 'LeftArm', turn: [10, 20, -5] }] }];
  const { user, all, tools } = card(arm);
  await user.click(screen.getByRole('button', { name: 'Lay the keys of this peg on the other side too' }));
  expect(all()[0].keys[1]).toEqual({ frame: 24, joint: 'RightArm', turn: [10, -20, 5] });
  await user.click(screen.getByRole('button', { name: 'Take this peg out' }));
  expect(all()[0].keys).toEqual([]);
  cleanup();
  usePlayer.setState({ frame: 50 });
  const again = card(arm);
  await again.user.click(screen.getByRole('button', { name: 'Set a peg at frame 50' }));
  expect(again.tools.peg).toHaveBeenCalled();
  expect(tools.peg).not.toHaveBeenCalled();
});

describe('touches', () => {
  test('a new one begins where the limb is, so that nothing jumps', async () => {
    const { user, all, tools } = card([{ name: 'hand' }]);
    await user.click(screen.getByRole('button', { name: 'Add a touch' }));
    await user.click(screen.getByRole('menuitem', { name: 'left hand' }));
    await waitFor(() => expect(all()[0]?.touches).toHaveLength(1));
    expect(tools.place).toHaveBeenCalledWith('left hand', 24);
    expect(all()[0].touches[0]).toMatchObject({
      limb: 'left hand',
      from: 24,
      to: 42,
      fadeIn: 12,
      target: { to: 'place', at: [0.1235, 1, 2] },
    });
  });

  const touching = [{ name: 'hand', touches: [{ limb: 'left hand', from: 30, to: 40, target: { to: 'floor' } }] }];

  test('its place is chosen among the props of the take and the joints of the body', async () => {
    const { user, all } = card(touching);
    await choose(user, 'the floor', 'the rail');
    expect(all()[0].touches[0].target).toEqual({ to: 'prop', prop: rail });
    await choose(user, 'the rail', 'on Hips');
    expect(all()[0].touches[0].target).toEqual({ to: 'joint', joint: 'Hips', at: [0, 0, 0] });
    await type(user, 'beside it left, cm', '12');
    expect(all()[0].touches[0].target).toMatchObject({ at: [0.12, 0, 0] });
  });

  test('a prop that is gone stays what it was, and is said to have stood there', () => {
    const gone = { ...rail, id: 'gone' };
    card([{ name: 'hand', touches: [{ limb: 'left hand', from: 30, to: 40, target: { to: 'prop', prop: gone } }] }]);
    expect(screen.getByText('the rail that stood there')).toBeTruthy();
  });

  test('slides, weight, give and the elbow; a press goes there; it is removed', async () => {
    const { user, all, about } = card(touching);
    const touch = within(screen.getByRole('region', { name: 'Touch of the left hand from frame 30' }));
    await user.click(touch.getByRole('switch', { name: 'The left hand slides along it' }));
    await type(user, 'The left hand off it, centimetres', '3');
    await type(user, 'Elbow out, degrees', '15');
    act(() => touch.getByRole('slider', { name: 'How much the body gives way for the left hand' }).focus());
    await user.keyboard('{End}');
    expect(all()[0].touches[0]).toMatchObject({ slide: true, off: 0.03, swivel: 15, give: 1 });
    await user.click(touch.getByRole('button', { name: 'Go to the touch of the left hand' }));
    expect(about.onGo).toHaveBeenCalledWith(31);
    await user.click(touch.getByRole('button', { name: 'Remove the touch of the left hand' }));
    expect(all()[0].touches).toEqual([]);
  });
});

test('what cannot be done is said in sentences', () => {
  const sentence = 'Layer “tail” has keys of “Tail”, a joint that is not there; its other keys are done.';
  card([{ name: 'tail' }], { about: { measured: { steps: { corrections: { report: null, troubles: [sentence] } } } as never } });
  expect(screen.getByRole('alert').textContent).toContain(sentence);
});

test('without an open clip around it the card still shows its layers', () => {
  card(two, { tools: null });
  expect(screen.queryByText('joint')).toBeNull();
  fireEvent.click(screen.getByRole('button', { name: 'Open layer elbow' }));
  expect(screen.getByRole('textbox', { name: 'Name of the layer' })).toHaveProperty('value', 'elbow');
});

test('the weight is keyed at the playhead, typed there, and made the same all the time again', async () => {
  const { all, user } = card([{ name: 'head up', weight: 0.8, keys: [{ frame: 24, joint: 'Head', turn: [-10, 0, 0] }] }]);
  await user.click(screen.getByRole('button', { name: 'Key the weight at the playhead' }));
  expect(all()[0].weight).toEqual([{ frame: 24, value: 0.8 }]);
  act(() => usePlayer.setState({ frame: 60 }));
  const field = screen.getByRole('textbox', { name: 'Weight at the playhead, per cent' });
  await user.clear(field);
  await user.type(field, '20{Enter}');
  expect(all()[0].weight).toEqual([
    { frame: 24, value: 0.8 },
    { frame: 60, value: 0.2 },
  ]);
  await user.click(screen.getByRole('button', { name: 'The same weight all the time' }));
  expect(all()[0].weight).toBe(0.2);
});

test('a chosen range is copied to the playhead, offered to other clips, and emptied', async () => {
  const keys = [10, 20, 90].map((frame) => ({ frame, joint: 'Head', turn: [-10, 0, 0] }));
  const copy = jest.fn();
  const { all, user } = card([{ name: 'head up', keys }], { tools: { copy } });
  expect(screen.queryByRole('group', { name: 'Chosen range' })).toBeNull();
  act(() => useCorrecting.setState({ range: { from: 8, to: 30 } }));
  expect(screen.getByText('frames 8 to 30: 2 pegs, 0 touches')).toBeTruthy();
  act(() => usePlayer.setState({ frame: 48 }));
  await user.click(screen.getByRole('button', { name: 'Copy the range to the playhead' }));
  expect(all()[0].keys.map(({ frame }) => frame)).toEqual([10, 20, 50, 60, 90]);
  await user.click(screen.getByRole('button', { name: 'Copy the range to clips' }));
  expect(copy.mock.lastCall[0][0].keys.map(({ frame }: { frame: number }) => frame)).toEqual([10, 20]);
  await user.click(screen.getByRole('button', { name: 'Remove what is in the range' }));
  expect(all()[0].keys.map(({ frame }) => frame)).toEqual([50, 60, 90]);
  expect(useCorrecting.getState().range).toBeNull();
});
