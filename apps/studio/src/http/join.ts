import { joinSchema } from '@lantern/motion';
import { z } from 'zod';

/** A join as it is worked on; its pieces name clips and takes by their ids. A new one has no piece yet. */
export const joinDocumentSchema = joinSchema.extend({
  id: z.string().min(1).max(200),
  pieces: z.array(joinSchema.shape.pieces.element).max(500),
});
export type JoinDoc = Readonly<z.infer<typeof joinDocumentSchema>>;

/** A join as the server has it. */
export const savedJoinSchema = joinDocumentSchema.extend({ project: z.string(), revision: z.int(), updated: z.coerce.date() });
export type JoinRow = z.infer<typeof savedJoinSchema>;

/** What a save sends: the whole join, and the revision that it started from (0 for a new one). */
export const joinSaveSchema = joinDocumentSchema.omit({ id: true }).extend({ revision: z.int().min(0) });
export type JoinSave = z.infer<typeof joinSaveSchema>;
