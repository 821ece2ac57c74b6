import { pickFrames } from '@lantern/motion';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { ClipDoc } from '@/data/clips-store';
import { useCorrecting } from '@/data/correcting';
import { useWholeSteps } from '@/data/fits';
import type { TakeInfo } from '@/data/project';
import { ghostSteps } from '@/data/seen';
import { takeKey } from '@/data/use-open-take';
import { core } from '@/worker/core';
import type { ClipResult, View } from '@/worker/core.worker';

/** Another state of the clip, to be seen over it: each of its frames that of the same instant of the take. Null while none is asked for. */
export function useGhost(take: TakeInfo | null, doc: ClipDoc | null, shown: ClipResult | null, view: View): ClipResult | null {
  const whole = useWholeSteps();
  const ghost = useCorrecting((state) => state.ghost);
  const steps = doc && ghost && ghostSteps(doc.steps, ghost);
  const recipe = doc && steps ? { from: doc.source.from, to: doc.source.to, steps: whole(steps, take) } : null;
  const id = take ? takeKey(take) : '';
  const { data } = useQuery({
    queryKey: ['ghost', id, recipe, view],
    enabled: recipe !== null && shown !== null,
    staleTime: Infinity,
    gcTime: 20_000,
    placeholderData: (before) => before,
    queryFn: () => (recipe ? core().clip(id, recipe, view) : null),
  });
  const state = recipe ? data : null;
  return useMemo(() => (shown && state ? inStep(state, shown) : null), [shown, state]);
}

/** A state of the clip with as many frames as another, each showing the same instant; null where there are none such. */
function inStep(state: ClipResult, shown: ClipResult): ClipResult | null {
  if (state.motion.frames === shown.motion.frames) return state;
  const { source } = state;
  if (!source || !shown.source) return null;
  const like = Array.from({ length: shown.motion.frames }, (_, f) => {
    const instant = shown.source?.[f % Math.max(1, shown.cycle)] ?? 0;
    let best = 0;
    for (let g = 1; g < source.length; g++) if (Math.abs(source[g] - instant) < Math.abs(source[best] - instant)) best = g;
    return Math.min(best, state.motion.frames - 1);
  });
  return { ...state, motion: pickFrames(state.motion, like) };
}
