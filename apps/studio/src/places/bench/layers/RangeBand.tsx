'use client';
import { withRangeMoved, type Layer, type LayerRange } from '@lantern/motion';
import { useState } from 'react';
import { chart } from '@/controls/theme';
import { useCorrecting } from '@/data/correcting';
import { TimeHandle } from '@/timeline/TimeHandle';
import type { RowPlace } from './row-place';

/** The range that is chosen in the open layer: its ends are dragged, and by the bar over it all that lies in it goes along. */
export function RangeBand({
  range,
  layer,
  x,
  frameAt,
  y,
  height,
  onPut,
}: Pick<RowPlace, 'x' | 'frameAt' | 'y' | 'height'> & {
  readonly range: LayerRange;
  /** As it is kept, not as it is being dragged. */
  readonly layer: Layer;
  readonly onPut: (layer: Layer, isDone: boolean) => void;
}) {
  const [by, setBy] = useState(0);
  const [left, right] = [x(range.from + by), x(range.to + by)];
  const end = (which: 'from' | 'to') => (
    <TimeHandle
      key={which}
      name={`${which === 'from' ? 'Start' : 'End'} of the chosen range of ${layer.name}`}
      frame={range[which]}
      least={which === 'from' ? -1e6 : range.from}
      most={which === 'from' ? range.to : 1e6}
      frameAt={frameAt}
      onMove={(to) => useCorrecting.setState({ range: { ...range, [which]: Math.round(to) } })}
      onDelete={() => useCorrecting.setState({ range: null })}
      cursor="ew-resize"
    >
      <rect x={x(range[which]) - 5} y={y} width={10} height={height} fill="transparent" />
      <line x1={x(range[which])} x2={x(range[which])} y1={y} y2={y + height} stroke={chart('ink')} strokeDasharray="3 2" />
    </TimeHandle>
  );
  return (
    <g role="group" aria-label={`Chosen range of ${layer.name}`}>
      <rect x={left} y={y} width={Math.max(1, right - left)} height={height} fill={chart('ink')} opacity={0.07} pointerEvents="none" />
      <TimeHandle
        name={`Chosen range of ${layer.name}, frames ${range.from} to ${range.to}`}
        frame={range.from}
        least={-1e6}
        most={1e6}
        frameAt={frameAt}
        onMove={(to, isDone) => {
          const moved = Math.round(to) - range.from;
          setBy(isDone ? 0 : moved);
          onPut(withRangeMoved(layer, range, moved), isDone);
          if (isDone) useCorrecting.setState({ range: { from: range.from + moved, to: range.to + moved } });
        }}
        onDelete={() => useCorrecting.setState({ range: null })}
        cursor="ew-resize"
      >
        <rect x={left} y={y} width={Math.max(6, right - left)} height={7} rx={2} fill={chart('ink')} opacity={0.55} />
      </TimeHandle>
      {by === 0 && (['from', 'to'] as const).map(end)}
    </g>
  );
}
