import { spawnSync } from 'node:child_process';
import { isRoot } from './identity.ts';
import { mustRun, succeeds } from './shell.ts';

/** How long another who installs is waited for, and how often it is looked. */
const LOCK_MS = 180000,
  LOOK_MS = 2000;
const LOCKED = /Could not get lock|Unable to acquire the dpkg frontend lock|Unable to lock/;

/** Installs Debian packages that are missing; says what to do where it may not or cannot. */
export async function ensureDebian(packages: Record<string, () => boolean>): Promise<void> {
  const missing = Object.entries(packages)
    .filter(([, present]) => !present())
    .map(([name]) => name);
  if (missing.length === 0) return;
  const names = missing.join(' ');
  const hasSudo = spawnSync('sudo', ['-n', 'true'], { stdio: 'ignore' });
  if (!isRoot() && hasSudo.status !== 0) {
    // Where there is no sudo, its name would only lead astray.
    throw new Error(
      hasSudo.error
        ? `Missing from this machine: ${missing.join(', ')}. As root, run: apt-get update && apt-get install ${names}`
        : `Missing from this machine: ${missing.join(', ')}. Run: sudo apt-get update && sudo apt-get install ${names}`,
    );
  }
  if (!succeeds('apt-get', ['--version']))
    throw new Error(
      `Missing from this machine: ${missing.join(', ')}; and there is no apt-get to install it with. Install it by the means of this system, then run this again.`,
    );
  console.log(`Installing ${missing.join(', ')} from Debian's packages (once) …`);
  const before = isRoot() ? [] : ['sudo', '-n'];
  const apt = async (...args: string[]): Promise<string | null> => {
    const command = [
      ...before,
      'env',
      'DEBIAN_FRONTEND=noninteractive',
      'LC_ALL=C',
      'apt-get',
      '-q',
      '-o',
      'DPkg::Lock::Timeout=170',
      '-o',
      'Acquire::Retries=2',
      ...args,
    ];
    for (const began = Date.now(); ;) {
      const failure = await mustRun(command[0], command.slice(1), { quiet: true, cwd: '/' }).then(
        () => null,
        (error: Error) => {
          if (error.name === 'Ending') throw error;
          return error.message;
        },
      );
      if (failure === null || !LOCKED.test(failure) || Date.now() - began > LOCK_MS) return failure;
      console.log('Another program is installing packages; waiting for it …');
      await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
    }
  };
  // An index that is old names files that are gone. One that cannot be fetched may still do.
  const stale = await apt('update');
  const failure = await apt('install', '-y', '--no-install-recommends', ...missing);
  if (failure !== null)
    throw new Error(
      `Debian's packages ${missing.join(', ')} could not be installed. What apt-get said:\n${wordsOf(failure)}${stale === null ? '' : `\nBefore that, the list of packages could not be fetched:\n${wordsOf(stale)}`}`,
    );
  const still = Object.entries(packages)
    .filter(([name, present]) => missing.includes(name) && !present())
    .map(([name]) => name);
  if (still.length > 0)
    throw new Error(
      `${still.join(', ')} was installed, but is not found where it belongs. Look at it with: dpkg -L ${still[0]}`,
    );
}

const MOST_LINES = 6;
/** The lines in which apt-get says what is wrong. */
function wordsOf(output: string): string {
  const lines = output.split('\n').filter((l) => /^\s*(E:|Err:|W: Failed)/.test(l));
  return (lines.length > 0 ? lines : output.trim().split('\n'))
    .slice(-MOST_LINES)
    .map((l) => `  ${l.trim()}`)
    .join('\n');
}
