import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { ClipDoc } from '@/data/clips-store';
import { useCorrecting } from '@/data/correcting';
import { useWholeSteps } from '@/data/fits';
import type { TakeInfo } from '@/data/project';
import { takeKey } from '@/data/use-open-take';
import { useStageOptions } from '@/stage/stage-options';
import { core } from '@/worker/core';
import type { ClipResult, Judged, View } from '@/worker/core.worker';

/** Arcs of the joints that leave a trail, and of the one taken hold of, and the balance, as far as they are asked for. */
export function useJudged(take: TakeInfo | null, doc: ClipDoc | null, shown: ClipResult | null, view: View): Judged | null {
  const whole = useWholeSteps();
  const { trails, balance } = useStageOptions();
  const { isOn, joint } = useCorrecting();
  const joints = useMemo(() => [...new Set([...trails, ...(isOn && joint !== null ? [joint] : [])])], [trails, isOn, joint]);
  const recipe = doc && { from: doc.source.from, to: doc.source.to, steps: whole(doc.steps, take) };
  const id = take ? takeKey(take) : '';
  const isAsked = shown !== null && recipe !== null && (joints.length > 0 || balance);
  const { data } = useQuery({
    queryKey: ['judged', id, recipe, view, joints, balance],
    enabled: isAsked,
    staleTime: Infinity,
    gcTime: 20_000,
    placeholderData: (before) => before,
    queryFn: () => (recipe ? core().judged(id, recipe, { joints, balance }, view) : null),
  });
  return isAsked ? (data ?? null) : null;
}
