'use client';
import { Box } from '@mui/material';
import { memo, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { numeral } from '@/controls/Figure';
import { chart } from '@/controls/theme';
import type { FieldDoc } from '@/data/sets-store';
import type { FieldView } from '@/worker/core.worker';
import { contoursOf, DEPTH_WORDS, shallowsOf, thresholdsOf, type Depth } from './depths';
import { extentOf, GRID, placeAt, valuesAt, type OpenField } from './use-field';

const W = 590;
const H = 500;
const EDGE = { left: 64, right: 22, top: 26, bottom: 42 } as const;

interface Props {
  readonly field: FieldDoc;
  readonly view: FieldView;
  readonly open: OpenField;
  readonly depth: Depth;
  /** Values of the inputs where the puck is. */
  readonly at: readonly number[];
  readonly weights: Readonly<Record<string, number>>;
  readonly wake: readonly (readonly [number, number])[];
  readonly onMove: (at: readonly number[]) => void;
}

interface Frame {
  readonly x: (place: readonly [number, number]) => number;
  readonly y: (place: readonly [number, number]) => number;
  readonly place: (x: number, y: number) => readonly [number, number];
}

/** Where places of a field lie on the chart: left on the left, faster further up; of one input along a line. */
function frameOf(field: FieldDoc, view: FieldView): Frame {
  const { low, high } = extentOf(view);
  const isSpeedUp = field.inputs[1] === 'turn';
  const isLine = field.inputs.length === 1;
  // The input that goes across, to the right as it grows less, and the one that goes up.
  const [across, up] = isLine ? ([0, 1] as const) : isSpeedUp ? ([1, 0] as const) : ([0, 1] as const);
  const pad = (k: 0 | 1) => Math.max(0.06 * (high[k] - low[k]), k === across && isSpeedUp ? 4 : 0.08);
  const span = (k: 0 | 1) => [low[k] - pad(k), high[k] + pad(k)] as const;
  const [a0, a1] = span(across);
  const [u0, u1] = span(up);
  const [w, h] = [W - EDGE.left - EDGE.right, H - EDGE.top - EDGE.bottom];
  const share = (v: number) => (isLine ? (v - a0) / (a1 - a0) : (a1 - v) / (a1 - a0));
  return {
    x: (place) => EDGE.left + share(place[across]) * w,
    y: (place) => (isLine ? EDGE.top + h / 2 : EDGE.top + ((u1 - place[up]) / (u1 - u0)) * h),
    place: (x, y) => {
      const s = Math.max(0, Math.min(1, (x - EDGE.left) / w));
      const own = isLine ? a0 + s * (a1 - a0) : a1 - s * (a1 - a0);
      const other = isLine ? 0 : u1 - Math.max(0, Math.min(1, (y - EDGE.top) / h)) * (u1 - u0);
      return across === 0 ? [own, other] : [other, own];
    },
  };
}

/** The sea chart of a field: clips are buoys, what is measured all over it are soundings, and the puck is what is asked. */
export function SeaChart({ field, view, open, depth, at, weights, wake, onMove }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const [isHeld, setHeld] = useState(false);
  const frame = useMemo(() => frameOf(field, view), [field, view]);
  const puck = placeAt(field, at);
  const [px, py] = [frame.x(puck), frame.y(puck)];
  const move = (event: PointerEvent) => {
    const matrix = svg.current?.getScreenCTM();
    if (!matrix) return;
    const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    onMove(valuesAt(field, frame.place(x, y)));
  };
  const keys = (event: KeyboardEvent) => {
    const by = { ArrowLeft: [-6, 0], ArrowRight: [6, 0], ArrowUp: [0, -6], ArrowDown: [0, 6] }[event.key];
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    onMove(valuesAt(field, frame.place(px + by[0], py + by[1])));
  };
  const values = words(field, at);
  return (
    <Box
      component="svg"
      ref={svg}
      viewBox={`0 0 ${W} ${H}`}
      role="group"
      aria-label={`Chart of ${field.name}`}
      sx={{
        width: '100%',
        height: '100%',
        display: 'block',
        touchAction: 'none',
        userSelect: 'none',
        cursor: 'crosshair',
        '& .puck': { cursor: 'grab', outline: 'none' },
        '& .puck:focus-visible > circle:nth-of-type(2)': { strokeWidth: 3.2 },
      }}
      onPointerDown={(event: PointerEvent<SVGSVGElement>) => {
        if (event.button !== 0) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        setHeld(true);
        move(event);
      }}
      onPointerMove={(event: PointerEvent) => isHeld && move(event)}
      onPointerUp={() => setHeld(false)}
      onPointerCancel={() => setHeld(false)}
    >
      <Water field={field} view={view} grid={open.grid} soundings={open.soundings} depth={depth} frame={frame} />
      <Axes field={field} view={view} frame={frame} />
      {view.points.map(({ id, name, place }, i) => {
        const w = weights[name] ?? 0;
        return w > 0.005 ? (
          <line
            key={`pull ${id} ${i}`}
            x1={frame.x(place)}
            y1={frame.y(place)}
            x2={px}
            y2={py}
            stroke={chart('lamp')}
            strokeWidth={1 + 4 * w}
            strokeLinecap="round"
          />
        ) : null;
      })}
      {view.points.map(({ id, name, place, at: own }) => (
        <Buoy
          key={id}
          x={frame.x(place)}
          y={frame.y(place)}
          name={name}
          side={field.inputs[1] ? (own[1] ?? 0) : 0}
          weight={weights[name] ?? 0}
        />
      ))}
      <polyline
        points={wake.map((place) => `${frame.x(place)},${frame.y(place)}`).join(' ')}
        fill="none"
        stroke={chart('ink')}
        strokeWidth={1.3}
        strokeDasharray="1.5 4"
        strokeLinecap="round"
      />
      <g
        role="slider"
        tabIndex={0}
        aria-label={`What is asked of ${field.name}`}
        aria-valuetext={values}
        aria-valuenow={at[0]}
        aria-valuemin={0}
        aria-valuemax={15}
        transform={`translate(${px} ${py})`}
        onKeyDown={keys}
        className="puck"
      >
        <circle r={34} fill="url(#puck-glow)" />
        <circle r={12.5} fill={chart('lamp')} stroke={chart('ink')} strokeWidth={1.6} />
        {[0, 45, 90, 135].map((a) => (
          <line key={a} x1={-12} x2={12} stroke={chart('ink')} strokeWidth={1.2} strokeDasharray="4 16" transform={`rotate(${a})`} />
        ))}
        <circle r={7.5} fill={chart('lampSoft')} stroke={chart('ink')} strokeWidth={1} />
        <path
          d="M0 -4.2C2.4 -1.4 3 0.2 3 1.4A3 3 0 0 1 -3 1.4C-3 0.2 -2.4 -1.4 0 -4.2Z"
          fill={chart('card')}
          stroke={chart('ink')}
          strokeWidth={0.8}
        />
      </g>
      <g transform={`translate(${Math.min(px + 18, W - 132)} ${py > H - 110 ? py - 58 : py + 18})`} style={{ pointerEvents: 'none' }}>
        <rect width={118} height={24} rx={3} fill={chart('card')} stroke={chart('lamp')} />
        <text x={8} y={16.5} fontSize={13} fontWeight={700} fill={chart('ink')}>
          {values}
        </text>
      </g>
    </Box>
  );
}

/** What is asked, in words. */
export function words(field: Pick<FieldDoc, 'inputs'>, [speed, second = 0]: readonly number[]): string {
  const side = Math.abs(second) < 0.5 ? '' : second > 0 ? ' left' : ' right';
  if (field.inputs.length === 1) return `${speed.toFixed(2)} m/s`;
  return `${speed.toFixed(2)} m/s, ${Math.abs(second).toFixed(0)}${field.inputs[1] === 'turn' ? ' °/s' : '°'}${side}`;
}

interface WaterProps extends Pick<OpenField, 'grid' | 'soundings'> {
  readonly field: FieldDoc;
  readonly view: FieldView;
  readonly depth: Depth;
  readonly frame: Frame;
}

/** Depths, their contours and the soundings: drawn anew when soundings come, not with every move of the puck. */
const Water = memo(function Water({ field, view, grid, soundings, depth, frame }: WaterProps) {
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
      {trianglesOf(view).map(([a, b], i) => (
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

/** Each side of a triangle once. */
function trianglesOf({ field: { triangles } }: FieldView): [number, number][] {
  const seen = new Set<string>();
  const out: [number, number][] = [];
  for (let t = 0; t < triangles.length; t += 3)
    for (const [a, b] of [
      [triangles[t], triangles[t + 1]],
      [triangles[t + 1], triangles[t + 2]],
      [triangles[t + 2], triangles[t]],
    ]) {
      const key = `${Math.min(a, b)} ${Math.max(a, b)}`;
      if (!seen.has(key)) out.push([a, b]);
      seen.add(key);
    }
  return out;
}

/** The edge of the field: the sides that belong to one triangle only, one after the other. */
function hullOf(view: FieldView, frame: Frame): string {
  const { triangles } = view.field;
  const at = (i: number) => `${frame.x(view.points[i].place).toFixed(1)} ${frame.y(view.points[i].place).toFixed(1)}`;
  if (triangles.length === 0) return view.points.length > 0 ? `M${view.points.map((_, i) => at(i)).join('L')}` : '';
  const next = new Map<number, number>();
  const directed = new Set<string>();
  for (let t = 0; t < triangles.length; t += 3)
    for (let k = 0; k < 3; k++) directed.add(`${triangles[t + k]} ${triangles[t + ((k + 1) % 3)]}`);
  for (const side of directed) {
    const [a, b] = side.split(' ').map(Number);
    if (!directed.has(`${b} ${a}`)) next.set(a, b);
  }
  const [first] = next.keys();
  const ring = [first];
  for (let i = next.get(first); i !== undefined && i !== first && ring.length <= next.size; i = next.get(i)) ring.push(i);
  return `M${ring.map(at).join('L')}Z`;
}

/** A clip: a buoy with a round top where it turns to the left, a diamond where to the right, and a flame where it is straight. */
function Buoy({ x, y, name, side, weight }: { x: number; y: number; name: string; side: number; weight: number }) {
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

/** Ruled edges, light and dark by turns, with the inputs' values. */
function Axes({ field, view, frame }: { field: FieldDoc; view: FieldView; frame: Frame }) {
  const { low, high } = extentOf(view);
  const isTurn = field.inputs[1] === 'turn';
  const isLine = field.inputs.length === 1;
  const across = isTurn ? 1 : 0;
  const up = isTurn ? 0 : 1;
  const step = (span: number, wanted: readonly number[]) => wanted.find((own) => span / own <= 7) ?? wanted[wanted.length - 1];
  const ticks = (k: 0 | 1, wanted: readonly number[]) => {
    const by = step(high[k] - low[k], wanted);
    const first = Math.ceil((low[k] - 1e-9) / by) * by;
    return Array.from({ length: Math.max(0, Math.floor((high[k] - first) / by + 1e-9) + 1) }, (_, i) => first + i * by);
  };
  const xs = ticks(across, isTurn ? [10, 20, 30, 60, 90] : [0.2, 0.5, 1]);
  const ys = isLine ? [] : ticks(up, [0.1, 0.2, 0.5, 1]);
  const bottom = H - EDGE.bottom;
  const at = (k: 0 | 1, v: number): readonly [number, number] => (k === 0 ? [v, low[1]] : [low[0], v]);
  return (
    <g style={{ pointerEvents: 'none' }} fontSize={12} fill={chart('ink')}>
      <rect
        x={EDGE.left - 8}
        y={EDGE.top - 8}
        width={W - EDGE.left - EDGE.right + 16}
        height={H - EDGE.top - EDGE.bottom + 16}
        fill="none"
        stroke={chart('ink')}
        strokeWidth={1}
      />
      <rect
        x={EDGE.left - 3}
        y={EDGE.top - 3}
        width={W - EDGE.left - EDGE.right + 6}
        height={H - EDGE.top - EDGE.bottom + 6}
        fill="none"
        stroke={chart('ink')}
        strokeWidth={1}
      />
      {Array.from({ length: 6 }, (_, i) => {
        const w = (W - EDGE.left - EDGE.right) / 12;
        return (
          <g key={i} fill={chart('ink')}>
            <rect x={EDGE.left + 2 * i * w} y={EDGE.top - 8} width={w} height={5} />
            <rect x={EDGE.left + (2 * i + 1) * w} y={bottom + 3} width={w} height={5} />
          </g>
        );
      })}
      {xs.map((v) => {
        const x = frame.x(at(across, v));
        const side = isTurn || !isLine ? (v > 1e-6 ? ' L' : v < -1e-6 ? ' R' : '') : '';
        return (
          <g key={v}>
            <line x1={x} x2={x} y1={EDGE.top} y2={bottom} stroke={chart('rule')} strokeWidth={0.6} />
            <text x={x} y={bottom + 24} textAnchor="middle">
              {isLine ? v.toFixed(1) : numeral(Math.abs(v), isTurn ? 0 : 1)}
              {side}
            </text>
          </g>
        );
      })}
      {ys.map((v) => {
        const y = frame.y(at(up, v));
        return (
          <g key={v}>
            <line x1={EDGE.left} x2={W - EDGE.right} y1={y} y2={y} stroke={chart('rule')} strokeWidth={0.6} />
            <text x={EDGE.left - 13} y={y + 4} textAnchor="end">
              {v.toFixed(1)}
            </text>
          </g>
        );
      })}
      <text x={W - EDGE.right} y={H - 4} textAnchor="end" fontSize={11.5} fill={chart('faint')}>
        {isLine ? 'm/s' : isTurn ? 'turn, °/s, to the left and to the right' : 'm/s to the left and to the right'}
      </text>
      {!isLine && (
        <text x={EDGE.left - 13} y={EDGE.top - 12} textAnchor="end" fontSize={11.5} fill={chart('faint')}>
          m/s
        </text>
      )}
    </g>
  );
}

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
