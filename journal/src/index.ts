import pino, { type DestinationStream, type Logger } from 'pino';

export type Journal = Logger;

/** Longest text of one error that is kept. */
const LONGEST = 600;

/**
 * What a part of the installation has to say, a JSON object on each line of its standard output: `time` (ISO 8601), `level`, `part`,
 * `msg`, and what else is known, such as `request`. CALQUE_LOG_LEVEL (debug, info, warn, error) says how much; nothing personal, no value
 * of a failed query and no password is written.
 */
export function journal(
  part: string,
  to: DestinationStream = pino.destination({ fd: 1, sync: true }),
): Journal {
  return pino(
    {
      level: LEVELS.has(process.env.CALQUE_LOG_LEVEL ?? '') ? process.env.CALQUE_LOG_LEVEL : 'info',
      base: { part, pid: process.pid },
      timestamp: pino.stdTimeFunctions.isoTime,
      formatters: { level: (label) => ({ level: label }) },
      redact: {
        paths: ['password', '*.password', 'headers.cookie', 'headers.authorization'],
        censor: 'kept back',
      },
      serializers: { err: loggable, error: loggable },
    },
    to,
  );
}

const LEVELS = new Set(['debug', 'info', 'warn', 'error']);

interface Chained {
  name?: unknown;
  message?: unknown;
  stack?: unknown;
  cause?: unknown;
  code?: unknown;
  table?: unknown;
  constraint?: unknown;
  routine?: unknown;
}

/**
 * An error as it may be written down. A failed query names the values that were to be written, and the database's own words may
 * repeat them: of such an error only its code, its place and the query with its places for values are kept.
 */
export function loggable(error: unknown): Record<string, unknown> {
  const chain: Chained[] = [];
  for (
    let at = error as Chained | undefined;
    typeof at === 'object' && at !== null && chain.length < 8;
    at = at.cause as Chained | undefined
  )
    chain.push(at);
  if (chain.length === 0) return { words: short(error) };
  const inner = chain.at(-1)!,
    isQuery =
      chain.some((e) => typeof e.code === 'string' && /^[0-9A-Z]{5}$/.test(e.code)) ||
      chain.some((e) => 'query' in e);
  const where = stackOf(chain[0]);
  if (!isQuery) return { name: short(inner.name), words: short(inner.message), where };
  const query = chain.map((e) => (e as { query?: unknown }).query).find((q) => typeof q === 'string');
  return {
    name: 'query',
    code: inner.code,
    table: inner.table,
    constraint: inner.constraint,
    routine: inner.routine,
    ...(query !== undefined && { query: short(query) }),
    where,
  };
}

const short = (value: unknown): string => String(value ?? '').slice(0, LONGEST);

/** The frames alone: the first lines of a stack repeat the message. */
const stackOf = ({ stack }: Chained): string[] =>
  typeof stack === 'string'
    ? stack
        .split('\n')
        .filter((l) => /^\s+at /.test(l))
        .slice(0, 8)
        .map((l) => l.trim())
    : [];
