/** @jest-environment jsdom */
import type { JoinPiece, Motion } from '@lantern/motion';
import { act, cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState, type ReactNode } from 'react';
import { useJoins, type JoinDoc } from '@/data/joins-store';
import type { MadeFrom } from '@/http/made-from';
import { faultOf } from '@/places/joins/bounds';
import { CurvePicture } from '@/places/joins/CurvePicture';
import { DeckHead } from '@/places/joins/DeckHead';
import { GroundRows } from '@/places/joins/GroundRows';
import { newPiece } from '@/places/joins/join-edits';
import { Sails } from '@/places/joins/Sails';
import { JoinSide } from '@/places/joins/JoinSide';
import { layoutOf } from '@/places/joins/layout';
import { MarkRow } from '@/places/joins/MarkRow';
import { More } from '@/places/joins/MeetParts';
import { PairMap } from '@/places/joins/PairMap';
import { PieceCard } from '@/places/joins/PieceCard';
import { Plaques } from '@/places/joins/Plaques';
import { joinRows } from '@/places/joins/rows';
import type { Chosen, Joinery } from '@/places/joins/use-joinery';
import { MadeFromLine } from '@/places/takes/MadeFromLine';
import { useSame } from '@/stage/use-same';
import type { Axis } from '@/timeline/axis-window';
import type { JoinView, MeetView, PieceRoom } from '@/worker/core.worker';
import { place, projectData, PROJECT } from './place';
import { giveRoom } from './room';

const mockMap = jest.fn<Promise<Float32Array | null>, [unknown, number, unknown, number]>();
jest.mock('@/worker/core', () => ({ core: () => ({ joinMap: mockMap }) }));
jest.mock('next/navigation', () => ({ useRouter: () => ({ push: jest.fn() }), useParams: () => ({}) }));

beforeAll(() => {
  giveRoom();
  // jsdom draws nothing.
  HTMLCanvasElement.prototype.getContext = () => null;
});
beforeEach(() => {
  useJoins.setState({ project: PROJECT.id, docs: [], saved: {}, conflicts: {} });
  mockMap.mockReset().mockResolvedValue(null);
});
afterEach(cleanup);

const CUT: PieceRoom = { from: 40, to: 200, loop: false, before: 30, after: 20, frames: 161 };
const LOOP: PieceRoom = { from: 0, to: 66, loop: true, before: Infinity, after: Infinity, frames: 133 };
const piece = (id: string, change: object = {}) => ({ ...newPiece({ clip: id }), id, ...change }) as JoinPiece;
/** A piece as long as `CUT`. */
const whole = piece('a', { from: CUT.from, to: CUT.to });
const shift = (change: object = {}) => ({ at: 60, frames: 18, raise: 0.2, ahead: 0, left: 0, turnDeg: 0, ...change });
const meet = (change: Partial<MeetView> = {}): MeetView => ({
  ...{ from: 142, to: 160, by: 'left foot', isInStep: true, popCm: 0.4, popFrame: 150, popJoint: 'LeftHand', slideCm: 0.1, sinkCm: 0.2 },
  speedMps: { before: 1.3, through: 1.8, after: 2.6 },
  place: [0, 1],
  leaving: {} as MeetView['leaving'],
  coming: {} as MeetView['coming'],
  ...change,
});

interface Made {
  readonly joinery: Joinery;
  /** What the edits made of the join, newest last, and whether each was done. */
  readonly edits: (readonly [JoinDoc, boolean])[];
  readonly done: () => JoinDoc;
}

/** A joinery of some pieces, without a worker behind it; what is edited is written down. */
function made(
  pieces: readonly JoinPiece[],
  rooms: readonly PieceRoom[],
  { chosen = null, view = {}, ...more }: { chosen?: Chosen | null; view?: Partial<JoinView> | null } & Partial<Omit<Joinery, 'view'>> = {},
): Made {
  const doc: JoinDoc = { id: 'j', name: 'round', start: 'origin', pieces: [...pieces] };
  const known = { rooms: Object.fromEntries(pieces.map(({ id }, i) => [id ?? '', rooms[i]])), inStep: {} };
  const laid = layoutOf(pieces, known);
  const edits: (readonly [JoinDoc, boolean])[] = [];
  const motion = { frames: laid.frames, fps: 60 } as Motion;
  const height = Float32Array.from({ length: laid.frames }, (_, f) => 0.9 + 0.1 * Math.sin(f / 5));
  const shown = { motion, height, levels: [], meets: pieces.slice(1).map(() => meet()), ...view } as unknown as JoinView;
  const joinery = {
    ...{ doc, laid, base: { doc, laid, view: null }, view: view && shown, chosen, snaps: true, problem: null, isBusy: false, takes: [] },
    setChosen: jest.fn(),
    setSnaps: jest.fn(),
    acts: new Proxy({}, { get: (all: Record<string, jest.Mock>, name: string) => (all[name] ??= jest.fn()) }),
    places: new Proxy({}, { get: (all: Record<string, jest.Mock>, name: string) => (all[name] ??= jest.fn()) }),
    edit: (next: JoinDoc, isDone = true) => void edits.push([next, isDone]),
    ...more,
  } as unknown as Joinery;
  return { joinery, edits, done: () => edits.filter(([, isDone]) => isDone).at(-1)?.[0] as JoinDoc };
}

/** Four pixels a frame, from the left edge. */
const axis = {
  window: { from: 0, to: 300 },
  span: 1200,
  x: (frame: number) => frame * 4,
  frameAt: (x: number) => x / 4,
} as unknown as Axis;
const rows = joinRows(300);
const snap = (frame: number) => Math.round(frame);
const inPlace = (what: ReactNode) => render(what, { wrapper: place(projectData({})).wrapper });
const inSvg = (what: ReactNode) => render(<svg>{what}</svg>);
const type = (name: string, text: string) => {
  const field = screen.getByRole('textbox', { name });
  fireEvent.change(field, { target: { value: text } });
  fireEvent.keyDown(field, { key: 'Enter' });
  fireEvent.blur(field);
};

describe('the card of a piece', () => {
  const open = (change: object = {}, room = CUT) => {
    const own = made([piece('a', change)], [room]);
    inPlace(<PieceCard joinery={own.joinery} index={0} name="stroll" />);
    return own;
  };

  test('its ends are typed in frames of what it is cut from, and go no further than there is motion', () => {
    const { done, edits } = open({ from: 40, to: 200 });
    type('Begins with frame', '52');
    expect(done().pieces[0]).toMatchObject({ from: 52, to: 200 });
    type('Ends with frame', '190');
    expect(done().pieces[0]).toMatchObject({ from: 40, to: 190 });
    const before = edits.length;
    type('Begins with frame', '3');
    expect(edits).toHaveLength(before);
    expect(screen.getByText('There is motion for 30 more frames before it and 20 after it.')).toBeTruthy();
  });

  test('of a loop it says that it goes round, and it is repeated in part', () => {
    const { done } = open({ from: 0, to: 66, times: 2 }, LOOP);
    type('Times', '3.4');
    expect(done().pieces[0]).toMatchObject({ from: 0, to: 66, times: 3.4 });
    expect(screen.getByText(/goes round without end/)).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Open the clip on the Bench' }).getAttribute('href')).toBe('/gullmouth/bench/a');
  });

  test('a shift is typed in centimetres, degrees and frames, and taken away', async () => {
    const { done } = open({ shifts: [shift()] });
    type('Shift 1: raised, centimetres', '-15');
    expect(done().pieces[0].shifts[0].raise).toBeCloseTo(-0.15, 9);
    type('Shift 1: turned, degrees', '45');
    expect(done().pieces[0].shifts[0]).toMatchObject({ turnDeg: 45, raise: 0.2 });
    type('Shift 1: over, frames', '30');
    expect(done().pieces[0].shifts[0].frames).toBe(30);
    type('Shift 1: from frame', '12');
    expect(done().pieces[0].shifts[0].at).toBe(12);
    await userEvent.setup().click(screen.getByRole('button', { name: 'Take shift 1 away' }));
    expect(done().pieces[0].shifts).toEqual([]);
  });

  test('marks are renamed and taken away; one without a name keeps the one it had', async () => {
    const marks = [
      { at: 10, name: 'sets off' },
      { at: 50, name: 'looks up' },
    ];
    const { done, edits } = open({ marks });
    type('Mark at frame 10', 'leaves');
    expect(done().pieces[0].marks).toEqual([{ at: 10, name: 'leaves' }, marks[1]]);
    const before = edits.length;
    type('Mark at frame 50', '   ');
    expect(edits).toHaveLength(before);
    await userEvent.setup().click(screen.getByRole('button', { name: 'Take mark looks up away' }));
    expect(done().pieces[0].marks).toEqual([marks[0]]);
  });

  test('the first piece starts at the origin or where it was captured; of the others it is not asked', async () => {
    const { done } = open();
    expect(screen.getByRole('button', { name: 'at the origin' }).getAttribute('aria-pressed')).toBe('true');
    await userEvent.setup().click(screen.getByRole('button', { name: 'where it was captured' }));
    expect(done().start).toBe('captured');
    cleanup();
    const two = made([piece('a'), piece('b')], [CUT, LOOP]);
    inPlace(<PieceCard joinery={two.joinery} index={1} name="jog" />);
    expect(screen.queryByRole('button', { name: 'at the origin' })).toBeNull();
  });
});

describe('the row of marks and shifts', () => {
  const open = () => {
    const own = made([piece('a', { from: 40, to: 200, marks: [{ at: 10, name: 'sets off' }], shifts: [shift()] })], [CUT]);
    inSvg(<MarkRow joinery={own.joinery} axis={axis} rows={rows} snap={snap} />);
    return own;
  };

  test('both are moved by arrow keys and taken out with Delete', () => {
    const { done } = open();
    const mark = screen.getByRole('slider', { name: 'Mark sets off' });
    fireEvent.keyDown(mark, { key: 'ArrowRight' });
    expect(done().pieces[0].marks).toEqual([{ at: 11, name: 'sets off' }]);
    fireEvent.keyDown(mark, { key: 'Delete' });
    expect(done().pieces[0].marks).toEqual([]);
    const step = screen.getByRole('slider', { name: 'Shift 1 of piece 1' });
    fireEvent.keyDown(step, { key: 'PageUp' });
    expect(done().pieces[0].shifts[0].at).toBe(70);
    fireEvent.keyDown(step, { key: 'Delete' });
    expect(done().pieces[0].shifts).toEqual([]);
  });

  test('a shift that is taken hold of chooses its piece, and says in a word what it does', () => {
    const { joinery } = open();
    fireEvent.pointerDown(screen.getByText('raise'));
    expect(joinery.setChosen).toHaveBeenCalledWith({ kind: 'piece', id: 'a' });
  });
});

describe('the pieces along the axis', () => {
  const names = () => screen.getAllByRole('button').map((piece) => piece.getAttribute('aria-label')?.slice(0, 12));

  test.each([null, 'a', 'b'])('come to the Tab key in the order of the join, with “%s” chosen', (id) => {
    const chosen: Chosen | null = id === null ? null : { kind: 'piece', id };
    const { joinery } = made([piece('a'), piece('b')], [CUT, LOOP], { chosen, view: { seams: [[], []] } });
    inSvg(<Sails joinery={joinery} axis={axis} rows={rows} nameOf={({ id: own }) => `round-${own}`} />);
    expect(names()).toEqual(['Piece 1 of 2', 'Piece 2 of 2']);
    expect(
      screen.queryAllByRole('button', { pressed: true }).map((own) => own.getAttribute('aria-label')?.includes(`round-${id}`)),
    ).toEqual(id === null ? [] : [true]);
  });

  test('are chosen by a click, Enter and Space', () => {
    const { joinery } = made([piece('a'), piece('b')], [CUT, LOOP], { view: { seams: [[], []] } });
    inSvg(<Sails joinery={joinery} axis={axis} rows={rows} nameOf={() => 'round'} />);
    const [, second] = screen.getAllByRole('button');
    fireEvent.click(second);
    fireEvent.keyDown(second, { key: 'Enter' });
    fireEvent.keyDown(second, { key: ' ' });
    fireEvent.keyDown(second, { key: 'x' });
    expect(joinery.setChosen).toHaveBeenCalledTimes(3);
    expect(joinery.setChosen).toHaveBeenLastCalledWith({ kind: 'piece', id: 'b' });
  });
});

describe('plaques', () => {
  const open = (figures: Partial<MeetView>, into: object = {}, chosen: Chosen | null = null) => {
    const b = piece('b', { times: 2 });
    const own = made([piece('a'), { ...b, into: { ...b.into, ...into } }], [CUT, LOOP], { view: { meets: [meet(figures)] }, chosen });
    render(<Plaques joinery={own.joinery} axis={axis} rows={rows} />);
    return own;
  };

  test('say by what both were lined up and how good it is; a click chooses the meeting', async () => {
    const { joinery } = open({});
    const plaque = screen.getByRole('button', { name: 'Join 1: left foot, 18 frames, slide 0.1 cm, pop 0.4 cm' });
    expect(plaque.textContent).toMatch(/left foot · 18 f/);
    expect(plaque.getAttribute('aria-pressed')).toBe('false');
    await userEvent.setup().click(plaque);
    expect(joinery.setChosen).toHaveBeenCalledWith({ kind: 'meet', id: 'b' });
  });

  test('one that is out of bounds says what to do, and doing it is a click', async () => {
    const { joinery, done } = open({ slideCm: 1.4 }, { hold: false });
    expect(screen.getByText('▲ slide 1.4 cm, bound 0.2')).toBeTruthy();
    await userEvent.setup().click(screen.getByRole('button', { name: 'hold planted feet' }));
    expect(done().pieces[1].into.hold).toBe(true);
    expect(joinery.setChosen).toHaveBeenCalledWith({ kind: 'meet', id: 'b' });
  });

  test('a cut is called one, and before its figures are there the plaque says that they come', () => {
    open({}, { frames: 0 });
    expect(screen.getByText(/left foot · cut/)).toBeTruthy();
    cleanup();
    const own = made([piece('a'), piece('b')], [CUT, LOOP], { view: null });
    render(<Plaques joinery={own.joinery} axis={axis} rows={rows} />);
    expect(screen.getByRole('button', { name: 'Join 1: being worked out' })).toBeTruthy();
  });

  test('close together they say less, and none is left out', () => {
    const many = Array.from({ length: 9 }, (_, i) => piece(`p${i}`, { to: 30, from: 0 }));
    const own = made(
      many,
      many.map(() => ({ ...CUT, from: 0, to: 30, frames: 31 })),
    );
    render(<Plaques joinery={own.joinery} axis={axis} rows={rows} />);
    const all = screen.getAllByRole('button', { name: /^Join \d:/ });
    expect(all).toHaveLength(8);
    expect(all[0].textContent).not.toContain('left foot');
  });
});

describe('what is out of bounds, and what is done about it', () => {
  const into = piece('b').into;
  test.each([
    [{ slideCm: 0.24 }, {}, null],
    [{ slideCm: 0.3 }, {}, 'see where they fit'],
    [{ slideCm: 0.3 }, { hold: false }, 'hold planted feet'],
    [{ popCm: 1.2 }, { frames: 0 }, 'overlap 18 frames'],
    [{ popCm: 1.2 }, { inStep: false }, 'run in step'],
    [{ popCm: 1.2 }, { frames: 18 }, 'overlap 30 frames'],
    [{ popCm: 1.2 }, { frames: 30 }, 'see where they fit'],
    [{ sinkCm: 2 }, {}, null],
    [{ sinkCm: 2 }, { hold: false }, 'hold planted feet'],
  ])('%j with %j: %s', (figures, change, todo) => {
    const fault = faultOf(meet(figures), { ...into, ...change });
    expect(fault?.todo ?? null).toBe(todo);
    // What it offers is not what is set already.
    if (fault?.change) expect({ ...into, ...change }).not.toMatchObject(fault.change);
  });
});

test('the ground row says by how much the ground rises, or falls, and over how long', () => {
  const levels = [
    { from: 40, to: 64, raise: 0.2 },
    { from: 100, to: 130, raise: -0.35 },
  ];
  const own = made([piece('a')], [CUT], { view: { levels } });
  inSvg(<GroundRows joinery={own.joinery} axis={axis} rows={rows} />);
  expect(screen.getByText('+0.20 m over 24 f')).toBeTruthy();
  expect(screen.getByText('−0.35 m over 30 f')).toBeTruthy();
  // The highest that the hips are.
  expect(screen.getByText('1.00 m')).toBeTruthy();
  cleanup();
  const { container } = inSvg(<GroundRows joinery={made([piece('a')], [CUT], { view: null }).joinery} axis={axis} rows={rows} />);
  expect(container.querySelectorAll('path')).toHaveLength(0);
});

describe('the curve of an overlap', () => {
  const handles = [0.4, 0, 0.6, 1] as [number, number, number, number];

  test('has handles only where it is drawn; keys move them, and none leaves the picture', () => {
    const onDraw = jest.fn();
    const { rerender } = render(<CurvePicture curve="smooth" leaving="smooth" now={null} onDraw={onDraw} />);
    expect(screen.queryAllByRole('slider')).toHaveLength(0);
    rerender(<CurvePicture curve={handles} leaving={handles} now={null} onDraw={onDraw} />);
    const [first, second] = screen.getAllByRole('slider');
    fireEvent.keyDown(first, { key: 'ArrowLeft' });
    expect(onDraw).toHaveBeenLastCalledWith([expect.closeTo(0.35, 9), 0, 0.6, 1], true);
    fireEvent.keyDown(first, { key: 'ArrowDown' });
    expect(onDraw).toHaveBeenLastCalledWith([0.4, 0, 0.6, 1], true);
    fireEvent.keyDown(second, { key: 'ArrowDown' });
    expect(onDraw).toHaveBeenLastCalledWith([0.4, 0, 0.6, 0.95], true);
  });

  test('a handle that is dragged is done when it is let go', () => {
    const onDraw = jest.fn();
    render(<CurvePicture curve={handles} leaving={handles} now={null} onDraw={onDraw} />);
    const [first] = screen.getAllByRole('slider');
    const at = (clientX: number, clientY: number, buttons: number) => ({ clientX, clientY, buttons, pointerId: 1 });
    fireEvent.pointerDown(first, at(60, 60, 1));
    fireEvent.pointerMove(first, at(73, 36, 1));
    expect(onDraw).toHaveBeenLastCalledWith([0.5, 0.5, 0.6, 1], false);
    fireEvent.pointerUp(first, at(500, -20, 0));
    expect(onDraw).toHaveBeenLastCalledWith([1, 1, 0.6, 1], true);
  });

  test('where the playhead is in the overlap, a point is on the curve', () => {
    const { container, rerender } = render(<CurvePicture curve="straight" leaving="straight" now={0.5} onDraw={jest.fn()} />);
    const dot = container.querySelector('circle');
    expect([dot?.getAttribute('cx'), dot?.getAttribute('cy')]).toEqual(['73', '36']);
    rerender(<CurvePicture curve="straight" leaving="straight" now={null} onDraw={jest.fn()} />);
    expect(container.querySelector('circle')).toBeNull();
  });
});

describe('the map of two pieces', () => {
  const window = { rows: [100, 200], columns: [0, 50] } as const;
  const asked = { id: 'j', start: 'origin', pieces: [] } as const;
  const open = () => {
    const onMeet = jest.fn();
    const fits = [
      { a: 120, b: 10 },
      { a: 180, b: 40 },
    ] as unknown as Parameters<typeof PairMap>[0]['fits'];
    render(<PairMap asked={asked} index={0} window={window} met={{ a: 150, b: 20 }} fits={fits} onMeet={onMeet} />);
    return { onMeet, map: screen.getByRole('slider', { name: /^Where both pieces meet/ }) };
  };

  test('is asked for once for what it shows, and says where both meet', () => {
    const { map } = open();
    expect(mockMap).toHaveBeenCalledTimes(1);
    expect(mockMap.mock.calls[0].slice(0, 3)).toEqual([asked, 0, window]);
    expect(map.getAttribute('aria-valuetext')).toBe('frame 150 of the one, 20 of the other');
    expect(within(map).getByText('1')).toBeTruthy();
    expect(within(map).getByText('2')).toBeTruthy();
  });

  test('arrow keys move the meeting: up and down along the one, left and right along the other', () => {
    const { map, onMeet } = open();
    for (const [key, a, b] of [
      ['ArrowUp', 149, 20],
      ['ArrowDown', 151, 20],
      ['ArrowLeft', 150, 19],
      ['ArrowRight', 150, 21],
    ] as const) {
      fireEvent.keyDown(map, { key });
      expect(onMeet).toHaveBeenLastCalledWith(a, b, true);
    }
    onMeet.mockClear();
    fireEvent.keyDown(map, { key: 'a' });
    expect(onMeet).not.toHaveBeenCalled();
  });

  test('dragged, the ring is under the pointer and stays on the map; let go, it is done', () => {
    const { map, onMeet } = open();
    const size = Number(map.querySelector('svg')?.getAttribute('width'));
    fireEvent.pointerDown(map, { clientX: size / 2, clientY: size / 4, buttons: 1, pointerId: 1 });
    expect(onMeet).toHaveBeenLastCalledWith(125, 25, false);
    fireEvent.pointerMove(map, { clientX: 3 * size, clientY: -50, buttons: 1, pointerId: 1 });
    expect(onMeet).toHaveBeenLastCalledWith(100, 50, false);
    fireEvent.pointerUp(map, { clientX: size, clientY: size, buttons: 0, pointerId: 1 });
    expect(onMeet).toHaveBeenLastCalledWith(200, 50, true);
  });
});

describe('what is seldom wanted of a meeting', () => {
  test('curves of both apart, height, and a place by hand', async () => {
    const user = userEvent.setup();
    const seen: object[] = [];
    const Held = () => {
      const [into, setInto] = useState(piece('b').into);
      return (
        <More
          into={into}
          onChange={(change) => {
            seen.push(change);
            setInto({ ...into, ...change });
          }}
        />
      );
    };
    inPlace(<Held />);
    await user.click(screen.getByRole('button', { name: 'Unfold more' }));
    await user.click(screen.getByRole('switch', { name: 'Curves of both linked' }));
    expect(seen.at(-1)).toEqual({ leaving: 'smooth' });
    await user.click(screen.getByRole('button', { name: 'the leaving piece: sudden' }));
    expect(seen.at(-1)).toEqual({ leaving: 'sudden' });
    await user.click(screen.getByRole('switch', { name: 'Curves of both linked' }));
    expect(seen.at(-1)).toEqual({ leaving: undefined });
    await user.click(screen.getByRole('switch', { name: 'Carry the difference over' }));
    expect(seen.at(-1)).toEqual({ how: 'carry' });
    await user.click(screen.getByRole('switch', { name: 'Meet in height too' }));
    expect(seen.at(-1)).toEqual({ height: true });
    await user.click(screen.getByRole('switch', { name: 'Placed by hand' }));
    expect(seen.at(-1)).toEqual({ by: { x: 0, z: 0, turnDeg: 0 } });
    type('By hand, ahead', '1.25');
    type('By hand, to the left', '-0.5');
    type('By hand, turned', '90');
    expect(seen.at(-1)).toEqual({ by: { x: -0.5, z: 1.25, turnDeg: 90 } });
    await user.click(screen.getByRole('switch', { name: 'Placed by hand' }));
    expect(seen.at(-1)).toEqual({ by: undefined });
  });
});

describe('over the deck', () => {
  test('what can be done at the playhead is there once there is a piece, and what needs a chosen one once one is', async () => {
    const user = userEvent.setup();
    const isOff = (name: string) => screen.getByRole<HTMLButtonElement>('button', { name }).disabled;
    const open = (own: Made) => render(<DeckHead joinery={own.joinery} onZoom={onZoom} onWhole={onWhole} />);
    const [onZoom, onWhole] = [jest.fn(), jest.fn()];
    open(made([], [], { view: null }));
    expect(isOff('Cut the piece at the playhead')).toBe(true);
    expect(screen.getByText('0 pieces')).toBeTruthy();
    cleanup();
    open(made([whole], [CUT]));
    expect([isOff('Cut the piece at the playhead'), isOff('Duplicate the chosen piece')]).toEqual([false, true]);
    expect(screen.getByText(/^1 piece · 2\.67 s$/)).toBeTruthy();
    cleanup();
    const own = made([piece('a'), piece('b')], [CUT, LOOP], { chosen: { kind: 'piece', id: 'b' } });
    open(own);
    expect(screen.getByText(/^2 pieces, 1 join/)).toBeTruthy();
    for (const name of ['Cut the piece at the playhead', 'Mark at the playhead', 'Raise all from the playhead on'])
      await user.click(screen.getByRole('button', { name }));
    await user.click(screen.getByRole('button', { name: 'Duplicate the chosen piece' }));
    await user.click(screen.getByRole('button', { name: 'Take the chosen piece out' }));
    for (const act of ['split', 'mark', 'raise', 'duplicate', 'remove'] as const) expect(own.joinery.acts[act]).toHaveBeenCalledTimes(1);
    await user.click(screen.getByRole('button', { name: 'snap to footfalls' }));
    expect(own.joinery.setSnaps).toHaveBeenCalledWith(false);
    await user.click(screen.getByRole('button', { name: 'Zoom in' }));
    await user.click(screen.getByRole('button', { name: 'Zoom out' }));
    await user.click(screen.getByRole('button', { name: 'whole' }));
    expect(onZoom.mock.calls.map(([factor]) => factor > 1)).toEqual([false, true]);
    expect(onWhole).toHaveBeenCalledTimes(1);
  });
});

describe('the column at the right', () => {
  const open = (own: Made, isBaking = false) => {
    const bake = jest.fn();
    useJoins.setState({ docs: [own.joinery.doc as JoinDoc, { id: 'k', name: 'evening', start: 'origin', pieces: [] }] });
    inPlace(<JoinSide joinery={own.joinery} nameOf={(of) => ('clip' in of ? of.clip : of.take)} bake={bake} isBaking={isBaking} />);
    return { bake, user: userEvent.setup() };
  };

  test('says what to do next while nothing is chosen, and how long the bake is', async () => {
    const { bake, user } = open(made([whole], [CUT]));
    expect(screen.getByText(/^Drop clips from the list on the deck/)).toBeTruthy();
    const button = screen.getByRole('button', { name: /^Bake into a take/ });
    expect(button.textContent).toContain('2.67 s, 161 frames');
    await user.click(button);
    expect(bake).toHaveBeenCalledTimes(1);
    cleanup();
    open(made([piece('a'), piece('b')], [CUT, LOOP]));
    expect(screen.getByText(/^Choose a sail to trim/)).toBeTruthy();
    cleanup();
    open(made([piece('a')], [CUT]), true);
    expect(screen.getByRole<HTMLButtonElement>('button', { name: /Bake into a take/ }).disabled).toBe(true);
    expect(screen.getByRole('progressbar', { name: 'Baking' })).toBeTruthy();
  });

  test('the join is renamed, but not by a name that another has; others are opened, copied, removed, begun', async () => {
    const own = made([piece('a')], [CUT]);
    const { user } = open(own);
    type('Join name', 'Evening');
    expect(own.edits).toEqual([]);
    type('Join name', 'onto the quay');
    expect(own.done().name).toBe('onto the quay');
    await user.click(screen.getByRole('combobox', { name: 'Open another join' }));
    await user.click(screen.getByRole('option', { name: 'evening' }));
    expect(own.joinery.places.open).toHaveBeenCalledWith('k');
    await user.click(screen.getByRole('button', { name: 'Duplicate this join' }));
    await user.click(screen.getByRole('button', { name: 'Remove this join' }));
    await user.click(screen.getByRole('button', { name: 'New join' }));
    expect(own.joinery.places.duplicateJoin).toHaveBeenCalledWith(own.joinery.doc);
    expect(own.joinery.places.removeJoin).toHaveBeenCalledWith('j');
    expect(own.joinery.places.create).toHaveBeenCalledTimes(1);
  });
});

describe('what a take was baked from', () => {
  const madeFrom: MadeFrom = {
    join: { id: 'j', name: 'round', revision: 4 },
    pieces: [
      { id: 'a', name: 'stroll', kind: 'clip', revision: 3, from: 0, to: 66, times: 2.5 },
      { id: 't', name: 'wick-hop', kind: 'take', revision: null, from: 40, to: 200, times: 1 },
    ],
  };
  const standing = (revision: number) =>
    act(() =>
      useJoins.setState({ docs: [{ id: 'j', name: 'round', start: 'origin', pieces: [] }], saved: { j: { revision, doc: null } } }),
    );

  test('names each piece as it was then, and leads to the join where that still is', () => {
    standing(4);
    const { container } = inPlace(<MadeFromLine made={madeFrom} />);
    expect(container.textContent).toBe('Baked from the join round, revision 4: stroll × 2.5 (revision 3), wick-hop.');
    expect(screen.getByRole('link', { name: 'round' }).getAttribute('href')).toBe('/gullmouth/joins/j');
    standing(7);
    expect(container.textContent).toContain('it is at 7 now: bake it again');
    act(() => useJoins.setState({ docs: [] }));
    expect(screen.queryByRole('link')).toBeNull();
    expect(container.textContent).not.toContain('now');
  });
});

test('what is equal to what was there is what was there: nothing built from it is built anew', () => {
  const seen: object[] = [];
  const Shown = ({ value }: { value: object }) => {
    seen.push(useSame(value));
    return null;
  };
  const { rerender } = render(<Shown value={{ a: [1, 2] }} />);
  rerender(<Shown value={{ a: [1, 2] }} />);
  expect(seen.at(-1)).toBe(seen[0]);
  rerender(<Shown value={{ a: [1, 3] }} />);
  expect(seen.at(-1)).toEqual({ a: [1, 3] });
});
