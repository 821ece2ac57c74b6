/** @jest-environment jsdom */
import { stepSchema, type Closing, type RecipeStep, type StepKind, type StepOfKind } from '@lantern/motion';
import { act, cleanup, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { setFold, useFolds } from '@/controls/folds';
import { CardContext } from '@/controls/StepCard';
import { CorrectionsContext, type CorrectionsTools } from '@/places/bench/layers/corrections-context';
import { Card } from '@/places/bench/recipe/cards';
import type { AboutRecipe } from '@/places/bench/recipe/use-about-recipe';
import { giveRoom } from './room';

beforeAll(() => giveRoom(360, 700));
afterEach(cleanup);
beforeEach(() => useFolds.setState({ open: {} }));

const about = (change: Partial<AboutRecipe> = {}): AboutRecipe => ({
  measured: null,
  closings: [],
  traces: null,
  joints: ['LeftFoot', 'RightFoot'],
  joint: 'LeftFoot',
  onJoint: jest.fn(),
  unsure: [],
  pairs: ['LeftFoot ⇄ RightFoot, 100 %'],
  cycle: 66,
  fps: 60,
  frameNow: () => 20,
  sourceNow: () => ({ from: 20, to: 20 }),
  created: jest.fn(),
  onGo: jest.fn(),
  isDrawing: false,
  onDraw: jest.fn(),
  others: [],
  onInStep: jest.fn(),
  ...change,
});

/** A card of a step, open, that keeps what is changed; what it was told last. */
function open<Kind extends StepKind>(
  kind: Kind,
  params: object = {},
  more: Partial<AboutRecipe> = {},
  tools: CorrectionsTools | null = null,
) {
  setFold(`step ${kind}`, true);
  const told: { last: StepOfKind<Kind> | null } = { last: null };
  const known = about(more);
  function Kept() {
    const [step, setStep] = useState(() => stepSchema.parse({ kind, ...params }) as StepOfKind<Kind>);
    const put = (next: StepOfKind<Kind>) => {
      told.last = next;
      setStep(next);
    };
    return (
      <CardContext value={{ report: null, remove: () => {} }}>
        <CorrectionsContext value={tools}>
          <Card step={step as never} about={known} onChange={put as (step: RecipeStep) => void} />
        </CorrectionsContext>
      </CardContext>
    );
  }
  render(<Kept />);
  return { told, known, user: userEvent.setup() };
}

test('each movement of the hips has its factor, and what stays is switched by name', async () => {
  const { user, told } = open('hips', { sway: 0.6 });
  act(() => screen.getByRole('slider', { name: 'Up and down' }).focus());
  await user.keyboard('{Home}');
  expect(told.last).toMatchObject({ sway: 0.6, bounce: 0, list: 1 });
  await user.click(screen.getByRole('switch', { name: 'hands' }));
  expect(told.last).toMatchObject({ chest: true, head: true, hands: true });
});

test('what follows later is chosen; of a joint its name is asked for', async () => {
  const { user, told } = open('delay');
  await type(user, 'Frames later', '6');
  expect(told.last).toMatchObject({ of: 'arms', frames: 6 });
  await choose(user, 'both arms', 'a joint');
  await choose(user, 'choose…', 'RightFoot');
  expect(told.last).toMatchObject({ of: 'joint', joint: 'RightFoot', frames: 6 });
});

describe('clean', () => {
  const found = (change: object) => ({ kind: 'spike', joint: 'Head', from: 30, to: 32, off: 24.4, unit: '°', isMended: true, ...change });
  const findings = [
    found({}),
    found({ joint: 'LeftHand', from: 12, off: 9 }),
    found({ kind: 'gap', joint: 'Ribs', from: 50, to: 90, isMended: false }),
  ];
  const measured = { steps: { clean: { report: null, findings } } } as unknown as AboutRecipe['measured'];

  test('says what was found and what becomes of it, the worst first and a click away', async () => {
    const { user, known } = open('clean', {}, { measured });
    expect(screen.getByText('2 set right')).toBeTruthy();
    expect(screen.getByText('1 left')).toBeTruthy();
    const items = within(screen.getByRole('list', { name: 'What was found, worst first' })).getAllByRole('listitem');
    expect(items.map((item) => item.textContent)).toEqual([
      '▲ Head, 3024.4 °keep',
      '▲ LeftHand, 129.0 °keep',
      '▬ Ribs, 5040 framestoo long',
    ]);
    await user.click(screen.getByRole('button', { name: 'Go to the spike of LeftHand at frame 12' }));
    expect(known.onGo).toHaveBeenCalledWith(12);
  });

  test('a spike that is movement after all is kept, and set right again', async () => {
    const { user, told } = open('clean', {}, { measured });
    await user.click(screen.getByRole('button', { name: 'Keep Head at 30' }));
    expect(told.last?.keep).toEqual([{ joint: 'Head', frame: 30 }]);
    await user.click(screen.getByRole('button', { name: 'Set Head at 30 right' }));
    expect(told.last?.keep).toEqual([]);
  });

  test('each part is switched by itself, and nothing found is said', async () => {
    const { user, told } = open('clean', {}, { measured: { steps: { clean: { report: null, findings: [] } } } as never });
    expect(screen.getAllByText('none found')).toHaveLength(2);
    await user.click(screen.getByRole('switch', { name: 'Set spikes right' }));
    await user.click(screen.getByRole('switch', { name: 'Set gaps right' }));
    expect(told.last).toMatchObject({ spikes: false, gaps: false, jitter: 1 });
  });

  test('instants that were alike are added at the playhead, listed in order, and taken out', async () => {
    const { user, told } = open('clean', { drift: { frames: [60] } });
    expect(screen.getByText('one more is needed')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Add the frame under the playhead' }));
    expect(told.last?.drift).toEqual({ by: 'facing', frames: [20, 60] });
    await user.click(screen.getByRole('button', { name: 'Take frame 60 out' }));
    expect(told.last?.drift.frames).toEqual([20]);
  });

  test('instants that may have been alike are proposed and taken by a press; a drifting floor says how fast and is made level', async () => {
    const anchors = [{ by: 'mark', frames: [30, 410, 905] }];
    const { user, told } = open('clean', {}, { measured: { steps: { clean: { report: null, anchors, floorRate: 0.0008 } } } as never });
    expect(screen.getByText('rises 4.8 cm a minute')).toBeTruthy();
    await user.click(screen.getByRole('switch', { name: 'Make a drifting floor level' }));
    expect(told.last?.floor).toBe(true);
    await user.click(screen.getByRole('button', { name: /^Take the 3 frames in which he stood on the same mark/ }));
    expect(told.last?.drift).toEqual({ by: 'mark', frames: [30, 410, 905] });
    expect(screen.queryByRole('button', { name: /^Take the 3 frames/ })).toBeNull();
  });
});

describe('hand lock', () => {
  const rail = { id: 'r1', kind: 'rail', x: 0, z: 1, turn: 0, width: 3, height: 0.9, depth: 0.05 };
  const contacts = [
    { side: 'left', from: 10, to: 40, on: { to: 'joint', joint: 'LeftThigh', at: [0, 0, 0] }, slideCm: 0.4, heldCm: 0.01 },
    { side: 'right', from: 60, to: 90, on: { to: 'place', at: [0, 1, 0] }, slideCm: 1.9, heldCm: 0 },
  ];
  const measured = { steps: { 'hand-lock': { report: null, hands: { contacts, contactsIn: null } } } } as never;

  test('lists what hands rest on, worst first, and goes there', async () => {
    const { user, known } = open('hand-lock', {}, { measured });
    const items = within(screen.getByRole('list', { name: 'Hand contacts' })).getAllByRole('listitem');
    expect(items.map((item) => item.textContent?.replace(/\u200b/g, ''))).toEqual([
      'R60–90held in place1.90 → 0.00 cm',
      'L10–40on LeftThigh0.40 → 0.01 cm',
    ]);
    await user.click(screen.getByRole('button', { name: 'Go to the left hand contact from 10 to 40' }));
    expect(known.onGo).toHaveBeenCalledWith(25);
  });

  test('what a hand rests on is chosen: all contacts are set by hand then, and found again when that is asked', async () => {
    const { user, told } = open('hand-lock', {}, { measured });
    await choose(user, 'held in place', 'on the floor');
    expect(told.last?.contacts).toEqual({
      left: [{ from: 10, to: 40, on: contacts[0].on }],
      right: [{ from: 60, to: 90, on: { to: 'floor' } }],
    });
    await user.click(screen.getByRole('button', { name: 'find them again' }));
    expect(told.last?.contacts).toBeUndefined();
  });

  test('props of the take are let in once; where no hand rests it says what to do', async () => {
    const tools = { props: [rail] } as unknown as CorrectionsTools;
    const none = { steps: { 'hand-lock': { report: null, hands: { contacts: [], contactsIn: null } } } } as never;
    const { user, told } = open('hand-lock', {}, { measured: none }, tools);
    expect(screen.getByText(/^No hand rests\. Double click/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'let hands rest on the props of the take' }));
    expect(told.last?.props).toEqual([rail]);
    expect(screen.queryByRole('button', { name: /^let hands rest/ })).toBeNull();
  });
});

/** Chooses among the words of a field. */
async function choose(user: ReturnType<typeof userEvent.setup>, shown: string, wanted: string) {
  const field = screen.getAllByRole('combobox', { hidden: true }).find((box) => box.textContent === shown);
  if (!field) throw new Error(`nothing shows “${shown}”`);
  await user.click(field);
  await user.click(screen.getByRole('option', { name: wanted }));
  // It is gone when it has faded.
  await waitFor(() => expect(screen.queryByRole('listbox')).toBeNull());
}

async function type(user: ReturnType<typeof userEvent.setup>, name: string, text: string) {
  const field = screen.getByRole('textbox', { name });
  await user.clear(field);
  await user.type(field, `${text}{Enter}`);
}

const closing = (close: Closing['close'], way: Closing['way'], tick: number): Closing =>
  ({ close, way, tick, slideCm: 0.06, movedCm: 1.2 }) as Closing;

test('the ways of closing a loop stand with what each comes to; what was done in place of what was asked is said', async () => {
  const { told, user } = open(
    'loop',
    {},
    { closings: [closing('blend', 'around', 1.04), closing('around', 'around', 1.04), closing('spread', 'none', 1.3)] },
  );
  const radio = (name: RegExp) => screen.getByRole('radio', { name });
  expect(radio(/into the take: tick 1\.04, slide 0\.06 cm, moved 1\.2 cm/).getAttribute('aria-checked')).toBe('true');
  expect(screen.getByText('(around)').getAttribute('title')).toMatch(/goes elsewhere beyond the cut/);
  expect(screen.getByText('(comes round)')).toBeTruthy();
  await user.click(radio(/over the cycle/));
  expect(told.last?.close).toBe('spread');
});

test('a loop begins at the playhead when it is told to, counted from where it began before', async () => {
  const figures = { frames: 67 } as never;
  const { told, user } = open('loop', {}, { measured: { figures, steps: {}, contacts: [] } as never });
  await choose(user, 'where it is cut', 'at a frame of its own');
  expect(told.last?.start).toBe(20);
  await user.click(screen.getByRole('button', { name: 'begin at the playhead' }));
  expect(told.last?.start).toBe(40);
  await choose(user, 'at a frame of its own', 'in mid-stance, left');
  expect(told.last?.start).toBe('left-stance');
});

test('contacts are listed with the one that slides most first, each a click away; set by hand they can be found again', async () => {
  const contact = (side: 'left' | 'right', from: number, slideCm: number, heldCm: number | null) => ({
    side,
    from,
    to: from + 30,
    slideCm,
    heldCm,
  });
  const contacts = [contact('left', 0, 0.9, 0.04), contact('right', 33, 1.4, 0.09)];
  const params = { contacts: { left: [{ from: 0, to: 30 }], right: [] } };
  const { told, known, user } = open('foot-lock', params, { measured: { figures: null, steps: {}, contacts } as never });
  const [first, second] = within(screen.getByRole('list', { name: 'Contacts' })).getAllByRole('listitem');
  expect(first.getAttribute('aria-label')).toBe('right contact from 33 to 63, slide 0.09 cm');
  expect(second.textContent).toBe('L0–300.90 → 0.04 cm');
  await user.click(first);
  expect(known.onGo).toHaveBeenCalledWith(48);
  await user.click(screen.getByRole('button', { name: 'find them again' }));
  expect(told.last?.contacts).toBeUndefined();
  expect(screen.queryByText('contacts set by hand')).toBeNull();
});

test('a path has the fields of its shape only; a bend is turned over; drawing begins with the shape', async () => {
  const { told, known, user } = open('path', { shape: 'arc', radius: 3 });
  await type(user, 'Radius of the arc', '2.5');
  expect(told.last?.radius).toBe(2.5);
  await user.click(screen.getByRole('button', { name: 'Bends left; turn it over' }));
  expect(told.last?.radius).toBe(-2.5);
  await choose(user, 'round an arc', 'turned in all by');
  expect(screen.queryByRole('textbox', { name: 'Radius of the arc' })).toBeNull();
  await type(user, 'Turn in all', '-90');
  expect(told.last?.turnDeg).toBe(-90);
  await choose(user, 'turned in all by', 'along a drawn path');
  expect(known.onDraw).toHaveBeenLastCalledWith(true);
  expect(screen.getByText('0 points')).toBeTruthy();
});

test('points of a drawn path are taken back one by one, or all', async () => {
  const points = [
    [0, 1],
    [1, 2],
    [1, 4],
  ];
  const { told, user } = open('path', { shape: 'points', points });
  await user.click(screen.getByRole('button', { name: 'take back' }));
  expect(told.last?.points).toEqual(points.slice(0, 2));
  await user.click(screen.getByRole('button', { name: 'clear' }));
  expect(told.last?.points).toEqual([]);
  expect(screen.queryByRole('button', { name: 'take back' })).toBeNull();
});

test('a cycle is walked on for cycles or metres; metres begin with what it goes', async () => {
  const { told, user } = open('extend', { cycles: 3 }, { measured: { figures: { distanceM: 4.126 }, steps: {}, contacts: [] } as never });
  await type(user, 'Cycles to walk on', '5');
  expect(told.last?.cycles).toBe(5);
  await choose(user, 'a number of cycles', 'a distance');
  expect(told.last?.metres).toBe(4.13);
  await choose(user, 'a distance', 'a number of cycles');
  expect(told.last?.metres).toBeUndefined();
});

test('time is changed by one thing only: another way of saying it starts from what the clip is', async () => {
  const untimed = { frames: 66, cadence: 109.4, landings: [] };
  const { told, user } = open('retime', {}, { measured: { figures: null, steps: { retime: { untimed } }, contacts: [] } as never });
  await type(user, 'Factor of time', '1.5');
  expect(told.last).toMatchObject({ factor: 1.5 });
  await choose(user, 'a factor', 'a cadence');
  expect(told.last).toMatchObject({ factor: 1, cadence: 109 });
  await choose(user, 'a cadence', 'a length');
  expect(told.last).toMatchObject({ factor: 1, frames: 66 });
  expect(told.last?.cadence).toBeUndefined();
});

test('a pin is put at the playhead, moved in figures and taken out; the pose is held there', async () => {
  const { told, user } = open(
    'retime',
    {},
    { measured: { figures: null, steps: { retime: { untimed: { frames: 66, landings: [] } } }, contacts: [] } as never },
  );
  await user.click(screen.getByRole('button', { name: 'Put a time pin at the playhead' }));
  expect(told.last?.pins).toEqual([{ from: 20, to: 20 }]);
  await type(user, 'Place of time pin 1', '35');
  expect(told.last?.pins).toEqual([{ from: 20, to: 35 }]);
  await user.click(screen.getByRole('button', { name: 'Delete time pin 1' }));
  expect(told.last?.pins).toEqual([]);
  await user.click(screen.getByRole('button', { name: 'Hold the pose at the playhead' }));
  expect(told.last?.pins).toEqual([
    { from: 20, to: 20 },
    { from: 20, to: 35 },
  ]);
});

test('a speed says what it asks of strides, time and legs, and warns where nobody goes so', () => {
  const gait = { stepM: 0.81, cadence: 118, warnings: ['Steps of 0.81 m are long for legs of 0.87 m.'] };
  const speed = { stride: 1.12, cadence: 0.95, legDeg: 4 };
  open('speed', { mps: 1.6 }, { measured: { figures: null, gait, steps: { speed: { speed } }, contacts: [] } as never });
  expect(screen.getByText('strides +12 %, cadence −5 %, legs changed by 4° at the most')).toBeTruthy();
  expect(screen.getByText('steps 0.81 m, 118 a minute')).toBeTruthy();
  expect(screen.getByRole('status').textContent).toBe('▲ Steps of 0.81 m are long for legs of 0.87 m.');
});

test('what of the way goes to the root is chosen part by part, beside the traces of both', async () => {
  const traces = {
    rootSpeed: Float32Array.of(1.2, 1.2),
    hipsSpeed: Float32Array.of(1.1, 1.4),
    rootHeading: Float32Array.of(0, 0),
    hipsHeading: Float32Array.of(-3, 2),
  };
  const figures = { distanceM: 1.37, loop: true, rippleMps: 0.02 };
  const { told, user } = open('travel', {}, { measured: { figures, traces, steps: {}, contacts: [] } as never });
  expect(await screen.findByRole('img', { name: 'Speed of root and hips, from 1.10 to 1.40 m/s' })).toBeTruthy();
  expect(screen.getByRole('img', { name: 'Heading of root and hips, from −3 to 2 °' })).toBeTruthy();
  expect(screen.getByText(/1\.37 m a cycle, ripple 0\.02 m\/s/)).toBeTruthy();
  await choose(user, 'where it was captured', 'at the origin, facing forward');
  expect(told.last?.start).toBe('origin');
});

test('a mirror names the joints that are not certain, and all pairs on demand', () => {
  open('mirror', {}, { unsure: ['Tail: nothing lies opposite', 'Strap: two lie opposite'] });
  expect(screen.getByText('2 not certain')).toBeTruthy();
  expect(screen.getByText(/▲ Tail: nothing lies opposite; Strap: two lie opposite/)).toBeTruthy();
  expect(screen.getByText('1 pairs')).toBeTruthy();
});

test('strides of a typical cycle say how far they are from the average; one that counts is left out by a click, the last cannot be', async () => {
  const stride = (from: number, distanceCm: number, isOut: boolean) => ({ from, to: from + 66, distanceCm, isOut });
  const values = Float64Array.of(0.1, 0.12, 0.1);
  const traces = {
    joint: 'LeftFoot',
    strides: [values, values],
    average: values,
    spread: Float64Array.of(0.01, 0.02, 0.01),
    about: [stride(0, 0.8, false), stride(66, 4.2, true)],
  } as never;
  const { told, user } = open('typical-cycle', {}, { traces });
  expect(await screen.findByText('1 of 2 strides')).toBeTruthy();
  expect(screen.getByRole('img', { name: 'Height of LeftFoot over the strides; spread at the most 2.0 cm' })).toBeTruthy();
  const [first, second] = within(screen.getByRole('group', { name: 'Strides' })).getAllByRole('button');
  expect((first as HTMLButtonElement).disabled).toBe(true);
  await user.click(second);
  expect(told.last?.exclude).toEqual([]);
  await user.click(screen.getByRole('button', { name: 'choose for me' }));
  expect(told.last?.exclude).toBe('auto');
});

test('the floor is found or left as it was captured, its height and its tilt each', async () => {
  const { told, user } = open('floor');
  await choose(user, 'where the feet stand', 'as captured');
  expect(told.last?.height).toBe(0);
  await choose(user, 'made level', 'as captured');
  expect(told.last?.tilt).toBe('none');
});
