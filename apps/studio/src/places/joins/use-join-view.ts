import { useEffect, useMemo, useRef, useState } from 'react';
import type { JoinPiece } from '@lantern/motion';
import { useClips } from '@/data/clips-store';
import { useWholeSteps } from '@/data/fits';
import type { JoinDoc } from '@/data/joins-store';
import type { TakeInfo } from '@/data/project';
import { ensureOpen, takeKey } from '@/data/use-open-take';
import { core } from '@/worker/core';
import type { JoinAsked, JoinView, PieceAsked } from '@/worker/core.worker';

/** A piece with what the worker needs to know of it, and the take that has to be open for it. */
export type FoundPiece = PieceAsked & { readonly open: TakeInfo };

/** Finds what pieces come from. */
export function usePieceSources(takes: readonly TakeInfo[]): (piece: JoinPiece) => FoundPiece | { readonly missing: string } {
  const docs = useClips((state) => state.docs);
  const whole = useWholeSteps();
  return useMemo(() => {
    const takeOf = (id: string) => takes.find((take) => take.id === id);
    return (piece) => {
      const clip = 'clip' in piece ? docs.find(({ id }) => id === piece.clip) : undefined;
      if ('clip' in piece && !clip) return { missing: 'The clip of this piece was removed: take the piece out, or undo.' };
      const take = takeOf('clip' in piece ? (clip?.source.take ?? '') : piece.take);
      if (!take) return { missing: 'The take of this piece is not in the project any more.' };
      const recipe = clip ? { from: clip.source.from, to: clip.source.to, steps: whole(clip.steps, take) } : null;
      return { piece, take: takeKey(take), recipe, open: take };
    };
  }, [docs, takes, whole]);
}

/** What is asked of the worker for a join, with the takes that are open for it; or why it cannot be asked. */
export type Asked =
  | { readonly asked: JoinAsked; readonly takes: readonly TakeInfo[]; readonly pieces: readonly JoinPiece[] }
  | { readonly problem: string }
  | null;

export function useAsked(doc: JoinDoc | null, takes: readonly TakeInfo[]): Asked {
  const sourceOf = usePieceSources(takes);
  return useMemo(() => {
    if (!doc || doc.pieces.length === 0) return null;
    const pieces = doc.pieces.map(sourceOf);
    const index = pieces.findIndex((own) => 'missing' in own);
    if (index >= 0) return { problem: `Piece ${index + 1}: ${(pieces[index] as { missing: string }).missing}` };
    const found = pieces as FoundPiece[];
    const asked: JoinAsked = {
      id: doc.id,
      start: doc.start,
      pieces: found.map(({ piece, take, recipe }) => ({ piece, take, recipe })),
    };
    return { asked, takes: [...new Map(found.map(({ open }) => [takeKey(open), open])).values()], pieces: doc.pieces };
  }, [doc, sourceOf]);
}

/** A view of a join and the pieces that it was made of. */
export interface Seen {
  readonly view: JoinView;
  readonly pieces: readonly JoinPiece[];
  readonly asked: JoinAsked;
}

/**
 * The join as it is shown. One is worked out at a time, of those that came meanwhile only the newest; until it is there the last one stays.
 *
 * @returns what was seen last; what is wrong with what is asked now; and whether something newer is on its way
 */
export function useJoinView(what: Asked): { readonly seen: Seen | null; readonly problem: string | null; readonly isBusy: boolean } {
  const [seen, setSeen] = useState<Seen | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const running = useRef(false);
  const next = useRef<Asked>(null);
  const key = what && 'asked' in what ? JSON.stringify(what.asked) : '';
  const latest = useRef(what);
  useEffect(() => {
    latest.current = what;
  });
  useEffect(() => {
    next.current = latest.current;
    if (key === '') return;
    if (running.current) return;
    running.current = true;
    setBusy(true);
    void (async () => {
      try {
        while (next.current && 'asked' in next.current) {
          const { asked, takes, pieces } = next.current;
          next.current = null;
          for (const take of takes) await ensureOpen(take);
          const made = await core().joinView(asked);
          setProblem('problem' in made ? made.problem : null);
          if (!('problem' in made)) setSeen({ view: made, pieces, asked });
        }
      } catch (error) {
        setProblem(error instanceof Error ? error.message : 'The join could not be worked out.');
      } finally {
        running.current = false;
        setBusy(false);
      }
    })();
  }, [key]);
  const own = what === null || 'problem' in what ? null : seen;
  return { seen: own, problem: what && 'problem' in what ? what.problem : problem, isBusy };
}
