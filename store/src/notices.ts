import { sql } from 'drizzle-orm';
import pg from 'pg';
import type { Database, Transaction } from './database.ts';

/** What other tabs and servers are told: that a project has new changes, or a file a new state. */
export type Notice =
  | { projectId: string; what: 'changes'; seq: number }
  | { projectId: string; what: 'files' }
  | { projectId: string; what: 'project' };

const CHANNEL = 'calque';
/** How long after a lost connection the next is tried. */
const AGAIN_MS = 500;

export async function tell(database: Database | Transaction, notice: Notice): Promise<void> {
  await database.execute(sql`select pg_notify(${CHANNEL}, ${JSON.stringify(notice)})`);
}

/** Calls back on every notice until stopped; also after the connection was lost and found again. */
export async function listen(
  database: Database,
  onNotice: (notice: Notice) => void,
): Promise<() => Promise<void>> {
  let stopped = false;
  let client: pg.Client;
  const connect = async () => {
    const next = new pg.Client(database.$client.options);
    next.on('notification', ({ payload }) => onNotice(JSON.parse(payload!) as Notice));
    // A lost connection reports an error and then its end.
    next.on('error', () => {});
    await next.connect();
    await next.query(`listen ${CHANNEL}`);
    next.once('end', again);
    client = next;
  };
  const again = () => {
    if (!stopped) setTimeout(() => connect().catch(again), AGAIN_MS);
  };
  await connect();
  return () => {
    stopped = true;
    return client.end();
  };
}
