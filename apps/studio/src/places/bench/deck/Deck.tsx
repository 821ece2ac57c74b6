'use client';
import type { LoopCandidate, Seam, Segment } from '@lantern/motion';
import { Box } from '@mui/material';
import { useEffect, useMemo, useRef, useState, type PointerEvent, type ReactNode, type RefObject } from 'react';
import type { ClipDoc } from '@/data/clips-store';
import { chart } from '@/controls/theme';
import { Ribbon } from '@/timeline/Ribbon';
import { useWidth } from '@/timeline/use-width';
import type { ContactSlide, OpenTake } from '@/worker/core.worker';
import { ContactEdges, type ContactBar, type SetContacts } from './ContactEdges';
import { FlawMarks, type Flaw } from './FlawMarks';
import { HAND_ROWS, HandRows } from './HandRows';
import type { RowPlace } from '../layers/row-place';
import { LoopArcs } from './LoopArcs';
import { GUTTER, RULER } from '@/timeline/deck-layout';
import { useAxis } from '@/timeline/axis-window';
import { around, useFollowCut } from './deck-window';
import { ClipStrip, Labels, Ruler, SeamTag, Trace } from './DeckParts';
import { MarginTrace } from './MarginTrace';
import { DeckPlayhead } from './DeckPlayhead';
import { Post } from './Post';
import { SegmentBand } from './SegmentBand';
import { usePartners, type Cut } from '../use-bench';

const READ = 22;
const LOOPS = 66;
/** Where rows of hands and a third trace need room. */
const LOW_LOOPS = 44;
const RIBBON = 50;
const CLIPS = 30;
const NO_CONTACTS = { fps: 60, floorM: 0, left: [], right: [] };
/** Seams that draw a post; the worse ones do not. */
const MOST_SEAMS = 6;

export interface DeckProps {
  readonly take: OpenTake;
  readonly cut: Cut | null;
  /** The cut before it was dragged. */
  readonly rest: Cut | null;
  readonly seam: Seam | null;
  readonly candidates: readonly LoopCandidate[];
  readonly clips: readonly ClipDoc[];
  readonly open: string | null;
  /** Frame of the take at the player's frame. */
  readonly takeFrame: (frame: number) => number;
  readonly onCut: (cut: Cut, isDone: boolean) => void;
  readonly onScrub: (frame: number) => void;
  readonly onTakeLoop: (candidate: LoopCandidate) => void;
  readonly onNearLoop: (candidate: LoopCandidate | null) => void;
  readonly onOpenClip: (id: string) => void;
  /** What is done in the take. */
  readonly segments: readonly Segment[];
  readonly onSegment: (segment: Segment) => void;
  /** Contacts of the open clip that can be set by hand; none when they are not held. */
  readonly contacts: readonly ContactSlide[];
  readonly onContacts: (contacts: SetContacts) => void;
  /** Rests of the open clip's hands; null where its recipe holds none, and where its frames are not those of its cut. */
  readonly hands: readonly ContactBar[] | null;
  readonly onHands: (contacts: SetContacts) => void;
  /** What a cleaning found, frames of the take. */
  readonly flaws: readonly Flaw[];
  readonly onFlaw: (flaw: Flaw) => void;
  /** How far the body's centre is inside its soles, cm, one a frame of the take; null while it is not asked for. */
  readonly balance: Float32Array | null;
  /** Drawn in place of the traces while time is worked on. */
  readonly threads?: (place: ThreadPlace) => ReactNode;
  /** Drawn in place of the traces while the clip is corrected. */
  readonly layers?: (place: RowPlace) => ReactNode;
}

/** Where the threads are drawn. */
export interface ThreadPlace {
  readonly x0: number;
  readonly width: number;
  readonly y: number;
  readonly height: number;
  readonly svg: RefObject<SVGSVGElement | null>;
}

/** One time axis shared by ruler, loop arcs, ribbon, speed, hip height, cut posts and the clips of the take. */
export function Deck(props: DeckProps) {
  const { take, cut, open, onScrub, threads } = props;
  const { frames, fps } = take.motion;
  const [ref, width] = useWidth<HTMLDivElement>();
  const height = useHeight(ref);
  const svg = useRef<SVGSVGElement>(null);
  const axis = useAxis(svg, frames, width, () => around(cut, frames, fps));
  const { span, pan, frameAt, setWindow } = axis;
  useFollowCut(cut, frames, fps, open ?? take.id, setWindow);
  const rows = rowsOf(height, { hasThreads: threads !== undefined, hasHands: props.hands !== null, traces: props.balance ? 3 : 2 });
  return (
    <Box ref={ref} sx={{ height: '100%', overflow: 'hidden', bgcolor: chart('paper') }}>
      {width > 0 && (
        <svg
          ref={svg}
          width={width}
          height={height}
          style={{ display: 'block', touchAction: 'none', userSelect: 'none' }}
          aria-label="Deck"
          role="group"
        >
          <defs>
            <clipPath id="deck-axis">
              <rect x={GUTTER} y={0} width={span + 1} height={height} />
            </clipPath>
          </defs>
          <rect
            x={GUTTER}
            y={0}
            width={span}
            height={height - CLIPS}
            fill="transparent"
            style={{ cursor: 'ew-resize' }}
            data-deck-surface
            onPointerDown={(event) => {
              event.currentTarget.setPointerCapture(event.pointerId);
              if (event.button === 1) return pan.start(event.clientX);
              onScrub(frameAt(event.clientX));
            }}
            onPointerMove={(event: PointerEvent) => {
              if (event.buttons & 4) pan.move(event.clientX);
              else if (event.buttons & 1) onScrub(frameAt(event.clientX));
            }}
          />
          <g clipPath="url(#deck-axis)">
            <AlongTheAxis {...props} axis={axis} rows={rows} />
          </g>
          <Labels
            take={take}
            rows={rows}
            height={height}
            hasBalance={props.balance !== null}
            inPlace={threads ? 'time' : props.layers ? 'layers' : 'traces'}
          />
          {threads?.({ x0: GUTTER, width: span - 14, y: rows.trace + 4, height: height - rows.trace - CLIPS - 8, svg })}
          <Posts {...props} axis={axis} height={rows.posts} />
        </svg>
      )}
    </Box>
  );
}

type Axis = ReturnType<typeof useAxis>;

/** Where the rows of the deck lie. */
interface Rows {
  readonly read: number;
  readonly ribbon: number;
  /** Of the hands; null where there are none. */
  readonly hands: number | null;
  readonly trace: number;
  readonly traceHeight: number;
  /** How far down the posts reach. */
  readonly posts: number;
  readonly clips: number;
}

function rowsOf(
  height: number,
  { hasThreads, hasHands, traces }: { readonly hasThreads: boolean; readonly hasHands: boolean; readonly traces: number },
): Rows {
  const loops = hasHands || traces > 2 ? LOW_LOOPS : LOOPS;
  const ribbon = RULER + READ + loops;
  const hands = ribbon + RIBBON;
  const trace = hands + (hasHands ? HAND_ROWS : 0);
  return {
    read: RULER + 4,
    ribbon,
    hands: hasHands ? hands : null,
    trace,
    traceHeight: Math.max(24, (height - trace - CLIPS - 8) / traces),
    posts: hasThreads ? trace : height - CLIPS,
    clips: height - CLIPS + 5,
  };
}

/** The height that the deck has been given. */
function useHeight(ref: RefObject<HTMLDivElement | null>): number {
  const [height, setHeight] = useState(300);
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => setHeight(Math.max(220, entry.contentRect.height)));
    observer.observe(element);
    return () => observer.disconnect();
  }, [ref]);
  return height;
}

/** All that is drawn along the axis, and cut off at its ends. */
function AlongTheAxis(props: DeckProps & { axis: Axis; rows: Rows }) {
  const { take, cut, seam, candidates, clips, open, takeFrame, onTakeLoop, onNearLoop, onOpenClip, segments, onSegment, axis, rows } =
    props;
  const { contacts, onContacts, hands, onHands, flaws, threads, layers } = props;
  const { window, span, x, frameAt } = axis;
  const { fps } = take.motion;
  const feet = { left: rows.ribbon + 3, right: rows.ribbon + 26 };
  return (
    <>
      {cut && (
        <rect
          x={x(cut.from)}
          y={0}
          width={Math.max(1, x(cut.to) - x(cut.from))}
          height={rows.posts}
          fill={chart('lampSoft')}
          opacity={0.5}
          pointerEvents="none"
        />
      )}
      <Ruler window={window} span={span} x={x} />
      <SegmentBand segments={segments} x={x} y={rows.read} height={READ - 6} right={GUTTER + span} onOpen={onSegment} />
      {take.contacts && (
        <g pointerEvents="none">
          {(['left', 'right'] as const).map((side) => (
            <Ribbon
              key={side}
              contacts={take.contacts ?? NO_CONTACTS}
              side={side}
              x={x}
              y={feet[side]}
              from={window.from}
              to={window.to}
              hasHands={rows.hands === null}
            />
          ))}
        </g>
      )}
      {!threads && !layers && <Traces take={take} balance={props.balance} axis={axis} rows={rows} />}
      <LoopArcs
        candidates={candidates}
        cut={cut}
        window={window}
        x={x}
        y={rows.ribbon - 4}
        height={rows.ribbon - RULER - READ - 16}
        onTake={onTakeLoop}
        onNear={onNearLoop}
      />
      {cut && contacts.length > 0 && (
        <ContactEdges
          noun="contact"
          contacts={contacts}
          offset={cut.from}
          frames={cut.to - cut.from}
          rows={feet}
          x={x}
          frameAt={frameAt}
          onChange={onContacts}
        />
      )}
      {cut && hands && rows.hands !== null && (
        <HandRows contacts={hands} offset={cut.from} frames={cut.to - cut.from} y={rows.hands} x={x} frameAt={frameAt} onChange={onHands} />
      )}
      <FlawMarks flaws={flaws} x={x} y={rows.ribbon - 5} onGo={props.onFlaw} />
      {layers?.({ x, frameAt, x0: GUTTER, width: span, y: rows.trace + 2, height: rows.clips - 7 - rows.trace })}
      <DeckPlayhead x={x} frame={takeFrame} height={rows.posts} />
      <ClipStrip clips={clips} open={open} x={x} y={rows.clips} height={CLIPS - 10} onOpen={onOpenClip} />
      {cut && <SeamTag cut={cut} seam={seam} fps={fps} x={x} y={RULER + READ + 2} />}
    </>
  );
}

function Traces({
  take,
  balance,
  axis: { window, span, x },
  rows: { trace, traceHeight },
}: {
  take: OpenTake;
  balance: Float32Array | null;
  axis: Axis;
  rows: Rows;
}) {
  const shared = { window, span, x, height: traceHeight };
  return (
    <>
      <Trace {...shared} values={take.speed} y={trace} least={0.6} words={(v) => v.toFixed(1)} />
      <Trace {...shared} values={take.hipHeight} y={trace + traceHeight} least={0.04} words={(v) => (v * 100).toFixed(0)} />
      {balance && <MarginTrace values={balance} x={x} span={span} window={window} y={trace + 2 * traceHeight} height={traceHeight} />}
    </>
  );
}

/** The posts of the cut; within reach each goes to the best seam with the other, else to a footfall. */
function Posts({ take, cut, rest, onCut, axis, height }: DeckProps & { axis: Axis; height: number }) {
  const { span, window, x, frameAt } = axis;
  const { frames } = take.motion;
  const falls = useMemo(
    () => (take.contacts ? [...take.contacts.left, ...take.contacts.right].map(({ from }) => from).filter((f) => f > 0) : []),
    [take.contacts],
  );
  const partners = usePartners(take.id, rest);
  const snapTo = (seams: readonly number[]) => (frame: number, isFree: boolean) => {
    const whole = Math.min(frames - 1, Math.max(0, Math.round(frame)));
    if (isFree) return whole;
    const reach = (9 / span) * (window.to - window.from);
    const nearest = (places: readonly number[]) =>
      places.reduce((best, f) => (Math.abs(f - frame) < Math.abs(best - frame) ? f : best), Infinity);
    return [nearest(seams.slice(0, MOST_SEAMS)), nearest(falls)].find((f) => Math.abs(f - frame) <= reach) ?? whole;
  };
  if (!cut) return null;
  const shared = { height, frameAt };
  return (
    <>
      <Post
        {...shared}
        name="In post"
        frame={cut.from}
        least={0}
        most={cut.to - 2}
        x={x(cut.from)}
        snap={snapTo(partners.ins)}
        onMove={(frame, isDone) => onCut({ from: Math.min(frame, cut.to - 2), to: cut.to }, isDone)}
      />
      <Post
        {...shared}
        name="Out post"
        frame={cut.to}
        least={cut.from + 2}
        most={frames - 1}
        x={x(cut.to)}
        snap={snapTo(partners.outs)}
        onMove={(frame, isDone) => onCut({ from: cut.from, to: Math.max(frame, cut.from + 2) }, isDone)}
      />
    </>
  );
}
