import { join } from 'node:path';
import { existsSync } from 'node:fs';
import { ensureDebian, mustRun, root, succeeds } from './shell.ts';

/** Measures speed and memory and prints the figures for docs/performance.md. */
export async function bench(): Promise<void> {
  ensureDebian({ chromium: () => existsSync('/usr/bin/chromium'), 'poppler-utils': () => succeeds('which', ['pdftocairo']), 'mupdf-tools': () => succeeds('which', ['mutool']) });
  mustRun(process.execPath, [join(root, '.build/bench.mjs'), ...process.argv.slice(3)]);
}
