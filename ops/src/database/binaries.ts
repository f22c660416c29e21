import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { userNamed, isRoot, type User } from '../identity.ts';
import { mustRun } from '../shell.ts';

/** Where Debian puts each version of PostgreSQL. */
const VERSIONS = '/usr/lib/postgresql';

export interface Binaries {
  version: number;
  folder: string;
}

export function installed(): Binaries[] {
  if (!existsSync(VERSIONS)) return [];
  return readdirSync(VERSIONS)
    .filter((v) => /^\d+$/.test(v) && existsSync(join(VERSIONS, v, 'bin/initdb')))
    .map((v) => ({ version: Number(v), folder: join(VERSIONS, v, 'bin') }))
    .sort((a, b) => b.version - a.version);
}

/** The version by which a database was made; null where there is none yet. */
export const versionOf = (data: string): number | null =>
  existsSync(join(data, 'PG_VERSION')) ? Number(readFileSync(join(data, 'PG_VERSION'), 'utf8')) : null;

/** The programs for a database: those of the version that made it, or for a new one the newest. A database never changes its version by itself. */
export function binariesFor(data: string): Binaries {
  const all = installed(),
    made = versionOf(data);
  const fitting = made === null ? all[0] : all.find((b) => b.version === made);
  if (fitting) return fitting;
  throw new Error(
    `The database in ${data} was made by PostgreSQL ${made}, which is not on this machine any more (there is ${all.map((b) => b.version).join(', ') || 'none'}). Install postgresql-${made} again; how to go on to a newer version stands in docs/operating.md.`,
  );
}

/** PostgreSQL refuses to run as root: then its programs run as the user that Debian's package made. */
export const databaseUser = (): User | null => {
  if (!isRoot()) return null;
  const user = userNamed('postgres');
  if (!user)
    throw new Error("The user postgres, whom Debian's package makes, is missing: install postgresql again.");
  return user;
};

/** What its programs are told of this one's surroundings. */
export const SURROUNDINGS = { PATH: process.env.PATH, LC_ALL: 'C.UTF-8', NODE_ENV: 'production' as const };

/** Runs one of its programs as the database's user, quietly. */
export function asDatabaseUser(program: string, args: readonly string[], input?: string): Promise<string> {
  const user = databaseUser();
  return mustRun(program, args, {
    quiet: true,
    cwd: '/',
    input,
    env: SURROUNDINGS,
    ...(user && { uid: user.uid, gid: user.gid }),
  });
}
