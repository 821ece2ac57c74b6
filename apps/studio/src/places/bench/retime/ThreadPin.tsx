'use client';
import type { TimePin } from '@lantern/motion';
import type { KeyboardEvent, PointerEvent } from 'react';
import { chart } from '@/controls/theme';

/** A thread that is held: a handle at either end, dragged or moved by arrow keys; Delete takes it out. */
export function Pin({
  index,
  isEnd,
  pin,
  path,
  ends,
  y,
  onDrag,
  onStep,
  onDelete,
}: {
  index: number;
  isEnd: boolean;
  pin: TimePin;
  path: string;
  ends: readonly [number, number];
  y: readonly [number, number];
  onDrag: (end: 'from' | 'to', clientX: number, isDone: boolean) => void;
  onStep: (end: 'from' | 'to', by: number) => void;
  onDelete: () => void;
}) {
  const name = isEnd ? 'End of the result' : `Time pin ${index}`;
  const handle = (end: 'from' | 'to', cx: number, cy: number) => ({
    onPointerDown: (event: PointerEvent<SVGGElement>) => {
      event.stopPropagation();
      event.currentTarget.setPointerCapture(event.pointerId);
    },
    onPointerMove: (event: PointerEvent<SVGGElement>) =>
      event.currentTarget.hasPointerCapture(event.pointerId) && onDrag(end, event.clientX, false),
    onPointerUp: (event: PointerEvent<SVGGElement>) =>
      event.currentTarget.hasPointerCapture(event.pointerId) && onDrag(end, event.clientX, true),
    onKeyDown: (event: KeyboardEvent) => {
      const by = { ArrowLeft: -1, ArrowRight: 1, PageDown: -10, PageUp: 10 }[event.key];
      if (by !== undefined) onStep(end, by);
      else if ((event.key === 'Delete' || event.key === 'Backspace') && !isEnd) onDelete();
      else return;
      event.preventDefault();
      event.stopPropagation();
    },
    children: (
      <>
        <rect x={cx - 9} y={cy - 9} width={18} height={18} fill="transparent" />
        <rect x={cx - 5} y={cy - 5} width={10} height={10} rx={1.5} fill={chart('lamp')} stroke={chart('ink')} strokeWidth={0.9} />
      </>
    ),
  });
  return (
    <g>
      <path d={path} fill="none" stroke={chart('lamp')} strokeWidth={isEnd ? 1.4 : 2.4} pointerEvents="none" />
      {!isEnd && (
        <g
          role="slider"
          tabIndex={0}
          aria-label={`${name}, frame of the clip`}
          aria-valuenow={pin.from}
          style={{ cursor: 'ew-resize', touchAction: 'none' }}
          {...handle('from', ends[0], y[0])}
        />
      )}
      <g
        role="slider"
        tabIndex={0}
        aria-label={isEnd ? name : `${name}, frame of the result`}
        aria-valuenow={pin.to}
        style={{ cursor: 'ew-resize', touchAction: 'none' }}
        {...handle('to', ends[1], y[1])}
      />
    </g>
  );
}
