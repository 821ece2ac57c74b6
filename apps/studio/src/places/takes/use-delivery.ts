'use client';
import { stepsAtRate } from '@lantern/motion';
import { useQuery } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import { useSnackbar } from 'notistack';
import { useClips } from '@/data/clips-store';
import { useProjectInfo, type TakeInfo } from '@/data/project';
import { changesOf, useTakeEdits } from '@/data/take-edits';
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
      const made = {
        clips: clips.map(({ id, source: { from, to }, steps }) => ({ id, recipe: { from, to, steps } })),
        markers: old.markers,
        props: old.props,
      };
      return core().redeliver(takeKey(old), takeKey(fresh), made, project.fps);
    },
  });
  const found = data && !('problem' in data) ? data : null;
  const problem = data && 'problem' in data ? data.problem : error ? 'The takes could not be opened.' : null;
  const accept = async (accepted: readonly ClipMoved[]) => {
    if (!found) return;
    const { name, tags, notes, star } = old;
    const { markers, props } = found;
    const done = await edit(
      `“${name}” redelivered`,
      [
        ...changesOf([old], () => ({ name: `${name} (earlier)` })),
        ...changesOf([fresh], () => ({ name, star, notes, tags: [...tags], markers: [...markers], props: [...props] })),
      ],
      accepted.flatMap(({ id, from, to }) => {
        const doc = clips.find((clip) => clip.id === id);
        if (!doc) return [];
        const { source, steps } = doc;
        const factor = (to - from) / (source.to - source.from);
        const after = { source: { take: fresh.id, from, to }, steps: stepsAtRate(steps, factor, found.floor) };
        return [{ id, before: { source, steps }, after }];
      }),
    );
    if (!done) return;
    enqueueSnackbar(`“${name}” is the new delivery now; the old one stays as “${name} (earlier)”.`);
    router.push(`/${project.id}/takes/${fresh.id}`);
    onDone();
  };
  return { clips, found, problem, isPending, accept };
}
