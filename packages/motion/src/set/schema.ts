import { z } from 'zod';
import { clipNameSchema } from '../recipe/clip-document';
import { contractSchema } from './contract';
import { draftSchema } from './draft-schema';
import { graphSchema } from './graph-schema';
import { SLOT_LISTS } from './slot-list-names';
import { slotList } from './slot-lists';
import { slotSchema } from './slot';

const id = z.string().min(1).max(200);

/** A line of the shot list that somebody has written or changed. */
export const shotSchema = z.object({
  id,
  /** The slot it is for; left out for a line of one's own. */
  slot: z.string().max(200).optional(),
  text: z.string().trim().min(1).max(500),
  /** Ticked off by hand, or by a take that came in: its id, and the frames of it. */
  done: z.boolean().default(false),
  by: z.object({ take: id, from: z.int().min(0), to: z.int().min(1) }).optional(),
});
export type ShotLine = z.infer<typeof shotSchema>;

/** What the figures of a set may be at the most. */
export const setBoundsSchema = z.object({
  homeCm: z.number().min(0).max(100).default(1.5),
  tick: z.number().min(0).max(100).default(1.2),
  slideCm: z.number().min(0).max(100).default(0.5),
  sinkCm: z.number().min(0).max(100).default(1),
  /** Of a speed, as a share of the one asked. */
  speed: z.number().min(0).max(1).default(0.05),
  turnDeg: z.number().min(0).max(90).default(2),
  seamCm: z.number().min(0).max(100).default(0.5),
  /** How far thinned keys may be from the motion. */
  keyMm: z.number().min(0).max(100).default(0.5),
  seconds: z.number().min(0.1).max(3600).default(12),
  /** What the keys of a clip may take in a file. */
  sizeKb: z.number().min(0.1).max(1e6).default(200),
});
export type SetBounds = z.infer<typeof setBoundsSchema>;

/** The locomotion set of a character. */
export const setSchema = z.object({
  name: clipNameSchema,
  /** Whom it is of; null: the clips that are on nobody, as they were captured. */
  character: id.nullable().default(null),
  /** A ready list, or slots one by one. */
  slots: z.union([z.enum(SLOT_LISTS).transform(slotList), z.array(slotSchema).max(500)]).prefault('modest'),
  /** Clips that fill a slot whatever is measured, by slot. */
  pins: z.record(z.string().max(200), id).default({}),
  /** Clips of the character that are none of the set. */
  without: z.array(id).max(5000).default([]),
  /** The frame whose pose starts, stops, turns and idles meet in. */
  home: z.object({ clip: id, frame: z.int().min(0).max(1e7) }).optional(),
  contract: contractSchema.prefault({}),
  /** Lines of the shot list that were changed or added; the others follow from what is missing. */
  shots: z.array(shotSchema).max(1000).default([]),
  bounds: setBoundsSchema.prefault({}),
  /** How a game gets from one motion to the next; left out, one is made of what the set has. */
  graph: graphSchema.optional(),
  /** How it was drafted, where it was. */
  draft: draftSchema.optional(),
});
export type LocomotionSet = z.infer<typeof setSchema>;
export type LocomotionSetInput = z.input<typeof setSchema>;
