import { z } from 'zod';
import { clipNameSchema } from '../recipe/clip-document';

/** Frames a second that engines play at. */
export const SHIP_RATES = [24, 25, 30, 50, 60, 120] as const;

const path = z
  .string()
  .min(1)
  .max(1000)
  .regex(/^[^\u0000-\u001f\u007f]+$/, 'has signs that a file name cannot have')
  .regex(/^(?!\/)(?![^]*\.\.)[^\\:]+\.glb$/i, 'must lie in the folder and end in .glb');

/** How keys are thinned that no step of a clip thins itself. */
export const shipThinSchema = z.object({
  /** How far a point within 10 cm of any joint may be from where it was, millimetres; a foot that bears a tenth of it. */
  boundMm: z.number().min(0.01, 'A bound is 0.01 mm at least: without room no key can go.').max(50).default(0.5),
  /** Smoothly joined keys are cubic splines; straight ones are many more, for what reads nothing else. */
  joining: z.enum(['smooth', 'straight']).default('smooth'),
  /** Rotations of what no foot hangs on as 16-bit numbers, which counts into the bound. */
  quantised: z.boolean().default(false),
});
export type ShipThin = z.infer<typeof shipThinSchema>;

/** What a project ships, and how. */
export const shipSchema = z.object({
  /** The one file with all clips; with `oneFilePerClip` only its folder counts. With several characters each has a folder. */
  glb: path.default('set.glb'),
  /** Frames a second; the project's own unless said. */
  fps: z.number().min(1).max(1000).optional(),
  oneFilePerClip: z.boolean().default(false),
  /** The character's own body, a plain one of capsules on the same joints, or joints alone. */
  body: z.enum(['with', 'plain', 'without']).default('with'),
  /** Left out: a key on every frame. */
  thin: shipThinSchema.optional(),
  /** Of a loop: its last key is its first, one cycle on; left out, players go from the last but one to the first by themselves. */
  lastKey: z.enum(['kept', 'left out']).default('kept'),
  /** Where travel goes: on the root, or only into the table beside the clip, with the root left where it is. */
  rootMotion: z.enum(['root', 'table']).default('root'),
  /** Text before the name of every animation and of its files. */
  prefix: z
    .string()
    .max(60)
    .regex(/^[^/\\:*?"<>|\u0000-\u001f]*$/, 'has characters that a file name cannot have')
    .default(''),
  /** Joints under the root that go where hands and feet go, for limbs that are solved by an engine. */
  targets: z.boolean().default(false),
  /** Speed, turn and the time to the next footfall, frame by frame, in the manifest. */
  curves: z.boolean().default(false),
  /** A pose as an animation of one key, and clips once more as what they are more than it: to be added to other motion. */
  differences: z
    .object({
      clip: clipNameSchema,
      /** Of the clip as it ships. */
      frame: z.int().min(0).max(1e7).default(0),
      of: z.array(clipNameSchema).min(1).max(1000),
    })
    .optional(),
  /** A BVH for every clip, in `clips/`. */
  bvh: z.boolean().default(false),
  bvhUp: z.enum(['+y', '+z']).default('+y'),
  bvhUnit: z.enum(['cm', 'm']).default('cm'),
  /** A table of the travel of every clip, in `clips/`. */
  csv: z.boolean().default(false),
  /** What a game needs beside the keys, for every set. */
  manifest: z.boolean().default(true),
  /** Clips and joins that stay behind. */
  without: z.array(clipNameSchema).max(5000).default([]),
});
export type ShipOptions = z.infer<typeof shipSchema>;
export type ShipOptionsInput = z.input<typeof shipSchema>;
