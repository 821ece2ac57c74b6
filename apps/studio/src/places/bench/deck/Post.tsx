'use client';
import { chart } from '@/controls/theme';
import { TimeHandle } from '@/timeline/TimeHandle';

interface Props {
  readonly name: string;
  readonly frame: number;
  readonly least: number;
  readonly most: number;
  readonly x: number;
  readonly height: number;
  readonly frameAt: (clientX: number) => number;
  /** To footfalls and seams, unless Alt is held. */
  readonly snap: (frame: number, isFree: boolean) => number;
  readonly onMove: (frame: number, isDone: boolean) => void;
}

/** A cut post, with its lantern at the top of the deck. */
export function Post({ x, height, ...handle }: Props) {
  return (
    <TimeHandle {...handle}>
      <rect x={x - 7} y={0} width={14} height={height} fill="transparent" />
      <line x1={x} x2={x} y1={14} y2={height} stroke={chart('lamp')} strokeWidth={2} />
      <path d={`M${x - 7} 2h14v11l-7 7l-7 -7z`} fill={chart('lamp')} stroke={chart('ink')} strokeWidth={0.8} />
    </TimeHandle>
  );
}
