import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { claim, mustBeFree } from '../src/claim.ts';
import { startPostgres } from '../src/database/postgres.ts';
import { dataFolder } from '../src/identity.ts';

const name = `ops-test-${process.pid}`;
const folder = dataFolder(name);
afterAll(() => rmSync(folder, { recursive: true, force: true }));

async function ask<T extends object>(url: string, question: string): Promise<T[]> {
  const client = new pg.Client(url);
  await client.connect();
  return client.query<T>(question).then((r) => r.rows).finally(() => client.end());
}

describe('the database of the project', () => {
  it('keeps what was written over a stop and over a kill without warning', async () => {
    const first = await startPostgres(name);
    await ask(first.url, 'create table boats as select 1 as n');
    first.stop();

    const second = await startPostgres(name);
    await ask(second.url, 'insert into boats values (2)');
    const [pid] = readFileSync(join(folder, 'postgres/postmaster.pid'), 'utf8').split('\n').map(Number);
    process.kill(pid, 'SIGKILL');
    // Whoever watched over it is gone too.
    second.stop();

    const third = await startPostgres(name);
    try {
      expect((await ask<{ n: number }>(third.url, 'select n from boats order by n')).map((r) => r.n)).toEqual([1, 2]);
    } finally {
      third.stop();
    }
  });

  it('one that still runs is used, not started beside itself', async () => {
    const one = await startPostgres(name);
    const two = await startPostgres(name);
    expect(two.url).toBe(one.url);
    two.stop();
    one.stop();
  });

  it('one that is killed comes back by itself, on its port and with all that was written', async () => {
    const states: string[] = [];
    const running = await startPostgres(name, ({ state }) => void states.push(state));
    try {
      await ask(running.url, 'create table oars as select 8 as n');
      running.kill();
      await expect.poll(() => ask<{ n: number }>(running.url, 'select n from oars').then((r) => r[0].n, () => null), { timeout: 20000 }).toBe(8);
      expect(states).toContain('restarting');
      await expect.poll(() => states.at(-1)).toBe('running');
    } finally {
      running.stop();
    }
  });

  it('listens on loopback alone', async () => {
    const running = await startPostgres(name);
    const rows = await ask<{ listen_addresses: string }>(running.url, 'show listen_addresses');
    running.stop();
    expect(rows[0].listen_addresses).toBe('127.0.0.1');
  });
});

describe('claims', () => {
  let place: string;
  beforeAll(() => { place = mkdtempSync(join('/tmp', 'calque-claim-')); });
  afterAll(() => rmSync(place, { recursive: true, force: true }));

  it('a data folder is let go when done, and a dead holder is no holder', () => {
    const held = claim(place);
    expect([existsSync(join(place, 'calque.pid')), held.tookOver]).toEqual([true, false]);
    held.release();
    expect(existsSync(join(place, 'calque.pid'))).toBe(false);
    writeFileSync(join(place, 'calque.pid'), '99999999');
    const taken = claim(place);
    expect(taken.tookOver).toBe(true);
    taken.release();
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
