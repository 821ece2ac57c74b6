'use client';
import { handTurned, pegsOf, withoutPeg, withPegAt, type Layer, type Skeleton, type Touch } from '@lantern/motion';
import { useMemo, useState } from 'react';
import { chart } from '@/controls/theme';
import { TimeHandle } from '@/timeline/TimeHandle';
import { rampOf, rampPath } from './ramp';

/** Pixels of a row, at the most and at the least. */
const TALLEST = 46;
const LOWEST = 24;

/** Where a row lies, and how frames of the layers lie on the time axis. */
export interface RowPlace {
  readonly x: (frame: number) => number;
  readonly frameAt: (clientX: number) => number;
  readonly y: number;
  readonly height: number;
  readonly x0: number;
  readonly width: number;
}

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
  return (
    <g aria-label={`Layer ${layer.name}`} role="group" opacity={layer.muted ? 0.5 : 1}>
      <rect
        x={x0}
        y={y}
        width={width}
        height={height}
        fill={isOpen ? chart('lampSoft') : 'transparent'}
        opacity={0.55}
        onPointerDown={(event) => {
          event.stopPropagation();
          onOpen(index);
        }}
        onDoubleClick={(event) => peg(event.clientX)}
      >
        <title>Double click to set a peg here</title>
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
      {pegsOf(kept).map((frame) => (
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

type AxisProps = Pick<RowPlace, 'x' | 'frameAt'>;

/** A key's mark: dragged, all keys of its frame go along. */
function Peg({
  name,
  frame,
  isOpen,
  x,
  frameAt,
  foot,
  height,
  onMove,
  onDelete,
}: AxisProps & {
  name: string;
  frame: number;
  isOpen: boolean;
  foot: number;
  height: number;
  onMove: (frame: number, isDone: boolean) => void;
  onDelete: () => void;
}) {
  const [moved, setMoved] = useState<number | null>(null);
  const at = x(moved ?? frame);
  return (
    <TimeHandle
      name={name}
      frame={frame}
      least={-1e6}
      most={1e6}
      frameAt={frameAt}
      onMove={(to, isDone) => {
        setMoved(isDone ? null : to);
        onMove(to, isDone);
      }}
      onDelete={onDelete}
      cursor="ew-resize"
    >
      <rect x={at - 6} y={foot - height - 4} width={12} height={height + 6} fill="transparent" />
      <rect x={at - 1.6} y={foot - height} width={3.2} height={height} fill={chart('paper')} stroke={chart('ink')} strokeWidth={0.9} />
      <path
        d={`M${at - 4} ${foot - height + 6}v-6a4 4 0 0 1 8 0v6z`}
        fill={chart(isOpen ? 'lamp' : 'paper')}
        stroke={chart('ink')}
        strokeWidth={0.9}
      />
    </TimeHandle>
  );
}

/** The ends of a layer's fades. */
function KeyFades({
  layer,
  x,
  frameAt,
  foot,
  onPut,
}: AxisProps & { layer: Layer; foot: number; onPut: (layer: Layer, isDone: boolean) => void }) {
  const pegs = pegsOf(layer);
  if (pegs.length === 0 || layer.hold) return null;
  const [first, last] = [pegs[0], pegs[pegs.length - 1]];
  return (
    <>
      <FadeEnd
        name={`Fade in of ${layer.name}`}
        frame={first - layer.fadeIn}
        least={-1e6}
        most={first}
        {...{ x, frameAt, foot }}
        onMove={(to, isDone) => onPut({ ...layer, fadeIn: first - to }, isDone)}
      />
      <FadeEnd
        name={`Fade out of ${layer.name}`}
        frame={last + layer.fadeOut}
        least={last}
        most={1e6}
        {...{ x, frameAt, foot }}
        onMove={(to, isDone) => onPut({ ...layer, fadeOut: to - last }, isDone)}
      />
    </>
  );
}

function FadeEnd({
  foot,
  x,
  ...handle
}: AxisProps & {
  name: string;
  frame: number;
  least: number;
  most: number;
  foot: number;
  onMove: (frame: number, isDone: boolean) => void;
}) {
  const at = x(handle.frame);
  return (
    <TimeHandle {...handle} cursor="ew-resize">
      <rect x={at - 6} y={foot - 9} width={12} height={13} fill="transparent" />
      <rect x={at - 3} y={foot - 3} width={6} height={6} rx={1} fill={chart('paper')} stroke={chart('ink')} strokeWidth={0.9} />
    </TimeHandle>
  );
}

/** A touch from its first frame to its last, with its fades. */
function TouchBar({
  touch,
  layer,
  isOpen,
  x,
  frameAt,
  y,
  onMove,
  onDelete,
}: AxisProps & {
  touch: Touch;
  layer: Layer;
  isOpen: boolean;
  y: number;
  onMove: (touch: Touch, isDone: boolean) => void;
  onDelete: () => void;
}) {
  const name = `${touch.limb} in ${layer.name}`;
  const side = chart(touch.limb.startsWith('left') ? 'port' : 'starboard');
  const edge = (which: 'from' | 'to') => (
    <TimeHandle
      key={which}
      name={`${which === 'from' ? 'Start' : 'End'} of the touch of the ${name}`}
      frame={touch[which]}
      least={which === 'from' ? -1e6 : touch.from}
      most={which === 'from' ? touch.to : 1e6}
      frameAt={frameAt}
      onMove={(to, isDone) => onMove({ ...touch, [which]: Math.round(to) }, isDone)}
      onDelete={onDelete}
      cursor="ew-resize"
    >
      <rect x={x(touch[which]) - 5} y={y - 8} width={10} height={14} fill="transparent" />
      <rect x={x(touch[which]) - 1.5} y={y - 6} width={3} height={10} fill={chart('lamp')} stroke={chart('ink')} strokeWidth={0.7} />
    </TimeHandle>
  );
  return (
    <g>
      <rect
        x={x(touch.from)}
        y={y - 4}
        width={Math.max(2, x(touch.to) - x(touch.from))}
        height={6}
        rx={3}
        fill={chart('paper')}
        stroke={side}
        strokeWidth={1.4}
        pointerEvents="none"
      />
      {(['from', 'to'] as const).map(edge)}
      {isOpen && (
        <>
          <FadeEnd
            name={`Fade in of the ${name}`}
            frame={touch.from - touch.fadeIn}
            least={-1e6}
            most={touch.from}
            {...{ x, frameAt }}
            foot={y + 7}
            onMove={(to, isDone) => onMove({ ...touch, fadeIn: touch.from - Math.round(to) }, isDone)}
          />
          <FadeEnd
            name={`Fade out of the ${name}`}
            frame={touch.to + touch.fadeOut}
            least={touch.to}
            most={1e6}
            {...{ x, frameAt }}
            foot={y + 7}
            onMove={(to, isDone) => onMove({ ...touch, fadeOut: Math.round(to) - touch.to }, isDone)}
          />
        </>
      )}
    </g>
  );
}
