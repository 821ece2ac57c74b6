import type { CharacterInfo } from '@/http/project';
import type { FitState } from '@/http/fit-run';
import type { JoinDoc } from '@/http/join';
import type { SetDoc } from '@/http/set';
import type { MadeFrom } from '@/http/made-from';
import type {
  FitOverrides,
  FitReport,
  JoinPiece,
  Marker,
  Overview,
  Passport,
  RecipeStep,
  Skeleton,
  StageProp,
  TakeOverrides,
} from '@lantern/motion';
import { sql } from 'drizzle-orm';
import {
  boolean,
  check,
  customType,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  real,
  text,
  timestamp,
  uuid,
} from 'drizzle-orm/pg-core';

/** Of an overview, all but its curves. */
export type OverviewAbout = Pick<Overview, 'contacts' | 'floor' | 'stride'>;

const bytea = customType<{ data: Buffer }>({ dataType: () => 'bytea' });

export const projects = pgTable('projects', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  character: text('character').notNull(),
  fps: real('fps').notNull().default(60),
  /** After which clips are named. */
  namePattern: text('name_pattern').notNull().default('{character}-{gait}-{direction}'),
  /** The character that new clips are fitted to; empty: nobody. */
  fitTo: text('fit_to').notNull().default(''),
  /** Takes that come in are put with their feet at height zero. */
  settlesFloor: boolean('settles_floor').notNull().default(true),
  created: timestamp('created', { withTimezone: true }).notNull().defaultNow(),
  /** When it was removed; it is deleted some weeks later. */
  removed: timestamp('removed', { withTimezone: true }),
});

/** Takes never change: what their owner knows better stands beside them in `overrides`. */
export const takes = pgTable(
  'takes',
  {
    id: uuid('id').primaryKey(),
    project: text('project')
      .notNull()
      .references(() => projects.id),
    name: text('name').notNull(),
    file: text('file').notNull(),
    frames: integer('frames').notNull(),
    /** As the file says. */
    fps: real('fps').notNull(),
    skeleton: jsonb('skeleton').$type<Skeleton>().notNull(),
    /** Joints other than the first that move against their parent, in the order in which rows hold them. */
    moving: jsonb('moving').$type<number[]>().notNull(),
    passport: jsonb('passport').$type<Passport>().notNull(),
    overrides: jsonb('overrides').$type<TakeOverrides>().notNull().default({}),
    /** SHA-256 of the file, and of the animation's name where it has several: the same content is not brought in twice. */
    hash: text('hash').notNull().default(''),
    /** The suit or program it came from: repairs are remembered for it. */
    signature: text('signature').notNull().default(''),
    tags: jsonb('tags').$type<string[]>().notNull().default([]),
    notes: text('notes').notNull().default(''),
    star: boolean('star').notNull().default(false),
    markers: jsonb('markers').$type<Marker[]>().notNull().default([]),
    props: jsonb('props').$type<StageProp[]>().notNull().default([]),
    /** Of a take that was baked here: what from. */
    made: jsonb('made').$type<MadeFrom>(),
    /** So long that its motion travels in parts: what is drawn along its time axis lies in `take_overviews`. */
    long: boolean('long').notNull().default(false),
    /** The way of the hips from above, metres: x, z, x, z, … */
    path: jsonb('path').$type<number[]>().notNull(),
    created: timestamp('created', { withTimezone: true }).notNull().defaultNow(),
    removed: timestamp('removed', { withTimezone: true }),
  },
  (table) => [index('takes_project').on(table.project)],
);

/** Skeleton files, kept for the motions that come later and fit them. */
export const skeletonFiles = pgTable(
  'skeleton_files',
  {
    project: text('project')
      .notNull()
      .references(() => projects.id),
    hash: text('hash').notNull(),
    file: text('file').notNull(),
    bytes: bytea('bytes').notNull(),
    created: timestamp('created', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.project, table.hash] })],
);

/** What was overruled for one take of a suit and holds for the next ones of the same suit. */
export const repairs = pgTable(
  'repairs',
  {
    project: text('project')
      .notNull()
      .references(() => projects.id),
    signature: text('signature').notNull(),
    overrides: jsonb('overrides').$type<TakeOverrides>().notNull(),
  },
  (table) => [primaryKey({ columns: [table.project, table.signature] })],
);

/** Some hundred frames each; a row of float32, little-endian, per frame: root place, rotations, moving joints' places. */
export const takeChunks = pgTable(
  'take_chunks',
  {
    take: uuid('take')
      .notNull()
      .references(() => takes.id, { onDelete: 'cascade' }),
    index: integer('index').notNull(),
    bytes: bytea('bytes').notNull(),
  },
  (table) => [primaryKey({ columns: [table.take, table.index] })],
);

/** What is drawn along the time axis of a long take: contacts and figures as JSON, then speed, hip height, heading as float32. */
export const takeOverviews = pgTable('take_overviews', {
  take: uuid('take')
    .primaryKey()
    .references(() => takes.id, { onDelete: 'cascade' }),
  about: jsonb('about').$type<OverviewAbout>().notNull(),
  bytes: bytea('bytes').notNull(),
});

export const clips = pgTable(
  'clips',
  {
    id: uuid('id').primaryKey(),
    project: text('project')
      .notNull()
      .references(() => projects.id),
    /** What it is cut from: a take, or a join. */
    take: uuid('take').references(() => takes.id),
    join: uuid('join').references(() => joins.id),
    name: text('name').notNull(),
    from: integer('from_frame').notNull(),
    to: integer('to_frame').notNull(),
    /** Where the cut was in the take's file when the take was brought to another rate, in frames of the file; null once it is cut anew. */
    fileFrom: doublePrecision('file_from'),
    fileTo: doublePrecision('file_to'),
    /** The steps as they were then, and how many frames of the file a frame of theirs is; null once they are changed. */
    fileSteps: jsonb('file_steps').$type<{ readonly step: number; readonly steps: RecipeStep[] }>(),
    /** What it is, in words; empty: nobody has said. */
    gait: text('gait').notNull().default(''),
    direction: text('direction').notNull().default(''),
    steps: jsonb('steps').$type<RecipeStep[]>().notNull(),
    /** Grows by one with every save; a save names the revision it started from. */
    revision: integer('revision').notNull().default(1),
    created: timestamp('created', { withTimezone: true }).notNull().defaultNow(),
    updated: timestamp('updated', { withTimezone: true }).notNull().defaultNow(),
    removed: timestamp('removed', { withTimezone: true }),
  },
  (table) => [
    index('clips_counted').on(table.project, table.removed, table.updated),
    check('clips_source', sql`(${table.take} is null) <> (${table.join} is null)`),
  ],
);

/** By the ids of pieces: how many frames of the file a frame of theirs was, what they were then, and what was made of them. */
export type FilePieces = Readonly<Record<string, { readonly step: number; readonly then: JoinPiece; readonly now: JoinPiece }>>;

/** Clips and cuts end to end; pieces name clips and takes by their ids. */
export const joins = pgTable(
  'joins',
  {
    id: uuid('id').primaryKey(),
    project: text('project')
      .notNull()
      .references(() => projects.id),
    name: text('name').notNull(),
    document: jsonb('document').$type<Pick<JoinDoc, 'pieces' | 'start'>>().notNull(),
    /** Pieces as they were before what they come from was brought to another rate. */
    filePieces: jsonb('file_pieces').$type<FilePieces>().notNull().default({}),
    revision: integer('revision').notNull().default(1),
    created: timestamp('created', { withTimezone: true }).notNull().defaultNow(),
    updated: timestamp('updated', { withTimezone: true }).notNull().defaultNow(),
    removed: timestamp('removed', { withTimezone: true }),
  },
  (table) => [index('joins_project').on(table.project)],
);

/** The locomotion sets of characters, with their fields; they name clips by their ids. */
export const sets = pgTable(
  'sets',
  {
    id: uuid('id').primaryKey(),
    project: text('project')
      .notNull()
      .references(() => projects.id),
    name: text('name').notNull(),
    document: jsonb('document').$type<Omit<SetDoc, 'id' | 'name'>>().notNull(),
    revision: integer('revision').notNull().default(1),
    created: timestamp('created', { withTimezone: true }).notNull().defaultNow(),
    updated: timestamp('updated', { withTimezone: true }).notNull().defaultNow(),
    removed: timestamp('removed', { withTimezone: true }),
  },
  (table) => [index('sets_project').on(table.project)],
);

/** Large files in pieces, so that none is ever one value of one query: those of characters, and whole takes that were fitted. */
export const filePieces = pgTable(
  'file_pieces',
  {
    file: text('file').notNull(),
    index: integer('index').notNull(),
    bytes: bytea('bytes').notNull(),
  },
  (table) => [primaryKey({ columns: [table.file, table.index] })],
);

/** Skinned GLB files that takes are fitted to. */
export const characters = pgTable(
  'characters',
  {
    project: text('project')
      .notNull()
      .references(() => projects.id),
    /** What recipes call it. */
    id: text('id').notNull(),
    name: text('name').notNull(),
    file: text('file').notNull(),
    hash: text('hash').notNull(),
    facts: jsonb('facts').$type<CharacterInfo['facts']>().notNull(),
    created: timestamp('created', { withTimezone: true }).notNull().defaultNow(),
    removed: timestamp('removed', { withTimezone: true }),
  },
  (table) => [primaryKey({ columns: [table.project, table.id] })],
);

/** What is settled for the takes of a suit, told by its signature, and a character. */
export const fits = pgTable(
  'fits',
  {
    project: text('project')
      .notNull()
      .references(() => projects.id),
    source: text('source').notNull(),
    character: text('character').notNull(),
    settings: jsonb('settings').$type<FitOverrides>().notNull(),
    updated: timestamp('updated', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.project, table.source, table.character] })],
);

/** One take onto one character, done by whichever worker is free. */
export const fitJobs = pgTable(
  'fit_jobs',
  {
    id: uuid('id').primaryKey(),
    project: text('project')
      .notNull()
      .references(() => projects.id),
    /** Those that were asked for together. */
    run: uuid('run').notNull(),
    take: uuid('take')
      .notNull()
      .references(() => takes.id, { onDelete: 'cascade' }),
    character: text('character').notNull(),
    state: text('state').$type<FitState>().notNull().default('waiting'),
    /** A worker shows that it is alive; one that has not for a while is taken for dead, and its job is done anew. */
    beat: timestamp('beat', { withTimezone: true }),
    tries: integer('tries').notNull().default(0),
    report: jsonb('report').$type<FitReport>(),
    /** Why it failed, in a sentence. */
    message: text('message').notNull().default(''),
    created: timestamp('created', { withTimezone: true }).notNull().defaultNow(),
    finished: timestamp('finished', { withTimezone: true }),
  },
  (table) => [index('fit_jobs_project').on(table.project, table.created)],
);
