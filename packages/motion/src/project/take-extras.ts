import { takeOverridesSchema } from '../passport/overrides';
import { z } from 'zod';
import { propSchema } from '../model/prop';

/** A named instant of a take. */
export const markerSchema = z.object({ frame: z.int().min(0).max(1e8), name: z.string().trim().min(1).max(60) });
export type Marker = z.infer<typeof markerSchema>;

/** What may be changed of a take: all that stands beside it, never its motion. */
export const takePatchSchema = z
  .object({
    name: z.string().trim().min(1).max(120),
    tags: z.array(z.string().trim().min(1).max(40)).max(40),
    notes: z.string().max(10_000),
    star: z.boolean(),
    markers: z.array(markerSchema).max(1000),
    props: z.array(propSchema).max(100),
    overrides: takeOverridesSchema,
  })
  .partial();
export type TakePatch = z.infer<typeof takePatchSchema>;
