import { z } from 'zod';
import { takeOverridesSchema } from '../passport/overrides';
import { savedFitSchema } from '../fit/settings';
import { joinSchema } from '../join/schema';
import { fieldSchema } from '../set/field-schema';
import { setSchema } from '../set/schema';
import { clipInputSchema } from '../recipe/clip-document';
import { shipSchema } from '../ship/options';
import { markerSchema, takePatchSchema } from './take-extras';

const id = z.string().min(1).max(200);
const rate = z.number().min(1).max(1000);
const fileName = z
  .string()
  .min(1)
  .max(1000)
  .regex(/^[^\u0000-\u001f\u007f]+$/, 'has signs that a file name cannot have');
/** More clips than any set has; so many would be a mistake. */
const MOST_CLIPS = 5000;

/** The project file, version 1. Open and versioned: what the command line makes from, and what the application exports. */
export const projectSchema = z.object({
  oldLantern: z.literal(1),
  fps: rate.default(60),
  /** What the application knows of the project beside what it makes. */
  name: z.string().trim().min(1).max(200).optional(),
  character: z.string().max(200).optional(),
  namePattern: z.string().trim().min(1).max(200).optional(),
  fitTo: z.string().max(200).optional(),
  settlesFloor: z.boolean().optional(),
  takes: z
    .array(
      z.object({
        id,
        file: fileName,
        /** Which animation of a file that has several; the first unless named. */
        animation: z.string().optional(),
        /** The ASF file of an AMC motion. */
        skeleton: fileName.optional(),
        /** Named instants, frames of the take; those within a clip go out with it. */
        markers: z.array(markerSchema).max(1000).optional(),
        /** What stands beside it in the application. */
        tags: takePatchSchema.shape.tags,
        notes: takePatchSchema.shape.notes,
        star: takePatchSchema.shape.star,
        props: takePatchSchema.shape.props,
        ...takeOverridesSchema.shape,
      }),
    )
    .min(1),
  /** Skinned GLB files that clips are fitted to. */
  characters: z.array(z.object({ id, file: fileName })).default([]),
  /** What is settled for the takes of a suit and a character; a clip's own `fit` step goes first. */
  fits: z.array(savedFitSchema).default([]),
  clips: z.array(clipInputSchema).min(1).max(MOST_CLIPS),
  /** Clips and cuts end to end; a clip may be cut from one as from a take. */
  joins: z.array(joinSchema).max(1000).default([]),
  /** What of a character's clips a game plays, slot by slot. */
  sets: z.array(setSchema).max(100).default([]),
  /** Clips that are blended by inputs. */
  fields: z.array(fieldSchema).max(200).default([]),
  ship: shipSchema.prefault({}),
});

export type Project = z.infer<typeof projectSchema>;
export type ProjectInput = z.input<typeof projectSchema>;
