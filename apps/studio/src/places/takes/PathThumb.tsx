import { chart } from '@/controls/theme';

const SIZE = 38;

/** The way of a take as drawn from above: start a ring, end a dot. */
export function PathThumb({ path }: { path: readonly number[] }) {
  const xs = path.filter((_, i) => i % 2 === 0);
  const zs = path.filter((_, i) => i % 2 === 1);
  const [x0, x1, z0, z1] = [Math.min(...xs), Math.max(...xs), Math.min(...zs), Math.max(...zs)];
  const scale = (SIZE - 12) / Math.max(x1 - x0, z1 - z0, 1);
  // From above with forward up: +X, the left of someone who faces +Z, is on the left.
  const at = (i: number) =>
    [SIZE / 2 - (xs[i] - (x0 + x1) / 2) * scale, SIZE / 2 - (zs[i] - (z0 + z1) / 2) * scale].map((v) => v.toFixed(1));
  const last = xs.length - 1;
  return (
    <svg width={SIZE} height={SIZE} viewBox={`0 0 ${SIZE} ${SIZE}`} aria-hidden style={{ display: 'block' }}>
      <rect x={0.5} y={0.5} width={SIZE - 1} height={SIZE - 1} fill="none" stroke={chart('rule')} />
      <polyline
        points={xs.map((_, i) => at(i).join(',')).join(' ')}
        fill="none"
        stroke={chart('ink')}
        strokeWidth={1.3}
        strokeLinejoin="round"
      />
      <circle cx={at(0)[0]} cy={at(0)[1]} r={2.6} fill={chart('card')} stroke={chart('ink')} />
      <circle cx={at(last)[0]} cy={at(last)[1]} r={2.2} fill={chart('ink')} />
    </svg>
  );
}
