import { z } from 'zod';
import { takeOverridesSchema } from '../passport/overrides';
import { savedFitSchema } from '../fit/settings';
import { recipeSchema } from '../recipe/order';

const id = z.string().min(1).max(200);
const rate = z.number().min(1).max(1000);
/** A name that is also a file name everywhere. */
const clipName = z
  .string()
  .min(1)
  .max(120)
  .regex(/^[^/\\:*?"<>|\u0000-\u001f]+$/, 'has characters that a file name cannot have');
const fileName = z.string().min(1).max(1000);

/** The project file, version 1. Open and versioned: what the command line makes from, and what the application exports. */
export const projectSchema = z.object({
  oldLantern: z.literal(1),
  fps: rate.default(60),
  takes: z
    .array(
      z.object({
        id,
        file: fileName,
        /** Which animation of a file that has several; the first unless named. */
        animation: z.string().optional(),
        /** The ASF file of an AMC motion. */
        skeleton: fileName.optional(),
        ...takeOverridesSchema.shape,
      }),
    )
    .min(1),
  /** Skinned GLB files that clips are fitted to. */
  characters: z.array(z.object({ id, file: fileName })).default([]),
  /** What is settled for the takes of a suit and a character; a clip's own `fit` step goes first. */
  fits: z.array(savedFitSchema).default([]),
  clips: z
    .array(
      z.object({
        name: clipName,
        take: id,
        /** Frames of the take at its own rate, both included. */
        from: z.int().min(0),
        to: z.int().min(1),
        steps: recipeSchema.prefault([]),
        /** What it is, in words; goes into the report. */
        gait: z.string().max(60).optional(),
        direction: z.string().max(60).optional(),
      }),
    )
    .min(1),
  ship: z
    .object({
      /** The one file with all clips; with `oneFilePerClip` only its folder counts. */
      glb: fileName.regex(/^(?!.*\.\.)[^\\:]+\.glb$/i, 'must end in .glb').default('set.glb'),
      fps: rate.optional(),
      oneFilePerClip: z.boolean().default(false),
      bvh: z.boolean().default(false),
    })
    .prefault({}),
});

export type Project = z.infer<typeof projectSchema>;
export type ProjectInput = z.input<typeof projectSchema>;
