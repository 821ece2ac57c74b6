import type { TouchTarget } from '@lantern/motion';
import { chart } from '@/controls/theme';
import { ROW, SideMark } from '@/timeline/Ribbon';
import { ContactEdges, type ContactBar, type SetContacts } from './ContactEdges';

/** Pixels that the rows of both hands take. */
export const HAND_ROWS = 38;

const yOf = (y: number) => ({ left: y + 2, right: y + 21 });

/** The rests of both hands on the time axis: open bars, each with what the hand rests on, their edges dragged as those of the feet are. */
export function HandRows({
  contacts,
  offset,
  frames,
  y,
  x,
  frameAt,
  onChange,
}: {
  contacts: readonly ContactBar[];
  /** Frame of the take at the clip's first. */
  offset: number;
  /** Of the clip's cut. */
  frames: number;
  y: number;
  x: (frame: number) => number;
  frameAt: (clientX: number) => number;
  onChange: (contacts: SetContacts) => void;
}) {
  const rows = yOf(y);
  return (
    <>
      {contacts.map((own) => (
        <HandBar key={`${own.side} ${own.from}`} contact={own} left={x(offset + own.from)} right={x(offset + own.to)} y={rows[own.side]} />
      ))}
      <ContactEdges noun="hand contact" {...{ contacts, offset, frames, rows, x, frameAt, onChange }} />
    </>
  );
}

function HandBar({ contact: { side, on, slide }, left, right, y }: { contact: ContactBar; left: number; right: number; y: number }) {
  const width = Math.max(3, right - left);
  const said = on ? placeOf(on, slide) : '';
  return (
    <g pointerEvents="none">
      <rect
        x={left}
        y={y}
        width={width}
        height={ROW}
        rx={side === 'left' ? ROW / 2 : 1.5}
        fill={chart('paper')}
        stroke={chart(side === 'left' ? 'port' : 'starboard')}
        strokeWidth={1.5}
      />
      {width > 8 * said.length && (
        <text
          x={left + width / 2}
          y={y + ROW - 2.5}
          fontSize={11.5}
          textAnchor="middle"
          fill={chart(side === 'left' ? 'port' : 'starboard')}
        >
          {said}
        </text>
      )}
    </g>
  );
}

/** `on the rail`, `along the rail`, `on LeftThigh`, `held in place`. */
export function placeOf(on: TouchTarget, slide = false): string {
  switch (on.to) {
    case 'prop':
      return `${slide ? 'along' : 'on'} the ${on.prop.kind}`;
    case 'joint':
      return `on ${on.joint}`;
    case 'floor':
      return 'on the floor';
    case 'place':
      return 'held in place';
  }
}

/** The marks of the hands in the gutter: open, for the feet's are full. */
export const HandMarks = ({ y }: { y: number }) => (
  <>
    <SideMark side="left" x={14} y={yOf(y).left + 6} isOpen />
    <SideMark side="right" x={14} y={yOf(y).right + 6} isOpen />
  </>
);
