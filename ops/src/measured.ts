import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { atEnd, endAll } from './ending.ts';
import { dataFolder } from './identity.ts';
import { serve, type Serving } from './serve.ts';
import { root, runTee } from './shell.ts';

/** Runs a bundled program against an installation made for it and removed after it, with the arguments given here; ends with its status. */
export async function measured(
  name: string,
  port: number,
  environment: (serving: Serving) => NodeJS.ProcessEnv | Record<string, string>,
): Promise<never> {
  const folder = dataFolder(name);
  rmSync(folder, { recursive: true, force: true });
  const clean = () => rmSync(folder, { recursive: true, force: true });
  const serving = await serve(name, port, false);
  // After the parts have ended, whichever way this ends.
  atEnd(() => serving.stop().then(clean));
  const { status } = await runTee(
    process.execPath,
    [join(root, `.build/${name}.mjs`), ...process.argv.slice(3)],
    { ...process.env, ...environment(serving) },
  );
  await endAll(status);
  return new Promise<never>(() => {});
}
