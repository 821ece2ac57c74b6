import type { ClipRecipe } from '@lantern/motion';
import { useMemo } from 'react';
import { useClips } from '@/data/clips-store';
import { useCorrecting } from '@/data/correcting';
import { useWholeSteps } from '@/data/fits';
import type { TakeInfo } from '@/data/project';
import { takeKey } from '@/data/use-open-take';
import { core } from '@/worker/core';
import type { Workbench } from '../use-workbench';
import type { CorrectionsTools } from './corrections-context';
import { withLayersIn } from './layer-doc';

/** What the card of the corrections does besides changing its step; null while there is none. */
export function useCorrectionsTools({ corrections, doc, shown }: Workbench, take: TakeInfo): CorrectionsTools | null {
  const whole = useWholeSteps();
  const skeleton = shown?.motion.skeleton;
  return useMemo(() => {
    const { step } = corrections;
    if (!doc || !step || !skeleton) return null;
    const { from, to } = doc.source;
    const recipe: ClipRecipe = { from, to, steps: whole(doc.steps, take) };
    return {
      ...corrections,
      joints: skeleton.joints.map(({ name }) => name),
      props: take.props,
      place: (limb, frame) => core().limbPlace(takeKey(take), recipe, step.id, limb, frame),
      copy: (layers) => useCorrecting.setState({ given: layers }),
      merge: async (low, high) => {
        const merged = await core().merged(takeKey(take), recipe, step.id, low, high);
        if (merged) useClips.getState().put(withLayersIn(doc, step, merged.layers));
      },
    };
  }, [corrections, doc, skeleton, take, whole]);
}
