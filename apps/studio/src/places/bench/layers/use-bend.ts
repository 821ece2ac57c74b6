import { useQuery } from '@tanstack/react-query';
import type { ClipDoc } from '@/data/clips-store';
import { useCorrecting } from '@/data/correcting';
import { useWholeSteps } from '@/data/fits';
import type { TakeInfo } from '@/data/project';
import { takeKey } from '@/data/use-open-take';
import { core } from '@/worker/core';
import type { Bend } from '@/worker/core.worker';
import { correctionsOf } from './layer-doc';

/** How the joint that is taken hold of turns before the corrections and after them; null while nothing is. */
export function useBend(take: TakeInfo | null, doc: ClipDoc | null, isOn: boolean): { readonly joint: string; readonly bend: Bend } | null {
  const whole = useWholeSteps();
  const joint = useCorrecting((state) => state.joint);
  const step = correctionsOf(doc);
  const recipe = doc && { from: doc.source.from, to: doc.source.to, steps: whole(doc.steps, take) };
  const id = take ? takeKey(take) : '';
  const { data } = useQuery({
    queryKey: ['bend', id, recipe, step?.id, joint],
    enabled: isOn && recipe !== null && step !== null && joint !== null,
    staleTime: Infinity,
    gcTime: 20_000,
    placeholderData: (before) => before,
    queryFn: async () => (recipe && step && joint ? { joint, bend: await core().bend(id, recipe, step.id, joint) } : null),
  });
  const bend = data?.bend;
  return isOn && bend && data.joint === joint ? { joint, bend } : null;
}
