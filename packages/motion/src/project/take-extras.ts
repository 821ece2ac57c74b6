import { takeOverridesSchema } from '../passport/overrides';
import { z } from 'zod';

const coordinate = z.number().min(-1e4).max(1e4);
const size = z.number().min(0.01).max(50);

/** A named instant of a take. */
export const markerSchema = z.object({ frame: z.int().min(0).max(1e8), name: z.string().trim().min(1).max(60) });
export type Marker = z.infer<typeof markerSchema>;

export const PROP_KINDS = ['box', 'step', 'rope', 'seat', 'wall'] as const;

/** A thing on the stage to judge against: metres and radians, its middle on the floor at x, z. */
export const propSchema = z.object({
  id: z.string().min(1).max(40),
  kind: z.enum(PROP_KINDS),
  x: coordinate,
  z: coordinate,
  turn: z.number().min(-100).max(100),
  width: size,
  height: size,
  depth: size,
});
export type StageProp = z.infer<typeof propSchema>;

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
