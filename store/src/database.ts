import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import pg from 'pg';
import * as schema from './schema.ts';

export type Database = NodePgDatabase<typeof schema> & { $client: pg.Pool };
export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];

export function databaseUrl(): string {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL is not set: start Calque with ./calque start.');
  return url;
}

export interface Connecting {
  /** Most connections at once. */
  connections?: number;
  /** Longest time of one query, milliseconds; 0: without end. */
  queryMs?: number;
}

/** How long somebody waits for a free connection, for a lock that another holds, and how long a transaction may stand idle. */
const CONNECT_MS = 10000,
  LOCK_MS = 20000,
  IDLE_MS = 60000;
const QUERY_MS = 30000;

/** A pool of connections. No query, wait or idle transaction is without end. */
export function openDatabase(
  url = databaseUrl(),
  { connections = 10, queryMs = QUERY_MS }: Connecting = {},
): Database {
  const pool = new pg.Pool({
    connectionString: url,
    max: connections,
    keepAlive: true,
    connectionTimeoutMillis: CONNECT_MS,
    statement_timeout: queryMs,
    lock_timeout: LOCK_MS,
    idle_in_transaction_session_timeout: IDLE_MS,
    ...(queryMs > 0 && { query_timeout: queryMs + 5000 }),
  });
  // An idle connection that breaks is replaced at the next question; without a listener it would end the process.
  pool.on('error', () => {});
  // One that is in use tells by the failing of its query; between two queries of a transaction there would be nobody to tell.
  pool.on('connect', (client) => client.on('error', () => {}));
  return drizzle(pool, { schema });
}
