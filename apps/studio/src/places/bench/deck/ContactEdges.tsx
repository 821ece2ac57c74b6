'use client';
import type { HandHold } from '@lantern/motion';
import { useState } from 'react';
import { chart } from '@/controls/theme';
import { ROW } from '@/timeline/Ribbon';
import { TimeHandle } from '@/timeline/TimeHandle';

/** A contact of a foot or a hand, frames of the clip; of a hand also what it rests on. */
export interface ContactBar extends SetContact {
  readonly side: Side;
}

export type SetContact = Pick<HandHold, 'from' | 'to' | 'slide'> & Partial<Pick<HandHold, 'on'>>;

type Side = 'left' | 'right';

/** The contacts of a clip as they are set by hand: frames of the clip. */
export type SetContacts = Readonly<Record<Side, readonly SetContact[]>>;

/**
 * The edges of the open clip’s contacts on the ribbon: dragged or moved by arrow keys, Delete takes a contact out, a double click where
 * there is none puts one, and one that is dragged over its neighbour becomes one with it.
 */
export function ContactEdges({
  noun,
  contacts,
  offset,
  frames,
  rows,
  x,
  frameAt,
  onChange,
}: {
  /** What they are called behind their side: “contact”, “hand contact”. */
  noun: string;
  contacts: readonly ContactBar[];
  /** Frame of the take at the clip's first. */
  offset: number;
  /** Of the clip's cut. */
  frames: number;
  /** Where the rows of left and right lie. */
  rows: Readonly<Record<Side, number>>;
  x: (frame: number) => number;
  frameAt: (clientX: number) => number;
  onChange: (contacts: SetContacts) => void;
}) {
  const [draft, setDraft] = useState<SetContacts | null>(null);
  const shown = draft ?? listOf(contacts);
  const put = (side: Side, index: number, change: { from?: number; to?: number } | null): SetContacts => ({
    ...shown,
    [side]: shown[side].flatMap((c, i) => (i !== index ? [c] : change ? [{ ...c, ...change }] : [])),
  });
  const finish = (next: SetContacts) => {
    setDraft(null);
    onChange({ left: merged(next.left), right: merged(next.right) });
  };
  const add = (side: Side, clientX: number) => {
    const at = Math.round(frameAt(clientX)) - offset;
    const half = 6;
    finish({ ...shown, [side]: [...shown[side], { from: Math.max(0, at - half), to: at + half }] });
  };
  return (
    <g>
      {(['left', 'right'] as const).map((side) => (
        <g key={side}>
          <rect
            x={x(offset)}
            y={rows[side]}
            width={Math.max(1, x(offset + frames) - x(offset))}
            height={ROW}
            fill="transparent"
            onDoubleClick={(event) => add(side, event.clientX)}
          >
            <title>Double click to put a {noun} here</title>
          </rect>
          {shown[side].map((contact, i) =>
            (['from', 'to'] as const).map((edge) => (
              <TimeHandle
                key={`${i} ${edge}`}
                name={`${edge === 'from' ? 'Start' : 'End'} of ${side} ${noun} ${i + 1}`}
                frame={contact[edge]}
                least={edge === 'from' ? 0 : contact.from + 2}
                most={edge === 'from' ? contact.to - 2 : 2 * frames}
                says={`frame ${contact[edge]} of the clip`}
                frameAt={(clientX) => frameAt(clientX) - offset}
                onMove={(frame, isDone) => {
                  const next = put(side, i, { [edge]: frame });
                  if (isDone) finish(next);
                  else setDraft(next);
                }}
                onDelete={() => finish(put(side, i, null))}
              >
                <EdgeMark x={x(offset + contact[edge])} y={rows[side]} />
              </TimeHandle>
            )),
          )}
        </g>
      ))}
    </g>
  );
}

function EdgeMark({ x, y }: { x: number; y: number }) {
  return (
    <>
      <rect x={x - 5} y={y - 2} width={10} height={ROW + 4} fill="transparent" />
      <rect x={x - 1.5} y={y - 2} width={3} height={ROW + 4} fill={chart('lamp')} stroke={chart('ink')} strokeWidth={0.6} />
    </>
  );
}

const listOf = (contacts: readonly ContactBar[]): SetContacts => {
  const of = (side: Side) => contacts.filter((own) => own.side === side).map(({ from, to, on, slide }) => ({ from, to, on, slide }));
  return { left: of('left'), right: of('right') };
};

/** In order of time, those that touch made one. */
function merged(contacts: SetContacts[Side]): SetContact[] {
  const out: SetContact[] = [];
  for (const own of [...contacts].sort((a, b) => a.from - b.from)) {
    const last = out.at(-1);
    if (last && own.from <= last.to) out[out.length - 1] = { ...last, to: Math.max(last.to, own.to) };
    else out.push(own);
  }
  return out;
}
