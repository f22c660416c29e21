import { sql } from 'drizzle-orm';
import type { Database, Transaction } from './database.ts';

/** What other tabs and servers are told: that a project has new changes, or a file a new state. */
export type Notice = { projectId: string; what: 'changes'; seq: number } | { projectId: string; what: 'files' } | { projectId: string; what: 'project' };

const CHANNEL = 'calque';

export async function tell(database: Database | Transaction, notice: Notice): Promise<void> {
  await database.execute(sql`select pg_notify(${CHANNEL}, ${JSON.stringify(notice)})`);
}

/** Calls back on every notice until stopped; also after the connection was lost and found again. */
export async function listen(database: Database, onNotice: (notice: Notice) => void): Promise<() => Promise<void>> {
  const { unlisten } = await database.$client.listen(CHANNEL, (payload) => onNotice(JSON.parse(payload) as Notice));
  return unlisten;
}
