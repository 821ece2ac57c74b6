'use client';
import { useEffect, useRef } from 'react';
import { usePlayer } from '@/data/player';
import { chart } from '@/controls/theme';

/** A line at the player's frame, moved without rendering. */
export function Playhead({ x, height }: { x: (frame: number) => number; height: number }) {
  const line = useRef<SVGGElement>(null);
  useEffect(() => {
    const place = () => line.current?.setAttribute('transform', `translate(${x(usePlayer.getState().frame).toFixed(2)} 0)`);
    place();
    return usePlayer.subscribe(place);
  }, [x]);
  return (
    <g ref={line} pointerEvents="none">
      <line y1={0} y2={height} stroke={chart('ink')} strokeWidth={1.4} />
      <path d="M-4 0h8l-4 6z" fill={chart('ink')} />
    </g>
  );
}
