import { fitOverrides, markerSchema, propSchema, takeOverridesSchema, type Passport, type Skeleton } from '@lantern/motion';
import { z } from 'zod';
import { savedClipSchema } from './clip';
import { savedJoinSchema } from './join';
import { known } from './known';
import { madeFromSchema } from './made-from';
import { savedSetSchema } from './set';

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

const figure = z.number();

/** A passport as the core made it; that its figures are numbers is checked, so that none is shown that is not. */
const passportSchema = z.custom<Passport>().superRefine((value, context) => {
  const read = passportFigures.safeParse(value);
  for (const { path, message } of read.error?.issues ?? []) context.addIssue({ code: 'custom', path, message });
});
const passportFigures = z.looseObject({
  frames: figure,
  fps: figure,
  seconds: figure,
  joints: figure,
  facingDeg: figure,
  statureM: figure,
  units: z.looseObject({ metresPerUnit: figure, confidence: figure, reason: z.string() }),
  reading: z.looseObject({ metresPerUnit: figure, facing: figure, floorM: figure, origin: z.tuple([figure, figure]) }),
  freeFall: z.looseObject({ sentence: z.string() }),
  reasons: z.looseObject({}),
  missing: z.array(z.string()),
  warnings: z.array(z.looseObject({ code: z.string(), message: z.string() })),
});

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
  passport: passportSchema,
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
  /** What it was baked from. */
  made: madeFromSchema.nullish(),
  created: z.string(),
});
export type StoredTake = Readonly<z.infer<typeof takeInfoSchema>>;

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

/** A row of the database that is not as it should be: it is named, and everything else goes on. */
export interface BrokenRow {
  readonly kind: 'take' | 'clip' | 'join' | 'set' | 'character' | 'fit';
  readonly id: string;
  readonly name: string;
  /** What is wrong with it, and where. */
  readonly why: string;
}

const rows = z.array(z.unknown());

export const projectDataSchema = z
  .object({ project: projectInfoSchema, takes: rows, clips: rows, joins: rows, sets: rows, characters: rows, fits: rows })
  .transform(({ project, ...all }) => {
    const broken: BrokenRow[] = [];
    return {
      project,
      takes: wholeRows(takeInfoSchema, 'take', all.takes, broken),
      clips: wholeRows(savedClipSchema, 'clip', all.clips, broken),
      joins: wholeRows(savedJoinSchema, 'join', all.joins, broken),
      sets: wholeRows(savedSetSchema, 'set', all.sets, broken),
      characters: wholeRows(characterSchema, 'character', all.characters, broken),
      fits: wholeRows(fitSchema, 'fit', all.fits, broken),
      broken: broken as readonly BrokenRow[],
    };
  });

/** The rows that are as they should be; the others go to `broken`. */
function wholeRows<T>(schema: z.ZodType<T>, kind: BrokenRow['kind'], all: readonly unknown[], broken: BrokenRow[]): readonly T[] {
  return all.flatMap((row) => {
    const read = schema.safeParse(row);
    if (read.success) return [read.data];
    const { id = '', name = 'without a name' } = (row ?? {}) as { id?: unknown; name?: unknown };
    const [{ path, message }] = read.error.issues;
    broken.push({ kind, id: String(id), name: String(name), why: `${path.join('.')}: ${message}` });
    return [];
  });
}
export type StoredProject = Readonly<z.infer<typeof projectDataSchema>>;

/** What became of a file that came in. */
export const arrivedSchema = z.object({
  takes: z.array(takeInfoSchema).readonly(),
  /** Names of takes with the same content that were here already. */
  duplicates: z.array(z.string()).readonly(),
  /** A skeleton, kept for the motions that fit it. */
  skeleton: z.string().nullable(),
});
export type Arrived = Readonly<z.infer<typeof arrivedSchema>>;
