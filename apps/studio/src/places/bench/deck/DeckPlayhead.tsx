'use client';
import { useCallback } from 'react';
import { Playhead } from '@/timeline/Playhead';

/** The playhead at the take's frame, whatever the stage plays. */
export function DeckPlayhead({
  x,
  frame,
  height,
}: {
  x: (frame: number) => number;
  frame: (playerFrame: number) => number;
  height: number;
}) {
  const place = useCallback((playerFrame: number) => x(frame(playerFrame)), [x, frame]);
  return <Playhead x={place} height={height} />;
}
