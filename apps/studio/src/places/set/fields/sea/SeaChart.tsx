'use client';
import { Box } from '@mui/material';
import { useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { chart } from '@/controls/theme';
import type { FieldDoc } from '@/data/sets-store';
import type { FieldView } from '@/worker/core.worker';
import type { Depth } from '../depths';
import { placeAt, valuesAt, type OpenField } from '../use-field';
import { Axes } from './Axes';
import { Buoy } from './Buoy';
import { frameOf, H, W } from './frame';
import { Water } from './Water';
import { words } from './words';

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
