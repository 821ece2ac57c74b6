'use client';
import { useQuery } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import { useSnackbar } from 'notistack';
import { useClips } from '@/data/clips-store';
import { editsOf, madeFrom, moveRunnersUp } from '@/data/delivery';
import { useProjectInfo, type TakeInfo } from '@/data/project';
import { useTakeEdits } from '@/data/take-edits';
import { sourceOf, takeKey } from '@/data/use-open-take';
import { core } from '@/worker/core';
import type { ClipMoved, Redelivery } from '@/worker/redelivery';

/** Finds the motion of a take in its new delivery, and puts the new one in its place with the clips that are accepted. */
export function useDelivery(old: TakeInfo, fresh: TakeInfo, onDone: () => void) {
  const project = useProjectInfo();
  const router = useRouter();
  const { enqueueSnackbar } = useSnackbar();
  const { edit } = useTakeEdits();
  const docs = useClips((state) => state.docs);
  const clips = docs.filter((doc) => doc.source.take === old.id);
  const { data, error, isPending } = useQuery<Redelivery | { problem: string }>({
    queryKey: ['redelivery', takeKey(old), takeKey(fresh), JSON.stringify([clips, old.markers, old.props])],
    staleTime: Infinity,
    gcTime: 0,
    queryFn: async () => {
      await core().open(sourceOf(old));
      await core().open(sourceOf(fresh));
      return core().redeliver(takeKey(old), takeKey(fresh), madeFrom(old, clips), project.fps);
    },
  });
  const found = data && !('problem' in data) ? data : null;
  const problem = data && 'problem' in data ? data.problem : error ? 'The takes could not be opened.' : null;
  const accept = async (accepted: readonly ClipMoved[]) => {
    if (!found) return;
    const { takes, clips: cuts } = editsOf({ old, fresh }, found, accepted, clips);
    if (!(await edit(`“${old.name}” redelivered`, takes, cuts))) return;
    moveRunnersUp([{ old, fresh, found }]);
    enqueueSnackbar(`“${old.name}” is the new delivery now; the old one stays as “${old.name} (earlier)”.`);
    router.push(`/${project.id}/takes/${fresh.id}`);
    onDone();
  };
  return { clips, found, problem, isPending, accept };
}
