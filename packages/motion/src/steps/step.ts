import type { ZodType } from 'zod';
import type { Cast } from '../character/character';
import type { Clip } from '../model/clip';

/** One kind of processing: parameters with good defaults, and a pure function from clip to clip. Only a fit looks at the cast. */
export interface Step<Kind extends string, Params> {
  readonly kind: Kind;
  readonly params: ZodType<Params>;
  apply(clip: Clip, params: Params, cast?: Cast): Clip;
}
