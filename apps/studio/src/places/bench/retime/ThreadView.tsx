'use client';
import { timeMap, type TimePin } from '@lantern/motion';
import { linkVertical } from 'd3-shape';
import { useMemo, useState, type RefObject } from 'react';
import { usePlayer } from '@/data/player';
import { chart } from '@/controls/theme';
import { ticks } from '@/timeline/ticks';
import type { Untimed } from '@/worker/core.worker';
import type { RetimeStep } from './RetimeCard';
import { Pin } from './ThreadPin';
import { movedPin, pinsWith, pinsWithout } from './time-pins';

/** A thread between two places, upright at both. */
const link = linkVertical().digits(1);
/** Threads drawn between the rulers besides those of the pins. */
const THREADS = 40;
const RULE = 22;
const SPEED = 26;

/**
 * Time as threads: the clip's own frames above, the result's below, and threads between what is the same. A thread that is held is a pin:
 * dragged at either end, typed in the card, moved by arrow keys, deleted with Delete; a double click puts one.
 */
export function ThreadView({
  step,
  untimed,
  frames,
  loop,
  x0,
  width,
  y,
  height,
  svg,
  onChange,
}: {
  step: RetimeStep;
  untimed: Untimed;
  /** Of the result, less one. */
  frames: number;
  loop: boolean;
  x0: number;
  width: number;
  y: number;
  height: number;
  svg: RefObject<SVGSVGElement | null>;
  onChange: (step: RetimeStep) => void;
}) {
  const rest = useMemo<TimePin[]>(
    () => [
      { from: 0, to: 0 },
      ...step.pins.filter(({ from, to }) => (from > 0 || to > 0) && from < untimed.frames),
      { from: untimed.frames, to: frames },
    ],
    [step.pins, untimed.frames, frames],
  );
  const [draft, setDraft] = useState<readonly TimePin[] | null>(null);
  const pins = draft ?? rest;
  const total = pins[pins.length - 1].to;
  // Held still while the end is dragged.
  const whole = Math.max(rest[rest.length - 1].to, frames);
  const map = useMemo(() => courseOf(pins, loop), [pins, loop]);
  const top = (frame: number) => x0 + (frame / untimed.frames) * width;
  const bottom = (frame: number) => x0 + (frame / Math.max(total, frames)) * width;
  const [from, to] = [y + RULE, y + height - RULE - SPEED];
  const thread = (a: number, b: number) => link({ source: [top(a), from], target: [bottom(b), to] }) ?? '';
  const frameAt = (clientX: number, of: number) => ((clientX - (svg.current?.getBoundingClientRect().left ?? 0) - x0) / width) * of;
  const finish = (next: readonly TimePin[]) => {
    setDraft(null);
    const last = next[next.length - 1];
    const isEndMoved = Math.round(last.to) !== frames;
    onChange({
      ...step,
      ...(isEndMoved ? { factor: 1, cadence: undefined, frames: Math.max(2, Math.round(last.to)) } : {}),
      pins: next.slice(1, -1).map((pin) => ({ ...pin })),
    });
  };
  const moved = (index: number, asked: TimePin) => pins.map((pin, i) => (i === index ? movedPin(rest, index, asked) : pin));
  const add = (event: { clientX: number }) => {
    const at = Math.round(frameAt(event.clientX, Math.max(total, frames)));
    if (!map || at <= 0 || at >= total) return;
    finish(pinsWith(rest, { from: Number(map[at].toFixed(1)), to: at }));
  };
  return (
    <g aria-label="Threads" role="group">
      <rect x={x0} y={y} width={width} height={height} fill={chart('paper')} onDoubleClick={add} data-threads />
      <Rule frames={untimed.frames} x={top} y={y} width={width} isTop />
      <Rule frames={Math.max(total, frames)} x={bottom} y={to} width={width} />
      <g pointerEvents="none" fill="none">
        {map &&
          Array.from({ length: THREADS + 1 }, (_, i) => {
            const out = Math.round((i / THREADS) * total);
            return <path key={i} d={thread(map[out] ?? 0, out)} stroke={chart('rule')} strokeWidth={1} />;
          })}
        {map &&
          untimed.landings.map((landing) => (
            <LandingThread key={`${landing.side} ${landing.at}`} landing={landing} map={map} thread={thread} x={top(landing.at)} y={from} />
          ))}
      </g>
      {map && <Speeds map={map} pins={pins} x={bottom} y={to + RULE} height={SPEED} />}
      {pins.map((pin, i) =>
        i === 0 ? null : (
          <Pin
            key={i}
            index={i}
            isEnd={i === pins.length - 1}
            pin={pin}
            path={thread(pin.from, pin.to)}
            ends={[top(pin.from), bottom(pin.to)]}
            y={[from, to]}
            frameAt={{ from: (clientX) => frameAt(clientX, untimed.frames), to: (clientX) => frameAt(clientX, whole) }}
            onMove={(end, frame, isDone) => {
              const next = moved(i, { ...pin, [end]: frame });
              if (isDone) finish(next);
              else setDraft(next);
            }}
            onDelete={() => finish([rest[0], ...pinsWithout(rest.slice(1, -1), i - 1), rest[rest.length - 1]])}
          />
        ),
      )}
      {map && <Now map={map} thread={thread} />}
    </g>
  );
}

/** The course of time through pins while they are moved; none while they make no sense. */
function courseOf(pins: readonly TimePin[], loop: boolean): Float64Array | null {
  try {
    const last = pins[pins.length - 1];
    return timeMap([...pins.slice(0, -1), { ...last, to: Math.max(1, Math.round(last.to)) }], loop);
  } catch {
    return null;
  }
}

function Rule({ frames, x, y, width, isTop }: { frames: number; x: (frame: number) => number; y: number; width: number; isTop?: boolean }) {
  const line = isTop ? y + RULE : y;
  return (
    <g pointerEvents="none" fontSize={11.5} fill={chart('faint')}>
      <line x1={x(0)} x2={x(frames)} y1={line} y2={line} stroke={chart('ink')} />
      {ticks(0, frames, width, 44)
        .filter(({ isLabelled }) => isLabelled)
        .map(({ at }) => (
          <g key={at}>
            <line x1={x(at)} x2={x(at)} y1={line} y2={line + (isTop ? -6 : 6)} stroke={chart('faint')} />
            <text x={x(at) + 3} y={isTop ? line - 7 : line + 15}>
              {at}
            </text>
          </g>
        ))}
    </g>
  );
}

type ThreadPath = (from: number, to: number) => string;

function LandingThread({
  landing,
  map,
  thread,
  x,
  y,
}: {
  landing: { side: 'left' | 'right'; at: number };
  map: Float64Array;
  thread: ThreadPath;
  x: number;
  y: number;
}) {
  const colour = chart(landing.side === 'left' ? 'port' : 'starboard');
  const out = map.findIndex((source) => source >= landing.at - 1e-6);
  if (out < 0) return null;
  return (
    <g>
      <path d={thread(landing.at, out)} stroke={colour} strokeWidth={1.6} opacity={0.8} />
      {landing.side === 'left' ? <circle cx={x} cy={y} r={4} fill={colour} /> : <path d={`M${x} ${y - 5}l5 5l-5 5l-5 -5z`} fill={colour} />}
    </g>
  );
}

/** How fast time goes along the result: the darker, the further from its own pace; the figure where it is steady. */
function Speeds({
  map,
  pins,
  x,
  y,
  height,
}: {
  map: Float64Array;
  pins: readonly TimePin[];
  x: (frame: number) => number;
  y: number;
  height: number;
}) {
  const last = map.length - 1;
  const pieces = Math.min(last, 60);
  const pace = (i: number) => {
    const [a, b] = [Math.round((i / pieces) * last), Math.round(((i + 1) / pieces) * last)];
    return { a, b, v: (map[b] - map[a]) / Math.max(1, b - a) };
  };
  const words = (v: number) => (v < 0.02 ? 'held' : `${v.toFixed(2)} ×`);
  // The mean pace of each stretch between pins, where there is room to say it.
  const labels = pins
    .slice(1)
    .map(({ from, to }, i) => ({ a: pins[i].to, b: to, v: (from - pins[i].from) / Math.max(1e-9, to - pins[i].to) }))
    .filter(({ a, b }) => x(b) - x(a) > 44);
  return (
    <g pointerEvents="none" role="img" aria-label={`Pace of time: ${labels.map(({ v }) => words(v)).join(', ')}`}>
      {Array.from({ length: pieces }, (_, i) => {
        const { a, b, v } = pace(i);
        const away = v < 0.02 ? 1 : Math.min(1, Math.abs(Math.log2(v)) / 2);
        return (
          <rect
            key={i}
            x={x(a)}
            y={y}
            width={Math.max(0.5, x(b) - x(a) + 0.3)}
            height={height - 8}
            fill={chart('ink')}
            opacity={0.04 + 0.36 * away}
          />
        );
      })}
      {labels.map(({ a, b, v }, i) => (
        <text
          key={i}
          x={(x(a) + x(b)) / 2}
          y={y + 13}
          textAnchor="middle"
          fontSize={12}
          fontWeight={700}
          fill={chart('ink')}
          stroke={chart('paper')}
          strokeWidth={3}
          paintOrder="stroke"
        >
          {words(v)}
        </text>
      ))}
    </g>
  );
}

/** The thread of the frame that is shown. */
function Now({ map, thread }: { map: Float64Array; thread: ThreadPath }) {
  const last = map.length - 1;
  const frame = usePlayer((state) => Math.round(state.frame)) % Math.max(1, last);
  return <path d={thread(map[frame] ?? 0, frame)} fill="none" stroke={chart('ink')} strokeWidth={1.6} pointerEvents="none" />;
}
