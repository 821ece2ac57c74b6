import type { Report, ShipOptions, WrittenFile } from '@lantern/motion';
import { index, integer, jsonb, pgTable, primaryKey, text, timestamp, uuid } from 'drizzle-orm/pg-core';
import type { ClipAbout, ClipFailure, MadeState, ShipmentState } from '@/http/shipment';
import { projects } from '../schema';
import type { ShipDocument } from './document';

/** Projects as they were when something was asked of them, told by their content; what is made goes by these. */
export const shipDocuments = pgTable('ship_documents', {
  hash: text('hash').primaryKey(),
  project: text('project')
    .notNull()
    .references(() => projects.id),
  document: jsonb('document').$type<ShipDocument>().notNull(),
  created: timestamp('created', { withTimezone: true }).notNull().defaultNow(),
});

/** Clips as they ship, told by all that they are made from: each is made once, by whichever worker is free. */
export const madeClips = pgTable(
  'made_clips',
  {
    key: text('key').primaryKey(),
    /** A document in which it stands, and what it is called there. */
    document: text('document')
      .notNull()
      .references(() => shipDocuments.hash),
    name: text('name').notNull(),
    state: text('state').$type<MadeState>().notNull().default('waiting'),
    /** A worker shows that it is alive; one that has not for a while is taken for dead, and its clip is made anew. */
    beat: timestamp('beat', { withTimezone: true }),
    tries: integer('tries').notNull().default(0),
    about: jsonb('about').$type<ClipAbout>(),
    /** Why it cannot be made, in a sentence. */
    failure: jsonb('failure').$type<ClipFailure>(),
    /** When it was asked for last. */
    asked: timestamp('asked', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [index('made_clips_state').on(table.state, table.asked)],
);

/** What was shipped, or is on its way. */
export const shipments = pgTable(
  'shipments',
  {
    id: uuid('id').primaryKey(),
    project: text('project')
      .notNull()
      .references(() => projects.id),
    document: text('document')
      .notNull()
      .references(() => shipDocuments.hash),
    state: text('state').$type<ShipmentState>().notNull().default('making'),
    beat: timestamp('beat', { withTimezone: true }),
    tries: integer('tries').notNull().default(0),
    /** How it ships. */
    ship: jsonb('ship').$type<ShipOptions>().notNull(),
    report: jsonb('report').$type<Report>(),
    /** What of the report the list shows, which is asked for again and again. */
    listed: jsonb('listed').$type<{ readonly written: readonly WrittenFile[]; readonly failed: number }>(),
    message: text('message').notNull().default(''),
    created: timestamp('created', { withTimezone: true }).notNull().defaultNow(),
    finished: timestamp('finished', { withTimezone: true }),
    /** When it was taken back. */
    removed: timestamp('removed', { withTimezone: true }),
  },
  (table) => [index('shipments_project').on(table.project, table.created)],
);

/** The clips of a shipment, in the order in which they ship. */
export const shipmentClips = pgTable(
  'shipment_clips',
  {
    shipment: uuid('shipment')
      .notNull()
      .references(() => shipments.id, { onDelete: 'cascade' }),
    index: integer('index').notNull(),
    name: text('name').notNull(),
    key: text('key').notNull(),
  },
  (table) => [primaryKey({ columns: [table.shipment, table.index] }), index('shipment_clips_key').on(table.key)],
);

/** The files of a shipment in the order in which they were written; their bytes lie among the pieces, told by their content. */
export const shipmentFiles = pgTable(
  'shipment_files',
  {
    shipment: uuid('shipment')
      .notNull()
      .references(() => shipments.id, { onDelete: 'cascade' }),
    index: integer('index').notNull(),
    path: text('path').notNull(),
    hash: text('hash').notNull(),
    bytes: integer('bytes').notNull(),
  },
  (table) => [primaryKey({ columns: [table.shipment, table.index] })],
);
