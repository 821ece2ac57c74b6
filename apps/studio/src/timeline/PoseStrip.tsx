import { chart } from '@/controls/theme';
import type { PoseStrip as Strip } from '@lantern/motion';
import { memo } from 'react';

/** A clip at a glance: its poses over time, seen from the side. */
export const PoseStrip = memo(function PoseStrip({ strip, height = 46 }: { strip: Strip; height?: number }) {
  const scale = height / strip.height;
  const path = (lines: readonly number[]) => {
    let d = '';
    for (let i = 0; i < lines.length; i += 4) {
      const [x1, y1, x2, y2] = lines.slice(i, i + 4).map((v, k) => (k % 2 === 0 ? v * scale : height - v * scale).toFixed(1));
      d += `M${x1} ${y1}L${x2} ${y2}`;
    }
    return d;
  };
  return (
    <svg
      width={strip.width * scale}
      height={height + 2}
      aria-hidden
      style={{ display: 'block' }}
      fill="none"
      strokeLinecap="round"
      strokeWidth={1.5}
    >
      <line x1={0} x2={strip.width * scale} y1={height + 1} y2={height + 1} stroke={chart('rule')} />
      <path d={path(strip.left)} stroke={chart('port')} />
      <path d={path(strip.middle)} stroke={chart('ink')} strokeWidth={1.8} />
      <path d={path(strip.right)} stroke={chart('starboard')} />
    </svg>
  );
});
