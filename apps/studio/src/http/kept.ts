import { z } from 'zod';

const state = z.object({ docs: z.array(z.unknown()) });

/** What a browser keeps of the documents of one kind: them, what they rest on, and the states of undo and redo. */
export const keptSchema = z.object({
  docs: z.array(z.unknown()),
  revisions: z.record(z.string(), z.number()),
  past: z.array(state),
  future: z.array(state),
});

/** Of the answer to a save only its revision is taken: what was sent is what stands. */
export const revisedSchema = z.looseObject({ revision: z.int() });
