import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { dataFolder } from './postgres.ts';
import { serve } from './serve.ts';
import { root, runTee } from './shell.ts';

const ATTACKS_PORT = 4496;

/** Attacks an installation made for it: hostile requests, files and mutated practice files, each with how it must end. */
export async function attacks(): Promise<void> {
  const folder = dataFolder('attacks');
  rmSync(folder, { recursive: true, force: true });
  const serving = await serve('attacks', ATTACKS_PORT, false);
  let status = 1;
  try {
    ({ status } = await runTee(process.execPath, [join(root, '.build/attacks.mjs'), ...process.argv.slice(3)], { ...process.env, ATTACKS_URL: serving.url }));
  } finally {
    await serving.stop();
    rmSync(folder, { recursive: true, force: true });
  }
  process.exit(status);
}
