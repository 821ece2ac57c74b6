import type { JoinFigures } from '@lantern/motion';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { JoinPiece } from '@lantern/motion';
import type { JoinDoc } from '@/data/joins-store';
import type { TakeInfo } from '@/data/project';
import { problemAt, type FoundPiece, type Sources } from '@/data/sources';
import { ensureOpen, takeKey } from '@/data/use-open-take';
import { core } from '@/worker/core';
import type { JoinAsked, JoinView, PieceAsked } from '@/worker/core.worker';

/** What is asked of the worker for a join, with the takes that are open for it; or why it cannot be asked. */
export type Asked =
  | { readonly asked: JoinAsked; readonly takes: readonly TakeInfo[]; readonly pieces: readonly JoinPiece[] }
  | { readonly problem: string }
  | null;

export function useAsked(doc: JoinDoc | null, { pieceOf }: Sources): Asked {
  return useMemo(() => {
    if (!doc || doc.pieces.length === 0) return null;
    const pieces = doc.pieces.map(pieceOf);
    const index = pieces.findIndex((own) => 'missing' in own);
    if (index >= 0) return { problem: problemAt(index, pieces[index] as { missing: string }) };
    const found = pieces as FoundPiece[];
    const asked: JoinAsked = {
      id: doc.id,
      start: doc.start,
      pieces: found.map(({ piece, take, recipe }) => ({ piece, take, recipe })),
    };
    return { asked, takes: [...new Map(found.map(({ open }) => [takeKey(open), open])).values()], pieces: doc.pieces };
  }, [doc, pieceOf]);
}

/** A view of a join and the pieces that it was made of. */
export interface Seen {
  readonly view: JoinView;
  readonly pieces: readonly JoinPiece[];
  readonly asked: JoinAsked;
}

/** While something is dragged the whole join is made when it has rested for so long, milliseconds; the figures of what is dragged come at once. */
const REST = 60;

interface Wanted {
  readonly what: Exclude<Asked, null | { readonly problem: string }>;
  readonly isDraft: boolean;
  /** Later ones are greater. */
  readonly number: number;
}

/**
 * The join as it is shown. One is worked out at a time, of those that came meanwhile only the newest; until it is there the last one stays. Of a draft only
 * the figures of what was changed are new, and they come first.
 *
 * @returns what was seen last; what is wrong with what is asked now; and whether something newer is on its way
 */
export function useJoinView(
  what: Asked,
  isDraft: boolean,
): { readonly seen: Seen | null; readonly problem: string | null; readonly isBusy: boolean } {
  const [seen, setSeen] = useState<Seen | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const count = useRef(0);
  const runs = useMemo(() => {
    let last: Seen | null = null;
    let shown = 0;
    const figures = newestOf<Wanted>(async ({ what: { asked, takes }, number }) => {
      if (!last) return;
      try {
        await openAll(takes);
        for (const index of changedMeets(last.asked, asked)) {
          const found = await core().joinMeet(asked, index);
          if ('problem' in found || number < shown) return;
          setSeen((now) => now && withFigures(now, index, found));
        }
      } catch {
        // What is wrong is said when the whole join is made.
      }
    });
    const whole = newestOf<Wanted>(async ({ what: { asked, takes, pieces }, isDraft: isDragged, number }, isNewest) => {
      setBusy(true);
      try {
        if (isDragged) await new Promise((resolve) => setTimeout(resolve, REST));
        if (!isNewest()) return;
        await openAll(takes);
        const changed = isDragged && last ? changedMeets(last.asked, asked) : null;
        let made = await core().joinView(asked, changed);
        while (made === 'overtaken' && isNewest()) made = await core().joinView(asked, changed);
        if (made === 'overtaken') return;
        setProblem('problem' in made ? made.problem : null);
        if ('problem' in made) return;
        last = { view: made, pieces, asked };
        shown = number;
        setSeen(last);
      } catch (error) {
        setProblem(error instanceof Error ? error.message : 'The join could not be worked out.');
      } finally {
        if (isNewest()) setBusy(false);
      }
    });
    return { figures, whole };
  }, []);
  const key = what && 'asked' in what ? JSON.stringify(what.asked) : '';
  const latest = useRef(what);
  useEffect(() => {
    latest.current = what;
  });
  useEffect(() => {
    const now = latest.current;
    if (key === '' || !now || 'problem' in now) return;
    const wanted = { what: now, isDraft, number: ++count.current };
    if (isDraft) runs.figures(wanted);
    runs.whole(wanted);
  }, [key, isDraft, runs]);
  const own = what === null || 'problem' in what ? null : seen;
  return { seen: own, problem: what && 'problem' in what ? what.problem : problem, isBusy };
}

/** Runs one at a time; of those that come meanwhile only the newest is run. */
function newestOf<T>(run: (value: T, isNewest: () => boolean) => Promise<void>): (value: T) => void {
  let next: { readonly value: T } | null = null;
  let isRunning = false;
  const runAll = async () => {
    isRunning = true;
    for (let now = next; now; now = next) {
      next = null;
      await run(now.value, () => next === null);
    }
    isRunning = false;
  };
  return (value) => {
    next = { value };
    if (!isRunning) void runAll();
  };
}

async function openAll(takes: readonly TakeInfo[]): Promise<void> {
  for (const take of takes) await ensureOpen(take);
}

/** What is seen, with new figures of one of its meetings; where that lies is told by the whole join only. */
function withFigures(seen: Seen, index: number, found: JoinFigures): Seen {
  const meets = seen.view.meets.map((meet, i) => (i === index ? { ...meet, ...found, from: meet.from, to: meet.to } : meet));
  return { ...seen, view: { ...seen.view, meets } };
}

/** The meetings, by the number of their leaving piece, of which one of both pieces or the overlap has changed. */
function changedMeets(before: JoinAsked, now: JoinAsked): number[] {
  if (before.id !== now.id || before.pieces.length !== now.pieces.length) return now.pieces.slice(1).map((_, i) => i);
  const differ = (a: PieceAsked, b: PieceAsked) => JSON.stringify(a) !== JSON.stringify(b);
  // How a piece comes in is nothing to the one behind it.
  const alone = (own: PieceAsked): PieceAsked => ({ ...own, piece: { ...own.piece, into: before.pieces[0].piece.into } });
  const hasAny = now.pieces.map((piece, i) => differ(piece, before.pieces[i]));
  const hasItself = now.pieces.map((piece, i) => hasAny[i] && differ(alone(piece), alone(before.pieces[i])));
  return now.pieces.slice(1).flatMap((_, i) => (hasItself[i] || hasAny[i + 1] ? [i] : []));
}
