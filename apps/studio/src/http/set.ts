import { fieldSchema, setSchema, slotSchema } from '@lantern/motion';
import { z } from 'zod';

/** A set as it is worked on, with its fields; it names clips by their ids. */
export const setDocumentSchema = setSchema.extend({
  id: z.string().min(1).max(200),
  slots: z.array(slotSchema).max(500),
  fields: z
    .array(fieldSchema.extend({ id: z.string().min(1).max(60) }))
    .max(60)
    .default([]),
});
export type SetDoc = Readonly<z.infer<typeof setDocumentSchema>>;
export type FieldDoc = SetDoc['fields'][number];

/** A set as the server has it. */
export const savedSetSchema = setDocumentSchema.extend({ project: z.string(), revision: z.int(), updated: z.coerce.date() });
export type SetRow = z.infer<typeof savedSetSchema>;

/** What a save sends: the whole set, and the revision that it started from (0 for a new one). */
export const setSaveSchema = setDocumentSchema.omit({ id: true }).extend({ revision: z.int().min(0) });
export type SetSave = z.infer<typeof setSaveSchema>;
