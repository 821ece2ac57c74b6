'use client';
import { Box } from '@mui/material';
import type { Marker } from '@lantern/motion';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type MouseEvent, type PointerEvent, type ReactNode } from 'react';
import { usePlayer } from '@/data/player';
import { Small } from '@/controls/Small';
import { chart } from '@/controls/theme';
import type { OpenTake } from '@/worker/core.worker';
import { clampWindow, useAxis } from './axis-window';
import { GUTTER } from './deck-layout';
import { MarkerFlags } from './MarkerFlags';
import { Playhead } from './Playhead';
import { Ribbon, SideMark } from './Ribbon';
import { rulerOf, type RulerUnit } from './ruler';
import { RulerMenu } from './RulerMenu';
import { TRACE, TraceRow, type TraceLine } from './TraceRow';
import { useWidth } from './use-width';

const RULER = 24;
const RIBBON = 44;

interface Props {
  readonly take: OpenTake;
  readonly traces: readonly TraceLine[];
  readonly markers: readonly Marker[];
  readonly onMarkers: (markers: readonly Marker[]) => void;
  readonly menu: ReactNode;
}

/**
 * A take's time axis: ruler in seconds, frames or strides, footfall ribbon, chosen traces with their value at the playhead, markers.
 * Drag scrubs, wheel zooms at the pointer, middle-drag pans, Shift-drag marks a range to play round and round.
 */
export function TakeDeck({ take, traces, markers, onMarkers, menu }: Props) {
  const { frames } = take.motion;
  const [ref, width] = useWidth<HTMLDivElement>();
  const svg = useRef<SVGSVGElement>(null);
  const axis = useAxis(svg, frames, width, () => ({ from: 0, to: Math.max(12, frames - 1) }));
  const { span, x } = axis;
  const [unit, setUnit] = useState<RulerUnit>('seconds');
  const height = RULER + RIBBON + traces.length * TRACE + 8;
  const pointer = useScrub(axis, frames);
  useEffect(() => usePlayer.subscribe(({ frame }) => svg.current?.setAttribute('aria-valuenow', String(Math.round(frame)))), []);
  return (
    <Box sx={{ borderTop: `1px solid ${chart('rule')}` }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5, px: 1, height: 26 }}>
        <RulerMenu unit={unit} onUnit={setUnit} hasStrides={take.stride !== null} />
        {menu}
        <Box sx={{ flex: 1 }} />
        <DeckActs take={take} axis={axis} onMarker={() => onMarkers(withMarker(markers, Math.round(usePlayer.getState().frame)))} />
      </Box>
      <Box ref={ref} sx={{ height, position: 'relative' }}>
        {width > 0 && (
          <svg
            ref={svg}
            width={width}
            height={height}
            style={{ display: 'block', cursor: 'ew-resize', touchAction: 'none' }}
            role="slider"
            tabIndex={0}
            aria-label="Time"
            aria-valuemin={0}
            aria-valuemax={frames - 1}
            aria-valuenow={0}
            {...pointer}
          >
            <AxisDrawing take={take} traces={traces} axis={axis} unit={unit} width={width} height={height} />
          </svg>
        )}
        <MarkerFlags
          markers={markers}
          x={x}
          from={GUTTER}
          to={GUTTER + span}
          at={() => usePlayer.getState().frame}
          onGo={usePlayer.getState().seek}
          onMarkers={onMarkers}
        />
      </Box>
    </Box>
  );
}

type Axis = ReturnType<typeof useAxis>;

/** What a pointer and keys do on the axis: scrub, pan, mark a range. */
function useScrub({ pan, frameAt }: Axis, frames: number) {
  const dragged = useRef<number | null>(null);
  const { seek, setRange } = usePlayer.getState();
  return {
    // A pointer scrubs without taking the focus, and its ring, from what had it.
    onMouseDown: (event: MouseEvent) => event.preventDefault(),
    onPointerDown: (event: PointerEvent<SVGSVGElement>) => {
      event.currentTarget.setPointerCapture(event.pointerId);
      if (event.button === 1) return pan.start(event.clientX);
      const frame = frameAt(event.clientX);
      dragged.current = event.shiftKey ? frame : null;
      if (!event.shiftKey) seek(frame);
    },
    onPointerMove: (event: PointerEvent<SVGSVGElement>) => {
      if (event.buttons & 4) return pan.move(event.clientX);
      if (!(event.buttons & 1)) return;
      const frame = frameAt(event.clientX);
      if (dragged.current === null) return seek(frame);
      const [from, to] = [dragged.current, frame].sort((a, b) => a - b).map((f) => Math.round(Math.min(frames - 1, Math.max(0, f))));
      if (to - from > 1) setRange({ from, to });
    },
    onKeyDown: (event: KeyboardEvent) => {
      const { fps, frame } = usePlayer.getState();
      const by = { ArrowLeft: -1, ArrowRight: 1, PageUp: -fps, PageDown: fps }[event.key];
      if (by === undefined) return;
      event.preventDefault();
      seek(Math.round(frame) + by);
    },
  };
}

/** The range that is played, a marker at the playhead, and how much of the take is seen. */
function DeckActs({ take, axis: { setWindow }, onMarker }: { take: OpenTake; axis: Axis; onMarker: () => void }) {
  const { frames, fps } = take.motion;
  const range = usePlayer((state) => state.range);
  const zoom = (factor: number) =>
    setWindow(({ from, to }) => {
      const at = Math.min(to, Math.max(from, usePlayer.getState().frame));
      return clampWindow({ from: at - (at - from) * factor, to: at + (to - at) * factor }, frames);
    });
  return (
    <>
      {range && (
        <Small onClick={() => usePlayer.getState().setRange(null)}>
          playing {(range.from / fps).toFixed(2)}–{(range.to / fps).toFixed(2)} s round ×
        </Small>
      )}
      <Small onClick={onMarker}>marker</Small>
      <Small name="Zoom out" onClick={() => zoom(1.6)}>
        −
      </Small>
      <Small name="Zoom in" onClick={() => zoom(1 / 1.6)}>
        +
      </Small>
      <Small onClick={() => setWindow({ from: 0, to: Math.max(12, frames - 1) })}>whole take</Small>
    </>
  );
}

interface Drawing extends Pick<Props, 'take' | 'traces'> {
  readonly axis: Axis;
  readonly unit: RulerUnit;
  readonly width: number;
  readonly height: number;
}

/** All that is drawn along the axis. */
function AxisDrawing({ take, traces, axis, unit, width, height }: Drawing) {
  const { window, span, x } = axis;
  const range = usePlayer((state) => state.range);
  const ruler = useMemo(() => rulerOf(unit, take, window, span), [unit, take, window, span]);
  return (
    <>
      <defs>
        <clipPath id="take-axis">
          <rect x={GUTTER} y={0} width={span + 1} height={height} />
        </clipPath>
      </defs>
      <text x={14} y={17} fontSize={12} fill={chart('faint')}>
        {unit}
      </text>
      <g clipPath="url(#take-axis)">
        {range && (
          <rect
            x={x(range.from)}
            y={0}
            width={Math.max(2, x(range.to) - x(range.from))}
            height={height}
            fill={chart('lampSoft')}
            opacity={0.7}
          />
        )}
        <g fontSize={12} fill={chart('faint')}>
          {ruler.map(({ frame, label }) => (
            <g key={frame}>
              <line x1={x(frame)} x2={x(frame)} y1={label ? 10 : 18} y2={RULER} stroke={chart('faint')} />
              {label && (
                <text x={x(frame) + 4} y={17}>
                  {label}
                </text>
              )}
            </g>
          ))}
        </g>
        {take.contacts && (
          <>
            <Ribbon contacts={take.contacts} side="left" x={x} y={RULER + 5} from={window.from} to={window.to} />
            <Ribbon contacts={take.contacts} side="right" x={x} y={RULER + 25} from={window.from} to={window.to} />
          </>
        )}
      </g>
      <line x1={0} x2={width} y1={RULER} y2={RULER} stroke={chart('rule')} />
      {take.contacts && (
        <>
          <SideMark side="left" x={14} y={RULER + 12} />
          <SideMark side="right" x={14} y={RULER + 32} />
        </>
      )}
      {traces.map((trace, i) => (
        <TraceRow key={trace.id} trace={trace} y={RULER + RIBBON + i * TRACE} window={window} width={width} x={x} />
      ))}
      <g clipPath="url(#take-axis)">
        <Playhead x={x} height={height} />
      </g>
    </>
  );
}

/** The markers with a new one at a frame, or as they are when one is there. */
export const withMarker = (markers: readonly Marker[], frame: number): readonly Marker[] =>
  markers.some((marker) => marker.frame === frame)
    ? markers
    : [...markers, { frame, name: freeMarkerName(markers) }].sort((a, b) => a.frame - b.frame);

function freeMarkerName(markers: readonly Marker[]): string {
  for (let n = 1; ; n++) if (!markers.some(({ name }) => name === `marker ${n}`)) return `marker ${n}`;
}
