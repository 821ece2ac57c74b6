'use client';
import type { PointerEvent } from 'react';
import type { Axis } from './axis-window';
import { GUTTER } from './deck-layout';

/** What lies under all that is drawn along an axis: a drag on it scrubs, the middle button pans. */
export function ScrubSurface({
  axis: { span, pan, frameAt },
  height,
  onScrub,
  onPan,
}: {
  axis: Axis;
  height: number;
  onScrub: (frame: number) => void;
  onPan?: () => void;
}) {
  return (
    <rect
      x={GUTTER}
      y={0}
      width={span}
      height={height}
      fill="transparent"
      style={{ cursor: 'ew-resize' }}
      data-deck-surface
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        if (event.button === 1) return pan.start(event.clientX);
        onScrub(frameAt(event.clientX));
      }}
      onPointerMove={(event: PointerEvent) => {
        if (event.buttons & 4) {
          onPan?.();
          pan.move(event.clientX);
        } else if (event.buttons & 1) onScrub(frameAt(event.clientX));
      }}
    />
  );
}
