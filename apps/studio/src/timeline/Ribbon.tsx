import type { Contacts, Interval } from '@lantern/motion';
import { chart } from '@/controls/theme';

const NO_HANDS: readonly Interval[] = [];

/** Height of a row of it, pixels. */
export const ROW = 13;

/** The stance bars of one foot: rounded and port for the left, pointed and starboard for the right. */
export function Ribbon({
  contacts,
  side,
  x,
  y,
  from,
  to,
  height = ROW,
  hasHands = true,
}: {
  contacts: Contacts;
  side: 'left' | 'right';
  x: (frame: number) => number;
  y: number;
  from: number;
  to: number;
  height?: number;
  /** Whether rests of the hand are drawn under the foot's. */
  hasHands?: boolean;
}) {
  const colour = chart(side === 'left' ? 'port' : 'starboard');
  const hands = (hasHands && (side === 'left' ? contacts.leftHand : contacts.rightHand)) || NO_HANDS;
  return (
    <g role="img" aria-label={`${side} foot: ${contacts[side].length} contacts${hands.length > 0 ? `; hand: ${hands.length}` : ''}`}>
      {drawnBars(hands, from, to, x).map((bar) => (
        // A hand that rests: a thin open bar under those of its foot.
        <rect
          key={`hand ${bar.from}`}
          x={x(bar.from)}
          y={y + height + 2.5}
          width={Math.max(3, x(bar.to) - x(bar.from))}
          height={4}
          rx={side === 'left' ? 2 : 0}
          fill="none"
          stroke={colour}
          strokeWidth={1.3}
        >
          <title>{`${side} hand rests`}</title>
        </rect>
      ))}
      {drawnBars(contacts[side], from, to, x).map((bar) => {
        const a = x(bar.from);
        const width = Math.max(3, x(bar.to) - a);
        const nose = Math.min(height / 2, width / 2);
        return side === 'left' ? (
          <rect key={bar.from} x={a} y={y} width={width} height={height} rx={nose} fill={colour} />
        ) : (
          <path
            key={bar.from}
            d={`M${a} ${y + height / 2}l${nose} ${-height / 2}h${width - 2 * nose}l${nose} ${height / 2}l${-nose} ${height / 2}h${-(width - 2 * nose)}z`}
            fill={colour}
          />
        );
      })}
    </g>
  );
}

/** Less between two bars than this is not seen, pixels. */
const SEEN = 1.5;

/** The bars within a window, those that would touch on the screen as one: a long take has thousands, and a screen has room for some hundred. */
export function drawnBars(bars: readonly Interval[], from: number, to: number, x: (frame: number) => number): Interval[] {
  const drawn: Interval[] = [];
  for (const bar of bars) {
    if (bar.to <= from || bar.from >= to) continue;
    const last = drawn.at(-1);
    if (last && x(bar.from) - x(last.to) < SEEN) drawn[drawn.length - 1] = { ...last, to: Math.max(last.to, bar.to) };
    else drawn.push(bar);
  }
  return drawn;
}

/** The mark of a side: round L, diamond R; open for a hand. */
export function SideMark({ side, x, y, isOpen = false }: { side: 'left' | 'right'; x: number; y: number; isOpen?: boolean }) {
  const colour = chart(side === 'left' ? 'port' : 'starboard');
  const shape = isOpen ? { fill: 'none', stroke: colour, strokeWidth: 1.6 } : { fill: colour };
  return (
    <g fill={colour} fontSize={13} fontWeight={700}>
      <text x={x} y={y + 4.5}>
        {side === 'left' ? 'L' : 'R'}
      </text>
      {side === 'left' ? (
        <circle cx={x + 18} cy={y} r={4.5} {...shape} />
      ) : (
        <path d={`M${x + 18} ${y - 5.5}l5 5.5l-5 5.5l-5 -5.5z`} {...shape} />
      )}
    </g>
  );
}
