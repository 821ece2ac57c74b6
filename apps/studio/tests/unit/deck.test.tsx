/** @jest-environment jsdom */
import { scaleLinear } from 'd3-scale';
import type { LoopCandidate, Seam, Segment } from '@lantern/motion';
import { cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ClipDoc } from '@/data/clips-store';
import { usePlayer } from '@/data/player';
import { ContactEdges, type SetContacts } from '@/places/bench/deck/ContactEdges';
import { Deck } from '@/places/bench/deck/Deck';
import type { DeckProps } from '@/places/bench/deck/deck-props';
import { around } from '@/places/bench/deck/deck-window';
import { LoopArcs } from '@/places/bench/deck/LoopArcs';
import { SegmentBand, wordsOf } from '@/places/bench/deck/SegmentBand';
import { GUTTER, RIGHT } from '@/timeline/deck-layout';
import type { OpenTake } from '@/worker/core.worker';
import { place } from './place';
import { drag, pointerAt } from './pointer';
import { giveRoom } from './room';

const mockPartners = jest.fn(async () => ({ ins: [] as number[], outs: [] as number[] }));
jest.mock('@/worker/core', () => ({ core: () => ({ partners: mockPartners }) }));

const WIDTH = 900;
beforeAll(() => {
  giveRoom(WIDTH, 320);
  SVGElement.prototype.getBoundingClientRect = () => ({ left: 0, top: 0, right: WIDTH, bottom: 320, width: WIDTH, height: 320 }) as DOMRect;
});
beforeEach(() => mockPartners.mockResolvedValue({ ins: [], outs: [] }));
afterEach(cleanup);

const handle = (name: string) => screen.getByRole('slider', { name });

const seam = { poseCm: 1.4, velocityCmS: 12, worstJoint: 'LeftHand', worstCm: 3 } as Seam;
const loop = (from: number, to: number, score = 0.9, strides = 1): LoopCandidate =>
  ({ from, to, seconds: (to - from) / 60, strides, startsOn: 'left', score, seam }) as LoopCandidate;

describe('contacts that are set by hand', () => {
  /** A clip from frame 100 of its take, ten pixels a frame. */
  function edges(contacts: { side: 'left' | 'right'; from: number; to: number }[]) {
    const onChange = jest.fn<void, [SetContacts]>();
    render(
      <svg>
        <ContactEdges
          noun="contact"
          contacts={contacts.map((c) => ({ ...c, slideCm: 0.1, heldCm: null }))}
          offset={100}
          frames={60}
          rows={{ left: 0, right: 24 }}
          x={(frame) => frame * 10}
          frameAt={(clientX) => clientX / 10}
          onChange={onChange}
        />
      </svg>,
    );
    return onChange;
  }
  const two = [
    { side: 'left' as const, from: 4, to: 20 },
    { side: 'left' as const, from: 30, to: 50 },
    { side: 'right' as const, from: 12, to: 40 },
  ];

  test('an edge is dragged in frames of the clip; the others stay where they are', () => {
    const onChange = edges(two);
    drag(handle('End of right contact 1'), 1400, 1450);
    expect(onChange).toHaveBeenCalledTimes(1);
    expect(onChange).toHaveBeenCalledWith({
      left: [
        { from: 4, to: 20 },
        { from: 30, to: 50 },
      ],
      right: [{ from: 12, to: 45 }],
    });
  });

  test('a contact is never shorter than two frames, nor does it begin before the clip', async () => {
    const onChange = edges(two);
    drag(handle('Start of right contact 1'), 1120, 1900);
    expect(onChange).toHaveBeenLastCalledWith(expect.objectContaining({ right: [{ from: 38, to: 40 }] }));
    drag(handle('Start of left contact 1'), 1040, 200);
    expect(onChange.mock.lastCall?.[0].left[0]).toEqual({ from: 0, to: 20 });
  });

  test('dragged over its neighbour it becomes one with it', () => {
    const onChange = edges(two);
    drag(handle('End of left contact 1'), 1200, 1350);
    expect(onChange).toHaveBeenLastCalledWith({ left: [{ from: 4, to: 50 }], right: [{ from: 12, to: 40 }] });
  });

  test('keys move an edge by a frame and take a contact out', async () => {
    const onChange = edges(two);
    handle('Start of left contact 2').focus();
    await userEvent.keyboard('{ArrowRight}');
    expect(onChange.mock.lastCall?.[0].left[1]).toEqual({ from: 31, to: 50 });
    await userEvent.keyboard('{Delete}');
    expect(onChange.mock.lastCall?.[0].left).toEqual([{ from: 4, to: 20 }]);
  });

  test('a double click where there is none puts one there', () => {
    const onChange = edges([{ side: 'right', from: 40, to: 50 }]);
    const [left] = screen.getAllByText('Double click to put a contact here');
    fireEvent.doubleClick(left.parentElement as Element, { clientX: 1250 });
    expect(onChange).toHaveBeenLastCalledWith({ left: [{ from: 19, to: 31 }], right: [{ from: 40, to: 50 }] });
  });
});

describe('loop arcs', () => {
  const arcs = (candidates: LoopCandidate[], cut: { from: number; to: number } | null = null, window = { from: 0, to: 400 }) => {
    const [onTake, onNear] = [jest.fn(), jest.fn()];
    const x = (frame: number) => frame;
    render(
      <svg>
        <LoopArcs {...{ candidates, cut, window, x, onTake, onNear }} y={80} height={60} />
      </svg>,
    );
    return { onTake, onNear };
  };

  test('only those in sight are drawn, each named by what it is; the one that is cut is said to be', () => {
    arcs([loop(100, 166), loop(300, 432, 0.8, 2), loop(500, 566)], { from: 100, to: 166 });
    expect(screen.getAllByRole('button').map((arc) => arc.getAttribute('aria-label'))).toEqual([
      'Loop 300 to 432, 2 strides, pose 1.4 cm',
      'Loop 100 to 166, 1 stride, pose 1.4 cm',
    ]);
    expect(screen.getByRole('button', { pressed: true }).getAttribute('aria-label')).toContain('100 to 166');
  });

  test('an arc begins and ends where its loop does, and a longer loop is higher', () => {
    arcs([loop(100, 166), loop(200, 332)]);
    const shape = (name: RegExp) => screen.getByRole('button', { name }).querySelector('path')?.getAttribute('d') ?? '';
    const numbers = (d: string) => d.split(/[MC ]/).filter(Boolean).map(Number);
    const [short, long] = [numbers(shape(/100 to 166/)), numbers(shape(/200 to 332/))];
    expect([short[0], short[6]]).toEqual([100, 166]);
    expect(long[3]).toBeLessThan(short[3]);
  });

  test('pointer and keyboard show one and take it', async () => {
    const { onTake, onNear } = arcs([loop(100, 166)]);
    const arc = screen.getByRole('button');
    await userEvent.hover(arc);
    expect(onNear).toHaveBeenLastCalledWith(expect.objectContaining({ from: 100 }));
    await userEvent.unhover(arc);
    expect(onNear).toHaveBeenLastCalledWith(null);
    await userEvent.tab();
    await userEvent.keyboard('{Enter}');
    expect(onTake).toHaveBeenCalledWith(expect.objectContaining({ from: 100, to: 166 }));
  });
});

describe('what is done in a take', () => {
  const segment = (kind: Segment['kind'], more: Partial<Segment> = {}): Segment => ({
    kind,
    from: 0,
    to: 100,
    speedMps: 1.31,
    turnDeg: -88,
    direction: 'forward',
    ...more,
  });

  test('is said in words', () => {
    expect(wordsOf(segment('idle'))).toBe('stands');
    expect(wordsOf(segment('turn'))).toBe('turns right 88°');
    expect(wordsOf(segment('turn', { turnDeg: 45.4 }))).toBe('turns left 45°');
    expect(wordsOf(segment('walk', { direction: 'backward' }))).toBe('walks backward 1.3 m/s');
    expect(wordsOf(segment('stop', { direction: null }))).toBe('stops');
  });

  test('is opened by a click or from the keyboard; what lies outside the axis is not drawn', async () => {
    const onOpen = jest.fn();
    const segments = [segment('walk'), segment('stop', { from: 100, to: 140 }), segment('idle', { from: 2000, to: 2100 })];
    const x = (frame: number) => GUTTER + frame;
    render(
      <svg>
        <SegmentBand {...{ segments, x, onOpen }} y={0} height={16} right={600} />
      </svg>,
    );
    expect(screen.getAllByRole('button')).toHaveLength(2);
    await userEvent.click(screen.getByRole('button', { name: /^stops/ }));
    expect(onOpen).toHaveBeenLastCalledWith(segments[1]);
    screen.getByRole('button', { name: /^walks/ }).focus();
    await userEvent.keyboard('{Enter}');
    expect(onOpen).toHaveBeenLastCalledWith(segments[0]);
  });
});

describe('the whole deck', () => {
  const FRAMES = 600;
  const take = {
    id: 'quay-walk',
    motion: { frames: FRAMES, fps: 60 },
    contacts: { left: [{ from: 150, to: 190 }], right: [{ from: 183, to: 222 }] },
    speed: new Float32Array(FRAMES).fill(1.3),
    hipHeight: new Float32Array(FRAMES).fill(0.92),
  } as unknown as OpenTake;
  const cut = { from: 120, to: 186 };
  const clip = (id: string, from: number, to: number) => ({ id, name: id, source: { take: 'quay-walk', from, to } }) as ClipDoc;

  function deck(change: Partial<DeckProps> = {}) {
    const acts = {
      onCut: jest.fn(),
      onScrub: jest.fn(),
      onTakeLoop: jest.fn(),
      onNearLoop: jest.fn(),
      onOpenClip: jest.fn(),
      onSegment: jest.fn(),
      onContacts: jest.fn(),
      onHands: jest.fn(),
      onFlaw: jest.fn(),
      onMarkers: jest.fn(),
    };
    const props: DeckProps = {
      take,
      cut,
      rest: cut,
      seam,
      candidates: [],
      clips: [clip('stroll', 120, 186), clip('halt', 300, 380)],
      open: 'stroll',
      takeFrame: (frame) => frame,
      segments: [],
      contacts: [],
      hands: null,
      flaws: [],
      balance: null,
      markers: [],
      ...acts,
      ...change,
    };
    const { container } = render(<Deck {...props} />, { wrapper: place().wrapper });
    return { ...acts, surface: container.querySelector('[data-deck-surface]') as Element };
  }
  /** The axis as it is at first: some cycles round the cut. */
  const { from, to } = around(cut, FRAMES, 60);
  const x = scaleLinear()
    .domain([from, to])
    .range([GUTTER, WIDTH - RIGHT]);

  test('rests of hands have rows of their own, say what they are on, and their edges keep it while they are dragged', () => {
    const { onHands } = deck({
      hands: [{ side: 'left', from: 10, to: 50, on: { to: 'joint', joint: 'LeftThigh', at: [0, 0, 0] } }],
    });
    expect(screen.getByText('on LeftThigh')).toBeDefined();
    drag(handle('End of left hand contact 1'), x(170), x(160));
    expect(onHands).toHaveBeenLastCalledWith({
      left: [{ from: 10, to: 40, on: { to: 'joint', joint: 'LeftThigh', at: [0, 0, 0] } }],
      right: [],
    });
    cleanup();
    deck();
    expect(screen.queryByRole('slider', { name: /hand contact/ })).toBeNull();
  });

  test('named instants of the take stand on the deck: a click goes there, and where one is, it is named or taken away', async () => {
    const markers = [
      { frame: 130, name: 'lamp' },
      { frame: 160, name: 'turns' },
    ];
    usePlayer.setState({ frames: FRAMES, frame: 130 });
    const { onScrub, onMarkers } = deck({ markers });
    await userEvent.click(screen.getByRole('button', { name: 'Marker turns, frame 160' }));
    expect(onScrub).toHaveBeenLastCalledWith(160);
    await userEvent.click(screen.getByRole('button', { name: 'Marker lamp, frame 130' }));
    await userEvent.clear(screen.getByRole('textbox', { name: 'Marker' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'Marker' }), 'lights it{Enter}');
    expect(onMarkers).toHaveBeenLastCalledWith([{ frame: 130, name: 'lights it' }, markers[1]]);
    await userEvent.click(await screen.findByRole('button', { name: 'Marker lamp, frame 130' }));
    await userEvent.click(screen.getByRole('button', { name: 'take away' }));
    expect(onMarkers).toHaveBeenLastCalledWith([markers[1]]);
  });

  test('spikes and gaps stand on the axis, each with whether it is set right; a click goes there', async () => {
    const spike = { kind: 'spike' as const, joint: 'LeftHand', from: 140, to: 141, isMended: true };
    const gap = { kind: 'gap' as const, joint: 'Head', from: 150, to: 190, isMended: false };
    const { onFlaw } = deck({ flaws: [spike, gap] });
    await userEvent.click(screen.getByRole('button', { name: 'Spike of LeftHand at frame 140, set right' }));
    expect(onFlaw).toHaveBeenLastCalledWith(spike);
    await userEvent.click(screen.getByRole('button', { name: 'Gap of Head at frame 150, left as it is' }));
    expect(onFlaw).toHaveBeenLastCalledWith(gap);
  });

  test('the balance is a third trace, with its unit, and has holes where no foot bears', () => {
    const balance = new Float32Array(FRAMES).fill(NaN).fill(5, 120, 140).fill(-8, 150, 160);
    deck({ balance });
    expect(screen.getByText('cm inside')).toBeDefined();
    expect(screen.getByText('−8')).toBeDefined();
    cleanup();
    deck();
    expect(screen.queryByText('cm inside')).toBeNull();
  });

  test('a drag on it scrubs', () => {
    const { onScrub, surface } = deck();
    fireEvent.pointerDown(surface, pointerAt(x(150), 1));
    fireEvent.pointerMove(surface, pointerAt(x(170), 1));
    expect(onScrub.mock.calls.map(([frame]) => Math.round(frame as number))).toEqual([150, 170]);
    fireEvent.pointerMove(surface, pointerAt(x(200), 0));
    expect(onScrub).toHaveBeenCalledTimes(2);
  });

  test('the wheel zooms about the pointer, a drag with the middle button moves along', () => {
    const { onScrub, surface } = deck();
    const frameUnder = (clientX: number) => {
      fireEvent.pointerDown(surface, pointerAt(clientX, 1));
      return onScrub.mock.lastCall?.[0] as number;
    };
    const [here, aside] = [x(150), x(150) + 100];
    const before = frameUnder(aside) - frameUnder(here);
    fireEvent.wheel(screen.getByRole('group', { name: 'Deck' }), { clientX: here, deltaY: -400 });
    expect(frameUnder(here)).toBeCloseTo(150, 3);
    expect(frameUnder(aside) - frameUnder(here)).toBeCloseTo(before * Math.exp(-0.64), 3);
    const left = frameUnder(here);
    fireEvent.pointerDown(surface, pointerAt(here, 4, { button: 1 }));
    fireEvent.pointerMove(surface, pointerAt(here - 50, 4));
    expect(frameUnder(here - 50)).toBeCloseTo(left, 3);
  });

  test('a post rests on a footfall within reach, on a better seam before that, and with Alt wherever it is put', async () => {
    mockPartners.mockResolvedValue({ ins: [], outs: [218] });
    const { onCut } = deck();
    await screen.findByRole('slider', { name: 'In post' });
    drag(handle('In post'), x(120), x(152));
    expect(onCut).toHaveBeenLastCalledWith({ from: 150, to: 186 }, true);
    drag(handle('In post'), x(120), x(152), { altKey: true });
    expect(onCut).toHaveBeenLastCalledWith({ from: 152, to: 186 }, true);
    await waitFor(() => {
      drag(handle('Out post'), x(186), x(216));
      expect(onCut).toHaveBeenLastCalledWith({ from: 120, to: 218 }, true);
    });
  });

  test('a post cannot pass the other one', () => {
    const { onCut } = deck();
    drag(handle('In post'), x(120), x(260), { altKey: true });
    expect(onCut).toHaveBeenLastCalledWith({ from: 184, to: 186 }, true);
  });

  test('it says what the cut would be as a loop, and opens the other clips of the take', async () => {
    const { onOpenClip } = deck();
    expect(document.querySelector('[data-seam-tag]')?.textContent).toBe('1.10 s · 1.4 cm · 12 cm/s');
    expect(screen.getByRole('button', { name: 'Clip stroll', pressed: true })).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Clip halt' }));
    expect(onOpenClip).toHaveBeenCalledWith('halt');
  });

  test('while time is worked on, threads stand where the traces do', () => {
    deck();
    expect(screen.getByText('hips')).toBeTruthy();
    cleanup();
    deck({ threads: ({ x0 }) => <text>threads from {x0}</text> });
    expect(screen.queryByText('hips')).toBeNull();
    expect(screen.getByText(`threads from ${GUTTER}`)).toBeTruthy();
  });

  test('a take without a cut or contacts has neither posts nor a ribbon', () => {
    deck({ cut: null, rest: null, take: { ...take, contacts: null } as unknown as OpenTake });
    expect(screen.queryByRole('slider')).toBeNull();
    expect(screen.queryByText('L')).toBeNull();
  });
});
