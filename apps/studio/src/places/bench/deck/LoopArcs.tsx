'use client';
import type { LoopCandidate } from '@lantern/motion';
import { useState } from 'react';
import { chart } from '@/controls/theme';
import type { Cut } from '../use-bench';

const MOST = 24;

/** Loop candidates as arcs from their first to their last frame: the better, the stronger. One click takes one. */
export function LoopArcs({
  candidates,
  cut,
  window,
  x,
  y,
  height,
  onTake,
  onNear,
}: {
  candidates: readonly LoopCandidate[];
  cut: Cut | null;
  window: { from: number; to: number };
  x: (frame: number) => number;
  y: number;
  height: number;
  onTake: (candidate: LoopCandidate) => void;
  /** The pointer is on an arc, or on none. */
  onNear: (candidate: LoopCandidate | null) => void;
}) {
  const [near, setNear] = useState<LoopCandidate | null>(null);
  const come = (candidate: LoopCandidate | null) => {
    setNear(candidate);
    onNear(candidate);
  };
  const shown = candidates.filter((c) => c.to > window.from && c.from < window.to).slice(0, MOST);
  const longest = Math.max(1, ...shown.map((c) => c.to - c.from));
  return (
    <g>
      {[...shown].reverse().map((candidate) => {
        const { from, to, seconds, score, seam, strides } = candidate;
        const isTaken = cut?.from === from && cut.to === to;
        const a = x(from),
          b = x(to);
        const top = y - height * (0.35 + 0.65 * Math.sqrt((to - from) / longest));
        const path = `M${a} ${y}C${a + (b - a) * 0.22} ${top} ${b - (b - a) * 0.22} ${top} ${b} ${y}`;
        return (
          <g
            key={`${from}-${to}`}
            role="button"
            tabIndex={0}
            aria-label={`Loop ${from} to ${to}, ${strides || 'no'} ${strides === 1 ? 'stride' : 'strides'}, pose ${seam.poseCm.toFixed(1)} cm`}
            aria-pressed={isTaken}
            style={{ cursor: 'pointer' }}
            onClick={() => onTake(candidate)}
            onKeyDown={(event) => event.key === 'Enter' && onTake(candidate)}
            onPointerEnter={() => come(candidate)}
            onPointerLeave={() => come(null)}
            onFocus={() => come(candidate)}
            onBlur={() => come(null)}
          >
            <title>{`${seconds.toFixed(2)} s · ${seam.poseCm.toFixed(1)} cm · ${seam.velocityCmS.toFixed(0)} cm/s`}</title>
            <path d={path} fill="none" stroke="transparent" strokeWidth={11} />
            <path
              d={path}
              fill="none"
              stroke={isTaken || near === candidate ? chart('lamp') : chart('ink')}
              strokeWidth={isTaken ? 3 : near === candidate ? 2.4 : 0.8 + 1.2 * score ** 3}
              opacity={isTaken || near === candidate ? 1 : 0.2 + 0.6 * score ** 4}
            />
          </g>
        );
      })}
    </g>
  );
}
