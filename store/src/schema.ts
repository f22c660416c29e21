import { sql } from 'drizzle-orm';
import {
  bigint,
  bigserial,
  boolean,
  customType,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  timestamp,
  uuid,
} from 'drizzle-orm/pg-core';
import type { Change, Entity, LogStep, ShelfThing } from '@calque/core/model';
import type {
  Content,
  Counts,
  LeftOut,
  ScaleNote,
  SheetLayer,
  SheetTitle,
  TrueSize,
} from '@calque/core/linework';

const bytea = customType<{ data: Uint8Array; driverData: Uint8Array }>({ dataType: () => 'bytea' });
const now = (name: string) => timestamp(name, { withTimezone: true }).notNull().defaultNow();

/** Small facts about the installation, such as whether the demo has been loaded. */
export const meta = pgTable('meta', { key: text('key').primaryKey(), value: jsonb('value').notNull() });

/** What is kept for all projects: wall types, groups, openings. */
export const shelf = pgTable('shelf', {
  id: text('id').primaryKey(),
  /** The form in which it is stored: see @calque/core/formats. */
  form: integer('form').notNull(),
  data: jsonb('data').$type<ShelfThing>().notNull(),
  /** Counts up with each change: who changes it says which they saw. */
  version: integer('version').notNull(),
});

export const projects = pgTable('projects', {
  id: uuid('id').primaryKey(),
  name: text('name').notNull(),
  /** Sequence of the latest change. */
  seq: integer('seq').notNull().default(0),
  /** The form in which its entities and steps are stored: see @calque/core/formats. */
  form: integer('form').notNull().default(1),
  created: now('created'),
  updated: now('updated'),
  /** Set while the project waits in the bin. */
  deleted: timestamp('deleted', { withTimezone: true }),
});

/**
 * What a project holds now. Written only while the project's row is locked, and removed with it (see destroyProject): a reference
 * that the database checks for each row took as long as all the rest of a large step.
 */
export const entities = pgTable(
  'entities',
  {
    projectId: uuid('project_id').notNull(),
    id: text('id').notNull(),
    type: text('type').notNull(),
    data: jsonb('data').$type<Entity>().notNull(),
    /** Order in which entities came; lists and exports keep it. */
    ordinal: bigserial('ordinal', { mode: 'number' }),
  },
  (t) => [
    primaryKey({ columns: [t.projectId, t.id] }),
    // A project is opened in the order in which its entities came, as they come from the disk.
    index('entities_in_order').on(t.projectId, t.ordinal),
    // The few that others stand on are asked for by their type; all the others cost nothing.
    index('entities_stood_on')
      .on(t.projectId, t.type)
      .where(sql`${t.type} in ('storey', 'underlay', 'layer', 'assembly')`),
  ],
);

export const changes = pgTable(
  'changes',
  {
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    seq: integer('seq').notNull(),
    id: uuid('id').notNull(),
    clientId: text('client_id').notNull(),
    label: text('label').notNull(),
    kind: text('kind').$type<LogStep['kind']>().notNull(),
    of: uuid('of'),
    change: jsonb('change').$type<Change>().notNull(),
    created: now('created'),
  },
  (t) => [primaryKey({ columns: [t.projectId, t.seq] }), index('changes_id').on(t.projectId, t.id)],
);

/** A project at a glance, as it was at a sequence of its changes. */
export const projectPictures = pgTable('project_pictures', {
  projectId: uuid('project_id')
    .primaryKey()
    .references(() => projects.id, { onDelete: 'cascade' }),
  seq: integer('seq').notNull(),
  svg: text('svg').notNull(),
});

/** Bytes of any size, in chunks. */
export const blobs = pgTable('blobs', {
  id: uuid('id').primaryKey(),
  size: bigint('size', { mode: 'number' }).notNull().default(0),
  sha256: text('sha256'),
  created: now('created'),
  /** When bytes came last: an upload that stands still longer than uploads do has broken off. */
  touched: now('touched'),
});

export const blobChunks = pgTable(
  'blob_chunks',
  {
    blobId: uuid('blob_id')
      .notNull()
      .references(() => blobs.id, { onDelete: 'cascade' }),
    n: integer('n').notNull(),
    bytes: bytea('bytes').notNull(),
  },
  (t) => [primaryKey({ columns: [t.blobId, t.n] })],
);

export type FileKind = 'pdf' | 'png' | 'jpeg' | 'tiff' | 'webp' | 'dxf' | 'svg' | 'step';
export type FileStatus = 'waiting' | 'reading' | 'ready' | 'failed' | 'password' | 'units' | 'cancelled';

export const files = pgTable(
  'files',
  {
    id: uuid('id').primaryKey(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    blobId: uuid('blob_id')
      .notNull()
      .references(() => blobs.id),
    name: text('name').notNull(),
    kind: text('kind').$type<FileKind>(),
    status: text('status').$type<FileStatus>().notNull().default('waiting'),
    /** Why it failed, in words. */
    message: text('message'),
    pages: integer('pages').notNull().default(0),
    pagesRead: integer('pages_read').notNull().default(0),
    encrypted: boolean('encrypted').notNull().default(false),
    repaired: boolean('repaired').notNull().default(false),
    /** Needed to draw the pages of a protected file; sealed (see secrets.ts). */
    password: text('password'),
    /** What the person said of a drawing that does not say its units. */
    millimetresPerUnit: doublePrecision('millimetres_per_unit'),
    /** A copy whose layers are all on, for drawing: only where the file has layers. */
    drawingBlobId: uuid('drawing_blob_id').references(() => blobs.id),
    created: now('created'),
    /** While it is read, a reader says every few seconds that it still does. */
    beat: timestamp('beat', { withTimezone: true }),
    /** How often reading began and came to no end of its own. */
    attempts: integer('attempts').notNull().default(0),
  },
  (t) => [
    index('files_project').on(t.projectId),
    index('files_blob').on(t.blobId),
    index('files_drawing_blob').on(t.drawingBlobId),
    index('files_status').on(t.status),
  ],
);

export const sheets = pgTable(
  'sheets',
  {
    fileId: uuid('file_id')
      .notNull()
      .references(() => files.id, { onDelete: 'cascade' }),
    page: integer('page').notNull(),
    width: doublePrecision('width').notNull(),
    height: doublePrecision('height').notNull(),
    content: text('content').$type<Content>().notNull(),
    counts: jsonb('counts').$type<Counts>().notNull(),
    leftOut: jsonb('left_out').$type<LeftOut>().notNull(),
    layers: jsonb('layers').$type<SheetLayer[]>().notNull(),
    scaleNotes: jsonb('scale_notes').$type<ScaleNote[]>().notNull(),
    lineworkBlobId: uuid('linework_blob_id').references(() => blobs.id),
    picture: bytea('picture'),
    /** Number and title as read from the title block. */
    title: jsonb('title').$type<SheetTitle>(),
    /** All texts of the page, for finding it. */
    words: text('words').notNull().default(''),
    hatches: integer('hatches').notNull().default(0),
    dimensions: integer('dimensions').notNull().default(0),
    markups: integer('markups').notNull().default(0),
    /** A drawing at true size: where its own origin lies; and what of it was not understood. */
    reference: jsonb('reference').$type<TrueSize>(),
    unknown: jsonb('unknown').$type<Record<string, number>>(),
    /** Its lines came first where this is not so, and the rest of it follows. */
    whole: boolean('whole').notNull().default(true),
    /** Pixels of a picture that is kept in tiles. */
    pixels: jsonb('pixels').$type<{ width: number; height: number }>(),
    milliseconds: doublePrecision('milliseconds').notNull(),
  },
  (t) => [primaryKey({ columns: [t.fileId, t.page] }), index('sheets_linework_blob').on(t.lineworkBlobId)],
);

/** Tiles of a large picture: level 0 is the whole in one tile, each further level twice as fine; JPEG or PNG. */
export const pictureTiles = pgTable(
  'picture_tiles',
  {
    fileId: uuid('file_id')
      .notNull()
      .references(() => files.id, { onDelete: 'cascade' }),
    page: integer('page').notNull(),
    level: integer('level').notNull(),
    column: integer('column').notNull(),
    row: integer('row').notNull(),
    bytes: bytea('bytes').notNull(),
  },
  (t) => [primaryKey({ columns: [t.fileId, t.page, t.level, t.column, t.row] })],
);
