import type { Fitting } from '@lantern/motion';
import { useEffect, useRef, useState } from 'react';
import { useClips } from '@/data/clips-store';
import { ensureOpen } from '@/data/use-open-take';
import { core } from '@/worker/core';
import { newPiece } from './join-edits';
import type { Joinery } from './use-joinery';

/** The best join that a clip would give behind what is chosen; none where it cannot follow. */
export type Follower = Fitting | 'none';

interface Followers {
  readonly found: Readonly<Record<string, Follower>>;
  readonly done: number;
  readonly of: number;
  readonly isBusy: boolean;
}

const NONE: Followers = { found: {}, done: 0, of: 0, isBusy: false };

/** Tries every clip of the project behind the chosen piece, or behind the last: one after the other, for as long as that is asked for. */
export function useFollowers({ doc, sources, chosen }: Joinery, isAsked: boolean): Followers {
  const docs = useClips((state) => state.docs);
  const [state, setState] = useState<Followers>(NONE);
  const last = doc?.pieces.find(({ id }) => id === chosen?.id) ?? doc?.pieces.at(-1);
  const before = last && sources.pieceOf(last);
  const key = isAsked && before && !('missing' in before) ? JSON.stringify([before.piece, before.take, before.recipe]) : '';
  const latest = useRef({ before, docs, sources });
  useEffect(() => {
    latest.current = { before, docs, sources };
  });
  useEffect(() => {
    const { before: leaving, docs: all, sources: from } = latest.current;
    if (key === '' || !leaving || 'missing' in leaving) return setState(NONE);
    let isOver = false;
    void (async () => {
      const found: Record<string, Follower> = {};
      await ensureOpen(leaving.open);
      for (const [i, clip] of all.entries()) {
        if (isOver) return;
        const next = from.pieceOf(newPiece({ clip: clip.id }));
        const plain = ({ piece, take, recipe }: typeof leaving) => ({ piece, take, recipe });
        try {
          if ('missing' in next) found[clip.id] = 'none';
          else {
            await ensureOpen(next.open);
            const best = await core().joinFollow(plain(leaving), plain(next));
            found[clip.id] = best && !('problem' in best) ? best : 'none';
          }
        } catch {
          found[clip.id] = 'none';
        }
        if (!isOver) setState({ found: { ...found }, done: i + 1, of: all.length, isBusy: i + 1 < all.length });
      }
    })();
    return () => {
      isOver = true;
    };
  }, [key]);
  return state;
}
