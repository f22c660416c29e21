import 'server-only';
import { openDatabase, type Database } from '@calque/store';

const holder = globalThis as { calqueDatabase?: Database };
const CONNECTIONS = 16;

/** One pool per process, also across reloads of modules while developing. */
export function database(): Database {
  holder.calqueDatabase ??= openDatabase(undefined, { connections: CONNECTIONS });
  return holder.calqueDatabase;
}
