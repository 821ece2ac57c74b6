'use client';
import type { Fitting } from '@lantern/motion';
import { Box, Typography } from '@mui/material';
import { useTheme } from '@mui/material/styles';
import { useEffect, useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { chart } from '@/controls/theme';
import { core } from '@/worker/core';
import type { FitsAsked, JoinAsked } from '@/worker/core.worker';

const SIZE = 168;
const CELLS = 84;

/** The end of the one piece against the beginning of the other: dark where both are alike. The ring is where they meet, and can be dragged. */
export function PairMap({
  asked,
  index,
  window,
  fits,
  met,
  onMeet,
}: {
  asked: JoinAsked;
  /** Of the leaving piece. */
  index: number;
  window: FitsAsked;
  fits: readonly Fitting[];
  met: { readonly a: number; readonly b: number };
  onMeet: (a: number, b: number, isDone: boolean) => void;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const shade = useTheme().palette.mode === 'dark' ? '223,214,190' : '31,42,46';
  const key = JSON.stringify([asked.pieces.slice(index, index + 2), window, index]);
  const latest = useRef({ asked, window });
  useEffect(() => {
    latest.current = { asked, window };
  });
  useEffect(() => {
    let isOld = false;
    void core()
      .joinMap(latest.current.asked, index, latest.current.window, CELLS)
      .then((distances) => {
        const context = canvas.current?.getContext('2d');
        if (isOld || !context || !distances) return;
        const image = context.createImageData(CELLS, CELLS);
        const [r, g, b] = shade.split(',').map(Number);
        depths(distances).forEach((depth, i) => image.data.set([r, g, b, depth], i * 4));
        context.putImageData(image, 0, 0);
      })
      .catch(() => undefined);
    return () => {
      isOld = true;
    };
  }, [key, index, shade]);
  const { rows, columns } = window;
  const px = (b: number) => ((b - columns[0]) / (columns[1] - columns[0])) * SIZE;
  const py = (a: number) => ((a - rows[0]) / (rows[1] - rows[0])) * SIZE;
  const meet = (event: PointerEvent, isDone: boolean) => {
    const box = event.currentTarget.getBoundingClientRect();
    const [u, v] = [(event.clientX - box.left) / SIZE, (event.clientY - box.top) / SIZE].map((share) => Math.min(1, Math.max(0, share)));
    onMeet(Math.round(rows[0] + v * (rows[1] - rows[0])), Math.round(columns[0] + u * (columns[1] - columns[0])), isDone);
  };
  const step = (event: KeyboardEvent) => {
    const by = { ArrowLeft: [0, -1], ArrowRight: [0, 1], ArrowUp: [-1, 0], ArrowDown: [1, 0] }[event.key];
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    onMeet(met.a + by[0], met.b + by[1], true);
  };
  return (
    <Box>
      <Box
        sx={{
          position: 'relative',
          width: SIZE,
          height: SIZE,
          border: `1px solid ${chart('rule')}`,
          overflow: 'hidden',
          touchAction: 'none',
          cursor: 'crosshair',
        }}
        role="slider"
        tabIndex={0}
        aria-label="Where both pieces meet, on the map of how alike they are"
        aria-valuenow={met.a}
        aria-valuetext={`frame ${met.a} of the one, ${met.b} of the other`}
        onKeyDown={step}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          meet(event, false);
        }}
        onPointerMove={(event) => event.buttons & 1 && meet(event, false)}
        onPointerUp={(event) => meet(event, true)}
      >
        <canvas ref={canvas} width={CELLS} height={CELLS} style={{ width: SIZE, height: SIZE, display: 'block' }} />
        <svg width={SIZE} height={SIZE} style={{ position: 'absolute', inset: 0, pointerEvents: 'none' }}>
          <g stroke={chart('lamp')} strokeWidth={1.4}>
            <line x1={0} x2={SIZE} y1={py(met.a)} y2={py(met.a)} />
            <line x1={px(met.b)} x2={px(met.b)} y1={0} y2={SIZE} />
          </g>
          {fits.map(({ a, b }, i) => (
            <g key={`${a} ${b}`} fontSize={11} fontWeight={700} textAnchor="middle">
              <circle cx={px(b)} cy={py(a)} r={8} fill={chart('paper')} opacity={0.75} />
              <circle cx={px(b)} cy={py(a)} r={8} fill="none" stroke={chart('ink')} strokeWidth={1.3} />
              <text x={px(b)} y={py(a) + 4} fill={chart('ink')}>
                {i + 1}
              </text>
            </g>
          ))}
          <circle cx={px(met.b)} cy={py(met.a)} r={9} fill="none" stroke={chart('lamp')} strokeWidth={2.4} />
        </svg>
      </Box>
      <Typography variant="caption" color="text.secondary" noWrap sx={{ display: 'block', width: SIZE }}>
        ↓ {rows[0]}–{rows[1]} → {columns[0]}–{columns[1]}
      </Typography>
    </Box>
  );
}

/** Steps from the least like to the most alike, as depths on a chart. */
const BANDS = 9;

/** Opacities from distances: the nearest dark, the farthest clear, in bands. */
function depths(distances: Float32Array): number[] {
  const known = [...distances].filter(Number.isFinite);
  const [least, most] = [Math.min(...known), Math.max(...known)];
  return [...distances].map((metres) => {
    const likeness = Number.isFinite(metres) ? 1 - (metres - least) / Math.max(1e-6, most - least) : 0;
    return 230 * (Math.round(likeness ** 1.6 * BANDS) / BANDS);
  });
}
