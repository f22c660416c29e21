import { escapeLiteral } from 'pg';
import { to as copyTo } from 'pg-copy-streams';
import { TRACED_TYPES } from '@calque/core/model';
import { onlyFields } from './binary-copy.ts';
import type { Database } from './database.ts';

/** The entities of a project as lines of JSON, all as they are at one moment. */
export interface ProjectLines {
  seq: number;
  /** How many there are. */
  count: number;
  lines: AsyncGenerator<Uint8Array>;
}

/**
 * Entities one on each line as the database has them, in the order in which they came: first what others lie on, then what is traced.
 * Null where there is no such project. The connection is held until all has been taken from the database, at the speed at which the
 * database gives it, not at that of whoever reads.
 */
export async function projectLines(database: Database, projectId: string): Promise<ProjectLines | null> {
  const client = await database.$client.connect();
  let released = false;
  const release = (broken: boolean) => {
    if (!released) client.release(broken);
    released = true;
  };
  try {
    await client.query('begin isolation level repeatable read read only');
    const { rows } = await client.query<{ seq: number; count: number }>(
      `select seq, (select count(*)::int from entities where project_id = $1) as count from projects where id = $1 and deleted is null`,
      [projectId],
    );
    if (rows.length === 0) {
      await client.query('commit');
      release(false);
      return null;
    }
    const isTraced = `type in (${TRACED_TYPES.map((type) => escapeLiteral(type)).join(', ')})`;
    const lines = (where: string) =>
      onlyFields(
        client.query(
          copyTo(
            `copy (select data::text || e'\\n' from entities where project_id = ${escapeLiteral(projectId)} and ${where} order by ordinal) to stdout (format binary)`,
          ),
        ) as AsyncIterable<Buffer>,
      );
    async function* both(): AsyncGenerator<Uint8Array> {
      yield* lines(`not ${isTraced}`);
      yield* lines(isTraced);
    }
    const taken = gathered(both(), async (whole) => {
      if (whole) await client.query('commit').catch(() => {});
      release(!whole);
    });
    return { ...rows[0], lines: taken };
  } catch (error) {
    release(true);
    throw error;
  }
}

/** Bytes that are handed on together. */
const PIECE = 256 << 10,
  FIRST_PIECE = 4 << 10;

/** Takes a source as fast as it gives, keeping what the reader has not come to yet; tells when the source has ended, and whether whole. */
function gathered(
  source: AsyncIterable<Uint8Array>,
  onEnd: (whole: boolean) => Promise<void>,
): AsyncGenerator<Uint8Array> {
  const pieces: Uint8Array[] = [];
  let ended = false,
    failure: unknown = null,
    wake = () => {};
  const hand = (parts: readonly Uint8Array[]) => {
    pieces.push(Buffer.concat(parts));
    wake();
  };
  void (async () => {
    let waiting: Uint8Array[] = [],
      bytes = 0,
      isFirst = true;
    try {
      for await (const part of source) {
        waiting.push(part);
        // The first part is small, and waited for.
        if ((bytes += part.length) < (isFirst ? FIRST_PIECE : PIECE)) continue;
        isFirst = false;
        hand(waiting);
        [waiting, bytes] = [[], 0];
      }
      hand(waiting);
    } catch (error) {
      failure = error;
    }
    await onEnd(failure === null);
    ended = true;
    wake();
  })();
  // Taken at once, whether or not anybody reads.
  return (async function* () {
    for (;;) {
      while (pieces.length > 0) yield pieces.shift()!;
      if (ended) {
        if (failure) throw failure;
        return;
      }
      await new Promise<void>((resolve) => {
        wake = resolve;
        if (pieces.length > 0 || ended) resolve();
      });
    }
  })();
}
