import { randomUUID } from 'node:crypto';
import { afterAll } from 'vitest';
import { createProject, openDatabase, type Database, type NewStep, type SheetRow } from '@calque/store';
import type { Change, Underlay, Wall } from '@calque/core/model';

/** A connection to the tests' database that is closed when the file's tests are done. */
export function testDatabase(): Database {
  const database = openDatabase(process.env.UNIT_DATABASE_URL!, { connections: 4 });
  afterAll(() => database.$client.end());
  return database;
}

export const newProject = (database: Database, name = 'Boathouse') =>
  createProject(database, { name, units: 'mm', precision: 0 });

export const wall = (id: string, thickness = 100): Wall => ({
  type: 'wall',
  id,
  planeId: 'ground',
  from: [0, 0],
  to: [1000, 0],
  thickness,
  alignment: 'centre',
  height: 2700,
  heightAssumed: true,
  source: { underlayId: null, ends: 'typed', thickness: 'typed' },
});

export const step = (change: Change, label = 'Step', id: string = randomUUID()): NewStep => ({
  id,
  label,
  kind: 'do',
  of: null,
  change,
});

export const sheetOf = (fileId: string, page: number, more: Partial<SheetRow> = {}): SheetRow =>
  ({
    fileId,
    page,
    width: 842,
    height: 595,
    content: 'vector',
    layers: [],
    scaleNotes: [],
    lineworkBlobId: null,
    picture: null,
    milliseconds: 5,
    counts: { segments: 1, arcs: 0, circles: 0, curves: 0, fills: 0, texts: 0, images: 0 },
    leftOut: { clipped: 0, outside: 0, zeroLength: 0, unpainted: 0, paperColoured: 0, covered: 0 },
    ...more,
  }) as SheetRow;

/** A sheet laid on the ground floor, at paper size. */
export const underlayOf = (fileId: string, more: Partial<Underlay> = {}): Underlay => ({
  type: 'underlay',
  id: 'u',
  name: 'Plan',
  fileId,
  page: 1,
  planeId: 'ground',
  crop: [0, 0, 10, 10],
  placement: [1, 0, 0, 1, 0, 0],
  scaleState: 'paper',
  calibration: null,
  visible: true,
  fade: 0,
  locked: false,
  snap: true,
  order: 1,
  ...more,
});
