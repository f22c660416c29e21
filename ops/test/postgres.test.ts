import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { claim, mustBeFree } from '../src/claim.ts';
import { migrateDatabase } from '@calque/store';
import { asDatabaseUser, binariesFor, databaseUser } from '../src/database/binaries.ts';
import { startPostgres } from '../src/database/postgres.ts';
import { APP, OWNER } from '../src/database/roles.ts';
import { dataFolder, makeFolder } from '../src/identity.ts';

const name = `ops-test-${process.pid}`;
const folder = dataFolder(name);
afterAll(() => rmSync(folder, { recursive: true, force: true }));

async function ask<T extends object>(url: string, question: string): Promise<T[]> {
  const client = new pg.Client(url);
  await client.connect();
  return client
    .query<T>(question)
    .then((r) => r.rows)
    .finally(() => client.end());
}

describe('the database of the project', () => {
  it('keeps what was written over a stop and over a kill without warning', async () => {
    const first = await startPostgres(name);
    await ask(first.ownerUrl, 'create table boats as select 1 as n');
    await first.stop();

    const second = await startPostgres(name);
    await ask(second.ownerUrl, 'insert into boats values (2)');
    const [pid] = readFileSync(join(folder, 'postgres/postmaster.pid'), 'utf8').split('\n').map(Number);
    process.kill(pid, 'SIGKILL');
    // Whoever watched over it is gone too.
    await second.stop();

    const third = await startPostgres(name);
    try {
      expect(
        (await ask<{ n: number }>(third.ownerUrl, 'select n from boats order by n')).map((r) => r.n),
      ).toEqual([1, 2]);
    } finally {
      await third.stop();
    }
  });

  it('one that still runs is used, not started beside itself', async () => {
    const one = await startPostgres(name);
    const two = await startPostgres(name);
    expect(two.url).toBe(one.url);
    await two.stop();
    await one.stop();
  });

  it('one that is killed comes back by itself, on its port and with all that was written', async () => {
    const states: string[] = [];
    const running = await startPostgres(name, ({ state }) => void states.push(state));
    try {
      await ask(running.ownerUrl, 'create table oars as select 8 as n');
      running.kill();
      await expect
        .poll(
          () =>
            ask<{ n: number }>(running.ownerUrl, 'select n from oars').then(
              (r) => r[0].n,
              () => null,
            ),
          { timeout: 20000 },
        )
        .toBe(8);
      expect(states).toContain('restarting');
      await expect.poll(() => states.at(-1)).toBe('running');
    } finally {
      await running.stop();
    }
  });

  it('listens on loopback alone', async () => {
    const running = await startPostgres(name);
    const rows = await ask<{ listen_addresses: string }>(running.url, 'show listen_addresses');
    await running.stop();
    expect(rows[0].listen_addresses).toBe('127.0.0.1');
  });
});

describe('who gets into the database', () => {
  const place = `${name}-old`,
    at = dataFolder(place);
  afterAll(() => rmSync(at, { recursive: true, force: true }));
  const tries = (url: string, user: string, password: string) => {
    const { hostname, port } = new URL(url),
      client = new pg.Client({ host: hostname, port: Number(port), user, password, database: 'postgres' });
    return client.connect().then(
      () => client.end().then(() => 'in'),
      (error: Error) => error.message,
    );
  };

  it('nobody without its password, whatever role they name; its keys are for whoever runs it alone', async () => {
    const running = await startPostgres(name);
    try {
      for (const user of ['calque', APP, OWNER, 'postgres', 'nobody'])
        for (const password of ['', user, 'calque'])
          expect(await tries(running.url, user, password)).toMatch(/password|authentication/);
      expect(statSync(join(folder, 'keys.json')).mode & 0o077).toBe(0);
      expect(statSync(join(folder, 'postgres')).mode & 0o077).toBe(0);
      expect(new Set(Object.values(running.keys)).size).toBe(4);
    } finally {
      await running.stop();
    }
  });

  it("one made by an earlier version, open to all and owned by its superuser, goes on: closed, with checksums, its rows and tables the owner's", async () => {
    const data = join(at, 'postgres'),
      { folder: bin } = binariesFor(data),
      user = databaseUser();
    mkdirSync(at, { recursive: true });
    if (user) makeFolder(at, 0o700, user);
    await asDatabaseUser(join(bin, 'initdb'), [
      '-D',
      data,
      '-U',
      'calque',
      '--auth=trust',
      '-E',
      'UTF8',
      '--locale=C.UTF-8',
    ]);
    const port = 45911;
    await asDatabaseUser(join(bin, 'pg_ctl'), [
      '-D',
      data,
      '-l',
      join(at, 'old.log'),
      '-w',
      '-o',
      `-p ${port} -c listen_addresses=127.0.0.1 -c unix_socket_directories=''`,
      'start',
    ]);
    await ask(`postgres://calque@127.0.0.1:${port}/postgres`, 'create database calque');
    const old = `postgres://calque@127.0.0.1:${port}/calque`;
    process.env.CALQUE_SECRET ??= 'a secret that is long enough for a test';
    await migrateDatabase(old, { root: process.cwd() });
    await ask(old, "insert into projects (id, name) values ('11111111-1111-4111-8111-111111111111', 'Old')");
    await asDatabaseUser(join(bin, 'pg_ctl'), ['-D', data, '-w', 'stop']);

    for (const round of [1, 2]) {
      const running = await startPostgres(place);
      try {
        expect(await tries(running.url, 'calque', '')).toMatch(/password|authentication/);
        await migrateDatabase(running.ownerUrl, { root: process.cwd(), app: APP });
        expect(await ask(running.url, "select name from projects where name = 'Old'")).toEqual([
          { name: 'Old' },
        ]);
        expect(
          await ask(
            running.url,
            "select distinct tableowner from pg_tables where schemaname in ('public', 'graphile_worker', 'drizzle')",
          ),
        ).toEqual([{ tableowner: OWNER }]);
        expect(await ask(running.url, 'show data_checksums')).toEqual([{ data_checksums: 'on' }]);
        await ask(running.url, `insert into projects (id, name) values (gen_random_uuid(), 'New ${round}')`);
        await ask(running.url, "select graphile_worker.add_job('read-file', '{}'::json)");
        expect(
          await ask(running.url, 'select count(*)::int as n from graphile_worker._private_jobs'),
        ).toEqual([{ n: round }]);
        await expect(ask(running.url, 'drop table projects')).rejects.toThrow('must be owner');
      } finally {
        await running.stop();
      }
      // The keys are gone, as after somebody put back the data folder alone: new ones are made, and it is as it was.
      if (round === 1) rmSync(join(at, 'keys.json'));
    }
  });
});

describe('claims', () => {
  let place: string;
  beforeAll(() => {
    place = mkdtempSync(join(tmpdir(), 'calque-claim-'));
  });
  afterAll(() => rmSync(place, { recursive: true, force: true }));

  it('a data folder is let go when done, and a dead holder is no holder', () => {
    const held = claim(place);
    expect([existsSync(join(place, 'calque.pid')), held.tookOver]).toEqual([true, false]);
    held.release();
    expect(existsSync(join(place, 'calque.pid'))).toBe(false);
    // Gone; and one whose number another has got since, who began at another time.
    for (const dead of ['99999999', '99999999 5', `${process.ppid} 1`]) {
      writeFileSync(join(place, 'calque.pid'), dead);
      const taken = claim(place);
      expect(taken.tookOver).toBe(true);
      taken.release();
    }
    const began = /\) (?:\S+ ){19}(\S+)/.exec(readFileSync(`/proc/${process.ppid}/stat`, 'utf8'))![1];
    writeFileSync(join(place, 'calque.pid'), `${process.ppid} ${began}`);
    expect(() => claim(place)).toThrow('already runs on this data');
    rmSync(join(place, 'calque.pid'));
  });

  it('a port that something listens on is refused with a way out', async () => {
    const server = createServer();
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const { port } = server.address() as { port: number };
    await expect(mustBeFree(port)).rejects.toThrow(`Port ${port} is taken. PORT=${port + 100}`);
    await new Promise((resolve) => server.close(resolve));
    await expect(mustBeFree(port)).resolves.toBeUndefined();
  });
});
