import { randomBytes } from 'node:crypto';
import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** Secrets of an installation, made by chance once: the passwords of the database's three roles, and the key of the passwords of protected files. */
export interface Keys {
  keeper: string;
  owner: string;
  app: string;
  secret: string;
}

const FILE = 'keys.json';
const BYTES = 33;

export const keysExist = (folder: string): boolean => existsSync(join(folder, FILE));

/** The keys of the folder; those that are missing are made. Nobody but whoever runs this may read them. */
export function keysOf(folder: string): Keys {
  const path = join(folder, FILE),
    known = existsSync(path) ? (JSON.parse(readFileSync(path, 'utf8')) as Partial<Keys>) : {};
  const chance = () => randomBytes(BYTES).toString('base64url');
  const keys: Keys = {
    keeper: known.keeper ?? chance(),
    owner: known.owner ?? chance(),
    app: known.app ?? chance(),
    secret: known.secret ?? chance(),
  };
  if (JSON.stringify(keys) !== JSON.stringify(known)) keepKeys(folder, keys);
  return keys;
}

/** Written beside and put in its place, so that a power cut leaves the old or the new. */
export function keepKeys(folder: string, keys: Keys): void {
  const path = join(folder, FILE);
  writeFileSync(`${path}.next`, `${JSON.stringify(keys)}\n`, { mode: 0o600, flush: true });
  renameSync(`${path}.next`, path);
}
