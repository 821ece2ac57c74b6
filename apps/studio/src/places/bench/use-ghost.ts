import { useQuery } from '@tanstack/react-query';
import type { ClipDoc } from '@/data/clips-store';
import { useCorrecting } from '@/data/correcting';
import { useWholeSteps } from '@/data/fits';
import type { TakeInfo } from '@/data/project';
import { takeKey } from '@/data/use-open-take';
import { core } from '@/worker/core';
import type { ClipResult, View } from '@/worker/core.worker';

/** The clip without one of its steps, to be seen over it; null while none is asked for, or where it has not as many frames. */
export function useGhost(take: TakeInfo | null, doc: ClipDoc | null, shown: ClipResult | null, view: View): ClipResult | null {
  const whole = useWholeSteps();
  const without = useCorrecting((state) => state.without);
  const isThere = doc?.steps.some(({ id, off }) => id === without && !off) ?? false;
  const steps = doc?.steps.map((step) => (step.id === without ? { ...step, off: true } : step));
  const recipe = doc && isThere && steps ? { from: doc.source.from, to: doc.source.to, steps: whole(steps, take) } : null;
  const id = take ? takeKey(take) : '';
  const { data } = useQuery({
    queryKey: ['ghost', id, recipe, view],
    enabled: recipe !== null && shown !== null,
    staleTime: Infinity,
    gcTime: 20_000,
    placeholderData: (before) => before,
    queryFn: () => (recipe ? core().clip(id, recipe, view) : null),
  });
  return shown && recipe && data && data.motion.frames === shown.motion.frames && sameSkeleton(data, shown) ? data : null;
}

const sameSkeleton = (a: ClipResult, b: ClipResult): boolean => a.motion.skeleton.joints.length === b.motion.skeleton.joints.length;
