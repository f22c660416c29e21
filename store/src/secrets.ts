import { createCipheriv, createDecipheriv, createHash, randomBytes } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { and, eq, isNotNull, notLike } from 'drizzle-orm';
import type { Database } from './database.ts';
import { files } from './schema.ts';

/** Passwords of protected files stand in the database sealed; the key lies outside of it. */
const CIPHER = 'aes-256-gcm';
const KEY_BYTES = 32,
  NONCE_BYTES = 12,
  TAG_BYTES = 16;
const SEALED = 'sealed:1:';

/** The key of this installation: CALQUE_SECRET, or what stands in the file CALQUE_SECRET_FILE; at least 32 characters of chance. Null where none is set. */
function secretText(): string | null {
  const { CALQUE_SECRET: text, CALQUE_SECRET_FILE: file } = process.env;
  if (text) return text;
  return file ? readFileSync(file, 'utf8').trim() : null;
}

export class NoSecret extends Error {
  constructor() {
    super(
      'CALQUE_SECRET is not set: without it no password can be kept. ./calque start makes one; whoever starts web servers and readers apart gives all of them the same.',
    );
    this.name = 'NoSecret';
  }
}

const SHORTEST = 32;

function key(): Buffer {
  const text = secretText();
  if (text === null || text.length < SHORTEST) throw new NoSecret();
  // Any text of enough chance will do; the cipher needs exactly so many bytes (one hash suffices where nothing is guessed).
  return createHash('sha256').update(`calque passwords\0${text}`).digest().subarray(0, KEY_BYTES);
}

/** A password as it is kept: bound to its file, so that it is of no use beside another. */
export function seal(fileId: string, password: string): string {
  const nonce = randomBytes(NONCE_BYTES),
    cipher = createCipheriv(CIPHER, key(), nonce, { authTagLength: TAG_BYTES }).setAAD(Buffer.from(fileId));
  const sealed = Buffer.concat([cipher.update(password, 'utf8'), cipher.final()]);
  return SEALED + Buffer.concat([nonce, cipher.getAuthTag(), sealed]).toString('base64');
}

/** The password again; null where it was sealed by another key, for another file, or is damaged. */
export function unseal(fileId: string, kept: string | null): string | null {
  if (kept === null || !kept.startsWith(SEALED)) return null;
  const bytes = Buffer.from(kept.slice(SEALED.length), 'base64');
  if (bytes.length < NONCE_BYTES + TAG_BYTES) return null;
  const decipher = createDecipheriv(CIPHER, key(), bytes.subarray(0, NONCE_BYTES), {
    authTagLength: TAG_BYTES,
  }).setAAD(Buffer.from(fileId));
  try {
    decipher.setAuthTag(bytes.subarray(NONCE_BYTES, NONCE_BYTES + TAG_BYTES));
    return (
      decipher.update(bytes.subarray(NONCE_BYTES + TAG_BYTES), undefined, 'utf8') + decipher.final('utf8')
    );
  } catch {
    return null;
  }
}

/** The password of a project's file; null where it has none or none that can be read. */
export async function passwordOf(
  database: Database,
  projectId: string,
  fileId: string,
): Promise<string | null> {
  const [row] = await database
    .select({ kept: files.password })
    .from(files)
    .where(and(eq(files.projectId, projectId), eq(files.id, fileId)));
  return row ? unseal(fileId, row.kept) : null;
}

/** Seals what earlier versions kept in clear. */
export async function sealOldPasswords(database: Database): Promise<void> {
  const clear = await database
    .select({ id: files.id, password: files.password })
    .from(files)
    .where(and(isNotNull(files.password), notLike(files.password, `${SEALED}%`)));
  for (const { id, password } of clear)
    await database
      .update(files)
      .set({ password: seal(id, password!) })
      .where(eq(files.id, id));
}
