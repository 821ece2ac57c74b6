'use client';
'use no memo';
import type { Graph } from '@lantern/motion';
import { Box, Typography } from '@mui/material';
import { chart } from '@/controls/theme';
import { channelWay } from '../set/graph/channel-way';
import { CARD, placesOf } from '../set/graph/layout';

interface Props {
  readonly graph: Graph;
  readonly state: string;
  readonly seconds: number;
  readonly led: number;
  readonly weights: string;
  readonly phase: number;
  readonly onOpen: () => void;
}

/** The graph, small, with the state that plays lit. */
export function SmallGraph({ graph, state, seconds, led, weights, phase, onOpen }: Props) {
  const places = placesOf(graph);
  const all = [...places.values()];
  const [x0, y0] = [Math.min(...all.map(({ x }) => x)), Math.min(...all.map(({ y }) => y))];
  const [x1, y1] = [Math.max(...all.map(({ x }) => x)) + CARD.width, Math.max(...all.map(({ y }) => y)) + CARD.height];
  // Cards are lower than in the large one: only names are on them.
  const box = (name: string) => {
    const at = places.get(name);
    return at ? { x: at.x, y: at.y + 40, width: CARD.width, height: 62 } : null;
  };
  return (
    <Box
      component="section"
      aria-label="Where it is in the graph"
      sx={{
        position: 'absolute',
        right: 14,
        bottom: 14,
        width: 290,
        bgcolor: chart('paper'),
        border: `1px solid ${chart('rule')}`,
        borderRadius: 1,
        p: 1.2,
        color: chart('ink'),
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 0.8 }}>
        <Typography variant="h2" noWrap sx={{ fontWeight: 700, minWidth: 0 }}>
          {state}
        </Typography>
        <Typography variant="caption" noWrap sx={{ flex: 1 }}>
          for {seconds.toFixed(1)} s
        </Typography>
        <Box
          component="button"
          onClick={onOpen}
          sx={{
            border: 0,
            background: 'none',
            p: 0,
            font: 'inherit',
            fontSize: 13.5,
            fontWeight: 600,
            color: chart('lampText'),
            cursor: 'pointer',
            whiteSpace: 'nowrap',
          }}
        >
          to the Graph
        </Box>
      </Box>
      <svg
        viewBox={`${x0 - 10} ${y0 + 10} ${x1 - x0 + 20} ${y1 - y0 - 20}`}
        width="100%"
        height={150}
        preserveAspectRatio="xMidYMid meet"
        aria-hidden
      >
        {graph.transitions.map(({ from, to }, i) => {
          const [a, b] = [box(from ?? '*'), box(to)];
          if (!a || !b) return null;
          const way = channelWay(a, b);
          return (
            <g key={i}>
              <path d={way.path} fill="none" stroke={led === i ? chart('lamp') : chart('rule')} strokeWidth={led === i ? 9 : 6} />
              <g transform={`translate(${way.boat}) rotate(${way.boatTurn}) scale(1.5)`}>
                <path d="M-8 -4H3Q9 -2 12 0Q9 2 3 4H-8Z" fill={chart('ink')} />
              </g>
            </g>
          );
        })}
        {graph.states.map(({ name }) => {
          const at = box(name);
          const isLit = name === state;
          return at ? (
            <g key={name}>
              <rect
                {...at}
                rx={6}
                fill={isLit ? chart('lampSoft') : chart('card')}
                stroke={isLit ? chart('lamp') : chart('faint')}
                strokeWidth={isLit ? 5 : 2}
              />
              <text
                x={at.x + at.width / 2}
                y={at.y + 40}
                textAnchor="middle"
                fontSize={name.length > 14 ? 22 : 28}
                fontFamily="Alegreya Sans"
                fontWeight={isLit ? 700 : 400}
                fill={chart('ink')}
              >
                {name}
              </text>
            </g>
          ) : null;
        })}
      </svg>
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Typography variant="caption" noWrap sx={{ flex: 1, minWidth: 0 }}>
          {weights}
        </Typography>
        <Typography variant="caption" noWrap>
          {Number.isNaN(phase) ? '' : `phase ${phase.toFixed(2)}`}
        </Typography>
      </Box>
    </Box>
  );
}
