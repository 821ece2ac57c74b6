'use client';
import { Box } from '@mui/material';
import { useRef } from 'react';
import { chart } from '@/controls/theme';
import { usePlayer } from '@/data/player';
import { MarkerFlags } from '@/timeline/MarkerFlags';
import { Ribbon } from '@/timeline/Ribbon';
import { ScrubSurface } from '@/timeline/ScrubSurface';
import { useHeight } from '@/timeline/use-height';
import { useWidth } from '@/timeline/use-width';
import type { OpenTake } from '@/worker/core.worker';
import { ContactEdges } from './ContactEdges';
import { FlawMarks } from './FlawMarks';
import { HAND_ROWS, HandRows } from './HandRows';
import { LoopArcs } from './LoopArcs';
import { GUTTER, RULER } from '@/timeline/deck-layout';
import { useAxis, type Axis } from '@/timeline/axis-window';
import type { DeckProps } from './deck-props';
import { around, useFollowCut } from './deck-window';
import { ClipStrip, Labels, Ruler, SeamTag, Trace } from './DeckParts';
import { MarginTrace } from './MarginTrace';
import { DeckPlayhead } from './DeckPlayhead';
import { Posts } from './Posts';
import { SegmentBand } from './SegmentBand';

const READ = 22;
const LOOPS = 66;
/** Where rows of hands and a third trace need room. */
const LOW_LOOPS = 44;
const RIBBON = 50;
const CLIPS = 30;
const NO_CONTACTS = { fps: 60, floorM: 0, left: [], right: [] };

/** One time axis shared by ruler, loop arcs, ribbon, speed, hip height, cut posts and the clips of the take. */
export function Deck(props: DeckProps) {
  const { take, cut, open, onScrub, threads } = props;
  const { frames, fps } = take.motion;
  const [ref, width] = useWidth<HTMLDivElement>();
  const height = useHeight(ref, 220);
  const svg = useRef<SVGSVGElement>(null);
  const axis = useAxis(svg, frames, width, () => around(cut, frames, fps));
  const { span, setWindow } = axis;
  useFollowCut(cut, frames, fps, open ?? take.id, setWindow);
  const rows = rowsOf(height, { hasThreads: threads !== undefined, hasHands: props.hands !== null, traces: props.balance ? 3 : 2 });
  return (
    <Box ref={ref} sx={{ position: 'relative', height: '100%', overflow: 'hidden', bgcolor: chart('paper') }}>
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
          <ScrubSurface axis={axis} height={height - CLIPS} onScrub={onScrub} />
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
      <MarkerFlags
        markers={props.markers}
        x={axis.x}
        from={GUTTER}
        to={GUTTER + span}
        bottom={CLIPS}
        at={() => props.takeFrame(usePlayer.getState().frame)}
        onGo={onScrub}
        onMarkers={props.onMarkers}
      />
    </Box>
  );
}

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
      <ClipStrip clips={clips} open={open} window={window} x={x} y={rows.clips} height={CLIPS - 10} onOpen={onOpenClip} />
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
