import type { ZodType } from 'zod';
import type { Clip } from '../model/clip';

/** One kind of processing: parameters with good defaults, and a pure function from clip to clip. */
export interface Step<Kind extends string, Params> {
  readonly kind: Kind;
  readonly params: ZodType<Params>;
  apply(clip: Clip, params: Params): Clip;
}
