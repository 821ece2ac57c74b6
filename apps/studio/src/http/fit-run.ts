import type { FitReport } from '@lantern/motion';
import { z } from 'zod';
import { known } from './known';

export const FIT_STATES = ['waiting', 'running', 'done', 'failed', 'stopped'] as const;
export type FitState = (typeof FIT_STATES)[number];

/** One take onto one character, as the queue has it. */
export const fitJobSchema = z.object({
  id: z.string(),
  /** Those that were asked for together. */
  run: z.string(),
  take: z.string(),
  character: z.string(),
  state: z.enum(FIT_STATES),
  tries: z.int(),
  report: known<FitReport>().nullable(),
  /** Why it failed, in a sentence. */
  message: z.string(),
  hasFile: z.boolean(),
});
export type FitJobInfo = Readonly<z.infer<typeof fitJobSchema>>;
