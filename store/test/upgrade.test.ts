import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import { expect, it } from 'vitest';
import { loadEntities, migrateDatabase, openDatabase, submitSteps } from '@calque/store';
import { step, wall } from './given.ts';

/** Migrations of the version before steps were saved by arrays and blobs were collected. */
const BEFORE = 3;

it('an installation from before goes on: its projects open and are edited as they were', async () => {
  const url = new URL(process.env.UNIT_KEEPER_URL!),
    admin = new pg.Client(url.href);
  await admin.connect();
  await admin.query('create database upgraded');
  await admin.end();
  url.pathname = '/upgraded';
  const folder = mkdtempSync(join(tmpdir(), 'calque-migrations-'));
  cpSync('store/migrations', folder, { recursive: true });
  const journal = JSON.parse(readFileSync(join(folder, 'meta/_journal.json'), 'utf8')) as {
    entries: unknown[];
  };
  writeFileSync(
    join(folder, 'meta/_journal.json'),
    JSON.stringify({ ...journal, entries: journal.entries.slice(0, BEFORE) }),
  );
  const client = new pg.Client(url.href),
    id = '11111111-1111-4111-8111-111111111111';
  await client.connect();
  await migrate(drizzle(client), { migrationsFolder: folder });
  // As it could be stored then: an infinite angle had become null.
  const area = {
    type: 'area',
    id: 'a',
    storeyId: 'ground',
    source: wall('w').source,
    rings: [
      {
        points: [
          [0, 0],
          [9, 0],
          [9, 9],
        ],
        bulges: [0, 0, 0],
      },
    ],
    fill: { kind: 'hatch', angle: null, spacing: 5, crossed: false },
    name: ' A ',
    figure: true,
  };
  const entities = [
    { type: 'settings', id: 'settings', name: 'Old', units: 'mm', precision: 0 },
    { type: 'storey', id: 'ground', name: 'Ground floor', elevation: 0, height: 2700, heightAssumed: true },
    area,
  ];
  await client.query('insert into projects (id, name, seq) values ($1, $2, 1)', [id, 'Old']);
  for (const e of entities)
    await client.query('insert into entities (project_id, id, type, data) values ($1, $2, $3, $4)', [
      id,
      e.id,
      e.type,
      JSON.stringify(e),
    ]);
  await client.end();

  await migrateDatabase(url.href, { root: process.cwd() });
  const database = openDatabase(url.href, { connections: 2 });
  const { storeyId, ...others } = area,
    onPlane = { ...others, planeId: storeyId };
  try {
    expect(await loadEntities(database, id)).toEqual(entities);
    expect(
      await submitSteps(database, id, 'c', [
        step({ type: 'add', entity: wall('w') }),
        step({ type: 'set', id: 'a', before: { figure: true }, after: { figure: false } }),
      ]),
    ).toEqual({ ok: true, seq: 3 });
    expect(
      await submitSteps(database, id, 'c', [
        step({ type: 'remove', entity: { ...onPlane, figure: false } as never }),
      ]),
    ).toEqual({ ok: true, seq: 4 });
  } finally {
    await database.$client.end();
    rmSync(folder, { recursive: true, force: true });
  }
});
