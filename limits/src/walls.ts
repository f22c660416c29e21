import { spawnSync } from 'node:child_process';
import {
  closeSync,
  existsSync,
  lstatSync,
  mkdtempSync,
  openSync,
  readlinkSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { callFilter } from './system-calls.ts';

/**
 * What stands around a child, as far as this system allows: `walls`, namespaces of its own (no network, no other process, of the files
 * only what it needs) and a filter of system calls; `no network`, a namespace without any; `none`.
 */
export type Walls = 'walls' | 'no network' | 'none';

/** What a child may see of the files beside the system's own programs. */
export interface Seen {
  /** Its program, bundled in a folder of the project. */ program: string;
  readable?: readonly string[];
  writable?: readonly string[];
}

const BWRAP = '/usr/bin/bwrap',
  UNSHARE = '/usr/bin/unshare';
/** Descriptor by which the child's maker hands it the filter: after input, output, errors and the channel. */
export const FILTER_DESCRIPTOR = 4;
const SYSTEM = ['/lib', '/lib64', '/lib32', '/bin', '/sbin'],
  SETTINGS = [
    '/etc/ld.so.cache',
    '/etc/ld.so.conf',
    '/etc/ld.so.conf.d',
    '/etc/localtime',
    '/etc/fonts',
    '/etc/ssl/openssl.cnf',
    '/etc/alternatives',
  ];

/** The words before a command that build walls around it (bubblewrap, of Debian's packages). */
function builder({ program, readable = [], writable = [] }: Seen, withFilter: boolean): string[] {
  const project = dirname(dirname(program));
  const bound = (how: string, paths: readonly string[]) =>
    paths.filter((p) => existsSync(p)).flatMap((p) => [how, p, p]);
  return [
    BWRAP,
    '--unshare-all',
    '--die-with-parent',
    '--new-session',
    '--cap-drop',
    'ALL',
    '--ro-bind',
    '/usr',
    '/usr',
    ...SYSTEM.filter((p) => existsSync(p)).flatMap((p) =>
      lstatSync(p).isSymbolicLink() ? ['--symlink', readlinkSync(p), p] : ['--ro-bind', p, p],
    ),
    ...bound('--ro-bind', SETTINGS),
    '--proc',
    '/proc',
    '--dev',
    '/dev',
    '--tmpfs',
    '/tmp',
    ...bound('--ro-bind', [
      process.execPath,
      dirname(program),
      join(project, 'node_modules'),
      join(project, 'package.json'),
      ...readable,
    ]),
    ...bound('--bind', writable),
    '--chdir',
    writable[0] || '/',
    ...(withFilter ? ['--seccomp', String(FILTER_DESCRIPTOR)] : []),
    '--',
  ];
}

let found: Walls | null = null;

/** What this system allows, tried once. */
export function wallsHere(): Walls {
  found ??=
    process.env.CALQUE_WALLS === 'none'
      ? 'none'
      : tryOut(BWRAP, (filter) =>
            builder({ program: join(dirname(process.execPath), 'none', 'none') }, filter),
          )
        ? 'walls'
        : succeeds(noNetwork())
          ? 'no network'
          : 'none';
  return found;
}

const noNetwork = () =>
  existsSync(UNSHARE) ? [UNSHARE, '--user', '--map-current-user', '--net', '--ipc', '--uts', '--'] : [];

const succeeds = (before: readonly string[]): boolean =>
  before.length > 0 &&
  spawnSync(before[0], [...before.slice(1), '/usr/bin/env', 'true'], { stdio: 'ignore' }).status === 0;

function tryOut(program: string, before: (filter: boolean) => string[]): boolean {
  if (!existsSync(program)) return false;
  return withFilterFile((descriptor) => {
    const [first, ...rest] = before(descriptor !== null);
    return (
      spawnSync(first, [...rest, '/usr/bin/env', 'true'], {
        stdio: ['ignore', 'ignore', 'ignore', 'ignore', descriptor ?? 'ignore'],
      }).status === 0
    );
  });
}

/** The filter as an open file that has no name any more; written once, so that a disk that fills up later is in nobody's way. */
let kept: number | null = null;
function filterFile(filter: Uint8Array): number {
  if (kept !== null) return kept;
  const folder = mkdtempSync(join(tmpdir(), 'calque-filter-')),
    file = join(folder, 'filter');
  try {
    writeFileSync(file, filter);
    kept = openSync(file, 'r');
    return kept;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Hands over the filter as an open file; null where there is none for this processor. */
export function withFilterFile<T>(act: (descriptor: number | null) => T): T {
  const filter = callFilter();
  if (!filter) return act(null);
  // Opened anew, so that each reads it from its beginning.
  const descriptor = openSync(`/proc/self/fd/${filterFile(filter)}`, 'r');
  try {
    return act(descriptor);
  } finally {
    closeSync(descriptor);
  }
}

/** The words before a command that is to see no more than that. */
export function wallsAround(seen: Seen): string[] {
  const here = wallsHere();
  return here === 'walls' ? builder(seen, callFilter() !== null) : here === 'no network' ? noNetwork() : [];
}
