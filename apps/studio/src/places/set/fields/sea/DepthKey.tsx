import { chart } from '@/controls/theme';
import { DEPTH_WORDS, thresholdsOf, type Depth } from '../depths';

/** What the shades mean. */
export function DepthKey({ depth }: { depth: Depth }) {
  const stops = thresholdsOf(depth);
  return (
    <svg width={190} height={26} role="img" aria-label={`From 0 to ${stops[3]} ${DEPTH_WORDS[depth].unit}, hatched beyond`}>
      {[0, ...stops].map((value, i) => (
        <g key={value}>
          <rect
            x={4 + i * 32}
            width={32}
            y={2}
            height={9}
            fill={i === 0 ? chart('card') : chart('rule')}
            fillOpacity={i === 0 ? 1 : 0.3 + 0.17 * i}
            stroke={chart('ink')}
            strokeWidth={0.7}
          />
          {i > 0 && (
            <text x={4 + i * 32} y={23} textAnchor="middle" fontSize={10.5} fill={chart('ink')}>
              {value < 1 ? value.toFixed(1) : value.toFixed(value % 1 ? 1 : 0)}
            </text>
          )}
        </g>
      ))}
      <rect x={4 + 4 * 32} width={32} y={2} height={9} fill="url(#chart-hatch)" />
      <text x={168} y={11} fontSize={11} fill={chart('faint')}>
        {DEPTH_WORDS[depth].unit}
      </text>
    </svg>
  );
}
