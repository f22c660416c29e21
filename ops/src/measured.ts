import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { dataFolder } from './postgres.ts';
import { serve, type Serving } from './serve.ts';
import { root, runTee } from './shell.ts';

/** Runs a bundled program against an installation made for it and removed after it, with the arguments given here; ends with its status. */
export async function measured(name: string, port: number, environment: (serving: Serving) => NodeJS.ProcessEnv | Record<string, string>): Promise<never> {
  const folder = dataFolder(name);
  rmSync(folder, { recursive: true, force: true });
  const serving = await serve(name, port, false);
  let status = 1;
  try {
    ({ status } = await runTee(process.execPath, [join(root, `.build/${name}.mjs`), ...process.argv.slice(3)], { ...process.env, ...environment(serving) }));
  } finally {
    await serving.stop();
    rmSync(folder, { recursive: true, force: true });
  }
  process.exit(status);
}
