import { chart } from '@/controls/theme';

const [WIDTH, HEIGHT, EDGE] = [300, 120, 12];

/** The ways of a project's takes on one chart from above, all from the same mark. */
export function ProjectChart({ paths }: { paths: readonly (readonly number[])[] }) {
  const ways = paths.flatMap((path) => {
    const [x0, z0] = path;
    const points = path.flatMap((_, i) => (i % 2 === 0 ? [[path[i + 1] - z0, path[i] - x0] as const] : []));
    return points.length > 1 ? [points] : [];
  });
  const all = [[0, 0] as const, ...ways.flat()];
  const [left, right] = [Math.min(...all.map(([x]) => x)), Math.max(...all.map(([x]) => x))];
  const [top, bottom] = [Math.min(...all.map(([, y]) => y)), Math.max(...all.map(([, y]) => y))];
  const scale = Math.min((WIDTH - 2 * EDGE) / Math.max(right - left, 2), (HEIGHT - 2 * EDGE) / Math.max(bottom - top, 2));
  // Forward is to the right, and the left of whoever walks there is up.
  const at = ([x, y]: readonly [number, number]) =>
    [WIDTH / 2 + (x - (left + right) / 2) * scale, HEIGHT / 2 - (y - (top + bottom) / 2) * scale] as const;
  const [mx, my] = at([0, 0]);
  // A line every so many metres that no two of them are nearer than one sees.
  const every = [1, 2, 5, 10, 20, 50, 100].find((metres) => metres * scale >= 18) ?? 200;
  const lines = (origin: number, most: number) => {
    const gap = every * scale;
    return Array.from({ length: Math.ceil(most / gap) + 1 }, (_, i) => (origin % gap) + i * gap).filter((v) => v < most);
  };
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      preserveAspectRatio="xMidYMid slice"
      aria-hidden
      style={{ display: 'block', width: '100%', height: HEIGHT, background: chart('card') }}
    >
      <g stroke={chart('rule')} strokeWidth={0.6}>
        {lines(mx, WIDTH).map((x) => (
          <line key={`x${x}`} x1={x} x2={x} y1={0} y2={HEIGHT} />
        ))}
        {lines(my, HEIGHT).map((y) => (
          <line key={`y${y}`} x1={0} x2={WIDTH} y1={y} y2={y} />
        ))}
      </g>
      <g fill="none" stroke={chart('ink')} strokeWidth={1.1} strokeLinejoin="round">
        {ways.map((points, i) => (
          <polyline
            key={i}
            points={points
              .map((point) =>
                at(point)
                  .map((v) => v.toFixed(1))
                  .join(','),
              )
              .join(' ')}
            opacity={1 - (0.6 * i) / Math.max(1, ways.length)}
          />
        ))}
      </g>
      {ways.map((points, i) => {
        const [x, y] = at(points[points.length - 1]);
        return <circle key={i} cx={x} cy={y} r={1.9} fill={chart('ink')} />;
      })}
      {ways.length > 0 && (
        <>
          <circle cx={mx} cy={my} r={6.5} fill={chart('lampSoft')} />
          <circle cx={mx} cy={my} r={3.2} fill={chart('lamp')} stroke={chart('ink')} strokeWidth={0.9} />
          <text x={WIDTH - 6} y={HEIGHT - 5} textAnchor="end" fontSize={9.5} fill={chart('faint')}>
            a square is {every} m
          </text>
        </>
      )}
    </svg>
  );
}
