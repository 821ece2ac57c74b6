'use client';
import { useDrag } from '@use-gesture/react';
import { useState, type KeyboardEvent } from 'react';
import { chart } from '@/controls/theme';

/** Frames and units of the value that the arrow keys move a knob by. */
const STEPS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

interface Props {
  readonly name: string;
  readonly cx: number;
  readonly cy: number;
  readonly value: number;
  /** How its value is said. */
  readonly says: string;
  /** What an arrow key adds to the value. */
  readonly step: number;
  /** Paler than the pegs beside it. */
  readonly isPale?: boolean;
  readonly valuePerPixel: number;
  readonly frameAt: (clientX: number) => number;
  /** By how many frames, and by how much of the value. */
  readonly onMove: (frames: number, value: number, isDone: boolean) => void;
  readonly onDelete: () => void;
}

/** A round on a curve, dragged in time and value; arrow keys move it, Delete takes it out. */
export function Knob({ name, cx, cy, value, says, step, isPale = false, valuePerPixel, frameAt, onMove, onDelete }: Props) {
  const [by, setBy] = useState<readonly [number, number]>([0, 0]);
  const bind = useDrag(
    ({ event, xy: [px, py], last, initial: [x0, y0], tap }) => {
      event.stopPropagation();
      if (tap) return;
      const [dx, dy] = [px - x0, py - y0];
      setBy(last ? [0, 0] : [dx, dy]);
      onMove(Math.round(frameAt(x0 + dx) - frameAt(x0)), -dy * valuePerPixel, last);
    },
    { pointer: { keys: false }, filterTaps: true },
  );
  const onKeyDown = (event: KeyboardEvent) => {
    const by = STEPS[event.key];
    if (by) onMove(by[0], by[1] * step, true);
    else if (event.key === 'Delete' || event.key === 'Backspace') onDelete();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <circle
      {...bind()}
      cx={cx + by[0]}
      cy={cy + by[1]}
      r={5}
      fill={chart(isPale ? 'paper' : 'lamp')}
      stroke={chart('ink')}
      strokeWidth={0.9}
      role="slider"
      tabIndex={0}
      aria-label={name}
      aria-valuenow={value}
      aria-valuetext={says}
      style={{ cursor: 'move', touchAction: 'none' }}
      onKeyDown={onKeyDown}
    />
  );
}
