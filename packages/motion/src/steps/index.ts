import { z } from 'zod';
import type { Cast } from '../character/character';
import type { Clip } from '../model/clip';
import { evenOut, evenOutParams } from './even-out';
import { extend, extendParams } from './extend';
import { fit, fitParams } from './fit';
import { floor, floorParams } from './floor';
import { footLock, footLockParams } from './foot-lock';
import { loop, loopParams } from './loop';
import { mirror, mirrorParams } from './mirror';
import { path, pathParams } from './path';
import { retime, retimeParams } from './retime';
import { speed, speedParams } from './speed';
import { travel, travelParams } from './travel';
import { typicalCycleParams, typicalCycleStep } from './typical-cycle';

/** A recipe's step as it stands in a file: told apart by `kind`, parameters optional. */
export const stepSchema = z.discriminatedUnion('kind', [
  fitParams,
  floorParams,
  typicalCycleParams,
  mirrorParams,
  loopParams,
  evenOutParams,
  speedParams,
  extendParams,
  pathParams,
  footLockParams,
  travelParams,
  retimeParams,
]);
export type RecipeStep = z.infer<typeof stepSchema>;
export type RecipeStepInput = z.input<typeof stepSchema>;

/**
 * Applies one step; a step that is switched off changes nothing.
 *
 * @param cast the characters that clips may be fitted to
 */
export function applyStep(clip: Clip, step: RecipeStep, cast: Cast = new Map()): Clip {
  if (step.off) return clip;
  switch (step.kind) {
    case 'fit':
      return fit.apply(clip, step, cast);
    case 'floor':
      return floor.apply(clip, step);
    case 'typical-cycle':
      return typicalCycleStep.apply(clip, step);
    case 'mirror':
      return mirror.apply(clip, step);
    case 'loop':
      return loop.apply(clip, step);
    case 'even-out':
      return evenOut.apply(clip, step);
    case 'extend':
      return extend.apply(clip, step);
    case 'path':
      return path.apply(clip, step);
    case 'speed':
      return speed.apply(clip, step);
    case 'foot-lock':
      return footLock.apply(clip, step);
    case 'travel':
      return travel.apply(clip, step);
    case 'retime':
      return retime.apply(clip, step);
  }
}
