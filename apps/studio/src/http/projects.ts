import { z } from 'zod';
import { PROJECT_RATES } from './project-facts';

const title = z.string().trim().min(1, 'Give it a name.').max(80, 'That is longer than 80 letters.');

/** A project as it begins: nothing is in it but the characters that come with the program. */
export const newProjectInput = z.object({
  name: title,
  character: title,
  fps: z.number().refine((fps) => PROJECT_RATES.some((own) => own === fps), `One of ${PROJECT_RATES.join(', ')} frames a second.`),
});
export type NewProjectInput = z.infer<typeof newProjectInput>;

/** What a new project is made from: nothing, another project, the demo, or a simulated capture day. `arrival` is what its progress is asked by. */
export const projectStart = z.union([
  z.object({ copyOf: z.string().min(1).max(200) }),
  z.object({ demo: z.literal(true), arrival: z.uuid().nullable().default(null) }),
  z.object({ day: z.literal(true), arrival: z.uuid().nullable().default(null) }),
  newProjectInput,
]);
export type ProjectStart = z.input<typeof projectStart>;

/** A project in the list of all. */
export const projectRowSchema = z.object({
  id: z.string(),
  name: z.string(),
  character: z.string(),
  fps: z.number(),
  takes: z.int(),
  clips: z.int(),
  sets: z.int(),
  shipments: z.int(),
  /** Seconds of all its takes. */
  seconds: z.number(),
  /** When something in it changed last, and when it was removed. */
  changed: z.string(),
  removed: z.string().nullable(),
  /** The ways of its longest takes from above, metres: x, z, x, z, … */
  paths: z.array(z.array(z.number()).readonly()).readonly(),
});
export type ProjectRow = Readonly<z.infer<typeof projectRowSchema>>;

export const projectListSchema = z.object({ projects: z.array(projectRowSchema).readonly() });
/** What a project that was begun, copied or brought in goes by. */
export const projectBegunSchema = z.object({ id: z.string() });
