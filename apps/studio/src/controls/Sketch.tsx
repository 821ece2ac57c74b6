import type { FloorSketch } from '@lantern/motion';
import { chart } from '@/controls/theme';

const HEIGHT = 36;

/** A shot from above, ahead to the right: the way, the feet that come down, and the mark on the floor. */
export function Sketch({ sketch, width = 150, height = HEIGHT }: { sketch: FloorSketch; width?: number; height?: number }) {
  const { steps, way, markZ, label } = sketch;
  const all = [...steps.map(({ x, z }) => [x, z] as const), ...way, ...(markZ === null ? [] : [[0, markZ] as const])];
  const [x0, x1] = [Math.min(...all.map(([x]) => x)), Math.max(...all.map(([x]) => x))];
  const [z0, z1] = [Math.min(...all.map(([, z]) => z)), Math.max(...all.map(([, z]) => z))];
  const room = { x: width - 16, y: height - 16 };
  const along = room.x / Math.max(0.5, z1 - z0);
  // What is long and narrow is drawn wider than it is.
  const across = Math.min(room.y / Math.max(0.2, x1 - x0), Math.max(along, 30));
  const scale = { z: Math.min(along, across * 2.2), x: across };
  const at = (x: number, z: number) =>
    [8 + (z - z0) * scale.z + (room.x - (z1 - z0) * scale.z) / 2, 13 + room.y / 2 - (x - (x0 + x1) / 2) * scale.x] as const;
  const last = way[way.length - 1];
  const before = way[way.length - 2];
  const [tx, ty] = at(...last);
  const [bx, by] = at(...before);
  const turn = (Math.atan2(ty - by, tx - bx) * 180) / Math.PI;
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`From above: ${label}`}
      style={{ display: 'block' }}
    >
      <text x={width / 2} y={9} textAnchor="middle" fontSize={10.5} fontStyle="italic" fill={chart('faint')}>
        {label}
      </text>
      <polyline
        points={way.map(([x, z]) => at(x, z).join(',')).join(' ')}
        fill="none"
        stroke={chart('ink')}
        strokeWidth={1}
        strokeDasharray="3 2.4"
      />
      <path d="M0 0L-5 -2.6V2.6Z" fill={chart('ink')} transform={`translate(${tx} ${ty}) rotate(${turn})`} />
      {markZ !== null && (
        <line x1={at(0, markZ)[0] + 5} x2={at(0, markZ)[0] + 5} y1={12} y2={height - 1} stroke={chart('ink')} strokeWidth={2} />
      )}
      {steps.map(({ side, x, z, isKey }, i) => {
        const [px, py] = at(x, z);
        const size = isKey ? 4.2 : 2.9;
        return side === 'left' ? (
          <circle key={i} cx={px} cy={py} r={size} fill={chart('port')} />
        ) : (
          <path
            key={i}
            d={`M${px} ${py - size - 0.6}l${size + 0.6} ${size + 0.6}l${-size - 0.6} ${size + 0.6}l${-size - 0.6} ${-size - 0.6}z`}
            fill={chart('starboard')}
          />
        );
      })}
    </svg>
  );
}
