'use client';
import { handTurned, pegsOf, withoutPeg, withPegAt, type Layer, type Skeleton } from '@lantern/motion';
import { useDrag } from '@use-gesture/react';
import { useMemo, useState } from 'react';
import { chart } from '@/controls/theme';
import { useCorrecting } from '@/data/correcting';
import { KeyFades, Peg, TouchBar } from './LayerHandles';
import { WeightKnobs } from './LayerWeight';
import { rampOf, rampPath } from './ramp';
import { RangeBand } from './RangeBand';
import type { RowPlace } from './row-place';

/** Pixels of a row, at the most and at the least. */
const TALLEST = 46;
const LOWEST = 24;
/** A range is chosen by dragging further than this, pixels. */
const LEAST_DRAG = 4;

interface Props extends RowPlace {
  readonly layers: readonly Layer[];
  readonly open: number;
  readonly frames: number;
  readonly cycle: number | null;
  readonly skeleton: Skeleton;
  readonly onOpen: (index: number) => void;
  readonly onPut: (index: number, layer: Layer, isDone: boolean) => void;
}

/** The layers on the time axis: each a ramp as high as its weight, with its pegs, touches and fades to take hold of. */
export function LayerRows({ layers, open, y, height, ...rest }: Props) {
  const row = Math.min(TALLEST, Math.max(LOWEST, height / Math.max(1, layers.length)));
  const fits = Math.max(1, Math.floor(height / row));
  // Those that do not fit are scrolled past by opening them.
  const first = Math.min(Math.max(0, layers.length - fits), Math.max(0, open - fits + 1));
  return (
    <g role="group" aria-label="Layers">
      {layers.slice(first, first + fits).map((layer, i) => (
        <LayerRow key={first + i} {...rest} layer={layer} index={first + i} isOpen={first + i === open} y={y + i * row} height={row} />
      ))}
    </g>
  );
}

type RowProps = Omit<Props, 'layers' | 'open'> & { readonly layer: Layer; readonly index: number; readonly isOpen: boolean };

function LayerRow({ layer: kept, index, isOpen, x, frameAt, y, height, x0, width, frames, cycle, skeleton, onOpen, onPut }: RowProps) {
  const [draft, setDraft] = useState<Layer | null>(null);
  const layer = draft ?? kept;
  const put = (next: Layer, isDone: boolean) => {
    setDraft(isDone ? null : next);
    onPut(index, next, isDone);
  };
  const foot = y + height - 5;
  const top = height - 14;
  const ramp = useMemo(() => rampOf(layer, cycle), [layer, cycle]);
  const path = useMemo(() => rampPath(ramp, [0, frames], x, { foot, height: top }), [ramp, frames, x, foot, top]);
  const peg = (clientX: number) => {
    const frame = Math.round(frameAt(clientX));
    const names = new Set(layer.keys.map(({ joint }) => joint));
    const pegged = skeleton.joints.reduce(
      (own, { name }, joint) => (names.has(name) ? handTurned(own, skeleton, cycle, { joint, frame }) : own),
      layer,
    );
    if (pegged !== layer) put(pegged, true);
  };
  // Pegs go along with their range; one that is dragged by itself stays the one that it was.
  const [isMoved, setMoved] = useState(false);
  const move = (next: Layer, isDone: boolean) => {
    setMoved(!isDone);
    put(next, isDone);
  };
  const range = useCorrecting((state) => state.range);
  const choose = useDrag(
    ({ event, first, tap, xy: [px], initial: [x0] }) => {
      event.stopPropagation();
      if (!isOpen && (first || tap)) onOpen(index);
      else if (tap) useCorrecting.setState({ range: null });
      else if (isOpen && Math.abs(px - x0) > LEAST_DRAG) {
        const [a, b] = [frameAt(x0), frameAt(px)].map(Math.round);
        useCorrecting.setState({ range: { from: Math.min(a, b), to: Math.max(a, b) } });
      }
    },
    { pointer: { keys: false }, filterTaps: true },
  );
  return (
    <g aria-label={`Layer ${layer.name}`} role="group" opacity={layer.muted ? 0.5 : 1}>
      <rect
        x={x0}
        y={y}
        width={width}
        height={height}
        fill={isOpen ? chart('lampSoft') : 'transparent'}
        opacity={0.55}
        style={{ touchAction: 'none', cursor: isOpen ? 'text' : 'pointer' }}
        {...choose()}
        onDoubleClick={(event) => peg(event.clientX)}
      >
        <title>{isOpen ? 'Double click to set a peg here; drag to choose a range' : 'Open the layer'}</title>
      </rect>
      <g pointerEvents="none">
        <path
          d={path}
          fill={layer.muted ? 'none' : chart(isOpen ? 'lamp' : 'faint')}
          fillOpacity={isOpen ? 0.35 : 0.16}
          stroke={chart(isOpen ? 'lamp' : 'faint')}
          strokeWidth={1.4}
          strokeDasharray={layer.muted ? '4 3' : undefined}
        />
        <text x={x0 + 6} y={y + 12} fontSize={12.5} fontWeight={isOpen ? 700 : 400} fill={chart('ink')} {...HALO}>
          {layer.name}
        </text>
        <text x={x0 + width - 6} y={y + 12} fontSize={11.5} textAnchor="end" fill={chart('faint')} {...HALO}>
          {saysOf(layer)}
        </text>
      </g>
      {isOpen && range && <RangeBand range={range} layer={kept} {...{ x, frameAt, y, height }} onPut={move} />}
      {isOpen && <KeyFades layer={layer} x={x} frameAt={frameAt} foot={foot} onPut={put} />}
      {layer.touches.map((touch, t) => (
        <TouchBar
          key={t}
          touch={touch}
          layer={layer}
          isOpen={isOpen}
          x={x}
          frameAt={frameAt}
          y={foot - 7}
          onMove={(next, isDone) => put({ ...layer, touches: layer.touches.map((own, i) => (i === t ? next : own)) }, isDone)}
          onDelete={() => put({ ...layer, touches: layer.touches.filter((_, i) => i !== t) }, true)}
        />
      ))}
      {pegsOf(isMoved ? layer : kept).map((frame) => (
        <Peg
          key={frame}
          name={`Peg of ${layer.name} at frame ${frame}`}
          frame={frame}
          isOpen={isOpen}
          x={x}
          frameAt={frameAt}
          foot={foot}
          height={Math.max(10, top * 0.9)}
          onMove={(to, isDone) => put(withPegAt(kept, frame, Math.round(to)), isDone)}
          onDelete={() => put(withoutPeg(kept, frame), true)}
        />
      ))}
      {isOpen && <WeightKnobs layer={kept} x={x} frameAt={frameAt} foot={foot} height={top} onPut={put} />}
    </g>
  );
}

const HALO = { stroke: chart('paper'), strokeWidth: 3, paintOrder: 'stroke' } as const;

/** `100 %, 3 pegs`. */
function saysOf(layer: Layer): string {
  if (layer.muted) return 'muted';
  const pegs = pegsOf(layer).length;
  const counts = [
    typeof layer.weight === 'number' ? `${Math.round(layer.weight * 100)} %` : 'weight keyed',
    ...(pegs > 0 ? [`${pegs} ${pegs === 1 ? 'peg' : 'pegs'}`] : []),
    ...(layer.touches.length > 0 ? [`${layer.touches.length} ${layer.touches.length === 1 ? 'touch' : 'touches'}`] : []),
  ];
  return counts.join(', ');
}
