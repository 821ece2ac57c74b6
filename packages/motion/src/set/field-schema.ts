import { z } from 'zod';
import { clipNameSchema } from '../recipe/clip-document';

/** What a field can be steered by. */
export const FIELD_INPUTS = ['speed', 'turn', 'direction'] as const;
export type FieldInput = (typeof FIELD_INPUTS)[number];

/** Clips that are blended by one or two inputs: speed, speed and turn rate, or speed and direction of travel. */
export const fieldSchema = z.object({
  name: clipNameSchema,
  inputs: z
    .union([
      z.tuple([z.literal('speed')]),
      z.tuple([z.literal('speed'), z.literal('turn')]),
      z.tuple([z.literal('speed'), z.literal('direction')]),
    ])
    .default(['speed', 'turn']),
  /** Loops, standing at what they measure. */
  clips: z.array(z.string().min(1).max(200)).max(60).default([]),
  /** Feet that bear stay where they came down. */
  holdFeet: z.boolean().default(true),
  /** As far as time gives way so that the speed asked comes: 0.06 is six hundredths. */
  pace: z.number().min(0).max(0.3).default(0.06),
});
export type BlendField = z.infer<typeof fieldSchema>;
export type BlendFieldInput = z.input<typeof fieldSchema>;
