import { takePatchSchema } from '@lantern/motion';
import { madeFromSchema } from './made-from';

/** A change of what stands beside a take, and what it was made on, so that changes from elsewhere are merged and not overwritten. */
export const takeChangeSchema = takePatchSchema.extend({
  before: takePatchSchema.optional(),
  /** What it was baked from; said once, when it was. */
  made: madeFromSchema.optional(),
});
