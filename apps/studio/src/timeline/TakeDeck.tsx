'use client';
import { Box, ButtonBase, Menu, MenuItem, Typography } from '@mui/material';
import { useCallback, useEffect, useMemo, useRef, useState, type PointerEvent, type ReactNode } from 'react';
import { usePlayer } from '@/data/player';
import type { Marker } from '@lantern/motion';
import { chart } from '@/shell/theme';
import type { OpenTake } from '@/worker/core.worker';
import { clampWindow, usePan, useWheelZoom, type DeckWindow } from './axis-window';
import { GUTTER, RIGHT } from './deck-layout';
import { MarkerFlags } from './MarkerFlags';
import { tracePath } from './paths';
import { Playhead } from './Playhead';
import { Ribbon, SideMark } from './Ribbon';
import { RULER_UNITS, rulerOf, type RulerUnit } from './ruler';
import { useWidth } from './use-width';

/** A curve along the take: what it is, its unit and its values, one a frame. */
export interface TraceLine {
  readonly id: string;
  readonly label: string;
  readonly unit: string;
  readonly digits: number;
  readonly values: Float32Array;
}

const RULER = 24;
const RIBBON = 44;
const TRACE = 40;

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
  const [window, setWindow] = useState<DeckWindow>({ from: 0, to: Math.max(12, frames - 1) });
  const [unit, setUnit] = useState<RulerUnit>('seconds');
  const range = usePlayer((state) => state.range);
  useWheelZoom(svg, setWindow, frames, width);
  const span = Math.max(1, width - GUTTER - RIGHT);
  const pan = usePan(setWindow, frames, span);
  const x = useCallback((frame: number) => GUTTER + ((frame - window.from) / (window.to - window.from)) * span, [window, span]);
  const frameAt = (clientX: number) =>
    window.from + ((clientX - (svg.current?.getBoundingClientRect().left ?? 0) - GUTTER) / span) * (window.to - window.from);
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
        <UnitMenu unit={unit} onUnit={setUnit} hasStrides={take.stride !== null} />
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
              <Trace key={trace.id} trace={trace} y={RULER + RIBBON + i * TRACE} window={window} width={width} x={x} />
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
    : [...markers, { frame, name: `marker ${markers.length + 1}` }].sort((a, b) => a.frame - b.frame);

/** One trace: its curve, its range, and its value at the playhead, which moves without rendering. */
function Trace({
  trace,
  y,
  window,
  width,
  x,
}: {
  trace: TraceLine;
  y: number;
  window: DeckWindow;
  width: number;
  x: (frame: number) => number;
}) {
  const { values, digits, unit, label } = trace;
  const [low, high] = useMemo(() => rangeOf(values), [values]);
  const top = y + 5;
  const bottom = y + TRACE - 5;
  const path = useMemo(
    () => tracePath(values, window.from, window.to, width, x, (v) => bottom - ((v - low) / (high - low)) * (bottom - top)),
    [values, window, width, x, low, high, top, bottom],
  );
  const value = useRef<SVGTextElement>(null);
  const dot = useRef<SVGCircleElement>(null);
  useEffect(() => {
    const show = () => {
      const frame = usePlayer.getState().frame;
      const v = values[Math.min(values.length - 1, Math.round(frame))] ?? 0;
      if (value.current) value.current.textContent = `${v.toFixed(digits).replace('-', '−')} ${unit}`;
      dot.current?.setAttribute('transform', `translate(${x(frame)} ${bottom - ((v - low) / (high - low)) * (bottom - top)})`);
    };
    show();
    return usePlayer.subscribe(show);
  }, [values, digits, unit, x, low, high, top, bottom]);
  return (
    <g role="img" aria-label={`${label}, ${low.toFixed(digits)} to ${high.toFixed(digits)} ${unit}`}>
      <line x1={GUTTER} x2={width - RIGHT} y1={y + TRACE} y2={y + TRACE} stroke={chart('rule')} strokeWidth={0.6} />
      <text x={14} y={y + 16} fontSize={12} fill={chart('faint')}>
        {label.length > 11 ? `${label.slice(0, 10)}…` : label}
        <title>{label}</title>
      </text>
      <text ref={value} x={14} y={y + 31} fontSize={13} fontWeight={700} fill={chart('ink')} />
      <g clipPath="url(#take-axis)">
        <path d={path} fill="none" stroke={chart('ink')} strokeWidth={1.2} />
        <circle ref={dot} r={3} fill={chart('lamp')} stroke={chart('ink')} />
      </g>
    </g>
  );
}

function rangeOf(values: Float32Array): [number, number] {
  let low = Infinity;
  let high = -Infinity;
  for (const v of values) {
    if (v < low) low = v;
    if (v > high) high = v;
  }
  return high - low > 1e-6 ? [low, high] : [low - 0.5, low + 0.5];
}

function UnitMenu({ unit, onUnit, hasStrides }: { unit: RulerUnit; onUnit: (unit: RulerUnit) => void; hasStrides: boolean }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Small onClick={(event) => setAnchor(event.currentTarget)}>ruler: {unit} ▾</Small>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)}>
        {RULER_UNITS.map((name) => (
          <MenuItem
            key={name}
            selected={unit === name}
            disabled={name === 'strides' && !hasStrides}
            onClick={() => {
              onUnit(name);
              setAnchor(null);
            }}
          >
            {name}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}

export function Small({
  children,
  onClick,
  name,
}: {
  children: ReactNode;
  onClick: (event: React.MouseEvent<HTMLElement>) => void;
  name?: string;
}) {
  return (
    <ButtonBase
      disableRipple
      aria-label={name}
      onClick={onClick}
      sx={{
        fontFamily: 'inherit',
        fontSize: 13.5,
        px: 0.8,
        py: 0.2,
        borderRadius: 1,
        color: 'text.secondary',
        '&:hover': { bgcolor: chart('card'), color: 'text.primary' },
      }}
    >
      <Typography component="span" sx={{ fontSize: 'inherit' }} noWrap>
        {children}
      </Typography>
    </ButtonBase>
  );
}
