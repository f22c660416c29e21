import { fork } from 'node:child_process';
import { existsSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { dataFolder } from './postgres.ts';
import { serve, type PartName } from './serve.ts';
import { ensureDebian, root } from './shell.ts';

const FAULTS_PORT = 4497;

/** Kills the server again and again under a session of edits, and the browser too: nothing that was shown as saved or waiting may be missing. */
export async function faults(): Promise<void> {
  ensureDebian({ chromium: () => existsSync('/usr/bin/chromium') });
  const folder = dataFolder('faults');
  rmSync(folder, { recursive: true, force: true });
  const serving = await serve('faults', FAULTS_PORT, false);
  let status = 1;
  try {
    const child = fork(join(root, '.build/faults.mjs'), process.argv.slice(3), { env: { ...process.env, FAULTS_URL: serving.url } });
    child.on('message', (message) => {
      if (typeof message === 'object' && 'crash' in message) void serving.crash(message.crash as PartName).then(() => child.connected && child.send('up'), (error: Error) => console.error(error.message));
    });
    status = await new Promise<number>((resolve) => child.on('exit', (code) => resolve(code ?? 1)));
  } finally {
    await serving.stop();
    rmSync(folder, { recursive: true, force: true });
  }
  process.exit(status);
}
