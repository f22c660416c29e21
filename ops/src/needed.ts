import { existsSync } from 'node:fs';
import { ensureDebian } from './debian.ts';
import { installed } from './database/binaries.ts';
import { isRoot } from './identity.ts';
import { succeeds } from './shell.ts';

const has = (path: string) => () => existsSync(path);
const PACKAGES: Record<string, () => boolean> = {
  postgresql: () => installed().length > 0,
  bubblewrap: has('/usr/bin/bwrap'),
  chromium: has('/usr/bin/chromium'),
  'python3-ezdxf': () => succeeds('/usr/bin/python3', ['-c', 'import ezdxf']),
  'python3-openpyxl': () => succeeds('/usr/bin/python3', ['-c', 'import openpyxl']),
  'nginx-light': has('/usr/sbin/nginx'),
  'poppler-utils': () => succeeds('which', ['pdftocairo']),
  'mupdf-tools': () => succeeds('which', ['mutool']),
};

/** What each command cannot do without. */
const NEEDED: Record<string, string[]> = {
  start: ['postgresql'],
  backup: ['postgresql'],
  restore: ['postgresql'],
  test: ['postgresql', 'chromium', 'python3-ezdxf', 'python3-openpyxl'],
  bench: ['postgresql', 'chromium', 'poppler-utils', 'mupdf-tools'],
  faults: ['postgresql', 'chromium'],
  attacks: ['postgresql'],
  load: ['postgresql'],
  several: ['postgresql', 'nginx-light'],
};
/** What it is better with: walls around whatever reads files. */
const WISHED = ['bubblewrap'],
  READING = ['start', 'test', 'bench', 'faults', 'attacks', 'load', 'several', 'reader'];

const of = (names: readonly string[]) => Object.fromEntries(names.map((n) => [n, PACKAGES[n]]));

/** Installs the Debian packages of a command that are missing, where that is possible, and says what to do where it is not. */
export async function ensureFor(command: string): Promise<void> {
  const missing = READING.includes(command) ? WISHED.filter((n) => !PACKAGES[n]()) : [];
  // With others that are to be installed anyway; never a reason not to start.
  const mayInstall = isRoot() || succeeds('sudo', ['-n', 'true']);
  await ensureDebian(of([...(NEEDED[command] ?? []), ...(mayInstall ? missing : [])])).catch(
    async (error: Error) => {
      if (missing.length === 0 || error.name === 'Ending') throw error;
      await ensureDebian(of(NEEDED[command] ?? []));
      console.log(error.message);
    },
  );
}
