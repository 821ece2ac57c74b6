'use client';
import { useCallback } from 'react';
import type { TakeInfo } from '@/data/project';
import { changesOf, useTakeEdits } from '@/data/take-edits';

/** Stars takes, or takes the star from them where all have one. */
export function useStar() {
  const { edit } = useTakeEdits();
  return useCallback(
    (takes: readonly TakeInfo[]) => {
      const isOn = !takes.every((take) => take.star);
      void edit(
        isOn ? 'star' : 'star taken',
        changesOf(takes, () => ({ star: isOn })),
      );
    },
    [edit],
  );
}
