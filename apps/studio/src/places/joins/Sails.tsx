'use client';
import { useDraggable } from '@dnd-kit/core';
import type { Contacts, JoinPiece } from '@lantern/motion';
import type { KeyboardEvent } from 'react';
import { chart } from '@/controls/theme';
import { Ribbon } from '@/timeline/Ribbon';
import type { Axis } from '@/timeline/axis-window';
import type { PieceRoom } from '@/worker/core.worker';
import type { Placed } from './layout';
import type { JoinRows } from './rows';
import { overlapOf, silhouette } from './silhouette';
import type { Joinery } from './use-joinery';

/** Height of a foot's row in a sail, pixels. */
const FOOT = 7;
const NO_CONTACTS: Contacts = { fps: 60, floorM: 0, left: [], right: [] };

/** The pieces as sails over the time axis: the outline of each is its weight. */
export function Sails({
  joinery,
  axis,
  rows,
  nameOf,
}: {
  joinery: Joinery;
  axis: Axis;
  rows: JoinRows;
  nameOf: (piece: JoinPiece) => string;
}) {
  const { doc, laid, chosen, setChosen, view } = joinery;
  if (!doc) return null;
  const { x, window } = axis;
  const chosenAt = chosen?.kind === 'piece' ? doc.pieces.findIndex(({ id }) => id === chosen.id) : -1;
  const contacts = view?.contacts ?? NO_CONTACTS;
  const pathOf = (i: number) =>
    silhouette(
      laid.placed[i],
      i > 0 ? overlapOf(laid.placed[i - 1], laid.placed[i], doc.pieces[i].into) : null,
      i + 1 < laid.placed.length ? overlapOf(laid.placed[i], laid.placed[i + 1], doc.pieces[i + 1].into) : null,
      x,
      (weight) => rows.none - weight * (rows.none - rows.full),
    );
  return (
    <>
      {laid.placed.map((_, i) => {
        const piece = doc.pieces[i];
        return (
          <Sail
            key={piece.id}
            piece={piece}
            name={nameOf(piece)}
            number={i + 1}
            count={doc.pieces.length}
            placed={laid.placed[i]}
            room={laid.rooms[i]}
            seams={view?.seams[i] ?? []}
            path={pathOf(i)}
            clear={[
              i > 0 ? overlapOf(laid.placed[i - 1], laid.placed[i], piece.into).to : laid.placed[i].from,
              i + 1 < laid.placed.length ? overlapOf(laid.placed[i], laid.placed[i + 1], doc.pieces[i + 1].into).from : laid.placed[i].to,
            ]}
            isChosen={chosen?.kind === 'piece' && chosen.id === piece.id}
            axis={axis}
            rows={rows}
            onChoose={() => setChosen({ kind: 'piece', id: piece.id ?? '' })}
          />
        );
      })}
      {/* Its outline lies over its neighbours; the piece itself stays where the order of the pieces has it, for the Tab key. */}
      {chosenAt >= 0 && laid.placed[chosenAt] && (
        <path d={pathOf(chosenAt)} fill="none" stroke={chart('lamp')} strokeWidth={1.8} strokeLinejoin="round" pointerEvents="none" />
      )}
      <g pointerEvents="none">
        {(['left', 'right'] as const).map((side, i) => (
          <Ribbon
            key={side}
            contacts={contacts}
            side={side}
            x={x}
            y={rows.none - 2 * FOOT - 4 + i * (FOOT + 2)}
            height={FOOT}
            from={window.from}
            to={window.to}
            hasHands={false}
          />
        ))}
      </g>
    </>
  );
}

interface SailProps {
  readonly piece: JoinPiece;
  readonly name: string;
  readonly number: number;
  readonly count: number;
  readonly placed: Placed;
  readonly room: PieceRoom;
  readonly seams: readonly number[];
  readonly path: string;
  /** Frames between which nothing else lies over it. */
  readonly clear: readonly [number, number];
  readonly isChosen: boolean;
  readonly axis: Axis;
  readonly rows: JoinRows;
  readonly onChoose: () => void;
}

function Sail({ piece, name, number, count, placed, room, seams, path, clear, isChosen, axis: { x, window }, rows, onChoose }: SailProps) {
  const { setNodeRef, listeners } = useDraggable({ id: `piece ${piece.id}`, data: { piece: piece.id, name } });
  const [left, right] = [Math.max(x(clear[0]), x(window.from)), Math.min(x(clear[1]), x(window.to))];
  const width = right - left;
  const times = piece.times === 1 ? '' : `× ${Number(piece.times.toFixed(2))}`;
  const letters = Math.floor((width - 16 - times.length * 7) / 7.4);
  const key = (event: KeyboardEvent) => {
    if (event.key !== 'Enter' && event.key !== ' ') return;
    event.preventDefault();
    event.stopPropagation();
    onChoose();
  };
  return (
    <g
      ref={setNodeRef as unknown as (element: SVGGElement | null) => void}
      {...listeners}
      role="button"
      tabIndex={0}
      aria-label={`Piece ${number} of ${count}, ${name}${times ? `, ${times}` : ''}, frames ${placed.from} to ${placed.to}`}
      aria-pressed={isChosen}
      onClick={onChoose}
      onKeyDown={key}
      style={{ cursor: 'grab' }}
    >
      <path
        d={path}
        fill={isChosen ? 'url(#sail-lit)' : 'url(#sail)'}
        stroke={isChosen ? chart('lamp') : chart('faint')}
        strokeWidth={isChosen ? 1.8 : 1}
        strokeLinejoin="round"
      />
      <g pointerEvents="none">
        {seams.map((frame) => (
          <g key={frame} stroke={chart('faint')} strokeDasharray="4 3" strokeWidth={1}>
            <line x1={x(frame) - 1.5} x2={x(frame) - 1.5} y1={rows.full + 30} y2={rows.none - 22} />
            <line x1={x(frame) + 1.5} x2={x(frame) + 1.5} y1={rows.full + 30} y2={rows.none - 22} />
          </g>
        ))}
        {letters > 2 && (
          <text x={left + 8} y={rows.full + 20} fontSize={14} fontWeight={700} fill={chart('ink')}>
            {name.length > letters ? `${name.slice(0, letters - 1)}…` : name}
            <tspan dx={6} fontWeight={500} fill={chart('lampText')}>
              {times}
            </tspan>
          </text>
        )}
        {width > 96 && rows.none - rows.full > 84 && (
          <g fontSize={11.5} fill={chart('faint')}>
            <text x={left + 8} y={rows.none - 24}>
              {room.from}
            </text>
            <text x={right - 8} y={rows.none - 24} textAnchor="end">
              {room.from + room.frames - 1}
            </text>
          </g>
        )}
      </g>
    </g>
  );
}
