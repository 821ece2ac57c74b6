import { chart } from '@/controls/theme';

/** A clip: a buoy with a round top where it turns to the left, a diamond where to the right, and a flame where it is straight. */
export function Buoy({ x, y, name, side, weight }: { x: number; y: number; name: string; side: number; weight: number }) {
  const isLit = weight > 0.005;
  const label = `${name}${isLit ? ` ${Math.round(weight * 100)} %` : ''}`;
  const width = label.length * 6 + 14;
  return (
    <g transform={`translate(${x} ${y})`} style={{ pointerEvents: 'none' }} aria-hidden>
      <path d="M-9 3.5Q-4.5 6 0 3.5T9 3.5" fill="none" stroke={chart('faint')} />
      <path d="M-5.5 2L-3.6 -11H3.6L5.5 2Z" fill={isLit ? chart('lampSoft') : chart('card')} stroke={chart('ink')} strokeWidth={1.2} />
      <path d="M-4.9 -2L-4.3 -6H4.3L4.9 -2Z" fill={chart('ink')} />
      {Math.abs(side) < 3 ? (
        <path
          d="M0 -21C2.2 -18.4 2.8 -17 2.8 -15.8A2.8 2.8 0 0 1 -2.8 -15.8C-2.8 -17 -2.2 -18.4 0 -21Z"
          fill={isLit ? chart('lamp') : chart('card')}
          stroke={chart('ink')}
          strokeWidth={0.9}
        />
      ) : side > 0 ? (
        <circle cy={-16} r={4} fill={chart('port')} />
      ) : (
        <path d="M0 -21l5 5l-5 5l-5 -5z" fill={chart('starboard')} />
      )}
      {isLit && <rect x={-width / 2} y={7} width={width} height={18} rx={3} fill={chart('lampSoft')} stroke={chart('lamp')} />}
      <text
        y={20}
        textAnchor="middle"
        fontSize={12.5}
        fontWeight={isLit ? 700 : 500}
        fill={chart('ink')}
        style={{ paintOrder: 'stroke' }}
        stroke={isLit ? 'none' : chart('paper')}
        strokeWidth={3}
      >
        {label}
      </text>
    </g>
  );
}
