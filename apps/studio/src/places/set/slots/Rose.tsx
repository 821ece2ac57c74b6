'use client';
import type { Contract, ContractLine, SlotReport } from '@lantern/motion';
import { GAITS } from '@lantern/motion';
import { Box } from '@mui/material';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { chart } from '@/controls/theme';
import { SlotMark, STATE_WORDS } from './marks';
import { MIDDLE, place, RADIUS, roseLabels, roseLamps, roseReach, type RoseLamp } from './rose-layout';

interface Props {
  readonly reports: readonly SlotReport[];
  readonly contract: Contract;
  readonly lines: readonly ContractLine[];
  /** What a clip is called. */
  readonly nameOf: (clip: string | null, report: SlotReport) => string;
  readonly shotOf: (slot: string) => number | undefined;
  readonly speedBound: number;
  readonly chosen: string | null;
  readonly onChoose: (slot: string | null) => void;
  readonly onOpen: (report: SlotReport) => void;
  /** A lamp was dragged to a speed. */
  readonly onSpeed: (report: SlotReport, mps: number) => void;
}

/** Way of travel round, speed outwards: what is covered, and what is missing. */
export function Rose({ reports, contract, lines, nameOf, shotOf, speedBound, chosen, onChoose, onOpen, onSpeed }: Props) {
  const reach = roseReach(reports);
  const lamps = roseLamps(reports, lines, reach);
  const labels = roseLabels(
    lamps,
    lamps.map(({ report, mps }) => `${nameOf(report.clip, report)}${isLit(report) ? ` ${mps.toFixed(2)}` : ''}`),
  );
  const svg = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<{ readonly id: string; readonly mps: number; readonly hasMoved: boolean } | null>(null);

  /** Metres a second of the pointer, along the lamp's own direction. */
  const speedAt = (event: PointerEvent, { angle }: RoseLamp): number => {
    const matrix = svg.current?.getScreenCTM();
    if (!matrix) return 0;
    const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    const along = (x - MIDDLE.x) * Math.sin(angle) - (y - MIDDLE.y) * Math.cos(angle);
    return Math.max(0.1, Math.min(15, Math.round((along / RADIUS) * reach * 20) / 20));
  };
  const begin = (event: PointerEvent<SVGGElement>, lamp: RoseLamp) => {
    if (lamp.report.state === 'missing' || event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    setDrag({ id: lamp.report.id, mps: lamp.mps, hasMoved: false });
  };
  const move = (event: PointerEvent<SVGGElement>, lamp: RoseLamp) => {
    if (drag?.id !== lamp.report.id) return;
    const mps = speedAt(event, lamp);
    setDrag({ ...drag, mps, hasMoved: drag.hasMoved || Math.abs(mps - lamp.mps) > 0.07 });
  };
  const end = (lamp: RoseLamp) => {
    const was = drag;
    setDrag(null);
    if (was?.id !== lamp.report.id) return;
    if (was.hasMoved) onSpeed(lamp.report, was.mps);
    else onOpen(lamp.report);
  };
  const keys = (event: KeyboardEvent, lamp: RoseLamp) => {
    if (event.key === 'Enter') onOpen(lamp.report);
    const step = event.key === 'ArrowUp' ? 0.05 : event.key === 'ArrowDown' ? -0.05 : 0;
    if (step === 0 || lamp.report.state === 'missing') return;
    event.preventDefault();
    onSpeed(lamp.report, Math.max(0.1, Math.round((lamp.mps + step) * 20) / 20));
  };

  return (
    <Box
      component="svg"
      ref={svg}
      viewBox="0 0 600 540"
      role="group"
      aria-label="The rose: way of travel round, speed outwards"
      sx={{ width: '100%', height: '100%', display: 'block', touchAction: 'none', userSelect: 'none' }}
    >
      <Card reach={reach} contract={contract} />
      {lamps.map(({ report: { id, state }, x, y, glow }) =>
        (state === 'filled' || state === 'doubted') && glow > 2 ? <Glow key={`glow ${id}`} x={x} y={y} r={Math.max(18, glow)} /> : null,
      )}
      {lamps.map(({ report: { id, state }, feather, x, y }) =>
        feather ? <Feather key={`feather ${id}`} from={feather} to={[x, y]} isThere={state !== 'missing' && state !== 'mirror'} /> : null,
      )}
      {lamps.map((lamp, i) => {
        const { report } = lamp;
        const { id, state, clip, askedMps } = report;
        const isDragged = drag?.id === id && drag.hasMoved;
        const [x, y] = isDragged ? place(drag.mps, lamp.angle, reach) : [lamp.x, lamp.y];
        const isChosen = chosen === id || isDragged;
        const name = nameOf(clip, report);
        const isThere = state === 'filled' || state === 'doubted';
        const isOff = isThere && askedMps !== null && Math.abs(lamp.mps / askedMps - 1) > speedBound;
        const label = labels[i];
        const off = askedMps === null ? '' : `${lamp.mps < askedMps ? 'slow' : 'fast'} by ${Math.abs(lamp.mps - askedMps).toFixed(2)}`;
        return (
          <g
            key={id}
            role="button"
            tabIndex={0}
            aria-label={`${name}: ${STATE_WORDS[state]}${isThere ? `, ${lamp.mps.toFixed(2)} m/s${isOff ? `, ${off}` : ''}` : ''}`}
            style={{ cursor: state === 'missing' ? 'default' : 'grab', outline: 'none' }}
            onPointerEnter={() => onChoose(id)}
            onPointerLeave={() => onChoose(null)}
            onFocus={() => onChoose(id)}
            onBlur={() => onChoose(null)}
            onPointerDown={(event) => begin(event, lamp)}
            onPointerMove={(event) => move(event, lamp)}
            onPointerUp={() => end(lamp)}
            onPointerCancel={() => setDrag(null)}
            onKeyDown={(event) => keys(event, lamp)}
          >
            <g transform={`translate(${x} ${y})`}>
              {isOff && <circle r={14} fill="url(#rose-hatch)" />}
              <circle r={15} fill="transparent" />
              <SlotMark state={state} number={shotOf(id)} isChosen={isChosen} />
            </g>
            {label.isMoved && !isDragged && <line x1={x} y1={y} x2={label.x} y2={label.y - 4} stroke={chart('faint')} strokeWidth={0.7} />}
            {isChosen && !isDragged && <rect {...pill(label, name, isThere)} rx={3} fill={chart('lampSoft')} stroke={chart('lamp')} />}
            <text
              x={isDragged ? x + (label.anchor === 'end' ? -14 : 14) : label.x}
              y={isDragged ? y + 4 : label.y}
              textAnchor={label.anchor}
              fontSize={13.5}
              fontWeight={isChosen ? 700 : 500}
              fill={isThere ? chart('ink') : chart('faint')}
              style={{ paintOrder: 'stroke', pointerEvents: 'none' }}
              stroke={isChosen ? 'none' : chart('paper')}
              strokeWidth={3}
            >
              {isOff && '▲ '}
              {name}{' '}
              {isThere && (
                <tspan fontWeight={400} fill={chart('faint')}>
                  {(isDragged ? drag.mps : lamp.mps).toFixed(2)}
                  {isDragged && ' m/s'}
                </tspan>
              )}
            </text>
          </g>
        );
      })}
    </Box>
  );
}

const isLit = ({ state }: SlotReport): boolean => state === 'filled' || state === 'doubted';

function pill({ x, y, anchor }: { x: number; y: number; anchor: 'start' | 'end' }, name: string, isThere: boolean) {
  const width = name.length * 6.3 + (isThere ? 40 : 14);
  return { x: anchor === 'end' ? x - width + 5 : x - 5, y: y - 14, width, height: 20 };
}

function Glow({ x, y, r }: { x: number; y: number; r: number }) {
  return <circle cx={x} cy={y} r={r} fill="url(#rose-glow)" style={{ pointerEvents: 'none' }} />;
}

/** How far an arc turns in half a second: a feather from straight ahead to where that leads. */
function Feather({ from, to, isThere }: { from: readonly [number, number]; to: readonly [number, number]; isThere: boolean }) {
  const bend = (by: number) => {
    const [mx, my] = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2];
    const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
    const n = Math.hypot(dx, dy) || 1;
    const side = dx < 0 ? 1 : -1;
    return `M${from[0]} ${from[1]}Q${mx + (dy / n) * by * side} ${my - (dx / n) * by * side} ${to[0]} ${to[1]}`;
  };
  return (
    <g
      fill="none"
      stroke={isThere ? chart('lampText') : chart('faint')}
      strokeWidth={1.1}
      strokeDasharray={isThere ? undefined : '3 3'}
      style={{ pointerEvents: 'none' }}
    >
      <path d={bend(-3)} />
      <path d={bend(5)} />
      {isThere && <path d={bend(1)} strokeWidth={0.7} />}
    </g>
  );
}

/** The card under the lamps: rings of speed, the game's own dashed, degrees round the edge. */
function Card({ reach, contract }: { reach: number; contract: Contract }) {
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
            x={MIDDLE.x + (mps / reach) * RADIUS * 0.78}
            y={MIDDLE.y + (mps / reach) * RADIUS * 0.63 + 12}
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
