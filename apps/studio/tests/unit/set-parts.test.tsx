/** @jest-environment jsdom */
import { contractSchema, recipeSchema, setSchema, slotSchema, type Shot, type SlotReport, type Sounding } from '@lantern/motion';
import { act, cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { followActs, KINDS_OF_BENCH, KINDS_OF_SET, MARKERS, redoAct, undoAct, useActs } from '@/data/acts';
import { useClips, type ClipDoc } from '@/data/clips-store';
import type { SetView } from '@/data/set-view';
import { useTakeHistory } from '@/data/take-edits';
import { useSets, type SetDoc } from '@/data/sets-store';
import { addShot, addShots, changeShot, removeShot } from '@/data/shot-edits';
import { setDocumentSchema } from '@/http/set';
import { withAsked } from '@/places/set/contract/with-asked';
import { CoverageTable } from '@/places/set/slots/CoverageTable';
import { namesBy } from '@/places/set/slots/many/names-by';
import { Rope } from '@/places/set/slots/Rope';
import { Rose } from '@/places/set/slots/Rose';
import { MIDDLE, place, RADIUS, roseLabels, roseLamps, roseReach } from '@/places/set/slots/rose-layout';
import { ShotList } from '@/places/set/slots/ShotList';
import { SlotCard } from '@/places/set/slots/SlotCard';
import { SlotEditor } from '@/places/set/slots/SlotEditor';
import { cellOf, rowsOf } from '@/places/set/slots/table-layout';
import { bringHome, worriesOf } from '@/places/set/slots/worries';
import { clipFor, contoursOf, shallowsOf, thresholdsOf, worstOf } from '@/places/set/fields/depths';
import { SeaChart } from '@/places/set/fields/sea/SeaChart';
import { words } from '@/places/set/fields/sea/words';
import { GRID, placeAt, valuesAt, type OpenField } from '@/places/set/fields/use-field';
import { mirrorFor, newSet, setStepOf } from '@/places/set/set-edits';
import type { FieldView, SetMeasured } from '@/worker/core.worker';
import { place as placeOf, projectData } from './place';

jest.mock('next/navigation', () => ({ useRouter: () => ({ push: jest.fn() }), useParams: () => ({}) }));

const report = (slot: Parameters<typeof slotSchema.parse>[0], change: Partial<SlotReport> = {}): SlotReport => ({
  ...{ id: JSON.stringify(slot), slot: slotSchema.parse(slot), state: 'filled', clip: 'a', isPinned: false, others: [], ends: [] },
  ...{ homeCm: null, loop: null, speedMps: 1.3, askedMps: null, turnDegS: 0, figure: null },
  ...change,
});
const walk = report({ kind: 'loop', gait: 'walk' }, { id: 'loop/walk/forward' });
const left = report(
  { kind: 'loop', gait: 'walk', direction: 'left' },
  { id: 'loop/walk/left', state: 'missing', clip: null, speedMps: null },
);
const arc = report({ kind: 'arc', gait: 'jog', side: 'left' }, { id: 'arc/jog/left', speedMps: 2, turnDegS: 60 });
const turn = report({ kind: 'turn', angle: 90, side: 'left' }, { id: 'turn/left/90', homeCm: 2.4, figure: { cm: 2.4, isOut: true } });
const mirrored = report({ kind: 'turn', angle: 90, side: 'right' }, { id: 'turn/right/90', state: 'mirror', clip: 'turn-left' });
const clip = (id: string, name: string): ClipDoc => ({
  ...{ id, name, gait: '', direction: '' },
  source: { take: 't', from: 0, to: 60 },
  steps: recipeSchema.parse([{ kind: 'foot-lock' }, { kind: 'travel' }]),
});
const doc = (change: object = {}): SetDoc =>
  setDocumentSchema.parse({ id: 's', name: 'lamplighter', slots: [{ kind: 'idle' }], ...change });

beforeEach(() => {
  useClips.setState({ project: 'gullmouth', docs: [], saved: {}, conflicts: {} });
  useSets.setState({ project: 'gullmouth', docs: [], saved: {}, conflicts: {} });
  useClips.temporal.getState().clear();
  useSets.temporal.getState().clear();
  useActs.setState({ past: [], future: [] });
});
afterEach(cleanup);

describe('the rose', () => {
  test('a lamp is where it measures: ahead is up, left is on the left, faster is further out', () => {
    const reach = roseReach([walk, left, arc]);
    const [ahead, aside, round] = roseLamps([walk, left, arc], [], reach);
    expect(ahead.x).toBeCloseTo(MIDDLE.x);
    expect(ahead.y).toBeCloseTo(MIDDLE.y - (1.3 / reach) * RADIUS);
    expect(aside.x).toBeLessThan(MIDDLE.x - 20);
    // An arc is where it has turned to in half a second, its feather begins straight ahead.
    expect(Math.atan2(MIDDLE.x - round.x, MIDDLE.y - round.y)).toBeCloseTo(Math.PI / 6, 5);
    expect(round.feather?.[0]).toBeCloseTo(MIDDLE.x);
  });

  test('the glow reaches as far as the clip can be brought to go', () => {
    const line = { slot: walk.id, reach: [1, 1.8] as const, measured: 1.3 };
    const [lamp] = roseLamps([walk], [line as never], 2);
    expect(lamp.glow).toBeCloseTo((0.4 / 2) * RADIUS);
  });

  test('no label lies over another, or over a lamp', () => {
    const reports = [1, 1.05, 1.1, 1.15].map((mps, i) => report({ kind: 'loop', gait: 'walk' }, { id: `w${i}`, speedMps: mps }));
    const lamps = roseLamps(reports, [], 3);
    const labels = roseLabels(lamps, ['walk-forward 1.00', 'walk-forward 1.05', 'walk-forward 1.10', 'walk-forward 1.15']);
    const ys = labels.map(({ y }) => y).sort((a, b) => a - b);
    for (let i = 1; i < ys.length; i++) expect(ys[i] - ys[i - 1]).toBeGreaterThanOrEqual(14);
    expect(labels.filter(({ isMoved }) => isMoved).length).toBeGreaterThan(0);
  });

  test('a lamp says what it is; Enter opens it, arrow keys ask for another speed', () => {
    const [opened, asked] = [jest.fn(), jest.fn()];
    const props = { contract: contractSchema.parse({ speedMps: { walk: { forward: 1.6 } } }), lines: [], speedBound: 0.05, chosen: null };
    render(
      <Rose
        {...props}
        reports={[{ ...walk, askedMps: 1.6 }, left]}
        nameOf={(_, own) => (own.state === 'missing' ? 'walk-left' : 'stroll')}
        shotOf={() => 4}
        onChoose={jest.fn()}
        onOpen={opened}
        onSpeed={asked}
      />,
    );
    const lamp = screen.getByRole('button', { name: 'stroll: there, 1.30 m/s, slow by 0.30' });
    fireEvent.keyDown(lamp, { key: 'Enter' });
    expect(opened).toHaveBeenCalledWith(expect.objectContaining({ id: walk.id }));
    fireEvent.keyDown(lamp, { key: 'ArrowUp' });
    expect(asked).toHaveBeenCalledWith(expect.objectContaining({ id: walk.id }), 1.35);
    const missing = screen.getByRole('button', { name: 'walk-left: on the shot list' });
    fireEvent.keyDown(missing, { key: 'ArrowUp' });
    expect(asked).toHaveBeenCalledTimes(1);
    expect(place(0, 0, 2)).toEqual([MIDDLE.x, MIDDLE.y]);
  });

  test('a lamp that is drawn outwards asks for more, in steps of a twentieth; one that is let go where it was opens', () => {
    const [opened, asked] = [jest.fn(), jest.fn()];
    // The drawing fills its own units; jsdom has neither points nor places.
    Object.assign(SVGElement.prototype, { getScreenCTM: () => ({ inverse: () => null }), setPointerCapture: () => {} });
    Object.assign(globalThis, {
      DOMPoint: class {
        constructor(
          readonly x: number,
          readonly y: number,
        ) {}
        matrixTransform = () => this;
      },
    });
    render(
      <Rose
        {...{ contract: contractSchema.parse({}), lines: [], speedBound: 0.05, chosen: null, shotOf: () => undefined }}
        reports={[walk]}
        nameOf={() => 'stroll'}
        onChoose={jest.fn()}
        onOpen={opened}
        onSpeed={asked}
      />,
    );
    const lamp = screen.getByRole('button', { name: /stroll/ });
    const at = (mps: number) => {
      const [clientX, clientY] = place(mps, 0, roseReach([walk]));
      return { clientX, clientY, pointerId: 1, button: 0 };
    };
    fireEvent.pointerDown(lamp, at(1.3));
    fireEvent.pointerMove(lamp, at(1.62));
    expect(lamp.textContent).toContain('1.60 m/s');
    fireEvent.pointerUp(lamp, at(1.62));
    expect(asked).toHaveBeenCalledWith(expect.objectContaining({ id: walk.id }), 1.6);
    expect(opened).not.toHaveBeenCalled();
    fireEvent.pointerDown(lamp, at(1.3));
    fireEvent.pointerUp(lamp, at(1.3));
    expect(opened).toHaveBeenCalledTimes(1);
    expect(asked).toHaveBeenCalledTimes(1);
  });
});

describe('the table', () => {
  test('every slot that is no loop has one place; two that would share one stand in two rows', () => {
    const either = report({ kind: 'start', gait: 'jog' }, { id: 'start/jog' });
    const foot = report({ kind: 'start', gait: 'jog', foot: 'left' }, { id: 'start/jog/left' });
    expect(cellOf(walk.slot)).toBeNull();
    expect(cellOf(slotSchema.parse({ kind: 'stop', gait: 'jog', direction: 'backward-left' }))).toEqual({
      row: 'jog stops',
      column: '180°',
      side: 'left',
    });
    const rows = rowsOf([walk, turn, mirrored, either, foot]);
    expect(rows.map(({ name, cells }) => [name, cells.length])).toEqual([
      ['turns on the spot', 2],
      ['jog starts', 1],
      ['jog starts, 2', 1],
    ]);
  });

  test('a cell says its state and its figure, and opens', async () => {
    const opened = jest.fn();
    render(<CoverageTable reports={[turn, mirrored]} nameOf={(_, own) => own.id} shotOf={() => 1} onChoose={jest.fn()} onOpen={opened} />);
    const table = screen.getByRole('table');
    expect(within(table).getByRole('button', { name: 'turn/right/90: by mirroring' })).toBeTruthy();
    await userEvent.click(within(table).getByRole('button', { name: 'turn/left/90: there, 2.4 cm, out of bounds' }));
    expect(opened.mock.calls[0][0].id).toBe('turn/left/90');
    expect(screen.getByText('1 of 2')).toBeTruthy();
  });

  test('the rope hangs a lantern for each slot', () => {
    render(<Rope reports={[walk, left, turn, mirrored]} />);
    expect(screen.getByRole('img', { name: '4 slots: 2 filled, 0 doubted, 1 mirror, 1 missing' })).toBeTruthy();
  });
});

describe('acts on many', () => {
  test('what mirroring fills is made at once, called as it fills, and one undo takes all of it back', () => {
    useClips.setState({ docs: [clip('turn-left', 'turn-left-90'), clip('wave', 'wave')] });
    useClips.temporal.getState().clear();
    const other = report({ kind: 'start', gait: 'jog', foot: 'left' }, { state: 'mirror', clip: 'wave' });
    expect(mirrorFor([walk, mirrored, other])).toBe(2);
    expect(useClips.getState().docs.map(({ name }) => name)).toEqual(['turn-left-90', 'wave', 'turn-right-90', 'jog-start-left']);
    expect(useClips.getState().docs[2].steps.map(({ kind }) => kind)).toContain('mirror');
    act(() => useClips.temporal.getState().undo());
    expect(useClips.getState().docs).toHaveLength(2);
  });

  test('one parameter of a step changes on those that were chosen, everything else stays', () => {
    useClips.setState({ docs: [clip('a', 'a'), clip('b', 'b')] });
    setStepOf(new Set(['a']), { kind: 'foot-lock', blend: 0.4 });
    const [a, b] = useClips.getState().docs;
    expect(a.steps[0]).toMatchObject({ kind: 'foot-lock', blend: 0.4, hips: true });
    expect(b.steps[0]).toMatchObject({ blend: 0.2 });
    setStepOf(new Set(['b']), { kind: 'speed', mps: 1.4 });
    expect(useClips.getState().docs[1].steps.map(({ kind }) => kind)).toEqual(['speed', 'foot-lock', 'travel']);
  });

  test('names after a pattern are of what is measured, none twice', () => {
    const traits = new Map([
      ['a', { kind: 'turn', turnDeg: -88, gait: null }],
      ['b', { kind: 'loop', gait: 'walk', direction: 'left' }],
      ['c', { kind: 'loop', gait: 'walk', direction: 'left' }],
    ]) as unknown as SetView['traits'];
    const docs = ['a', 'b', 'c'].map((id) => ({ id, gait: '', direction: '' }));
    expect(namesBy('{gait}-{direction}', docs, traits, 'wick')).toEqual(['turn-right-90', 'walk-left', 'walk-left-01']);
  });

  test('undo in a set goes back through changes of clips and of the set as they came', () => {
    const end = followActs({ undo: async () => {}, redo: async () => {} });
    const made = newSet('modest', null);
    useClips.setState({ docs: [clip('a', 'a')] });
    addShot(made, 'Tip the cap.');
    undoAct(KINDS_OF_SET);
    expect([useSets.getState().docs[0].shots.length, useClips.getState().docs.length]).toEqual([0, 1]);
    undoAct(KINDS_OF_SET);
    expect([useSets.getState().docs.length, useClips.getState().docs.length]).toEqual([1, 0]);
    redoAct(KINDS_OF_SET);
    redoAct(KINDS_OF_SET);
    expect([useSets.getState().docs[0].shots.length, useClips.getState().docs.length]).toEqual([1, 1]);
    end();
  });

  test('undo on the Bench goes back through changes of clips and of markers as they came, and passes by other edits of takes', () => {
    const asked: string[] = [];
    const travel = (way: 'undo' | 'redo') => async () => {
      asked.push(way);
      useTakeHistory.setState(({ past, future }) =>
        way === 'undo'
          ? { past: past.slice(0, -1), future: [past[past.length - 1], ...future] }
          : { past: [...past, future[0]], future: [] },
      );
    };
    useClips.setState({ project: 'p', docs: [] });
    useClips.temporal.getState().clear();
    useTakeHistory.setState({ project: 'p', past: [], future: [] });
    const end = followActs({ undo: travel('undo'), redo: travel('redo') });
    useClips.setState({ docs: [clip('a', 'a')] });
    useTakeHistory.setState({ past: [{ label: MARKERS, changes: [] }] });
    useClips.setState({ docs: [clip('a', 'a'), clip('b', 'b')] });
    const count = () => useClips.getState().docs.length;
    undoAct(KINDS_OF_BENCH);
    expect([count(), asked.length]).toEqual([1, 0]);
    undoAct(KINDS_OF_BENCH);
    expect([count(), asked]).toEqual([1, ['undo']]);
    undoAct(KINDS_OF_BENCH);
    expect([count(), asked]).toEqual([0, ['undo']]);
    redoAct(KINDS_OF_BENCH);
    redoAct(KINDS_OF_BENCH);
    expect([count(), asked]).toEqual([1, ['undo', 'redo']]);
    useTakeHistory.setState({ past: [{ label: 'another floor', changes: [] }], future: [] });
    undoAct(KINDS_OF_BENCH);
    expect([count(), asked]).toEqual([0, ['undo', 'redo']]);
    end();
  });

  test('ends are brought home by a step with the pose; a second time only the pose changes', () => {
    useClips.setState({ docs: [clip('a', 'a'), clip('b', 'b')] });
    const pose = { heightM: 1, turns: { Hips: [0, 0, 0, 1] as [number, number, number, number] } };
    bringHome(['a'], pose);
    bringHome(['a'], { ...pose, heightM: 0.9 });
    const [a, b] = useClips.getState().docs;
    expect(a.steps.filter(({ kind }) => kind === 'meet-home')).toMatchObject([{ pose: { heightM: 0.9 } }]);
    expect(b.steps.map(({ kind }) => kind)).not.toContain('meet-home');
  });
});

test('what is out of bounds is said with what does it; what is in doubt is last', () => {
  const set = doc();
  const doubt = report(
    { kind: 'idle' },
    { id: 'idle', state: 'doubted', others: [{ clip: 'b', why: 'a tick of 2, the other has a tick of 1' }] },
  );
  const far: SlotReport = { ...turn, ends: [{ end: 'last', cm: 2.4, worstJoint: 'LeftHand', worstDeg: 9 }] };
  const measured = { coverage: { slots: [doubt, far, { ...walk, askedMps: 1.6 }] }, home: null } as unknown as SetMeasured;
  const worries = worriesOf(set, measured, [clip('a', 'turning'), clip('b', 'waiting')]);
  expect(worries.map(({ text }) => text)).toEqual([
    'turning ends 2.4 cm from home, 1.5 at most',
    'turning goes 1.30 m/s, the game 1.6',
    'turning or waiting for wait: a tick of 2, the other has a tick of 1',
  ]);
});

describe('the shot list', () => {
  const shot: Shot = {
    ...{ id: 'stop/jog/right', number: 1, slot: 'stop/jog/right', gives: 'jog-stop-right', text: 'Jog stop on the right foot.' },
    ...{ isEdited: false, done: false, by: null, sketch: null, script: null },
  };

  test('a line that is changed is written down for its slot, and says again what follows when that is taken back', () => {
    const made = doc();
    useSets.setState({ docs: [made] });
    changeShot(made, shot, { text: 'Stop at the crates.' });
    const [line] = useSets.getState().docs[0].shots;
    expect(line).toMatchObject({ slot: 'stop/jog/right', text: 'Stop at the crates.', done: false });
    changeShot(useSets.getState().docs[0], { ...shot, id: line.id, text: line.text }, { done: true });
    expect(useSets.getState().docs[0].shots).toHaveLength(1);
    removeShot(useSets.getState().docs[0], { ...shot, id: line.id });
    expect(useSets.getState().docs[0].shots).toEqual([]);
  });

  test('the same line is not added twice', () => {
    const made = doc();
    useSets.setState({ docs: [made] });
    expect(addShots(made, ['a jog', 'a jog', 'a walk'])).toBe(2);
    expect(addShots(useSets.getState().docs[0], ['a jog'])).toBe(0);
  });

  test('lines are ticked, written anew and added on the screen', async () => {
    const made = doc();
    useSets.setState({ docs: [made] });
    const { rerender } = render(<ShotList doc={made} shots={[shot]} takes={[]} onSheet={jest.fn()} />, {
      wrapper: placeOf(projectData({})).wrapper,
    });
    await userEvent.click(screen.getByRole('checkbox', { name: 'Shot 1 has come in' }));
    expect(useSets.getState().docs[0].shots[0]).toMatchObject({ done: true });
    rerender(<ShotList doc={useSets.getState().docs[0]} shots={[shot]} takes={[]} onSheet={jest.fn()} />);
    fireEvent.change(screen.getByRole('textbox', { name: 'Another shot, in words' }), { target: { value: 'Tip the cap.' } });
    await userEvent.click(screen.getByRole('button', { name: 'add the line' }));
    expect(useSets.getState().docs[0].shots.map(({ text }) => text)).toContain('Tip the cap.');
  });
});

test('a slot’s card says why one clip and not the other, and pins the other', async () => {
  const made = doc();
  useSets.setState({ docs: [made] });
  const doubt = report(
    { kind: 'idle' },
    {
      id: 'idle',
      state: 'doubted',
      others: [{ clip: 'b', why: 'a tick of 2' }],
      ends: [{ end: 'first', cm: 0.4, worstJoint: 'Head', worstDeg: 3 }],
    },
  );
  render(<SlotCard doc={made} report={doubt} anchor={document.body} nameOf={(id) => `clip ${id}`} shot={null} onClose={jest.fn()} />, {
    wrapper: placeOf(projectData({})).wrapper,
  });
  expect(screen.getByText('a tick of 2')).toBeTruthy();
  expect(screen.getByText(/from home, Head turned by 3°/)).toBeTruthy();
  await userEvent.click(screen.getByRole('button', { name: 'Pin clip b to idle' }));
  expect(useSets.getState().docs[0].pins).toEqual({ idle: 'b' });
});

test('a slot is taken out, and another put in', async () => {
  const made = doc({ pins: { idle: 'a' } });
  useSets.setState({ docs: [made] });
  const { rerender } = render(<SlotEditor doc={made} onClose={jest.fn()} />);
  await userEvent.click(screen.getByRole('button', { name: 'Take out wait' }));
  expect(useSets.getState().docs[0]).toMatchObject({ slots: [], pins: {} });
  rerender(<SlotEditor doc={useSets.getState().docs[0]} onClose={jest.fn()} />);
  await userEvent.click(screen.getByRole('button', { name: 'Add it' }));
  expect(useSets.getState().docs[0].slots).toEqual([{ kind: 'loop', gait: 'walk', direction: 'forward' }]);
});

test('a number of the contract is asked and asked no more, wherever it stands', () => {
  const asked = withAsked(contractSchema.parse({}), 'speedMps/walk/left', 1.1);
  expect(asked.speedMps.walk?.left).toBe(1.1);
  expect(withAsked(asked, 'speedMps/walk/left', null).speedMps.walk?.left).toBeUndefined();
  expect(withAsked(asked, 'stoppingM/jog', 2).stoppingM.jog).toBe(2);
  expect(withAsked(asked, 'turnAnglesDeg/left/90', 95).turnAnglesDeg).toEqual([95]);
  expect(withAsked(asked, 'hopHeightM', 0.4).hopHeightM).toBe(0.4);
  // What no contract can say is not taken.
  expect(withAsked(asked, 'speedMps/walk/left', 400)).toBe(asked);
});

describe('a field', () => {
  const turns = { inputs: ['speed', 'turn'] as ['speed', 'turn'] };
  const ways = { inputs: ['speed', 'direction'] as ['speed', 'direction'] };
  const sounding = (slideMm: number, change: Partial<Sounding> = {}): Sounding => ({
    at: [2, 10],
    weights: {},
    slideMm,
    got: [2, 10],
    kink: 1,
    isOut: slideMm > 3,
    ...change,
  });

  test('a place of the chart is values of the inputs, there and back', () => {
    for (const field of [turns, ways]) {
      const back = valuesAt(field, placeAt(field, [1.7, 35]));
      expect(back[0]).toBeCloseTo(1.7);
      expect(back[1]).toBeCloseTo(35);
    }
    expect(words(turns, [2.1, -24])).toBe('2.10 m/s, 24 °/s right');
    expect(words({ inputs: ['speed'] }, [2.1])).toBe('2.10 m/s');
  });

  test('soundings that are out and lie together are one shallow, at its worst; what is put there has a sentence', () => {
    const grid = [0, 1, 2, 40].map((index) => ({ index, place: [0, 0] as const, at: [2, 10] }));
    const soundings = new Map([
      [0, sounding(4)],
      [1, sounding(6)],
      [2, sounding(1)],
      [40, sounding(9)],
    ]);
    const shallows = shallowsOf(grid, soundings);
    expect(shallows.map(({ sounding: own, places }) => [own.slideMm, places])).toEqual([
      [9, 1],
      [6, 2],
    ]);
    expect(worstOf(sounding(4))).toBe('slide');
    expect(worstOf(sounding(1, { got: [2, 16] }))).toBe('turn');
    expect(clipFor([2.1, 40], turns.inputs)).toBe('a jog at 2.1 m/s turning 40 °/s to the left');
  });

  test('contours run where the depth is, and nowhere while little is known', () => {
    const all = new Map(Array.from({ length: GRID * GRID }, (_, i) => [i, sounding(i % GRID > 7 ? 2.5 : 0.2)] as const));
    const rings = contoursOf(all, 'slide');
    expect(rings.map(({ value }) => value)).toEqual([...thresholdsOf('slide')]);
    expect(rings[0].rings.length).toBeGreaterThan(0);
    expect(rings[3].rings).toEqual([]);
    expect(contoursOf(new Map([[0, sounding(1)]]), 'slide')).toEqual([]);
  });

  test('the puck is moved with the keys, and says what it asks', () => {
    const moved = jest.fn();
    const points = [
      { id: 'a', name: 'stroll', at: [1.2, 0], place: [1.2, 0] as const, strides: 1 },
      { id: 'b', name: 'jog', at: [2.8, 0], place: [2.8, 0] as const, strides: 1 },
      { id: 'c', name: 'round', at: [2, 50], place: [2, 50] as const, strides: 1 },
    ];
    const view = {
      points,
      left: [],
      field: { triangles: [0, 1, 2], points: points.flatMap(({ place: own }) => [...own]), scale: [1, 1 / 60] },
    } as unknown as FieldView;
    const open = {
      view,
      grid: [{ index: 3, place: [2, 10], at: [2, 10] }],
      soundings: new Map([[3, sounding(4.2)]]),
    } as unknown as OpenField;
    const field = { id: 'f', name: 'jogs', clips: ['a', 'b', 'c'], holdFeet: true, pace: 0.06, ...turns };
    render(
      <SeaChart
        field={field}
        view={view}
        open={open}
        depth="slide"
        at={[2, 10]}
        weights={{ stroll: 0.4, jog: 0.6 }}
        wake={[]}
        onMove={moved}
      />,
    );
    const puck = screen.getByRole('slider', { name: 'What is asked of jogs' });
    expect(puck.getAttribute('aria-valuetext')).toBe('2.00 m/s, 10 °/s left');
    fireEvent.keyDown(puck, { key: 'ArrowUp' });
    expect(moved.mock.calls[0][0][0]).toBeGreaterThan(2);
    fireEvent.keyDown(puck, { key: 'ArrowLeft' });
    expect(moved.mock.calls[1][0][1]).toBeGreaterThan(10);
    expect(screen.getByText('jog 60 %')).toBeTruthy();
  });
});

test('a set without a word of its own begins with the modest list', () => {
  expect(setSchema.parse({ name: 'x' }).slots).toHaveLength(12);
  expect(newSet('full', 'wick')).toMatchObject({ name: 'set', character: 'wick' });
  expect(newSet('full', 'wick').name).toBe('set-2');
});
