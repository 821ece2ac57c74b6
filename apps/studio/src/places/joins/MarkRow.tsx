'use client';
import { chart } from '@/controls/theme';
import { TimeHandle } from '@/timeline/TimeHandle';
import type { Axis } from '@/timeline/axis-window';
import * as edits from './join-edits';
import type { JoinRows } from './rows';
import type { Joinery } from './use-joinery';

/** Marks as flags, shifts as steps; both are dragged along their piece, and taken out with Delete. */
export function MarkRow({
  joinery,
  axis,
  rows,
  snap,
}: {
  joinery: Joinery;
  axis: Axis;
  rows: JoinRows;
  snap: (frame: number, isFree: boolean) => number;
}) {
  const { doc, laid, edit, setChosen } = joinery;
  if (!doc) return null;
  const { x, frameAt } = axis;
  const y = rows.marks + 4;
  return (
    <>
      {laid.placed.map(({ start, to }, i) => {
        const piece = doc.pieces[i];
        const id = piece.id ?? '';
        const shared = { frameAt, snap, least: start, most: to };
        return (
          <g key={id}>
            {piece.marks.map((mark, k) => (
              <TimeHandle
                key={`${k} ${mark.name}`}
                {...shared}
                name={`Mark ${mark.name}`}
                frame={start + mark.at}
                onMove={(frame, isDone) =>
                  edit(
                    edits.changePiece(doc, id, (own) => ({
                      ...own,
                      marks: own.marks.map((other, n) => (n === k ? { ...mark, at: Math.round(frame - start) } : other)),
                    })),
                    isDone,
                  )
                }
                onDelete={() => edit(edits.changePiece(doc, id, (own) => ({ ...own, marks: own.marks.filter((_, n) => n !== k) })))}
              >
                <line x1={x(start + mark.at)} x2={x(start + mark.at)} y1={y} y2={rows.full} stroke={chart('ink')} strokeWidth={1.1} />
                <path d={`M${x(start + mark.at)} ${y}h8l-3 4l3 4h-8z`} fill={chart('card')} stroke={chart('ink')} strokeWidth={1.1} />
                <text x={x(start + mark.at) + 12} y={y + 10} fontSize={12.5} fill={chart('ink')}>
                  {mark.name}
                </text>
              </TimeHandle>
            ))}
            {piece.shifts.map((shift, k) => (
              <g key={k} onPointerDownCapture={() => setChosen({ kind: 'piece', id })}>
                <TimeHandle
                  {...shared}
                  name={`Shift ${k + 1} of piece ${i + 1}`}
                  frame={start + shift.at}
                  onMove={(frame, isDone) =>
                    edit(edits.setShift(doc, id, k, { ...shift, at: Math.max(0, Math.round(frame - start)) }), isDone)
                  }
                  onDelete={() => edit(edits.setShift(doc, id, k, null))}
                >
                  <line
                    x1={x(start + shift.at)}
                    x2={x(start + shift.at)}
                    y1={y + 12}
                    y2={rows.bottom}
                    stroke={chart('ink')}
                    strokeDasharray="2 3"
                  />
                  <rect x={x(start + shift.at) - 10} y={y - 4} width={74} height={20} fill="transparent" />
                  <path d={`M${x(start + shift.at) - 8} ${y + 12}h8v-10h8`} fill="none" stroke={chart('ink')} strokeWidth={2} />
                  <text x={x(start + shift.at) + 12} y={y + 10} fontSize={12.5} fontWeight={700} fill={chart('ink')}>
                    {edits.shiftWord(shift)}
                  </text>
                </TimeHandle>
              </g>
            ))}
          </g>
        );
      })}
    </>
  );
}
