import { z } from 'zod';

const frames = { from: z.number().nullable(), to: z.number().nullable(), times: z.number() };

/** What a take was baked from: a join as it stood, and each of its pieces as it stood then. */
export const madeFromSchema = z.object({
  join: z.object({ id: z.string().max(200), name: z.string().max(200), revision: z.int() }),
  pieces: z
    .array(
      z.object({
        /** Of the clip or the take. */
        id: z.string().max(200),
        name: z.string().max(200),
        kind: z.enum(['clip', 'take']),
        /** Of a clip. */
        revision: z.int().nullable(),
        ...frames,
      }),
    )
    .max(500),
});
export type MadeFrom = z.infer<typeof madeFromSchema>;
