import { z } from 'zod';
import { recipeSchema } from './order';

/** A piece of a take: its frames at its own rate, first and last. */
const cutSchema = z.object({
  take: z.string().min(1).max(200),
  from: z.int().min(0),
  to: z.int().min(1),
});

/** What a clip is made from; anything that has frames can be one. */
export const clipSourceSchema = cutSchema;
export type ClipSource = z.infer<typeof clipSourceSchema>;

/** A name that is also a file name everywhere. */
export const clipNameSchema = z
  .string()
  .trim()
  .min(1)
  .max(120)
  .regex(/^[^/\\:*?"<>|\u0000-\u001f]+$/, 'has characters that a file name cannot have');

const tag = z.string().trim().max(60).default('');

const about = {
  name: clipNameSchema,
  steps: recipeSchema.prefault([]),
  /** What it is, in words; goes into the report. Empty: nobody has said. */
  gait: tag,
  direction: tag,
};

/** A clip, wherever it is written down: in a project file, in the database, in a browser, on its way to the worker. */
export const clipDocumentSchema = z.object({ id: z.string().min(1).max(200), ...about, source: clipSourceSchema });
export type ClipDocument = Readonly<z.infer<typeof clipDocumentSchema>>;

/**
 * A clip as a person writes it: its cut beside its name, or as a `source`; without an id it goes by its name.
 *
 * @example
 * clipInputSchema.parse({ name: 'stroll', take: 'rounds', from: 100, to: 165 });
 * // { id: 'stroll', name: 'stroll', source: { take: 'rounds', from: 100, to: 165 }, steps: [], gait: '', direction: '' }
 */
export const clipInputSchema = z
  .object({ id: clipDocumentSchema.shape.id.optional(), ...about, source: clipSourceSchema.optional(), ...cutSchema.partial().shape })
  .transform(({ id, source, take, from, to, ...rest }, context): ClipDocument => {
    const cut = source ? { success: true as const, data: source } : clipSourceSchema.safeParse({ take, from, to });
    if (cut.success) return { id: id ?? rest.name, source: cut.data, ...rest };
    for (const { message, path } of cut.error.issues) context.addIssue({ code: 'custom', message, path: [...path] });
    return z.NEVER;
  });
