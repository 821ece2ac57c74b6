'use client';
import { Box } from '@mui/material';
import type { Marker } from '@lantern/motion';
import { useEffect, useMemo, useRef, useState, type PointerEvent, type ReactNode } from 'react';
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

/**
 * A take's time axis: ruler in seconds, frames or strides, footfall ribbon, chosen traces with their value at the playhead, markers.
 * Drag scrubs, wheel zooms at the pointer, middle-drag pans, Shift-drag marks a range to play round and round.
 */
export function TakeDeck({
  take,
  traces,
  markers,
  onMarkers,
  menu,
}: {
  take: OpenTake;
  traces: readonly TraceLine[];
  markers: readonly Marker[];
  onMarkers: (markers: readonly Marker[]) => void;
  menu: ReactNode;
}) {
  const { frames, fps } = take.motion;
  const [ref, width] = useWidth<HTMLDivElement>();
  const svg = useRef<SVGSVGElement>(null);
  const { window, setWindow, span, pan, x, frameAt } = useAxis(svg, frames, width, () => ({ from: 0, to: Math.max(12, frames - 1) }));
  const [unit, setUnit] = useState<RulerUnit>('seconds');
  const range = usePlayer((state) => state.range);
  const ruler = useMemo(() => rulerOf(unit, take, window, span), [unit, take, window, span]);
  const dragged = useRef<number | null>(null);
  const height = RULER + RIBBON + traces.length * TRACE + 8;
  useEffect(() => usePlayer.subscribe(({ frame }) => svg.current?.setAttribute('aria-valuenow', String(Math.round(frame)))), []);

  const down = (event: PointerEvent<SVGSVGElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    if (event.button === 1) return pan.start(event.clientX);
    const frame = frameAt(event.clientX);
    dragged.current = event.shiftKey ? frame : null;
    if (!event.shiftKey) usePlayer.getState().seek(frame);
  };
  const move = (event: PointerEvent<SVGSVGElement>) => {
    if (event.buttons & 4) return pan.move(event.clientX);
    if (!(event.buttons & 1)) return;
    const frame = frameAt(event.clientX);
    if (dragged.current === null) return usePlayer.getState().seek(frame);
    const [from, to] = [dragged.current, frame].sort((a, b) => a - b).map((f) => Math.round(Math.min(frames - 1, Math.max(0, f))));
    if (to - from > 1) usePlayer.getState().setRange({ from, to });
  };
  const fit = () => setWindow({ from: 0, to: Math.max(12, frames - 1) });
  const zoom = (factor: number) =>
    setWindow(({ from, to }) => {
      const at = Math.min(to, Math.max(from, usePlayer.getState().frame));
      return clampWindow({ from: at - (at - from) * factor, to: at + (to - at) * factor }, frames);
    });

  return (
    <Box sx={{ borderTop: `1px solid ${chart('rule')}` }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5, px: 1, height: 26 }}>
        <RulerMenu unit={unit} onUnit={setUnit} hasStrides={take.stride !== null} />
        {menu}
        <Box sx={{ flex: 1 }} />
        {range && (
          <Small onClick={() => usePlayer.getState().setRange(null)}>
            playing {(range.from / fps).toFixed(2)}–{(range.to / fps).toFixed(2)} s round ×
          </Small>
        )}
        <Small onClick={() => onMarkers(withMarker(markers, Math.round(usePlayer.getState().frame)))}>marker</Small>
        <Small name="Zoom out" onClick={() => zoom(1.6)}>
          −
        </Small>
        <Small name="Zoom in" onClick={() => zoom(1 / 1.6)}>
          +
        </Small>
        <Small onClick={fit}>whole take</Small>
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
            // A pointer scrubs without taking the focus, and its ring, from what had it.
            onMouseDown={(event) => event.preventDefault()}
            onPointerDown={down}
            onPointerMove={move}
            onKeyDown={(event) => {
              const by = { ArrowLeft: -1, ArrowRight: 1, PageUp: -fps, PageDown: fps }[event.key];
              if (by === undefined) return;
              event.preventDefault();
              usePlayer.getState().seek(Math.round(usePlayer.getState().frame) + by);
            }}
          >
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
          </svg>
        )}
        <MarkerFlags markers={markers} x={x} from={GUTTER} to={GUTTER + span} onMarkers={onMarkers} />
      </Box>
    </Box>
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
