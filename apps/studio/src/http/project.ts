import { fitOverrides, markerSchema, propSchema, takeOverridesSchema, type Mapping, type Passport, type Skeleton } from '@lantern/motion';
import { z } from 'zod';
import { savedClipSchema } from './clip';
import { known } from './known';

export const projectInfoSchema = z.object({
  id: z.string(),
  name: z.string(),
  character: z.string(),
  fps: z.number(),
  namePattern: z.string(),
  /** The character that new clips are fitted to; empty: nobody. */
  fitTo: z.string(),
  /** Takes that come in are put with their feet at height zero. */
  settlesFloor: z.boolean(),
});
export type ProjectInfo = Readonly<z.infer<typeof projectInfoSchema>>;

/** A take without its motion. */
export const takeInfoSchema = z.object({
  id: z.string(),
  project: z.string(),
  name: z.string(),
  file: z.string(),
  frames: z.int(),
  fps: z.number(),
  skeleton: known<Skeleton>(),
  moving: z.array(z.int()).readonly(),
  passport: known<Passport>(),
  overrides: takeOverridesSchema,
  signature: z.string(),
  /** Its motion travels in parts. */
  long: z.boolean(),
  tags: z.array(z.string()).readonly(),
  notes: z.string(),
  star: z.boolean(),
  markers: z.array(markerSchema).readonly(),
  props: z.array(propSchema).readonly(),
  path: z.array(z.number()).readonly(),
  created: z.string(),
});
export type TakeInfo = Readonly<z.infer<typeof takeInfoSchema>> & {
  /** What a person has mapped by hand on skeletons of its suit. */
  readonly mapping?: Mapping;
};

/** What is shown of a character without opening its file. */
export const characterSchema = z.object({
  project: z.string(),
  id: z.string(),
  name: z.string(),
  file: z.string(),
  hash: z.string(),
  facts: z.object({
    statureM: z.number(),
    joints: z.int(),
    /** The least sure of its parts, 0 to 1. */
    confidence: z.number(),
    warnings: z.array(z.string()).readonly(),
  }),
});
export type CharacterInfo = Readonly<z.infer<typeof characterSchema>>;

/** What is settled for a suit, told by its signature, and a character. */
export const fitSchema = z.object({ source: z.string(), character: z.string(), settings: fitOverrides });

export const projectDataSchema = z.object({
  project: projectInfoSchema,
  takes: z.array(takeInfoSchema).readonly(),
  clips: z.array(savedClipSchema).readonly(),
  characters: z.array(characterSchema).readonly(),
  fits: z.array(fitSchema).readonly(),
});
export type ProjectData = Readonly<Omit<z.infer<typeof projectDataSchema>, 'takes'>> & { readonly takes: readonly TakeInfo[] };

/** What became of a file that came in. */
export const arrivedSchema = z.object({
  takes: z.array(takeInfoSchema).readonly(),
  /** Names of takes with the same content that were here already. */
  duplicates: z.array(z.string()).readonly(),
  /** A skeleton, kept for the motions that fit it. */
  skeleton: z.string().nullable(),
});
export type Arrived = Readonly<z.infer<typeof arrivedSchema>>;
