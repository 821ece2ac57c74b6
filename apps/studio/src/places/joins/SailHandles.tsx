'use client';
import { chart } from '@/controls/theme';
import { TimeHandle } from '@/timeline/TimeHandle';
import type { Axis } from '@/timeline/axis-window';
import * as edits from './join-edits';
import type { JoinRows } from './rows';
import { overlapOf, type Overlap } from './silhouette';
import type { Joinery } from './use-joinery';

/** What of the sails can be taken hold of: ends to trim, the far end to repeat, peaks to overlap, the crossing to move along both. */
export function SailHandles({
  joinery,
  axis,
  rows,
  snap,
  nameOf,
}: {
  joinery: Joinery;
  axis: Axis;
  rows: JoinRows;
  snap: (frame: number, isFree: boolean) => number;
  nameOf: (index: number) => string;
}) {
  const { doc: now, laid, base, edit, chosen, setChosen } = joinery;
  const { doc } = base;
  if (!doc || !now) return null;
  const { x, frameAt } = axis;
  // Edits are made of the join as it was when the drag began; handles are where it is now.
  const { placed, rooms } = base.laid;
  const shown = laid.placed;
  const shared = { frameAt, snap };
  const middle = (rows.full + rows.none) / 2;
  return (
    <>
      {placed.map((own, i) => {
        const piece = doc.pieces[i];
        const room = rooms[i];
        const here = shown[i] ?? own;
        const hereRoom = laid.rooms[i] ?? room;
        const id = piece.id ?? '';
        const isChosen = chosen?.id === id && chosen.kind === 'piece';
        const change = (next: typeof piece, isDone: boolean) =>
          edit(
            edits.changePiece(doc, id, () => next),
            isDone,
          );
        return (
          <g key={id}>
            <TimeHandle
              {...shared}
              name={`Beginning of piece ${i + 1}, ${nameOf(i)}`}
              frame={here.from}
              least={own.from - Math.min(1e6, room.before)}
              most={own.to - 2}
              says={`frame ${hereRoom.from} of it`}
              cursor="ew-resize"
              onMove={(frame, isDone) => change(edits.trimStart(piece, room, frame - own.from), isDone)}
            >
              <Edge x={x(here.from)} y={rows.none} isLit={isChosen} isLeft />
            </TimeHandle>
            <TimeHandle
              {...shared}
              name={`End of piece ${i + 1}, ${nameOf(i)}`}
              frame={here.to}
              least={own.from + 2}
              most={own.to + Math.min(1e6, room.after)}
              says={`frame ${edits.endOf(hereRoom)} of it`}
              cursor="ew-resize"
              onMove={(frame, isDone) => change(edits.trimEnd(piece, room, frame - own.to), isDone)}
            >
              <Edge x={x(here.to)} y={rows.none} isLit={isChosen} isLeft={false} />
            </TimeHandle>
            {isChosen && (
              <TimeHandle
                frameAt={frameAt}
                snap={(frame, isFree) => (isFree ? Math.round(frame) : wholeTimes(frame - own.start, room.to - room.from) + own.start)}
                name={`Repeats of piece ${i + 1}, ${nameOf(i)}`}
                frame={here.to}
                least={own.start + 2}
                most={own.start + 1000 * (room.to - room.from)}
                says={`${Number((now.pieces[i] ?? piece).times.toFixed(2))} times`}
                cursor="ew-resize"
                onMove={(frame, isDone) => change(edits.withFrames(piece, room, frame - own.start + 1), isDone)}
              >
                <rect x={x(here.to) - 19} y={rows.full + 28} width={18} height={18} rx={3} fill={chart('card')} stroke={chart('lamp')} />
                <path
                  d={`M${x(here.to) - 15} ${rows.full + 33}v8M${x(here.to) - 12} ${rows.full + 37}h7m-3 -3l3 3l-3 3`}
                  stroke={chart('ink')}
                  strokeWidth={1.3}
                  fill="none"
                />
                <title>Repeat: drag to the right; by halves, with Alt freely</title>
              </TimeHandle>
            )}
          </g>
        );
      })}
      {placed.map((own, i) => {
        if (i === 0) return null;
        const piece = doc.pieces[i];
        const id = piece.id ?? '';
        const before = placed[i - 1];
        const { into } = now.pieces[i] ?? piece;
        // Where it is, and where it was.
        const here = overlapOf(shown[i - 1] ?? before, shown[i] ?? own, into);
        const overlap = overlapOf(before, own, piece.into);
        const middleOf = ({ from, to }: Overlap) => (from + to) / 2;
        const most = edits.mostOverlap(i, rooms);
        const isChosen = chosen?.id === id && chosen.kind === 'meet';
        const set = (frames: number, isDone: boolean) =>
          edit(edits.changeInto(doc, id, { frames: Math.min(most, Math.max(0, Math.round(frames))) }), isDone);
        const fill = isChosen ? chart('lamp') : chart('card');
        const at = middleOf(here);
        return (
          <g key={id} onPointerDownCapture={() => setChosen({ kind: 'meet', id })}>
            <TimeHandle
              {...shared}
              snap={(frame) => Math.round(frame)}
              name={`Overlap into piece ${i + 1}, ${nameOf(i)}`}
              frame={here.from}
              least={before.to - most}
              most={before.to}
              says={`${into.frames} frames`}
              cursor="ew-resize"
              onMove={(frame, isDone) => set(before.to - frame, isDone)}
            >
              <Peak x={x(here.from)} y={rows.full} fill={fill} />
            </TimeHandle>
            {here.to > here.from && (
              <TimeHandle
                {...shared}
                snap={(frame) => Math.round(frame)}
                name={`Overlap out of piece ${i}, ${nameOf(i - 1)}`}
                frame={here.to}
                least={overlap.from}
                most={overlap.to + Math.min(1e6, rooms[i - 1].after)}
                says={`${into.frames} frames`}
                cursor="ew-resize"
                onMove={(frame, isDone) => {
                  // The piece that goes is longer by as much as the overlap is.
                  const by = Math.round(frame) - before.to;
                  const longer = edits.changePiece(doc, doc.pieces[i - 1].id ?? '', (leaving) => edits.trimEnd(leaving, rooms[i - 1], by));
                  edit(edits.changeInto(longer, id, { frames: Math.min(600, Math.max(0, piece.into.frames + by)) }), isDone);
                }}
              >
                <Peak x={x(here.to)} y={rows.full} fill={fill} />
              </TimeHandle>
            )}
            <TimeHandle
              {...shared}
              name={`Where piece ${i} and piece ${i + 1} meet`}
              frame={at}
              least={-Infinity}
              most={Infinity}
              says={`frame ${Math.round(at)}`}
              cursor="ew-resize"
              onMove={(frame, isDone) => edit(edits.slideMeet(doc, i, rooms, frame - middleOf(overlap)), isDone)}
            >
              <circle cx={x(at)} cy={middle} r={9} fill="transparent" />
              <circle
                cx={x(at)}
                cy={middle}
                r={4}
                fill={isChosen ? chart('lamp') : chart('paper')}
                stroke={chart('ink')}
                strokeWidth={1.4}
              />
            </TimeHandle>
          </g>
        );
      })}
    </>
  );
}

/** Frames of the nearest half of a whole number of rounds, at least one half. */
const wholeTimes = (frames: number, cycle: number): number => Math.max(1, Math.round((2 * frames) / cycle)) * (cycle / 2);

/** The foot of a sail's edge. */
const Edge = ({ x, y, isLit, isLeft }: { x: number; y: number; isLit: boolean; isLeft: boolean }) => (
  <>
    <rect x={x - (isLeft ? 2 : 9)} y={y - 20} width={11} height={26} fill="transparent" />
    <path
      d={`M${x + (isLeft ? 4 : -4)} ${y - 12}H${x}V${y + 4}H${x + (isLeft ? 4 : -4)}`}
      fill="none"
      stroke={isLit ? chart('lamp') : chart('faint')}
      strokeWidth={isLit ? 2.6 : 1.4}
    />
  </>
);

const Peak = ({ x, y, fill }: { x: number; y: number; fill: string }) => (
  <>
    <circle cx={x} cy={y} r={10} fill="transparent" />
    <circle cx={x} cy={y} r={4} fill={fill} stroke={chart('ink')} strokeWidth={1.2} />
  </>
);
