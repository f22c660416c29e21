import { serve } from './serve.ts';
import { test } from './test.ts';
import { bench } from './bench.ts';
import { faults } from './faults.ts';
import { attacks } from './attacks.ts';
import { load } from './load.ts';

const DEFAULT_PORT = 4400;

async function start(): Promise<void> {
  const port = Number(process.env.PORT ?? DEFAULT_PORT);
  if (!Number.isInteger(port) || port < 1 || port > 65535) throw new Error(`PORT is ${process.env.PORT}: it must be a number from 1 to 65535.`);
  let stopping = false;
  let serving: Awaited<ReturnType<typeof serve>> | null = null;
  const stop = async () => {
    if (stopping) return;
    stopping = true;
    if (!serving) return;
    console.log('\nStopping …');
    await serving.stop();
    process.exit(0);
  };
  process.on('SIGINT', () => void stop());
  process.on('SIGTERM', () => void stop());
  process.on('SIGHUP', () => void stop());
  serving = await serve('main', port, true);
  if (stopping) {
    await serving.stop();
    return;
  }
  console.log(`Calque is ready: ${serving.url}\nCtrl+C stops it.`);
}

const commands: Record<string, () => Promise<void>> = { start, test, bench, faults, attacks, load };
try {
  await commands[process.argv[2]]();
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  process.exit(1);
}
