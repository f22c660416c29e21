import { sql } from 'drizzle-orm';
import { describe, expect, it, vi } from 'vitest';
import { listen, tell, type Notice } from '@calque/store';
import { testDatabase } from './given.ts';

const database = testDatabase();
const about = (projectId: string): Notice => ({ projectId, what: 'files' });

describe('notices', () => {
  it('are heard until stopped, also after the connection was lost', async () => {
    const heard: string[] = [];
    // Other tests tell of their projects meanwhile.
    const stop = await listen(database, (n) => {
      if (['one', 'two', 'three'].includes(n.projectId)) heard.push(n.projectId);
    });
    await tell(database, about('one'));
    await vi.waitFor(() => expect(heard).toEqual(['one']));

    const listening = sql`query = 'listen calque' and pid <> pg_backend_pid()`;
    const before = (
      await database.execute<{ pid: number }>(sql`select pid from pg_stat_activity where ${listening}`)
    ).rows;
    expect(before.length).toBeGreaterThan(0);
    await database.execute(sql`select pg_terminate_backend(pid) from pg_stat_activity where ${listening}`);
    await vi.waitFor(
      async () => {
        const now = (
          await database.execute<{ pid: number }>(sql`select pid from pg_stat_activity where ${listening}`)
        ).rows;
        expect(now.length).toBe(before.length);
        expect(now.some(({ pid }) => before.some((b) => b.pid === pid))).toBe(false);
      },
      { timeout: 10000 },
    );
    await tell(database, about('two'));
    await vi.waitFor(() => expect(heard).toEqual(['one', 'two']));

    await stop();
    await tell(database, about('three'));
    await new Promise((resolve) => setTimeout(resolve, 100));
    expect(heard).toEqual(['one', 'two']);
  });
});
