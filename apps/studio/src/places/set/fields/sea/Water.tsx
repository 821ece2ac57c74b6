import { memo, useMemo } from 'react';
import { chart } from '@/controls/theme';
import type { FieldDoc } from '@/data/sets-store';
import type { FieldView } from '@/worker/core.worker';
import { contoursOf, DEPTH_WORDS, shallowsOf, type Depth } from '../depths';
import { extentOf, GRID, placeAt, type OpenField } from '../use-field';
import { hullOf, sidesOf } from './edges';
import type { Frame } from './frame';

interface Props extends Pick<OpenField, 'grid' | 'soundings'> {
  readonly field: FieldDoc;
  readonly view: FieldView;
  readonly depth: Depth;
  readonly frame: Frame;
}

/** Depths, their contours and the soundings: drawn anew when soundings come, not with every move of the puck. */
export const Water = memo(function Water({ field, view, grid, soundings, depth, frame }: Props) {
  const { low, high } = extentOf(view);
  const bound = DEPTH_WORDS[depth].bound;
  const rings = useMemo(() => (field.inputs.length > 1 ? contoursOf(soundings, depth) : []), [field.inputs.length, soundings, depth]);
  const at = (column: number, row: number): readonly [number, number] => [
    low[0] + ((high[0] - low[0]) * row) / (GRID - 1),
    low[1] + ((high[1] - low[1]) * column) / (GRID - 1),
  ];
  const path = (all: (typeof rings)[number]['rings']) =>
    all.map((ring) => `M${ring.map(([c, r]) => `${frame.x(at(c, r)).toFixed(1)} ${frame.y(at(c, r)).toFixed(1)}`).join('L')}Z`).join('');
  const hull = hullOf(view, frame);
  const shallows = useMemo(() => shallowsOf(grid, soundings), [grid, soundings]);
  return (
    <g style={{ pointerEvents: 'none' }}>
      <defs>
        <radialGradient id="puck-glow">
          <stop offset="0" stopColor={chart('lamp')} stopOpacity={0.55} />
          <stop offset="1" stopColor={chart('lamp')} stopOpacity={0} />
        </radialGradient>
        <pattern id="chart-hatch" width={6} height={6} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line y2={6} stroke={chart('ink')} strokeWidth={0.9} opacity={0.5} />
        </pattern>
        <clipPath id="chart-hull">
          <path d={hull} />
        </clipPath>
      </defs>
      <path d={hull} fill={chart('card')} />
      <g clipPath="url(#chart-hull)">
        {rings.map(({ value, rings: own }, i) => (
          <path
            key={value}
            d={path(own)}
            fill={chart('rule')}
            fillOpacity={0.16 + 0.1 * i}
            stroke={chart('faint')}
            strokeWidth={0.8}
            fillRule="evenodd"
          />
        ))}
        {rings
          .filter(({ value }) => value >= bound - 1e-9)
          .map(({ value, rings: own }) => (
            <path key={`out ${value}`} d={path(own)} fill="url(#chart-hatch)" stroke={chart('ink')} strokeWidth={1.3} fillRule="evenodd" />
          ))}
      </g>
      {sidesOf(view).map(([a, b], i) => (
        <line
          key={i}
          x1={frame.x(view.points[a].place)}
          y1={frame.y(view.points[a].place)}
          x2={frame.x(view.points[b].place)}
          y2={frame.y(view.points[b].place)}
          stroke={chart('faint')}
          strokeWidth={0.6}
        />
      ))}
      <path d={hull} fill="none" stroke={chart('ink')} strokeWidth={1.2} strokeDasharray="8 2.5 2 2.5" />
      {grid.map(({ index, place }) => {
        const found = soundings.get(index);
        if (!found) return null;
        const value = DEPTH_WORDS[depth].of(found);
        const [whole, tenth] = value.toFixed(1).split('.');
        return (
          <text
            key={index}
            x={frame.x(place)}
            y={frame.y(place) + 4}
            textAnchor="middle"
            fontSize={12}
            fontStyle="italic"
            fontWeight={value > bound ? 700 : 400}
            fill={chart('ink')}
          >
            {whole}
            <tspan fontSize={8.5} dy={2.5}>
              {tenth}
            </tspan>
          </text>
        );
      })}
      {shallows.map(({ sounding }, i) => {
        const place = placeAt(field, sounding.at);
        return (
          <g key={i} transform={`translate(${frame.x(place)} ${frame.y(place) - 15})`}>
            <circle r={9} fill={chart('card')} stroke={chart('ink')} />
            <path d="M0 -4.5L4.5 3.5H-4.5Z" fill={chart('ink')} />
          </g>
        );
      })}
    </g>
  );
});
