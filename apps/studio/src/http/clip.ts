import { clipDocumentSchema } from '@lantern/motion';
import { z } from 'zod';

/** A clip as the server has it; its revision grows by one with every save. */
export const savedClipSchema = clipDocumentSchema.extend({ project: z.string(), revision: z.int(), updated: z.coerce.date() });
export type ClipRow = z.infer<typeof savedClipSchema>;

/** What a save sends: the whole clip, and the revision that it started from (0 for a new one). */
export const clipSaveSchema = clipDocumentSchema.omit({ id: true }).extend({
  source: clipDocumentSchema.shape.source.extend({ take: z.uuid() }),
  revision: z.int().min(0),
});
export type ClipSave = z.infer<typeof clipSaveSchema>;
export type ClipSaveInput = z.input<typeof clipSaveSchema>;
