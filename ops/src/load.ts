import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { dataFolder } from './postgres.ts';
import { serve } from './serve.ts';
import { root, runTee } from './shell.ts';

const LOAD_PORT = 4495;

/** Measures an installation under many tabs that edit at once. */
export async function load(): Promise<void> {
  const folder = dataFolder('load');
  rmSync(folder, { recursive: true, force: true });
  const serving = await serve('load', LOAD_PORT, false);
  let status = 1;
  try {
    ({ status } = await runTee(process.execPath, [join(root, '.build/load.mjs'), ...process.argv.slice(3)], { ...process.env, LOAD_URL: serving.url, LOAD_PIDS: serving.processes().join(',') }));
  } finally {
    await serving.stop();
    rmSync(folder, { recursive: true, force: true });
  }
  process.exit(status);
}
