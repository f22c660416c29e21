import { existsSync } from 'node:fs';
import { measured } from './measured.ts';
import { ensureDebian, succeeds } from './shell.ts';

const BENCH_PORT = 4498;

/** Measures speed and memory and prints the figures for docs/performance.md. */
export async function bench(): Promise<void> {
  ensureDebian({ chromium: () => existsSync('/usr/bin/chromium'), 'poppler-utils': () => succeeds('which', ['pdftocairo']), 'mupdf-tools': () => succeeds('which', ['mutool']) });
  await measured('bench', BENCH_PORT, (serving) => ({ BENCH_URL: serving.url }));
}
