'use client';
import type { Segment } from '@lantern/motion';
import { GUTTER } from '@/timeline/deck-layout';
import { chart } from '@/controls/theme';

/** What is done in the take, one piece after the other: a rising line of ink for quicker gaits, a name where there is room. */
export function SegmentBand({
  segments,
  x,
  y,
  height,
  right,
  onOpen,
}: {
  segments: readonly Segment[];
  x: (frame: number) => number;
  y: number;
  height: number;
  /** Where the axis ends. */
  right: number;
  onOpen: (segment: Segment) => void;
}) {
  return (
    <g>
      {segments.map((segment) => {
        const left = Math.max(GUTTER, x(segment.from));
        const width = Math.max(1, Math.min(right, x(segment.to)) - left);
        if (x(segment.to) < GUTTER || x(segment.from) > right) return null;
        const name = wordsOf(segment);
        return (
          <g
            key={segment.from}
            role="button"
            tabIndex={0}
            aria-label={`${name}, frames ${segment.from} to ${segment.to}`}
            style={{ cursor: 'pointer' }}
            onClick={() => onOpen(segment)}
            onKeyDown={(event) => event.key === 'Enter' && onOpen(segment)}
          >
            <title>{name}</title>
            <rect x={left} y={y} width={width} height={height} fill={chart('ink')} opacity={SHADE[segment.kind]} />
            <line x1={left} x2={left} y1={y - 2} y2={y + height + 2} stroke={chart('faint')} strokeWidth={1} />
            {width > name.length * 6.4 + 8 && (
              <text x={left + 5} y={y + height - 4} fontSize={12} fill={chart('ink')} pointerEvents="none">
                {name}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}

/** Kinds by how much of the ink they get: whoever stands little, whoever leaves the ground most. */
const SHADE: Record<Segment['kind'], number> = {
  idle: 0.02,
  start: 0.12,
  stop: 0.12,
  sneak: 0.09,
  walk: 0.07,
  turn: 0.17,
  run: 0.2,
  flight: 0.26,
};

export function wordsOf({ kind, direction, turnDeg, speedMps }: Segment): string {
  if (kind === 'idle') return 'stands';
  if (kind === 'turn') return `turns ${turnDeg > 0 ? 'left' : 'right'} ${Math.abs(turnDeg).toFixed(0)}°`;
  if (kind === 'flight') return 'hops';
  const way = direction && direction !== 'forward' ? ` ${direction}` : '';
  const verb = { walk: 'walks', run: 'runs', sneak: 'creeps', start: 'starts', stop: 'stops' }[kind];
  return kind === 'start' || kind === 'stop' ? verb + way : `${verb}${way} ${speedMps.toFixed(1)} m/s`;
}
