import { z } from 'zod';
import type { Clip } from '../model/clip';
import { floor, floorParams } from './floor';
import { footLock, footLockParams } from './foot-lock';
import { loop, loopParams } from './loop';
import { typicalCycleParams, typicalCycleStep } from './typical-cycle';
import { travel, travelParams } from './travel';

/** A recipe's step as it stands in a file: told apart by `kind`, parameters optional. */
export const stepSchema = z.discriminatedUnion('kind', [floorParams, typicalCycleParams, loopParams, footLockParams, travelParams]);
export type RecipeStep = z.infer<typeof stepSchema>;
export type RecipeStepInput = z.input<typeof stepSchema>;

/** Applies one step; a step that is switched off changes nothing. */
export function applyStep(clip: Clip, step: RecipeStep): Clip {
  if (step.off) return clip;
  switch (step.kind) {
    case 'floor':
      return floor.apply(clip, step);
    case 'typical-cycle':
      return typicalCycleStep.apply(clip, step);
    case 'loop':
      return loop.apply(clip, step);
    case 'foot-lock':
      return footLock.apply(clip, step);
    case 'travel':
      return travel.apply(clip, step);
  }
}
