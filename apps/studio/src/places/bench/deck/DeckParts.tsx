'use client';
import type { Seam } from '@lantern/motion';
import { useMemo } from 'react';
import type { ClipDoc } from '@/data/clips-store';
import { numeral } from '@/controls/Figure';
import { chart } from '@/controls/theme';
import { tracePath } from '@/timeline/paths';
import { SideMark } from '@/timeline/Ribbon';
import type { OpenTake } from '@/worker/core.worker';
import { GUTTER, RULER } from '@/timeline/deck-layout';
import type { DeckWindow } from '@/timeline/axis-window';
import { ticks } from '@/timeline/ticks';
import type { Cut } from '../use-bench';
import { HandMarks } from './HandRows';

interface LabelledRows {
  readonly ribbon: number;
  readonly hands: number | null;
  readonly trace: number;
  readonly traceHeight: number;
}

type InPlace = 'traces' | 'time' | 'layers';

/** What is said of the rows where the traces stand. */
function wordsOf(inPlace: InPlace, { trace, traceHeight }: LabelledRows, height: number, hasBalance: boolean): [string, number][] {
  if (inPlace === 'layers') return [['layers', trace + 16]];
  if (inPlace === 'time')
    return [
      ['clip', trace + 22],
      ['result', height - 74],
      ['pace', height - 50],
    ];
  const named = [['speed', 'm/s'], ['hips', 'cm'], ...(hasBalance ? [['balance', 'cm inside']] : [])];
  return named.flatMap(([word, unit], i): [string, number][] => {
    const y = trace + traceHeight * (i + 0.5);
    return traceHeight < 30
      ? [[word, y + 4]]
      : [
          [word, y],
          [unit, y + 13],
        ];
  });
}

export function Labels({
  take,
  rows,
  height,
  hasBalance,
  inPlace,
}: {
  take: OpenTake;
  rows: LabelledRows;
  height: number;
  hasBalance: boolean;
  /** What stands where the traces do, if not they. */
  inPlace: InPlace;
}) {
  const words: [string, number][] = [
    ['frames', 17],
    ['reads', RULER + 16],
    ['loops', RULER + 48],
    ...wordsOf(inPlace, rows, height, hasBalance),
    ['clips', height - 11],
  ];
  return (
    <g fontSize={12.5} fill={chart('faint')} pointerEvents="none">
      {words.map(([word, y]) => (
        <text key={word} x={14} y={y}>
          {word}
        </text>
      ))}
      {take.contacts && (
        <>
          <SideMark side="left" x={14} y={rows.ribbon + 9} />
          <SideMark side="right" x={14} y={rows.ribbon + 32} />
        </>
      )}
      {rows.hands !== null && <HandMarks y={rows.hands} />}
    </g>
  );
}

export function Ruler({ window, span, x }: { window: DeckWindow; span: number; x: (frame: number) => number }) {
  return (
    <g fontSize={12} fill={chart('faint')} pointerEvents="none">
      {ticks(window.from, window.to, span, 44).map(({ at, isLabelled }) => (
        <g key={at}>
          <line x1={x(at)} x2={x(at)} y1={isLabelled ? 8 : 18} y2={RULER} stroke={chart('faint')} opacity={isLabelled ? 1 : 0.5} />
          {isLabelled && (
            <text x={x(at) + 4} y={16}>
              {at}
            </text>
          )}
        </g>
      ))}
      <line x1={0} x2={GUTTER + span} y1={RULER} y2={RULER} stroke={chart('rule')} />
    </g>
  );
}

/** A trace with its range said at the right; `least` is the smallest range that fills the height. */
export function Trace({
  values,
  window,
  span,
  x,
  y,
  height,
  least,
  words,
}: {
  values: Float32Array;
  window: DeckWindow;
  span: number;
  x: (frame: number) => number;
  y: number;
  height: number;
  least: number;
  words: (value: number) => string;
}) {
  const { path, low, high } = useMemo(() => {
    let low = Infinity;
    let high = -Infinity;
    for (let f = Math.max(0, Math.floor(window.from)); f <= Math.min(values.length - 1, window.to); f++) {
      low = Math.min(low, values[f]);
      high = Math.max(high, values[f]);
    }
    const range = Math.max(high - low, least);
    const bottom = (low + high - range) / 2;
    return {
      low,
      high,
      path: tracePath(values, window.from, window.to, span, x, (v) => y + height - 8 - ((v - bottom) / range) * (height - 18)),
    };
  }, [values, window, span, x, y, height, least]);
  return (
    <g pointerEvents="none">
      <line x1={GUTTER} x2={GUTTER + span} y1={y + height} y2={y + height} stroke={chart('rule')} />
      <path d={path} fill="none" stroke={chart('ink')} strokeWidth={1.4} strokeLinejoin="round" />
      <g fontSize={11.5} fill={chart('faint')} textAnchor="end" stroke={chart('paper')} strokeWidth={3} paintOrder="stroke">
        <text x={GUTTER + span - 3} y={y + 12}>
          {words(high)}
        </text>
        <text x={GUTTER + span - 3} y={y + height - 3}>
          {words(low)}
        </text>
      </g>
    </g>
  );
}

/** What the cut would be as a loop, said beside it while it is made. */
export function SeamTag({ cut, seam, fps, x, y }: { cut: Cut; seam: Seam | null; fps: number; x: (frame: number) => number; y: number }) {
  const text = `${((cut.to - cut.from) / fps).toFixed(2)} s${seam ? ` · ${seam.poseCm.toFixed(1)} cm · ${numeral(seam.velocityCmS, 0)} cm/s` : ''}`;
  return (
    <text
      x={(x(cut.from) + x(cut.to)) / 2}
      y={y + 9}
      textAnchor="middle"
      fontSize={13}
      fontWeight={700}
      fill={chart('ink')}
      pointerEvents="none"
      data-seam-tag
      stroke={chart('paper')}
      strokeWidth={3.5}
      paintOrder="stroke"
    >
      {text}
    </text>
  );
}

export function ClipStrip({
  clips,
  open,
  window,
  x,
  y,
  height,
  onOpen,
}: {
  clips: readonly ClipDoc[];
  open: string | null;
  /** Frames that are seen: what lies outside of them is passed by with the Tab key. */
  window: { readonly from: number; readonly to: number };
  x: (frame: number) => number;
  y: number;
  height: number;
  onOpen: (id: string) => void;
}) {
  return (
    <g>
      {clips.map(({ id, name, source: { from, to } }) => {
        const width = Math.max(8, x(to) - x(from));
        return (
          <g
            key={id}
            role="button"
            tabIndex={to > window.from && from < window.to ? 0 : -1}
            aria-label={`Clip ${name}`}
            aria-pressed={id === open}
            style={{ cursor: 'pointer' }}
            onClick={() => onOpen(id)}
            onKeyDown={(event) => event.key === 'Enter' && onOpen(id)}
          >
            <rect x={x(from)} y={y} width={width} height={height} rx={2} fill={chart(id === open ? 'lamp' : 'rule')} />
            {width > 40 && (
              <text
                x={x(from) + 6}
                y={y + height - 5.5}
                fontSize={12.5}
                fontWeight={id === open ? 700 : 400}
                fill={id === open ? '#1F2A2E' : chart('ink')}
              >
                {name.slice(0, Math.floor(width / 7))}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}
