import type { SuitStatus } from '@lantern/capture';
import type { Skeleton } from '@lantern/motion';
import { z } from 'zod';
import { known } from './known';

/** A suit that is switched on, and the skeleton of who wears it. */
export const wornSchema = z.object({ id: z.string(), skeleton: known<Skeleton>() });
export type Worn = Readonly<z.infer<typeof wornSchema>>;

export const suitStatusSchema = known<SuitStatus>();
