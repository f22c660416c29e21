import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { join } from 'node:path';
import { withoutRights, type User } from './identity.ts';
import { root } from './shell.ts';

/** How a program of ours is run by somebody else: the words before its own, and where it finds the project. */
export interface Placed {
  root: string;
  before(mayBind?: boolean): string[];
  /** Why it keeps root's rights, where it does. */ why: string | null;
}

/** What web server and reader need of the project. */
const NEEDED = ['.build/web-server.mjs', 'node_modules/next/package.json', 'web/package.json'];

/**
 * Where a user runs the project's programs. Where the clone lies in a folder that is closed to others (root's home, say), it is shown to
 * them in another place, in a view of the file system of their own.
 */
export function placedFor(user: User | null): Placed {
  if (!user) return { root, before: () => withoutRights(null), why: null };
  const direct = (mayBind = false) => withoutRights(user, mayBind);
  if (reads(direct(), root)) return { root, before: direct, why: null };
  const place = join('/run', `calque-${createHash('sha256').update(root).digest('hex').slice(0, 12)}`);
  try {
    mkdirSync(place, { recursive: true, mode: 0o755 });
  } catch {
    return asRoot(user);
  }
  const shown = (mayBind = false) => [
    'unshare',
    '--mount',
    '--propagation',
    'private',
    '--',
    'sh',
    '-c',
    'mount --bind -- "$0" "$1" && shift && exec "$@"',
    root,
    place,
    ...withoutRights(user, mayBind),
  ];
  return reads(shown(), place) ? { root: place, before: shown, why: null } : asRoot(user);
}

const asRoot = (user: User): Placed => ({
  root,
  before: () => [],
  why: `the user ${user.name} may not read ${root}. Open it (chmod -R a+rX, and a+x on the folders above), or move it to a folder such as /opt`,
});

/** Can a program that is begun by these words read what it needs? */
function reads(before: readonly string[], at: string): boolean {
  const test = NEEDED.filter((f) => existsSync(join(root, f))).map((f) => join(at, f));
  const [program, ...args] = [
    ...before,
    'sh',
    '-c',
    'for f in "$@"; do cat "$f" > /dev/null || exit 1; done',
    'sh',
    ...test,
  ];
  return spawnSync(program, args, { stdio: 'ignore', cwd: '/' }).status === 0;
}
