'use client';
import { Box } from '@mui/material';
import { useEffect, useMemo, useRef, type PointerEvent } from 'react';
import { usePlayer } from '@/data/player';
import { chart } from '@/shell/theme';
import type { OpenTake } from '@/worker/core.worker';
import { rulerTicks, tracePath } from './paths';
import { Playhead } from './Playhead';
import { Ribbon, SideMark } from './Ribbon';
import { useWidth } from './use-width';

const HEIGHT = 132;
const GUTTER = 62;

/** A take's whole time axis in little: ruler in seconds, ribbon, speed. Drag to scrub. */
export function Scrubber({ take }: { take: OpenTake }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const { frames, fps } = take.motion;
  const x = useMemo(() => {
    const scale = Math.max(1, width - GUTTER - 14) / Math.max(1, frames - 1);
    return (frame: number) => GUTTER + frame * scale;
  }, [width, frames]);
  const seek = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    usePlayer.getState().seek(((event.clientX - box.left - GUTTER) / Math.max(1, width - GUTTER - 14)) * (frames - 1));
  };
  const slider = useRef<SVGSVGElement>(null);
  useEffect(() => usePlayer.subscribe(({ frame }) => slider.current?.setAttribute('aria-valuenow', String(Math.round(frame)))), []);
  const ticks = rulerTicks(0, (frames - 1) / fps, width - GUTTER, 70);
  const top = Math.max(0.5, ...take.speed);
  const speed = useMemo(() => tracePath(take.speed, 0, frames, width, x, (v) => 122 - (v / top) * 34), [take.speed, frames, width, x, top]);
  return (
    <Box ref={ref} sx={{ height: HEIGHT, borderTop: `1px solid ${chart('rule')}` }}>
      {width > 0 && (
        <svg
          ref={slider}
          width={width}
          height={HEIGHT}
          style={{ display: 'block', cursor: 'ew-resize', touchAction: 'none' }}
          role="slider"
          tabIndex={0}
          aria-label="Time"
          aria-valuemin={0}
          aria-valuemax={frames - 1}
          aria-valuenow={0}
          // A pointer scrubs without taking the focus, and its ring, from what had it.
          onMouseDown={(event) => event.preventDefault()}
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            seek(event);
          }}
          onPointerMove={(event) => event.buttons & 1 && seek(event)}
          onKeyDown={(event) => {
            const by = { ArrowLeft: -1, ArrowRight: 1, PageUp: -fps, PageDown: fps }[event.key];
            if (by === undefined) return;
            event.preventDefault();
            usePlayer.getState().seek(Math.round(usePlayer.getState().frame) + by);
          }}
        >
          <g fontSize={12} fill={chart('faint')}>
            <text x={14} y={17}>
              seconds
            </text>
            {Array.from({ length: Math.max(1, Math.floor((frames - 1) / fps / ticks.step) + 1) }, (_, i) => i * ticks.step).map(
              (second) => (
                <g key={second}>
                  <line x1={x(second * fps)} x2={x(second * fps)} y1={12} y2={24} stroke={chart('faint')} />
                  <text x={x(second * fps) + 4} y={17}>
                    {second}
                  </text>
                </g>
              ),
            )}
            <line x1={0} x2={width} y1={24} y2={24} stroke={chart('rule')} />
            <text x={14} y={102}>
              speed
            </text>
            <text x={14} y={116}>
              m/s
            </text>
            <text x={width - 12} y={96} textAnchor="end">
              {top.toFixed(1)}
            </text>
          </g>
          {take.contacts && (
            <>
              <SideMark side="left" x={14} y={40} />
              <SideMark side="right" x={14} y={62} />
              <Ribbon contacts={take.contacts} side="left" x={x} y={33} from={0} to={frames} />
              <Ribbon contacts={take.contacts} side="right" x={x} y={55} from={0} to={frames} />
            </>
          )}
          <line x1={GUTTER} x2={width - 14} y1={122} y2={122} stroke={chart('rule')} />
          <path d={speed} fill="none" stroke={chart('ink')} strokeWidth={1.3} />
          <Playhead x={x} height={HEIGHT} />
        </svg>
      )}
    </Box>
  );
}
