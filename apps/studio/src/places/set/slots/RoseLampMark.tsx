import type { SVGProps } from 'react';
import { chart } from '@/controls/theme';
import { isLit, SlotMark, STATE_WORDS } from './marks';
import type { RoseLabel, RoseLamp } from './rose-layout';

type Handlers = Pick<SVGProps<SVGGElement>, 'onPointerDown' | 'onPointerMove' | 'onPointerUp' | 'onPointerCancel' | 'onKeyDown'>;

interface Props extends Handlers {
  readonly lamp: RoseLamp;
  readonly at: readonly [number, number];
  /** The speed that it is being dragged to, metres a second; null while it is not. */
  readonly dragged: number | null;
  readonly name: string;
  readonly label: RoseLabel;
  /** Of its shot, where one is planned. */
  readonly number: number | undefined;
  readonly speedBound: number;
  readonly isChosen: boolean;
  readonly onChoose: (slot: string | null) => void;
}

/** One slot on the rose: its lamp, its name and its speed. */
export function RoseLampMark({ lamp, at: [x, y], dragged, name, label, number, speedBound, isChosen, onChoose, ...handlers }: Props) {
  const { id, state, askedMps } = lamp.report;
  const isDragged = dragged !== null;
  const isThere = isLit(state);
  const isOff = isThere && askedMps !== null && Math.abs(lamp.mps / askedMps - 1) > speedBound;
  const off = askedMps === null ? '' : `${lamp.mps < askedMps ? 'slow' : 'fast'} by ${Math.abs(lamp.mps - askedMps).toFixed(2)}`;
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={`${name}: ${STATE_WORDS[state]}${isThere ? `, ${lamp.mps.toFixed(2)} m/s${isOff ? `, ${off}` : ''}` : ''}`}
      style={{ cursor: state === 'missing' ? 'default' : 'grab', outline: 'none' }}
      onPointerEnter={() => onChoose(id)}
      onPointerLeave={() => onChoose(null)}
      onFocus={() => onChoose(id)}
      onBlur={() => onChoose(null)}
      {...handlers}
    >
      <g transform={`translate(${x} ${y})`}>
        {isOff && <circle r={14} fill="url(#rose-hatch)" />}
        <circle r={15} fill="transparent" />
        <SlotMark state={state} number={number} isChosen={isChosen} />
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
            {(dragged ?? lamp.mps).toFixed(2)}
            {isDragged && ' m/s'}
          </tspan>
        )}
      </text>
    </g>
  );
}

function pill({ x, y, anchor }: { x: number; y: number; anchor: 'start' | 'end' }, name: string, isThere: boolean) {
  const width = name.length * 6.3 + (isThere ? 40 : 14);
  return { x: anchor === 'end' ? x - width + 5 : x - 5, y: y - 14, width, height: 20 };
}

/** The light of a lamp. */
export function Glow({ x, y, r }: { x: number; y: number; r: number }) {
  return <circle cx={x} cy={y} r={r} fill="url(#rose-glow)" style={{ pointerEvents: 'none' }} />;
}

/** How far an arc turns in half a second: a feather from straight ahead to where that leads. */
export function Feather({ from, to, isThere }: { from: readonly [number, number]; to: readonly [number, number]; isThere: boolean }) {
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
