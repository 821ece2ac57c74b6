'use client';
import type { JoinPiece } from '@lantern/motion';
import { Box } from '@mui/material';
import { useCallback, useMemo, useRef, type RefObject } from 'react';
import { chart } from '@/controls/theme';
import { usePlayer } from '@/data/player';
import { clampWindow, useAxis, type Axis } from '@/timeline/axis-window';
import { GUTTER, RULER } from '@/timeline/deck-layout';
import { Playhead } from '@/timeline/Playhead';
import { ScrubSurface } from '@/timeline/ScrubSurface';
import { useHeight } from '@/timeline/use-height';
import { useWidth } from '@/timeline/use-width';
import { ticks } from '@/timeline/ticks';
import { DeckHead } from './DeckHead';
import { GroundRows } from './GroundRows';
import { MarkRow } from './MarkRow';
import { Plaques } from './Plaques';
import { joinRows, type JoinRows } from './rows';
import { SailHandles } from './SailHandles';
import { Sails } from './Sails';
import type { Joinery } from './use-joinery';

/** Handles come to rest on what is so near, pixels. */
const SNAP = 7;

/** Where on the deck a piece is about to be dropped. */
export interface DropPlace {
  readonly index: number;
  readonly frame: number;
}

interface Props {
  readonly joinery: Joinery;
  readonly nameOf: (piece: JoinPiece) => string;
  /** Where what is dragged would come. */
  readonly drop: DropPlace | null;
  /** Told which frame is under a point of the window, for what is dropped here; null beside the deck. */
  readonly under: RefObject<((x: number, y: number) => number | null) | null>;
}

/** The join over one time axis: marks, sails, what is said of each crossing, the height of the hips and the ground. */
export function JoinDeck({ joinery, nameOf, drop, under }: Props) {
  const { doc, laid, view } = joinery;
  const frames = Math.max(laid.frames, 60);
  const [ref, width] = useWidth<HTMLDivElement>();
  const height = useHeight(ref, 200);
  const svg = useRef<SVGSVGElement>(null);
  const axis = useAxis(svg, frames, width, () => ({ from: 0, to: frames - 1 }));
  const deck = useRef<HTMLDivElement>(null);
  const whole = useWholeWhile(axis, Math.max(joinery.base.laid.frames, 60), doc?.id ?? '');
  const rows = joinRows(height);
  const snap = useSnap(joinery, axis);
  under.current = (clientX, clientY) => {
    const box = deck.current?.getBoundingClientRect();
    const isOver = box && clientX >= box.left && clientX <= box.right && clientY >= box.top && clientY <= box.bottom;
    return isOver ? axis.frameAt(clientX) : null;
  };
  const { span, x } = axis;
  const zoom = (factor: number) => {
    whole.leave();
    axis.setWindow(({ from, to }) => {
      const at = Math.min(to, Math.max(from, usePlayer.getState().frame));
      return clampWindow({ from: at - (at - from) * factor, to: at + (to - at) * factor }, frames);
    });
  };
  const scrub = (frame: number) => {
    const { playing, toggle, seek } = usePlayer.getState();
    if (playing) toggle();
    seek(Math.round(frame));
  };
  return (
    <Box ref={deck} sx={{ height: '100%', display: 'flex', flexDirection: 'column', bgcolor: chart('paper'), minWidth: 0 }}>
      <DeckHead joinery={joinery} onZoom={zoom} onWhole={whole.set} />
      <Box
        ref={ref}
        sx={{
          flex: 1,
          minHeight: 0,
          position: 'relative',
          overflow: 'hidden',
          '& g:focus:not(:focus-visible)': { outline: 'none' },
        }}
        onWheel={whole.leave}
      >
        {width > 0 && (
          <>
            <svg
              ref={svg}
              width={width}
              height={height}
              style={{ display: 'block', touchAction: 'none', userSelect: 'none' }}
              aria-label="Join"
              role="group"
            >
              <Defs span={span} height={height} />
              <ScrubSurface axis={axis} height={height} onScrub={scrub} onPan={whole.leave} />
              <g clipPath="url(#join-axis)">
                <Ruler axis={axis} fps={view?.motion.fps ?? 60} />
                <GroundRows joinery={joinery} axis={axis} rows={rows} />
                <Sails joinery={joinery} axis={axis} rows={rows} nameOf={nameOf} />
                <SailHandles joinery={joinery} axis={axis} rows={rows} snap={snap} nameOf={(i) => (doc ? nameOf(doc.pieces[i]) : '')} />
                <MarkRow joinery={joinery} axis={axis} rows={rows} snap={snap} />
                {drop && (
                  <line
                    x1={x(drop.frame)}
                    x2={x(drop.frame)}
                    y1={rows.full - 6}
                    y2={rows.none + 6}
                    stroke={chart('lamp')}
                    strokeWidth={3}
                  />
                )}
                <Playhead x={x} height={height} />
              </g>
              <Labels rows={rows} />
            </svg>
            <Plaques joinery={joinery} axis={axis} rows={rows} />
          </>
        )}
      </Box>
    </Box>
  );
}

/**
 * All of the join stays in sight until somebody zooms or pans.
 *
 * @param frames of the join without what is being dragged: the axis stands still under the pointer
 */
function useWholeWhile(axis: Axis, frames: number, join: string) {
  const isWhole = useRef(true);
  const shown = useRef('');
  const { setWindow } = axis;
  const key = `${join} ${frames}`;
  if (shown.current !== key) {
    if (!shown.current.startsWith(`${join} `)) isWhole.current = true;
    shown.current = key;
    if (isWhole.current && (axis.window.to !== frames - 1 || axis.window.from !== 0)) setWindow(() => ({ from: 0, to: frames - 1 }));
  }
  return {
    set: () => {
      isWhole.current = true;
      setWindow(() => ({ from: 0, to: frames - 1 }));
    },
    leave: () => {
      isWhole.current = false;
    },
  };
}

/** Where a handle comes to rest: on footfalls, on ends of pieces, on marks and on the playhead; with Alt, or when snapping is off, on whole frames. */
function useSnap({ base: { doc, laid, view }, snaps }: Joinery, axis: Axis): (frame: number, isFree: boolean) => number {
  const rests = useMemo(() => {
    const falls = view ? [...view.contacts.left, ...view.contacts.right].map(({ from }) => from) : [];
    const ends = laid.placed.flatMap(({ from, to }) => [from, to]);
    const marks = (doc?.pieces ?? []).flatMap((piece, i) => piece.marks.map(({ at }) => (laid.placed[i]?.start ?? 0) + at));
    return [...falls, ...ends, ...marks];
  }, [view, laid, doc]);
  const perFrame = axis.span / Math.max(1, axis.window.to - axis.window.from);
  return useCallback(
    (frame, isFree) => {
      if (isFree || !snaps) return Math.round(frame);
      let best = Math.round(frame);
      let nearest = SNAP / perFrame;
      for (const rest of [...rests, Math.round(usePlayer.getState().frame)])
        if (Math.abs(rest - frame) < nearest) [best, nearest] = [rest, Math.abs(rest - frame)];
      return best;
    },
    [rests, snaps, perFrame],
  );
}

function Defs({ span, height }: { span: number; height: number }) {
  return (
    <defs>
      <clipPath id="join-axis">
        <rect x={GUTTER - 6} y={0} width={span + 12} height={height} />
      </clipPath>
      {(['sail', 'sail-lit'] as const).map((id) => (
        <linearGradient key={id} id={id} x1="0" y1="0" x2="0" y2="1">
          <stop offset="0" style={{ stopColor: chart(id === 'sail' ? 'card' : 'lampSoft') }} stopOpacity={0.92} />
          <stop offset="1" style={{ stopColor: chart(id === 'sail' ? 'rule' : 'lamp') }} stopOpacity={0.55} />
        </linearGradient>
      ))}
    </defs>
  );
}

/** Frames, and between them the seconds. */
function Ruler({ axis: { window, span, x }, fps }: { axis: Axis; fps: number }) {
  return (
    <g fontSize={12} fill={chart('faint')} pointerEvents="none">
      {ticks(window.from, window.to, span, 74).map(({ at, isLabelled }) => (
        <g key={at}>
          <line x1={x(at)} x2={x(at)} y1={isLabelled ? 8 : 18} y2={RULER} stroke={chart('faint')} opacity={isLabelled ? 1 : 0.5} />
          {isLabelled && (
            <text x={x(at) + 4} y={16}>
              <tspan fill={chart('ink')}>{at}</tspan>
              {at > 0 && <tspan dx={5}>{(at / fps).toFixed(at % fps === 0 ? 0 : 1)} s</tspan>}
            </text>
          )}
        </g>
      ))}
      <line x1={0} x2={GUTTER + span} y1={RULER} y2={RULER} stroke={chart('rule')} />
    </g>
  );
}

function Labels({ rows }: { rows: JoinRows }) {
  const words: readonly (readonly [string, number])[] = [
    ['frames', 17],
    ['marks', rows.marks + 17],
    ['full', rows.full + 5],
    ['weight', (rows.full + rows.none) / 2 + 4],
    ['none', rows.none + 2],
    ['hips', rows.height + (rows.ground - rows.height) / 2 + 2],
    ['ground', rows.ground + (rows.bottom - rows.ground) / 2 + 2],
  ];
  return (
    <g fontSize={12.5} fill={chart('faint')} pointerEvents="none">
      {words.map(([word, y]) => (
        <text key={word} x={14} y={y}>
          {word}
        </text>
      ))}
    </g>
  );
}
