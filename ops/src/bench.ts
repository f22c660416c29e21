import { existsSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { dataFolder } from './postgres.ts';
import { serve } from './serve.ts';
import { ensureDebian, root, runTee, succeeds } from './shell.ts';

const BENCH_PORT = 4498;

/** Measures speed and memory and prints the figures for docs/performance.md. */
export async function bench(): Promise<void> {
  ensureDebian({ chromium: () => existsSync('/usr/bin/chromium'), 'poppler-utils': () => succeeds('which', ['pdftocairo']), 'mupdf-tools': () => succeeds('which', ['mutool']) });
  const folder = dataFolder('bench');
  rmSync(folder, { recursive: true, force: true });
  const serving = await serve('bench', BENCH_PORT, false);
  try {
    await runTee(process.execPath, [join(root, '.build/bench.mjs'), ...process.argv.slice(3)], { ...process.env, BENCH_URL: serving.url });
  } finally {
    await serving.stop();
    rmSync(folder, { recursive: true, force: true });
  }
  process.exit(0);
}
