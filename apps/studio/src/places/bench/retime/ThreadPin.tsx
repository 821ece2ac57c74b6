'use client';
import type { TimePin } from '@lantern/motion';
import { chart } from '@/controls/theme';
import { TimeHandle } from '@/timeline/TimeHandle';

type End = 'from' | 'to';

/** A place of the clip that is held to the half frame. */
const HALVES = (frame: number) => Math.round(frame * 2) / 2;

interface Props {
  readonly index: number;
  readonly isEnd: boolean;
  readonly pin: TimePin;
  readonly path: string;
  /** Where its two ends are drawn. */
  readonly ends: readonly [number, number];
  readonly y: readonly [number, number];
  readonly frameAt: Readonly<Record<End, (clientX: number) => number>>;
  readonly onMove: (end: End, frame: number, isDone: boolean) => void;
  readonly onDelete: () => void;
}

/** A thread that is held: a handle at either end. The last one is the end of the result, which has no frame of its own in the clip. */
export function Pin({ index, isEnd, pin, path, ends, y, frameAt, onMove, onDelete }: Props) {
  const name = isEnd ? 'End of the result' : `Time pin ${index}`;
  return (
    <g>
      <path d={path} fill="none" stroke={chart('lamp')} strokeWidth={isEnd ? 1.4 : 2.4} pointerEvents="none" />
      {(isEnd ? (['to'] as const) : (['from', 'to'] as const)).map((end, i) => {
        const [cx, cy] = [ends[isEnd ? 1 : i], y[isEnd ? 1 : i]];
        return (
          <TimeHandle
            key={end}
            name={isEnd ? name : `${name}, frame of the ${end === 'from' ? 'clip' : 'result'}`}
            frame={pin[end]}
            least={0}
            most={Infinity}
            frameAt={frameAt[end]}
            snap={end === 'from' ? HALVES : undefined}
            onMove={(frame, isDone) => onMove(end, frame, isDone)}
            onDelete={isEnd ? undefined : onDelete}
            cursor="ew-resize"
          >
            <rect x={cx - 9} y={cy - 9} width={18} height={18} fill="transparent" />
            <rect x={cx - 5} y={cy - 5} width={10} height={10} rx={1.5} fill={chart('lamp')} stroke={chart('ink')} strokeWidth={0.9} />
          </TimeHandle>
        );
      })}
    </g>
  );
}
