'use client';
import { pegsOf, type Layer, type Touch } from '@lantern/motion';
import { useState } from 'react';
import { chart } from '@/controls/theme';
import { TimeHandle } from '@/timeline/TimeHandle';
import type { RowPlace } from './row-place';

/** How frames of the layers lie on the time axis. */
type AxisProps = Pick<RowPlace, 'x' | 'frameAt'>;

/** A key's mark: dragged, all keys of its frame go along. */
export function Peg({
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
export function KeyFades({
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
export function TouchBar({
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
