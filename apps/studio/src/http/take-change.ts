import { takePatchSchema } from '@lantern/motion';

/** A change of what stands beside a take, and what it was made on, so that changes from elsewhere are merged and not overwritten. */
export const takeChangeSchema = takePatchSchema.extend({ before: takePatchSchema.optional() });
