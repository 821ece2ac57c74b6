import { clipDocumentSchema, SLOT_LISTS } from '@lantern/motion';
import { z } from 'zod';
import { setDocumentSchema } from './set';

/** What a set is drafted by: whom it is for, what it shall have, and the set whose slots, numbers and bounds it takes over, where there is one. */
export const draftInput = z.object({
  name: z.string().trim().min(1).max(80),
  /** Null: nobody, the clips as they were captured. */
  character: z.string().min(1).max(200).nullable(),
  slots: z.enum(SLOT_LISTS),
  /** A set of the project: its slots, the game's numbers and its bounds instead of a ready list. */
  like: z.string().min(1).max(200).nullable().default(null),
  /** What its progress is asked by. */
  arrival: z.uuid(),
});
export type DraftInput = z.input<typeof draftInput>;

/** A set as it was drafted, not yet saved: its clips, the set with its fields, and what nothing of the takes fills. */
export const draftedSchema = z.object({
  clips: z.array(clipDocumentSchema),
  set: setDocumentSchema,
  missing: z.array(z.object({ slot: z.string(), why: z.string(), shot: z.string() })),
  weather: z.object({ popCm: z.number(), slideCm: z.number() }).nullable(),
});
export type Drafted = z.infer<typeof draftedSchema>;
