import { createHash, randomUUID } from 'node:crypto';
import { eq, sql } from 'drizzle-orm';
import { escapeLiteral } from 'pg';
import { to as copyTo } from 'pg-copy-streams';
import { onlyFields } from './binary-copy.ts';
import type { Database, Transaction } from './database.ts';
import { blobChunks, blobs } from './schema.ts';

/** Bytes per row: large enough for speed, small enough that no row strains the memory. */
const CHUNK_BYTES = 1 << 20;
/** Rows fetched at once: a reader who stands still keeps so much in memory and no connection. */
const CHUNKS_AT_ONCE = 4;
/** An upload says that it goes on with every so many rows. */
const TOUCH_EVERY = 32;

export class TooLarge extends Error {
  constructor(readonly limit: number) {
    super(`The file is larger than ${Math.round(limit / 1e6)} MB.`);
    this.name = 'TooLarge';
  }
}

export interface StoredBlob {
  id: string;
  size: number;
  sha256: string;
}

/**
 * Stores a stream of bytes in chunks, hashing as it goes. A stream that breaks off or grows past the
 * limit leaves nothing behind.
 */
export async function storeBlob(
  database: Database | Transaction,
  stream: AsyncIterable<Uint8Array>,
  limit = Infinity,
): Promise<StoredBlob> {
  const id = randomUUID();
  const hash = createHash('sha256');
  await database.insert(blobs).values({ id });
  try {
    let n = 0,
      size = 0,
      filled = 0;
    let buffer = new Uint8Array(CHUNK_BYTES);
    const flush = async () => {
      if (filled === 0) return;
      await database.insert(blobChunks).values({ blobId: id, n: n++, bytes: buffer.slice(0, filled) });
      if (n % TOUCH_EVERY === 0)
        await database
          .update(blobs)
          .set({ touched: sql`now()` })
          .where(eq(blobs.id, id));
      filled = 0;
    };
    for await (const part of stream) {
      size += part.length;
      if (size > limit) throw new TooLarge(limit);
      hash.update(part);
      for (let at = 0; at < part.length;) {
        const take = Math.min(CHUNK_BYTES - filled, part.length - at);
        buffer.set(part.subarray(at, at + take), filled);
        filled += take;
        at += take;
        if (filled === CHUNK_BYTES) {
          await flush();
          buffer = new Uint8Array(CHUNK_BYTES);
        }
      }
    }
    await flush();
    const sha256 = hash.digest('hex');
    await database
      .update(blobs)
      .set({ size, sha256, touched: sql`now()` })
      .where(eq(blobs.id, id));
    return { id, size, sha256 };
  } catch (error) {
    // Where the database is gone too, what is left of it is collected later.
    await database
      .delete(blobs)
      .where(eq(blobs.id, id))
      .catch(() => {});
    throw error;
  }
}

export async function* oneChunk(bytes: Uint8Array): AsyncIterable<Uint8Array> {
  yield bytes;
}

/** The blob's bytes as they come from the database, a few megabytes at a time; while they are taken no connection is held. */
export async function* readBlob(database: Database, id: string): AsyncGenerator<Uint8Array> {
  for (let from = 0; ; from += CHUNKS_AT_ONCE) {
    const parts = await chunksOf(database, id, from);
    yield* parts;
    if (parts.reduce((sum, p) => sum + p.length, 0) < CHUNKS_AT_ONCE * CHUNK_BYTES) return;
  }
}

async function chunksOf(database: Database, id: string, from: number): Promise<Uint8Array[]> {
  const client = await database.$client.connect();
  let whole = false;
  try {
    // COPY in binary: as text, bytes would come as twice as many hexadecimal figures.
    const rows = client.query(
      copyTo(
        `copy (select bytes from blob_chunks where blob_id = ${escapeLiteral(id)} and n >= ${from} and n < ${from + CHUNKS_AT_ONCE} order by n) to stdout (format binary)`,
      ),
    );
    const parts: Uint8Array[] = [];
    for await (const part of onlyFields(rows as AsyncIterable<Buffer>)) parts.push(part);
    whole = true;
    return parts;
  } finally {
    // A connection that was left in the middle of an answer is of no more use.
    client.release(!whole);
  }
}

export async function blobBytes(database: Database, id: string): Promise<Uint8Array> {
  const parts: Uint8Array[] = [];
  for await (const part of readBlob(database, id)) parts.push(part);
  return new Uint8Array(Buffer.concat(parts));
}

/** Removes bytes that nothing refers to yet. */
export async function removeBlob(database: Database | Transaction, id: string): Promise<void> {
  await database.delete(blobs).where(eq(blobs.id, id));
}

export async function blobFacts(
  database: Database,
  id: string,
): Promise<{ size: number; sha256: string | null } | null> {
  const [row] = await database
    .select({ size: blobs.size, sha256: blobs.sha256 })
    .from(blobs)
    .where(eq(blobs.id, id));
  return row ?? null;
}
