import { useEffect, useMemo, useRef, useState } from 'react';
import type { JoinPiece } from '@lantern/motion';
import type { JoinDoc } from '@/data/joins-store';
import type { TakeInfo } from '@/data/project';
import { problemAt, type FoundPiece, type Sources } from '@/data/sources';
import { ensureOpen, takeKey } from '@/data/use-open-take';
import { core } from '@/worker/core';
import type { JoinAsked, JoinView } from '@/worker/core.worker';

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
  const running = useRef(false);
  const next = useRef<{ readonly what: Asked; readonly isDraft: boolean }>({ what: null, isDraft: false });
  const last = useRef<Seen | null>(null);
  const key = what && 'asked' in what ? JSON.stringify(what.asked) : '';
  const latest = useRef({ what, isDraft });
  useEffect(() => {
    latest.current = { what, isDraft };
  });
  useEffect(() => {
    next.current = latest.current;
    if (key === '') return;
    if (running.current) return;
    running.current = true;
    setBusy(true);
    void (async () => {
      try {
        for (let now = next.current; now.what && 'asked' in now.what; now = next.current) {
          const { asked, takes, pieces } = now.what;
          next.current = { what: null, isDraft: false };
          for (const take of takes) await ensureOpen(take);
          const changed = now.isDraft && last.current ? changedMeets(last.current.asked, asked) : null;
          const before = last.current?.view;
          if (before && changed?.length) {
            const index = changed[0];
            const quick = await core().joinMeet(asked, index);
            if (!('problem' in quick) && before.meets[index]) {
              const meets = before.meets.map((meet, i) => (i === index ? { ...meet, ...quick, from: meet.from, to: meet.to } : meet));
              setSeen((shown) => shown && { ...shown, view: { ...shown.view, meets } });
            }
          }
          const made = await core().joinView(asked, changed);
          setProblem('problem' in made ? made.problem : null);
          if ('problem' in made) continue;
          last.current = { view: made, pieces, asked };
          setSeen(last.current);
        }
      } catch (error) {
        setProblem(error instanceof Error ? error.message : 'The join could not be worked out.');
      } finally {
        running.current = false;
        setBusy(false);
      }
    })();
  }, [key, isDraft]);
  const own = what === null || 'problem' in what ? null : seen;
  return { seen: own, problem: what && 'problem' in what ? what.problem : problem, isBusy };
}

/** The meetings, by the number of their leaving piece, of which one of both pieces or the overlap has changed. */
function changedMeets(before: JoinAsked, now: JoinAsked): number[] {
  if (before.id !== now.id || before.pieces.length !== now.pieces.length) return now.pieces.slice(1).map((_, i) => i);
  const has = now.pieces.map((piece, i) => JSON.stringify(piece) !== JSON.stringify(before.pieces[i]));
  return has.flatMap((_, i) => (i > 0 && (has[i - 1] || has[i]) ? [i - 1] : []));
}
