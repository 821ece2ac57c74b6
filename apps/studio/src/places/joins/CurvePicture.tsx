'use client';
import { curveAt, type JoinCurve } from '@lantern/motion';
import { Box } from '@mui/material';
import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { chart } from '@/controls/theme';

const WIDTH = 146;
const HEIGHT = 72;
const EDGE = 10;
/** What an arrow key moves a handle by. */
const STEP = 0.05;

type Handles = readonly [number, number, number, number];
export const FIRST_HANDLES: Handles = [0.4, 0, 0.6, 1];

const x = (t: number) => EDGE + t * (WIDTH - 2 * EDGE);
const y = (w: number) => HEIGHT - EDGE - w * (HEIGHT - 2 * EDGE);
const clamp = (v: number) => Math.min(1, Math.max(0, v));

/** How much of both pieces there is over the overlap; a drawn curve has two handles. */
export function CurvePicture({
  curve,
  leaving,
  now,
  onDraw,
}: {
  curve: JoinCurve;
  leaving: JoinCurve;
  /** Where the playhead is in the overlap, 0 to 1; null outside. */
  now: number | null;
  onDraw: (handles: [number, number, number, number], isDone: boolean) => void;
}) {
  const svg = useRef<SVGSVGElement>(null);
  const line = (of: (t: number) => number) =>
    Array.from({ length: 41 }, (_, i) => `${x(i / 40).toFixed(1)} ${y(of(i / 40)).toFixed(1)}`).join('L');
  const coming = line((t) => curveAt(curve, t));
  const going = line((t) => 1 - curveAt(leaving, t));
  const handles = typeof curve === 'string' ? null : curve;
  const at = (event: PointerEvent): readonly [number, number] => {
    const box = svg.current?.getBoundingClientRect();
    return [
      clamp((event.clientX - (box?.left ?? 0) - EDGE) / (WIDTH - 2 * EDGE)),
      clamp((HEIGHT - EDGE - (event.clientY - (box?.top ?? 0))) / (HEIGHT - 2 * EDGE)),
    ];
  };
  const put = (which: 0 | 1, [u, v]: readonly [number, number], isDone: boolean) => {
    if (!handles) return;
    const next: [number, number, number, number] = [...handles];
    next.splice(which * 2, 2, u, v);
    onDraw(next, isDone);
  };
  return (
    <Box
      component="svg"
      ref={svg}
      width={WIDTH}
      height={HEIGHT}
      sx={{ border: `1px solid ${chart('rule')}`, borderRadius: 1, bgcolor: chart('card'), touchAction: 'none', flexShrink: 0 }}
    >
      <path d={`M${going}L${x(1)} ${y(0)}L${x(0)} ${y(0)}Z`} fill={chart('rule')} opacity={0.5} />
      <path d={`M${coming}L${x(1)} ${y(0)}L${x(0)} ${y(0)}Z`} fill={chart('lampSoft')} opacity={0.7} />
      <path d={`M${going}`} fill="none" stroke={chart('faint')} strokeWidth={1.3} />
      <path d={`M${coming}`} fill="none" stroke={chart('lamp')} strokeWidth={2.2} />
      {now !== null && (
        <g pointerEvents="none">
          <line x1={x(now)} x2={x(now)} y1={EDGE} y2={HEIGHT - EDGE} stroke={chart('ink')} strokeDasharray="2 3" />
          <circle cx={x(now)} cy={y(curveAt(curve, now))} r={3} fill={chart('ink')} />
        </g>
      )}
      {handles &&
        ([0, 1] as const).map((which) => {
          const [u, v] = [handles[which * 2], handles[which * 2 + 1]];
          const key = (event: KeyboardEvent) => {
            const by = { ArrowLeft: [-STEP, 0], ArrowRight: [STEP, 0], ArrowUp: [0, STEP], ArrowDown: [0, -STEP] }[event.key];
            if (!by) return;
            event.preventDefault();
            event.stopPropagation();
            put(which, [clamp(u + by[0]), clamp(v + by[1])], true);
          };
          return (
            <g
              key={which}
              role="slider"
              tabIndex={0}
              aria-label={which === 0 ? 'Handle at the beginning' : 'Handle at the end'}
              aria-valuenow={Math.round(v * 100)}
              aria-valuetext={`${Math.round(u * 100)} % along, ${Math.round(v * 100)} % in`}
              style={{ cursor: 'move' }}
              onKeyDown={key}
              onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
              onPointerMove={(event) => event.buttons & 1 && put(which, at(event), false)}
              onPointerUp={(event) => put(which, at(event), true)}
            >
              <line x1={x(which)} y1={y(which)} x2={x(u)} y2={y(v)} stroke={chart('ink')} />
              <circle cx={x(u)} cy={y(v)} r={9} fill="transparent" />
              <circle cx={x(u)} cy={y(v)} r={4} fill={chart('card')} stroke={chart('ink')} strokeWidth={1.3} />
            </g>
          );
        })}
    </Box>
  );
}
