'use client';
import type { LoopCandidate, Seam } from '@lantern/motion';
import { Box } from '@mui/material';
import { useCallback, useEffect, useMemo, useRef, useState, type PointerEvent } from 'react';
import type { ClipDoc } from '@/data/clips-store';
import { numeral } from '@/shell/Figure';
import { chart } from '@/shell/theme';
import { rulerTicks, tracePath } from '@/timeline/paths';
import { Ribbon, SideMark } from '@/timeline/Ribbon';
import { useWidth } from '@/timeline/use-width';
import type { OpenTake } from '@/worker/core.worker';
import { LoopArcs } from './LoopArcs';
import { DeckPlayhead } from './DeckPlayhead';
import { Post } from './Post';
import type { Cut } from './use-bench';

const GUTTER = 72;
const RIGHT = 14;
const RULER = 26;
const LOOPS = 66;
const RIBBON = 50;
const CLIPS = 30;

interface Window {
  readonly from: number;
  readonly to: number;
}

export interface DeckProps {
  readonly take: OpenTake;
  readonly cut: Cut | null;
  readonly seam: Seam | null;
  readonly candidates: readonly LoopCandidate[];
  readonly clips: readonly ClipDoc[];
  readonly open: string | null;
  /** Frame of the take at the player's frame. */
  readonly takeFrame: (frame: number) => number;
  readonly onCut: (cut: Cut, isDone: boolean) => void;
  readonly onScrub: (frame: number) => void;
  readonly onTakeLoop: (candidate: LoopCandidate) => void;
  readonly onOpenClip: (id: string) => void;
}

/** One time axis shared by ruler, loop arcs, ribbon, speed, hip height, cut posts and the clips of the take. */
export function Deck(props: DeckProps) {
  const { take, cut, seam, candidates, clips, open, takeFrame, onCut, onScrub, onTakeLoop, onOpenClip } = props;
  const { frames, fps } = take.motion;
  const [ref, width] = useWidth<HTMLDivElement>();
  const [height, setHeight] = useState(300);
  const svg = useRef<SVGSVGElement>(null);
  const [window, setWindow] = useState<Window>(() => around(cut, frames, fps));
  useFollowCut(cut, frames, fps, open ?? take.id, setWindow);
  useWheelZoom(svg, setWindow, frames, width);
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => setHeight(Math.max(220, entry.contentRect.height)));
    observer.observe(element);
    return () => observer.disconnect();
  }, [ref]);

  const span = Math.max(1, width - GUTTER - RIGHT);
  const x = useCallback((frame: number) => GUTTER + ((frame - window.from) / (window.to - window.from)) * span, [window, span]);
  const frameAt = useCallback(
    (clientX: number) => {
      const left = svg.current?.getBoundingClientRect().left ?? 0;
      return window.from + ((clientX - left - GUTTER) / span) * (window.to - window.from);
    },
    [window, span],
  );
  const falls = useMemo(
    () => (take.contacts ? [...take.contacts.left, ...take.contacts.right].map(({ from }) => from).filter((f) => f > 0) : []),
    [take.contacts],
  );
  const snap = (frame: number, isFree: boolean) => {
    const whole = Math.min(frames - 1, Math.max(0, Math.round(frame)));
    if (isFree) return whole;
    const reach = (9 / span) * (window.to - window.from);
    const near = falls.reduce((best, f) => (Math.abs(f - frame) < Math.abs(best - frame) ? f : best), Infinity);
    return Math.abs(near - frame) <= reach ? near : whole;
  };
  const moveIn = (frame: number, isDone: boolean) => cut && onCut({ from: Math.min(frame, cut.to - 2), to: cut.to }, isDone);
  const moveOut = (frame: number, isDone: boolean) => cut && onCut({ from: cut.from, to: Math.max(frame, cut.from + 2) }, isDone);

  const ribbonY = RULER + LOOPS;
  const traceY = ribbonY + RIBBON;
  const traceHeight = Math.max(30, (height - traceY - CLIPS - 8) / 2);
  const pan = usePan(setWindow, frames, span);

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
            {cut && (
              <rect
                x={x(cut.from)}
                y={0}
                width={Math.max(1, x(cut.to) - x(cut.from))}
                height={height - CLIPS}
                fill={chart('lampSoft')}
                opacity={0.5}
                pointerEvents="none"
              />
            )}
            <Ruler window={window} span={span} x={x} />
            {take.contacts && (
              <g pointerEvents="none">
                <Ribbon contacts={take.contacts} side="left" x={x} y={ribbonY + 3} from={window.from} to={window.to} />
                <Ribbon contacts={take.contacts} side="right" x={x} y={ribbonY + 26} from={window.from} to={window.to} />
              </g>
            )}
            <Trace
              values={take.speed}
              window={window}
              span={span}
              x={x}
              y={traceY}
              height={traceHeight}
              least={0.6}
              words={(v) => v.toFixed(1)}
            />
            <Trace
              values={take.hipHeight}
              window={window}
              span={span}
              x={x}
              y={traceY + traceHeight}
              height={traceHeight}
              least={0.04}
              words={(v) => (v * 100).toFixed(0)}
            />
            <LoopArcs candidates={candidates} cut={cut} window={window} x={x} y={ribbonY - 4} height={LOOPS - 16} onTake={onTakeLoop} />
            <DeckPlayhead x={x} frame={takeFrame} height={height - CLIPS} />
            <ClipStrip clips={clips} open={open} x={x} y={height - CLIPS + 5} height={CLIPS - 10} onOpen={onOpenClip} />
            {cut && <SeamTag cut={cut} seam={seam} fps={fps} x={x} y={RULER + 4} />}
          </g>
          <Labels take={take} ribbonY={ribbonY} traceY={traceY} traceHeight={traceHeight} height={height} />
          {cut && (
            <>
              <Post
                name="In post"
                frame={cut.from}
                least={0}
                most={cut.to - 2}
                x={x(cut.from)}
                height={height - CLIPS}
                frameAt={frameAt}
                snap={snap}
                onMove={moveIn}
              />
              <Post
                name="Out post"
                frame={cut.to}
                least={cut.from + 2}
                most={frames - 1}
                x={x(cut.to)}
                height={height - CLIPS}
                frameAt={frameAt}
                snap={snap}
                onMove={moveOut}
              />
            </>
          )}
        </svg>
      )}
    </Box>
  );
}

function Labels({
  take,
  ribbonY,
  traceY,
  traceHeight,
  height,
}: {
  take: OpenTake;
  ribbonY: number;
  traceY: number;
  traceHeight: number;
  height: number;
}) {
  const words: [string, number][] = [
    ['frames', 17],
    ['loops', RULER + 26],
    ['speed', traceY + traceHeight * 0.5],
    ['m/s', traceY + traceHeight * 0.5 + 13],
    ['hips', traceY + traceHeight * 1.5],
    ['cm', traceY + traceHeight * 1.5 + 13],
    ['clips', height - 11],
  ];
  return (
    <g fontSize={12.5} fill={chart('faint')} pointerEvents="none">
      {words.map(([word, y]) => (
        <text key={word} x={14} y={y}>
          {word}
        </text>
      ))}
      {take.contacts && (
        <>
          <SideMark side="left" x={14} y={ribbonY + 9} />
          <SideMark side="right" x={14} y={ribbonY + 32} />
        </>
      )}
    </g>
  );
}

function Ruler({ window, span, x }: { window: Window; span: number; x: (frame: number) => number }) {
  const { step, minor, first } = rulerTicks(window.from, window.to, span, 64);
  const ticks: number[] = [];
  for (let frame = first - step; frame <= window.to; frame += minor) if (frame >= window.from) ticks.push(Math.round(frame));
  return (
    <g fontSize={12} fill={chart('faint')} pointerEvents="none">
      {ticks.map((frame) => {
        const isMajor = frame % step === 0;
        return (
          <g key={frame}>
            <line x1={x(frame)} x2={x(frame)} y1={isMajor ? 8 : 18} y2={RULER} stroke={chart('faint')} opacity={isMajor ? 1 : 0.5} />
            {isMajor && (
              <text x={x(frame) + 4} y={16}>
                {frame}
              </text>
            )}
          </g>
        );
      })}
      <line x1={0} x2={GUTTER + span} y1={RULER} y2={RULER} stroke={chart('rule')} />
    </g>
  );
}

/** A trace with its range said at the right; `least` is the smallest range that fills the height. */
function Trace({
  values,
  window,
  span,
  x,
  y,
  height,
  least,
  words,
}: {
  values: Float32Array;
  window: Window;
  span: number;
  x: (frame: number) => number;
  y: number;
  height: number;
  least: number;
  words: (value: number) => string;
}) {
  const { path, low, high } = useMemo(() => {
    let low = Infinity;
    let high = -Infinity;
    for (let f = Math.max(0, Math.floor(window.from)); f <= Math.min(values.length - 1, window.to); f++) {
      low = Math.min(low, values[f]);
      high = Math.max(high, values[f]);
    }
    const range = Math.max(high - low, least);
    const bottom = (low + high - range) / 2;
    return {
      low,
      high,
      path: tracePath(values, window.from, window.to, span, x, (v) => y + height - 8 - ((v - bottom) / range) * (height - 18)),
    };
  }, [values, window, span, x, y, height, least]);
  return (
    <g pointerEvents="none">
      <line x1={GUTTER} x2={GUTTER + span} y1={y + height} y2={y + height} stroke={chart('rule')} />
      <path d={path} fill="none" stroke={chart('ink')} strokeWidth={1.4} strokeLinejoin="round" />
      <g fontSize={11.5} fill={chart('faint')} textAnchor="end" stroke={chart('paper')} strokeWidth={3} paintOrder="stroke">
        <text x={GUTTER + span - 3} y={y + 12}>
          {words(high)}
        </text>
        <text x={GUTTER + span - 3} y={y + height - 3}>
          {words(low)}
        </text>
      </g>
    </g>
  );
}

/** What the cut would be as a loop, said beside it while it is made. */
function SeamTag({ cut, seam, fps, x, y }: { cut: Cut; seam: Seam | null; fps: number; x: (frame: number) => number; y: number }) {
  const text = `${((cut.to - cut.from) / fps).toFixed(2)} s${seam ? ` · ${seam.poseCm.toFixed(1)} cm · ${numeral(seam.velocityCmS, 0)} cm/s` : ''}`;
  return (
    <text
      x={(x(cut.from) + x(cut.to)) / 2}
      y={y + 9}
      textAnchor="middle"
      fontSize={13}
      fontWeight={700}
      fill={chart('ink')}
      pointerEvents="none"
      data-seam-tag
      stroke={chart('paper')}
      strokeWidth={3.5}
      paintOrder="stroke"
    >
      {text}
    </text>
  );
}

function ClipStrip({
  clips,
  open,
  x,
  y,
  height,
  onOpen,
}: {
  clips: readonly ClipDoc[];
  open: string | null;
  x: (frame: number) => number;
  y: number;
  height: number;
  onOpen: (id: string) => void;
}) {
  return (
    <g>
      {clips.map(({ id, name, from, to }) => {
        const width = Math.max(8, x(to) - x(from));
        return (
          <g
            key={id}
            role="button"
            tabIndex={0}
            aria-label={`Clip ${name}`}
            aria-pressed={id === open}
            style={{ cursor: 'pointer' }}
            onClick={() => onOpen(id)}
            onKeyDown={(event) => event.key === 'Enter' && onOpen(id)}
          >
            <rect x={x(from)} y={y} width={width} height={height} rx={2} fill={chart(id === open ? 'lamp' : 'rule')} />
            {width > 40 && (
              <text
                x={x(from) + 6}
                y={y + height - 5.5}
                fontSize={12.5}
                fontWeight={id === open ? 700 : 400}
                fill={id === open ? '#1F2A2E' : chart('ink')}
              >
                {name.slice(0, Math.floor(width / 7))}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}

/** About four cycles round the cut, or the whole take. */
function around(cut: Cut | null, frames: number, fps: number): Window {
  if (!cut) return { from: 0, to: Math.max(2, Math.min(frames - 1, 20 * fps)) };
  const margin = Math.max(fps, (cut.to - cut.from) * 1.6);
  return clampWindow({ from: cut.from - margin, to: cut.to + margin }, frames);
}

function clampWindow({ from, to }: Window, frames: number): Window {
  const span = Math.min(Math.max(12, to - from), Math.max(12, frames - 1));
  const start = Math.min(Math.max(0, from), Math.max(0, frames - 1 - span));
  return { from: start, to: start + span };
}

/** Another clip, or a cut that has left the window, brings the window with it. */
function useFollowCut(
  cut: Cut | null,
  frames: number,
  fps: number,
  key: string,
  setWindow: (change: (window: Window) => Window) => void,
): void {
  const shown = useRef<string | null>(null);
  useEffect(() => {
    if (shown.current !== key) {
      shown.current = key;
      setWindow(() => around(cut, frames, fps));
    } else if (cut) {
      setWindow((window) => (cut.to < window.from || cut.from > window.to ? around(cut, frames, fps) : window));
    }
  }, [cut, frames, fps, key, setWindow]);
}

function useWheelZoom(
  svg: React.RefObject<SVGSVGElement | null>,
  setWindow: (change: (window: Window) => Window) => void,
  frames: number,
  width: number,
): void {
  useEffect(() => {
    const element = svg.current;
    if (!element) return;
    const zoom = (event: WheelEvent) => {
      event.preventDefault();
      const share = Math.min(
        1,
        Math.max(0, (event.clientX - element.getBoundingClientRect().left - GUTTER) / Math.max(1, width - GUTTER - RIGHT)),
      );
      setWindow(({ from, to }) => {
        if (event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY)) {
          const by = ((event.deltaX || event.deltaY) / width) * (to - from);
          return clampWindow({ from: from + by, to: to + by }, frames);
        }
        const factor = Math.exp(event.deltaY * 0.0016);
        const at = from + share * (to - from);
        return clampWindow({ from: at - (at - from) * factor, to: at + (to - at) * factor }, frames);
      });
    };
    element.addEventListener('wheel', zoom, { passive: false });
    return () => element.removeEventListener('wheel', zoom);
  }, [svg, setWindow, frames, width]);
}

function usePan(setWindow: (change: (window: Window) => Window) => void, frames: number, span: number) {
  const last = useRef(0);
  return {
    start: (clientX: number) => {
      last.current = clientX;
    },
    move: (clientX: number) => {
      const pixels = last.current - clientX;
      last.current = clientX;
      setWindow(({ from, to }) => {
        const by = (pixels / span) * (to - from);
        return clampWindow({ from: from + by, to: to + by }, frames);
      });
    },
  };
}
