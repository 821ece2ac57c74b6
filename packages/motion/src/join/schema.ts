import { z } from 'zod';
import { clipNameSchema } from '../recipe/clip-document';

const frame = z.int().min(-1e7).max(1e7);
const share = z.number().min(0).max(1);

/** What two pieces are put over each other by, in the middle of their overlap. */
export const LINE_UPS = ['planted', 'left foot', 'right foot', 'hips'] as const;

/** A curve from 0 to 1 over the overlap: by name, or drawn with the two handles of a cubic Bézier. */
const curve = z.union([z.enum(['smooth', 'straight', 'sudden']), z.tuple([share, share, share, share])]);
export type JoinCurve = z.infer<typeof curve>;

/** How a piece follows the one before it. */
export const joinIntoSchema = z.object({
  /** Frames in which both are there; none is a cut. */
  frames: z.int().min(0).max(600).default(18),
  /** Both poses blended, or the coming one from its first frame on with the difference dying out. */
  how: z.enum(['fade', 'carry']).default('fade'),
  curve: curve.default('smooth'),
  /** Of the piece that leaves, where it is not the counterpart of the other. */
  leaving: curve.optional(),
  /** A point that meets, or a place by hand: metres and degrees from where the point would put it. */
  line: z.enum(LINE_UPS).default('planted'),
  by: z.object({ x: z.number().min(-100).max(100), z: z.number().min(-100).max(100), turnDeg: z.number().min(-360).max(360) }).optional(),
  /** The height goes along as well. */
  height: z.boolean().default(false),
  /** Time runs so that landings of the same foot meet. */
  inStep: z.boolean().default(true),
  /** Feet that are planted stay so through the overlap. */
  hold: z.boolean().default(true),
});
export type JoinInto = z.infer<typeof joinIntoSchema>;

/** From a frame on, all that follows is raised, moved or turned. */
export const shiftSchema = z.object({
  /** Frame of the piece, counted from its first. */
  at: z.int().min(0).max(1e7),
  /** Frames in which it happens; feet in the air take it along as far as they are. */
  frames: z.int().min(1).max(600).default(18),
  /** Up, metres. */
  raise: z.number().min(-5).max(5).default(0),
  /** Where the body faces, and to its left, metres. */
  ahead: z.number().min(-20).max(20).default(0),
  left: z.number().min(-20).max(20).default(0),
  /** To the left, degrees. */
  turnDeg: z.number().min(-360).max(360).default(0),
});
export type Shift = z.infer<typeof shiftSchema>;

const trimmed = {
  /** So that a piece can be told from others that are alike. */
  id: z.string().min(1).max(60).optional(),
  /** First and last frame; beyond the clip as far as there is motion, and of a loop round and round. Left out: all of it. */
  from: frame.optional(),
  to: frame.optional(),
  /** So often on end, in part too: each copy starts where the last one stopped. */
  times: z.number().min(0.01).max(1000).default(1),
  into: joinIntoSchema.prefault({}),
  shifts: z.array(shiftSchema).max(100).default([]),
  /** Named frames, counted from its first. */
  marks: z
    .array(z.object({ at: z.int().min(0).max(1e7), name: z.string().trim().min(1).max(60) }))
    .max(500)
    .default([]),
};
const piece = z.union([
  z.object({ clip: clipNameSchema, ...trimmed }),
  z.object({ take: z.string().min(1).max(200), ...trimmed, from: z.int().min(0).max(1e7), to: z.int().min(1).max(1e7) }),
]);
export type JoinPiece = z.infer<typeof piece>;

/** Clips and cuts end to end. */
export const joinSchema = z.object({
  name: clipNameSchema,
  pieces: z.array(piece).min(1).max(500),
  /** The first piece starts at the origin, facing +Z, or where it was captured. */
  start: z.enum(['origin', 'captured']).default('origin'),
});
export type Join = z.infer<typeof joinSchema>;
export type JoinInput = z.input<typeof joinSchema>;
