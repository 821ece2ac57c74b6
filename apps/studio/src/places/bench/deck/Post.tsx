'use client';
import { useRef } from 'react';
import { chart } from '@/controls/theme';

/** A cut post: dragged along the deck, moved by arrow keys, snapping to footfalls unless Alt is held. */
export function Post({
  name,
  frame,
  least,
  most,
  x,
  height,
  frameAt,
  snap,
  onMove,
}: {
  name: string;
  frame: number;
  least: number;
  most: number;
  x: number;
  height: number;
  frameAt: (clientX: number) => number;
  snap: (frame: number, isFree: boolean) => number;
  onMove: (frame: number, isDone: boolean) => void;
}) {
  const grip = useRef(0);
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={name}
      aria-valuenow={frame}
      aria-valuemin={least}
      aria-valuemax={most}
      aria-valuetext={`frame ${frame}`}
      style={{ cursor: 'col-resize', outlineOffset: -2 }}
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        grip.current = frameAt(event.clientX) - frame;
      }}
      onPointerMove={(event) => {
        if (event.currentTarget.hasPointerCapture(event.pointerId))
          onMove(snap(frameAt(event.clientX) - grip.current, event.altKey), false);
      }}
      onPointerUp={(event) => {
        if (event.currentTarget.hasPointerCapture(event.pointerId)) onMove(snap(frameAt(event.clientX) - grip.current, event.altKey), true);
      }}
      onKeyDown={(event) => {
        const by = { ArrowLeft: -1, ArrowRight: 1, PageDown: -10, PageUp: 10 }[event.key];
        if (by === undefined) return;
        event.preventDefault();
        event.stopPropagation();
        onMove(Math.min(most, Math.max(least, frame + by)), true);
      }}
    >
      <rect x={x - 7} y={0} width={14} height={height} fill="transparent" />
      <line x1={x} x2={x} y1={14} y2={height} stroke={chart('lamp')} strokeWidth={2} />
      <path d={`M${x - 7} 2h14v11l-7 7l-7 -7z`} fill={chart('lamp')} stroke={chart('ink')} strokeWidth={0.8} />
    </g>
  );
}
