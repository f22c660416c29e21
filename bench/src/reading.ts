import { fork } from 'node:child_process';
import { mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { median } from './quantile.ts';

/** A child that waited so long is ready: its code is loaded and compiled. */
const READY_MS = 2500;

/**
 * Seconds from a file's bytes on the disk to its first page's linework and index, stored, in a reading child that waited for it; and
 * to the whole of the page, its kinds told apart and its picture drawn.
 */
async function warmReading(root: string, file: string): Promise<{ lines: number; whole: number }> {
  const results = mkdtempSync(join(tmpdir(), 'calque-bench-read-'));
  const child = fork(join(root, '.build/reader-child.mjs'), {
    env: { PATH: process.env.PATH, TMPDIR: results, NODE_ENV: 'production', CALQUE_WARM: 'yes' },
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    execArgv: ['--max-old-space-size=1024'],
  });
  try {
    await new Promise((resolve) => setTimeout(resolve, READY_MS));
    const began = performance.now();
    child.send({
      task: {
        source: file,
        results,
        password: null,
        maxMegabytes: 640,
        picturePixels: 560,
        millimetresPerUnit: null,
      },
    });
    return await new Promise((resolve, reject) => {
      let lines: number | null = null;
      child.on('message', (message: { type: string; message?: string; whole?: boolean }) => {
        if (message.type === 'failure') reject(new Error(message.message));
        if (message.type !== 'page') return;
        const now = (performance.now() - began) / 1000;
        if (statSync(join(results, message.whole ? '1.cqlw' : '1.first.cqlw')).size === 0)
          reject(new Error('nothing was stored'));
        lines ??= now;
        if (message.whole) resolve({ lines, whole: now });
      });
      child.once('exit', () => reject(new Error('the child ended')));
    });
  } finally {
    child.kill('SIGKILL');
    rmSync(results, { recursive: true, force: true });
  }
}

/** Pairs of the service's reading and of another program's, one after the other, so that both meet the same machine. */
export async function readingPairs(
  root: string,
  file: string,
  other: () => Promise<number>,
  runs: number,
): Promise<{ lines: number; whole: number; theirs: number; ratio: number }> {
  const pairs: { lines: number; whole: number; theirs: number }[] = [];
  for (let i = 0; i < runs; i++) pairs.push({ ...(await warmReading(root, file)), theirs: await other() });
  const middle = (of: (p: (typeof pairs)[number]) => number) => median(pairs.map(of));
  return {
    lines: middle((p) => p.lines),
    whole: middle((p) => p.whole),
    theirs: middle((p) => p.theirs),
    ratio: middle((p) => p.lines / p.theirs),
  };
}
