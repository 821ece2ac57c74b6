'use client';
import { Popover, Typography } from '@mui/material';
import { useDrag } from '@use-gesture/react';
import { useRef, useState, type KeyboardEvent, type ReactNode, type RefObject } from 'react';
import { TypedNumber } from '@/controls/TypedNumber';

/** Frames that arrow keys and page keys move a handle by. */
const STEPS: Readonly<Record<string, number>> = { ArrowLeft: -1, ArrowRight: 1, PageDown: -10, PageUp: 10 };

/** What is kept of a drag while it goes on. */
interface Drag {
  readonly grip: number;
  readonly hasMoved: boolean;
}

interface Props {
  /** For screen readers, and over the field in which its frame is typed. */
  readonly name: string;
  readonly frame: number;
  readonly least: number;
  readonly most: number;
  /** The frame under a pointer, fractional. */
  readonly frameAt: (clientX: number) => number;
  /** Where it comes to rest near a frame; Alt asks for a free choice. Without it: on whole frames. */
  readonly snap?: (frame: number, isFree: boolean) => number;
  /** While it is dragged, with `isDone` false; once at the end with true. */
  readonly onMove: (frame: number, isDone: boolean) => void;
  /** Delete and Backspace; without it the handle cannot be taken out. */
  readonly onDelete?: () => void;
  /** How its frame is said; "frame 12" if nothing else. */
  readonly says?: string;
  readonly cursor?: 'col-resize' | 'ew-resize';
  /** How it looks, and what of it can be taken hold of. */
  readonly children: ReactNode;
}

/**
 * Something on a time axis that can be taken hold of: a post, an edge, a pin. Dragged, it keeps to what `snap` says unless Alt is held;
 * arrow keys move it by a frame, page keys by ten; Enter or a double click opens a field in which its frame is typed; Delete takes it out.
 * It never leaves its bounds.
 */
export function TimeHandle(props: Props) {
  const { name, frame, least, most, frameAt, snap = Math.round, onMove, onDelete, says, cursor = 'col-resize', children } = props;
  const element = useRef<SVGGElement>(null);
  const [isTyped, setTyped] = useState(false);
  const within = (at: number) => Math.min(most, Math.max(least, at));
  const bind = useDrag(
    ({ first, last, distance: [dx], xy: [clientX], altKey, memo }) => {
      // Held where it was taken hold of, not by its middle.
      const { grip, hasMoved }: Drag = first ? { grip: frameAt(clientX) - frame, hasMoved: false } : (memo as Drag);
      const moves = hasMoved || dx > 0;
      if (moves) onMove(within(snap(frameAt(clientX) - grip, altKey)), last);
      return { grip, hasMoved: moves };
    },
    { pointer: { keys: false } },
  );
  const { onPointerDown, ...dragging } = bind();
  const key = (event: KeyboardEvent) => {
    const by = STEPS[event.key];
    if (by !== undefined) onMove(within(frame + by), true);
    else if (event.key === 'Enter') setTyped(true);
    else if ((event.key === 'Delete' || event.key === 'Backspace') && onDelete) onDelete();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <>
      <g
        ref={element}
        role="slider"
        tabIndex={0}
        aria-label={name}
        aria-valuenow={frame}
        aria-valuemin={Number.isFinite(least) ? least : undefined}
        aria-valuemax={Number.isFinite(most) ? most : undefined}
        aria-valuetext={says ?? `frame ${frame}`}
        style={{ cursor, outlineOffset: -2, touchAction: 'none' }}
        {...dragging}
        onPointerDown={(event) => {
          // What lies under it is not meant.
          event.stopPropagation();
          onPointerDown?.(event);
        }}
        onDoubleClick={(event) => {
          event.stopPropagation();
          setTyped(true);
        }}
        onKeyDown={key}
      >
        {children}
      </g>
      {isTyped && (
        <TypedFrame
          name={name}
          frame={frame}
          least={least}
          most={most}
          at={element}
          onType={(next) => onMove(within(snap(next, true)), true)}
          onClose={() => setTyped(false)}
        />
      )}
    </>
  );
}

interface TypedProps extends Pick<Props, 'name' | 'frame' | 'least' | 'most'> {
  readonly at: RefObject<SVGGElement | null>;
  readonly onType: (frame: number) => void;
  readonly onClose: () => void;
}

/** A slip over a handle in which its frame is typed. */
function TypedFrame({ name, frame, least, most, at, onType, onClose }: TypedProps) {
  return (
    <Popover
      open
      anchorEl={() => at.current as unknown as Element}
      onClose={onClose}
      anchorOrigin={{ vertical: 'top', horizontal: 'center' }}
      transformOrigin={{ vertical: 'bottom', horizontal: 'center' }}
      slotProps={{
        paper: {
          sx: { px: 1.5, py: 0.8, display: 'flex', gap: 1, alignItems: 'baseline' },
          onKeyDown: (event: KeyboardEvent) => event.stopPropagation(),
        },
        transition: { onEntering: (paper: HTMLElement) => paper.querySelector('input')?.select() },
      }}
    >
      <Typography variant="body2" color="text.secondary">
        {name}, frame
      </Typography>
      <TypedNumber
        name={`${name}, frame typed`}
        value={frame}
        least={least}
        most={most}
        digits={1}
        onChange={(next) => {
          onType(next);
          onClose();
        }}
      />
    </Popover>
  );
}
