import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { accessSync, chownSync, constants, existsSync, mkdirSync, statSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { root } from './shell.ts';

/** A user of this machine. */
export interface User {
  uid: number;
  gid: number;
  name: string;
}

export const isRoot = (): boolean => process.getuid?.() === 0;

export function userNamed(name: string): User | null {
  const ids = ['-u', '-g'].map((flag) => spawnSync('id', [flag, name], { encoding: 'utf8' }));
  return ids.every((r) => r.status === 0)
    ? { uid: Number(ids[0].stdout), gid: Number(ids[1].stdout), name }
    : null;
}

const USUAL_NAME = 'calque';

/**
 * The user as whom web server and reader run: where this program was started by root, one that owns nothing (CALQUE_USER, or
 * "calque", made when it is missing); else whoever started it, null.
 */
export function serviceUser(): User | null {
  if (!isRoot()) return null;
  const name = process.env.CALQUE_USER ?? USUAL_NAME;
  const known = userNamed(name);
  if (known) {
    if (known.uid === 0)
      throw new Error('CALQUE_USER names root: web server and reader run as a user who may do nothing else.');
    return known;
  }
  if (process.env.CALQUE_USER) throw new Error(`CALQUE_USER names ${name}, whom this machine does not know.`);
  const made = spawnSync(
    'useradd',
    [
      '--system',
      '--user-group',
      '--no-create-home',
      '--home-dir',
      '/nonexistent',
      '--shell',
      '/usr/sbin/nologin',
      name,
    ],
    { encoding: 'utf8' },
  );
  const user = userNamed(name);
  if (!user)
    throw new Error(
      `The user ${name}, as whom web server and reader run, could not be made (${(made.stderr || made.error?.message || '').trim()}). Make it, or name another with CALQUE_USER.`,
    );
  return user;
}

/** Words before a command that takes all rights from it: those of root, and that of ever getting more. `mayBind`: but that of opening ports below 1024. */
export function withoutRights(user: User | null, mayBind = false): string[] {
  const setpriv = existsSync('/usr/bin/setpriv') ? '/usr/bin/setpriv' : null;
  if (!user) return setpriv ? [setpriv, '--no-new-privs', '--'] : [];
  if (!setpriv)
    throw new Error(
      "setpriv is missing from this machine (Debian's package util-linux): without it root's rights cannot be laid down.",
    );
  const kept = mayBind ? '-all,+net_bind_service' : '-all';
  return [
    setpriv,
    `--reuid=${user.uid}`,
    `--regid=${user.gid}`,
    '--clear-groups',
    '--no-new-privs',
    `--inh-caps=${kept}`,
    ...(mayBind ? ['--ambient-caps=+net_bind_service'] : []),
    `--bounding-set=${kept}`,
    '--',
  ];
}

/** Can anybody but root walk to the folder? A home folder is often closed to others. */
export function closedTo(folder: string): string | null {
  for (let at = folder; ; at = dirname(at)) {
    if (existsSync(at) && statSync(at).isDirectory() && (statSync(at).mode & constants.X_OK) === 0) return at;
    if (at === dirname(at)) return null;
  }
}

export interface DataPlace {
  folder: string;
  /** Why it lies there, where that is not where one would look. */ why: string | null;
}

/**
 * Where all data of this clone lies, by one rule: the folder CALQUE_DATA (relative to where the command was given), or .data beside the program.
 * Only where root runs a clone that lies in a folder closed to others, so that the database cannot reach it, it is a folder of its own in /var/lib.
 */
export function dataPlace(): DataPlace {
  const said = process.env.CALQUE_DATA;
  // An absolute path is itself, wherever one stands.
  const given = said ? resolve(process.env.CALQUE_CWD ?? process.cwd(), said) : null;
  const wished = given ?? join(root, '.data'),
    closed = isRoot() ? closedTo(wished) : null;
  if (closed === null) return { folder: wished, why: null };
  if (given)
    throw new Error(
      `CALQUE_DATA is ${given}, but ${closed} is closed to others: the database, which never runs as root, could not reach it. Open it (chmod o+x ${closed}), or name another folder.`,
    );
  const tag = createHash('sha256').update(root).digest('hex').slice(0, 12);
  return {
    folder: join('/var/lib', `calque-${tag}`),
    why: `${closed} is closed to others, so that the database could not reach it`,
  };
}

/** A folder within the data, by its name. */
export const dataFolder = (name: string): string => join(dataPlace().folder, name);

const REASONS: Record<string, string> = {
  EACCES: 'it may not be written to by whoever runs this',
  EROFS: 'it is on a disk that is only read',
  ENOTDIR: 'a file stands in the way',
  EEXIST: 'a file stands in the way',
  ENOSPC: 'the disk is full',
};
export const cannotWrite = (error: unknown): string =>
  REASONS[(error as NodeJS.ErrnoException).code ?? ''] ?? (error as Error).message;

/** Makes a folder of the data, or says in a sentence why that cannot be. */
export function makeFolder(folder: string, mode: number, owner: User | null = null): void {
  try {
    mkdirSync(folder, { recursive: true, mode });
    if (owner) chownSync(folder, owner.uid, owner.gid);
    accessSync(folder, constants.W_OK | constants.X_OK);
  } catch (error) {
    throw new Error(
      `Data cannot be kept in ${folder}: ${cannotWrite(error)}. CALQUE_DATA=FOLDER names another place.`,
    );
  }
}
