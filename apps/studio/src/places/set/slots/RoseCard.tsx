import { GAITS, type Contract } from '@lantern/motion';
import { chart } from '@/controls/theme';
import { MIDDLE, RADIUS } from './rose-layout';

/** Where rings say their speed: lamps, and their names beside them, are to the side and behind. */
const BETWEEN_LAMPS = (105 * Math.PI) / 180;

/** The card under the lamps: rings of speed, the game's own dashed, degrees round the edge. */
export function RoseCard({ reach, contract }: { reach: number; contract: Contract }) {
  const rings = Array.from({ length: Math.floor(reach) }, (_, i) => i + 1).filter((mps) => mps < reach);
  const asked = GAITS.flatMap((gait) => contract.speedMps[gait]?.forward ?? []).filter((mps) => mps < reach);
  const at = (angle: number, r: number) => `${MIDDLE.x + r * Math.sin(angle)} ${MIDDLE.y - r * Math.cos(angle)}`;
  const arc = (a: number, b: number, r: number) => `M${at(a, r)}A${r} ${r} 0 0 1 ${at(b, r)}`;
  const step = Math.PI / 12;
  return (
    <g style={{ pointerEvents: 'none' }}>
      <defs>
        <radialGradient id="rose-glow">
          <stop offset="0" stopColor={chart('lamp')} stopOpacity={0.38} />
          <stop offset="0.45" stopColor={chart('lamp')} stopOpacity={0.16} />
          <stop offset="1" stopColor={chart('lamp')} stopOpacity={0} />
        </radialGradient>
        <pattern id="rose-hatch" width={5} height={5} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line y2={5} stroke={chart('ink')} strokeWidth={0.8} />
        </pattern>
      </defs>
      {Array.from({ length: 8 }, (_, i) => {
        const a = (i * Math.PI) / 4 + Math.PI / 8;
        return <path key={i} d={`M${at(a, 40)}L${at(a, RADIUS)}`} stroke={chart('rule')} strokeWidth={0.7} />;
      })}
      {rings.map((mps) => (
        <g key={mps}>
          <circle cx={MIDDLE.x} cy={MIDDLE.y} r={(mps / reach) * RADIUS} fill="none" stroke={chart('rule')} />
          <text
            x={MIDDLE.x + (mps / reach) * RADIUS * Math.sin(BETWEEN_LAMPS)}
            y={MIDDLE.y - (mps / reach) * RADIUS * Math.cos(BETWEEN_LAMPS) + 4}
            fontSize={11}
            fill={chart('faint')}
          >
            {mps} m/s
          </text>
        </g>
      ))}
      {asked.map((mps) => {
        const r = (mps / reach) * RADIUS;
        return (
          <g key={mps}>
            <circle cx={MIDDLE.x} cy={MIDDLE.y} r={r} fill="none" stroke={chart('ink')} strokeWidth={0.9} strokeDasharray="4 3.5" />
            <text
              fontSize={10.5}
              fontStyle="italic"
              fill={chart('ink')}
              textAnchor="middle"
              transform={`translate(${at((-Math.PI * 2.35) / 3, r)}) rotate(${40})`}
              dy={-3}
              style={{ paintOrder: 'stroke' }}
              stroke={chart('paper')}
              strokeWidth={3}
            >
              game {mps}
            </text>
          </g>
        );
      })}
      {Array.from({ length: 24 }, (_, i) => (
        <path
          key={i}
          d={arc(i * step, (i + 1) * step, RADIUS + 6)}
          fill="none"
          stroke={chart('ink')}
          strokeWidth={i % 2 === 0 ? 5 : 0}
          opacity={0.82}
        />
      ))}
      <circle cx={MIDDLE.x} cy={MIDDLE.y} r={RADIUS + 3} fill="none" stroke={chart('ink')} strokeWidth={0.9} />
      <circle cx={MIDDLE.x} cy={MIDDLE.y} r={RADIUS + 9} fill="none" stroke={chart('ink')} strokeWidth={0.9} />
      {[30, 60, 120, 150].flatMap((deg) =>
        [-1, 1].map((side) => {
          const [x, y] = at((side * deg * Math.PI) / 180, RADIUS + 24)
            .split(' ')
            .map(Number);
          return (
            <text key={side * deg} x={x} y={y + 4} textAnchor="middle" fontSize={11.5} fill={chart('faint')}>
              {deg}°
            </text>
          );
        }),
      )}
      <Compass />
      <text x={MIDDLE.x} y={13} textAnchor="middle" fontSize={15} fontFamily="Alegreya" fill={chart('ink')}>
        ahead
      </text>
      <path d={`M${MIDDLE.x} ${18}l5 9h-10z`} fill={chart('ink')} />
      <text x={MIDDLE.x} y={MIDDLE.y + RADIUS + 27} textAnchor="middle" fontSize={15} fontFamily="Alegreya" fill={chart('ink')}>
        back
      </text>
      <text x={MIDDLE.x - RADIUS - 16} y={MIDDLE.y + 5} textAnchor="end" fontSize={15} fontFamily="Alegreya" fill={chart('ink')}>
        left
      </text>
      <circle cx={MIDDLE.x - RADIUS - 27} cy={MIDDLE.y - 13} r={3.6} fill={chart('port')} />
      <text x={MIDDLE.x + RADIUS + 16} y={MIDDLE.y + 5} fontSize={15} fontFamily="Alegreya" fill={chart('ink')}>
        right
      </text>
      <path d={`M${MIDDLE.x + RADIUS + 31} ${MIDDLE.y - 18}l5 5l-5 5l-5 -5z`} fill={chart('starboard')} />
    </g>
  );
}

/** Eight points, four of them long. */
function Compass() {
  const point = (angle: number, long: number, wide: number) => {
    const [s, c] = [Math.sin(angle), Math.cos(angle)];
    const tip = `${long * s} ${-long * c}`;
    const side = (k: number) => `${wide * (0.7 * s + k * 0.7 * c)} ${-wide * (0.7 * c - k * 0.7 * s)}`;
    return (
      <g key={angle}>
        <path d={`M0 0L${side(-1)}L${tip}Z`} fill={chart('ink')} />
        <path d={`M0 0L${side(1)}L${tip}Z`} fill={chart('card')} stroke={chart('ink')} strokeWidth={0.6} />
      </g>
    );
  };
  const eighth = Math.PI / 4;
  return (
    <g transform={`translate(${MIDDLE.x} ${MIDDLE.y})`}>
      {[1, 3, 5, 7].map((k) => point(k * eighth, 13, 4.5))}
      {[0, 2, 4, 6].map((k) => point(k * eighth, 23, 5))}
    </g>
  );
}
