/**
 * What a failed query means: `away`, the installation cannot do it now and may later (no connection, no room, too slow, a lock);
 * `refused`, the database does not take this value and never will; `other`, neither is known.
 */
export type Fault = { kind: 'away' | 'refused' | 'other'; code: string | null; words: string };

/** Classes of PostgreSQL's error codes (its documentation, appendix A). */
const AWAY_CLASSES = ['08', '53', '55', '57', '58', '40', '25'];
const REFUSED_CLASSES = ['22', '23', '54'];
const NETWORK = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'ENOENT',
  'EPIPE',
  'ETIMEDOUT',
  'EHOSTUNREACH',
  'ENOTFOUND',
  'EAI_AGAIN',
]);
const POOL_WORDS =
  /timeout exceeded when trying to connect|Connection terminated|Query read timeout|Client has encountered a connection error|not queryable/i;
const NO_ROOM = '53100';
/** What ends the connection says nothing of the query: a full disk lets no new one in, with the code of an inner error. */
const ENDS_CONNECTION = new Set<unknown>(['FATAL', 'PANIC']);

/** Looks through the wrappers to the database's own error. */
function innermost(error: unknown): { code?: unknown; message?: unknown; severity?: unknown } {
  let at = error;
  while (at instanceof Error && at.cause instanceof Error) at = at.cause;
  return (typeof at === 'object' && at !== null ? at : { message: String(at) }) as {
    code?: unknown;
    message?: unknown;
    severity?: unknown;
  };
}

export function faultOf(error: unknown): Fault {
  const { code: raw, message, severity } = innermost(error);
  const code = typeof raw === 'string' ? raw : null,
    text = typeof message === 'string' ? message.slice(0, 300) : '';
  const isState = code !== null && /^[0-9A-Z]{5}$/.test(code) && /\d/.test(code);
  if (code === NO_ROOM)
    return {
      kind: 'away',
      code,
      words: 'The disk of the database is full. Make room on it; what is waiting is sent by itself then.',
    };
  if (isState && REFUSED_CLASSES.includes(code.slice(0, 2)))
    return { kind: 'refused', code, words: `the database does not take it (${text})` };
  if (
    ENDS_CONNECTION.has(severity) ||
    (isState && AWAY_CLASSES.includes(code.slice(0, 2))) ||
    (code !== null && NETWORK.has(code)) ||
    POOL_WORDS.test(text)
  )
    return { kind: 'away', code, words: 'The database does not answer at the moment.' };
  return { kind: 'other', code, words: text };
}
