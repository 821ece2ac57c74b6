'use client';
import { useQuery } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import { useClips } from '@/data/clips-store';
import { editsOf, madeFrom, moveRunnersUp, type TakePair } from '@/data/delivery';
import { useProjectInfo } from '@/data/project';
import { useTakeEdits } from '@/data/take-edits';
import { sourceOf, takeKey } from '@/data/use-open-take';
import { core } from '@/worker/core';
import type { Redelivery } from '@/worker/redelivery';

/** What was found of a take in its new delivery, or why nothing was. */
export interface Delivered extends TakePair {
  readonly found: Redelivery | null;
  readonly problem: string | null;
}

/** Finds the motion of several takes in their new deliveries, one after the other, and puts them in their place all at once. */
export function useDeliveries(asked: readonly TakePair[], onDone: () => void) {
  const project = useProjectInfo();
  const router = useRouter();
  const { enqueueSnackbar } = useSnackbar();
  const { edit } = useTakeEdits();
  // What was asked for is looked for, whatever comes in meanwhile.
  const [pairs] = useState(asked);
  const [done, setDone] = useState(0);
  const { data: delivered = null } = useQuery<readonly Delivered[]>({
    queryKey: ['deliveries', ...pairs.flatMap(({ old, fresh }) => [takeKey(old), takeKey(fresh)])],
    staleTime: Infinity,
    gcTime: 0,
    retry: false,
    queryFn: async ({ signal }) => {
      const out: Delivered[] = [];
      for (const pair of pairs) {
        signal.throwIfAborted();
        out.push({ ...pair, ...(await foundIn(pair, project.fps)) });
        setDone(out.length);
      }
      return out;
    },
  });
  /** @param kept clips that stay with the old takes */
  const accept = async (kept: ReadonlySet<string>) => {
    const clips = useClips.getState().docs;
    const whole = (delivered ?? []).flatMap(({ found, ...pair }) => (found ? [{ ...pair, found }] : []));
    const edits = whole.map((own) => {
      const accepted = own.found.clips.filter(({ id, outcome }) => outcome !== 'lost' && !kept.has(id));
      return editsOf(own, own.found, accepted, clips);
    });
    const label = `${whole.length} ${whole.length === 1 ? 'take' : 'takes'} redelivered`;
    const isDone = await edit(
      label,
      edits.flatMap(({ takes }) => takes),
      edits.flatMap((own) => own.clips),
    );
    if (!isDone) return;
    moveRunnersUp(whole);
    enqueueSnackbar(`${label}; the old ones stay, called “(earlier)”.`);
    router.push(`/${project.id}/takes/${whole[0].fresh.id}`);
    onDone();
  };
  return { pairs, done, delivered, accept };
}

async function foundIn({ old, fresh }: TakePair, fps: number): Promise<Pick<Delivered, 'found' | 'problem'>> {
  try {
    await core().open(sourceOf(old));
    await core().open(sourceOf(fresh));
    const answer = await core().redeliver(takeKey(old), takeKey(fresh), madeFrom(old, useClips.getState().docs), fps);
    return 'problem' in answer ? { found: null, problem: answer.problem } : { found: answer, problem: null };
  } catch {
    return { found: null, problem: 'The takes could not be opened.' };
  }
}
