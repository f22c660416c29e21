import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  attachFile,
  createProject,
  listFiles,
  migrateDatabase,
  oneChunk,
  openDatabase,
  passwordOf,
  readAgain,
  setBinned,
  storeBlob,
  submitSteps,
} from '@calque/store';
import { backup } from '../src/backup/backup.ts';
import { restore } from '../src/backup/restore.ts';
import { startPostgres, type RunningDatabase } from '../src/database/postgres.ts';
import { APP } from '../src/database/roles.ts';

/** As root, the database's user must be able to walk there. */
const base = mkdtempSync(join(tmpdir(), 'calque-backup-'));
const [usualData, usualSecret, usualLog] = [process.env.CALQUE_DATA, process.env.CALQUE_SECRET, console.log];
const at = (name: string) => {
  process.env.CALQUE_DATA = join(base, name);
};
let first: RunningDatabase;
const ids: string[] = [];
const said: string[] = [];

beforeAll(async () => {
  mkdirSync(base, { recursive: true, mode: 0o755 });
  (await import('node:fs')).chmodSync(base, 0o755);
  console.log = (text: string) => void said.push(text);
  at('first');
  first = await startPostgres('main');
  process.env.CALQUE_SECRET = first.keys.secret;
  await migrateDatabase(first.ownerUrl, { root: process.cwd(), app: APP });
  const database = openDatabase(first.url, { connections: 2 });
  for (const name of ['Boathouse', 'Näme "quoted" 😀'])
    ids.push(await createProject(database, { name, units: 'mm', precision: 0 }));
  const file = await attachFile(
    database,
    ids[0],
    (await storeBlob(database, oneChunk(new Uint8Array(3e6).map((_, i) => i * 7)))).id,
    'plan.pdf',
  );
  await readAgain(
    database,
    (await listFiles(database, ids[0])).find((f) => f.id === file)!,
    { password: 'opensesame' },
  );
  await setBinned(database, ids[1], true);
  await database.$client.end();
});
afterAll(async () => {
  await first.stop();
  console.log = usualLog;
  [process.env.CALQUE_DATA, process.env.CALQUE_SECRET] = [usualData, usualSecret];
  if (usualData === undefined) delete process.env.CALQUE_DATA;
  rmSync(base, { recursive: true, force: true });
});

describe('a backup', () => {
  const file = join(base, 'one.backup');

  it('is taken while work goes on, and holds one moment', async () => {
    const database = openDatabase(first.url, { connections: 2 });
    let going = true,
      n = 0;
    const working = (async () => {
      while (going)
        await submitSteps(database, ids[0], 'c', [
          {
            id: crypto.randomUUID(),
            label: 'Wall',
            kind: 'do',
            of: null,
            change: {
              type: 'add',
              entity: {
                type: 'wall',
                id: `w${n++}`,
                planeId: 'ground',
                from: [0, 0],
                to: [1000, 0],
                thickness: 100,
                alignment: 'centre',
                height: 2700,
                heightAssumed: true,
                source: { underlayId: null, ends: 'typed', thickness: 'typed' },
              },
            },
          },
        ]);
    })();
    try {
      at('first');
      await backup([file]);
    } finally {
      going = false;
      await working;
      await database.$client.end();
    }
    expect(n).toBeGreaterThan(3);
    expect(statSync(file).mode & 0o077).toBe(0);
    expect(said.at(-1)).toMatch(/^Backed up 2 projects, 1 file, \d+ steps of history/);
    expect(readdirSync(base).filter((f) => f.includes('partial'))).toEqual([]);
    await expect(backup([file])).rejects.toThrow('never writes over');
    await expect(backup([])).rejects.toThrow('Say where to');
    await expect(backup([join(base, 'none', 'x')])).rejects.toThrow('There is no folder');
  });

  it('restored on an empty installation it gives the same: projects, bin, bytes, history, passwords', async () => {
    at('second');
    await restore([file]);
    expect(said.at(-1)).toMatch(/^Restored 2 projects, 1 file, \d+ steps of history.*all of it was compared/);
    const second = await startPostgres('main');
    process.env.CALQUE_SECRET = second.keys.secret;
    const database = openDatabase(second.url, { connections: 2 });
    try {
      const { rows } = await database.execute<{ name: string; deleted: string | null }>(
        'select name, deleted from projects order by name',
      );
      expect(rows.map((r) => [r.name, r.deleted !== null])).toEqual([
        ['Boathouse', false],
        ['Näme "quoted" 😀', true],
      ]);
      const [plan] = await listFiles(database, ids[0]);
      expect([plan.name, await passwordOf(database, ids[0], plan.id)]).toEqual(['plan.pdf', 'opensesame']);
      // Its own passwords, not those of the installation that was backed up.
      expect(second.keys.app).not.toBe(first.keys.app);
      expect(
        await submitSteps(database, ids[0], 'c', [
          {
            id: crypto.randomUUID(),
            label: 'On',
            kind: 'do',
            of: null,
            change: { type: 'group', changes: [] },
          },
        ]),
      ).toMatchObject({ ok: true });
    } finally {
      await database.$client.end();
      await second.stop();
    }
    // Onto one with projects it is not put, unless what is there is put aside.
    await expect(restore([file])).rejects.toThrow('There are 2 projects');
    await restore([file, '--replace']);
    expect(readdirSync(join(base, 'second')).filter((f) => f.startsWith('main-before-'))).toHaveLength(1);
  });

  it('one that is damaged, cut short, of a later version or none is refused, and nothing is touched', async () => {
    at('third');
    const whole = readFileSync(file),
      damaged = Buffer.from(whole);
    damaged[Math.floor(damaged.length / 3)] ^= 1;
    const later = Buffer.from(whole.toString('latin1').replace('"version": 1', '"version": 9'), 'latin1');
    const cases: [string, Buffer][] = [
      ['damaged', damaged],
      ['cut', whole.subarray(0, whole.length - 300)],
      ['later', later],
      ['none', Buffer.from('nothing')],
      ['empty', Buffer.alloc(0)],
    ];
    for (const [name, bytes] of cases) {
      writeFileSync(join(base, name), bytes);
      await expect(restore([join(base, name)]), name).rejects.toThrow(/damaged|no backup|later version/);
    }
    await expect(restore([join(base, 'not there')])).rejects.toThrow('There is no file');
    await expect(restore(['--replace'])).rejects.toThrow('Say which');
    expect(() => statSync(join(base, 'third'))).toThrow();
  });
});
