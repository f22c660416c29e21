import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { limitedChild, workerThread } from '@calque/limits';

const folder = mkdtempSync(join(tmpdir(), 'calque-limits-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
let made = 0;
const program = (text: string) => {
  const path = join(folder, `p${made++}.mjs`);
  writeFileSync(path, text);
  return path;
};
const THREAD = program(`import { parentPort } from 'node:worker_threads';
  parentPort.on('message', async (task) => {
    if (task.loop) for (;;);
    if (task.hoard) { const h = []; for (;;) h.push(new Array(1e5).fill({})); }
    if (task.end) process.exit(1);
    if (task.fail) parentPort.postMessage({ error: 'no oars', code: 'oars' });
    else parentPort.postMessage({ ok: task.n * 2 });
  });`);
const LIMITS = { heapMegabytes: 64, seconds: 1, most: 3 };

describe('a thread beside', () => {
  it('does tasks in their order and answers each', async () => {
    const { run } = workerThread(THREAD, LIMITS);
    expect(await Promise.all([1, 2, 3].map((n) => run<number>({ n })))).toEqual([2, 4, 6]);
    await expect(run({ fail: true })).rejects.toMatchObject({
      why: 'failed',
      message: 'no oars',
      code: 'oars',
    });
  });

  it.each([
    ['too-long', { loop: true }],
    ['too-large', { hoard: true }],
    ['failed', { end: true }],
  ])('one that is %s is ended alone, and the next task is done by a fresh one', async (why, task) => {
    const { run } = workerThread(THREAD, { ...LIMITS, seconds: why === 'too-long' ? 1 : 20 });
    const [bad, good] = await Promise.allSettled([run(task), run<number>({ n: 21 })]);
    expect(bad).toMatchObject({ status: 'rejected', reason: { why } });
    expect(good).toMatchObject({ status: 'fulfilled', value: 42 });
  });

  it('more than may wait is refused at once', async () => {
    const { run } = workerThread(THREAD, LIMITS);
    const all = await Promise.allSettled([run({ loop: true }), ...[1, 2, 3, 4].map((n) => run({ n }))]);
    expect(all.map((a) => (a.status === 'rejected' ? (a.reason as { why: string }).why : 'done'))).toEqual([
      'too-long',
      'done',
      'done',
      'done',
      'busy',
    ]);
  });
});

describe('a child within limits', () => {
  const ended = (child: ReturnType<typeof limitedChild>) =>
    new Promise<NodeJS.Signals | number | null>((resolve) =>
      child.process.once('exit', (code, signal) => resolve(signal ?? code)),
    );
  it('is ended when its time is over, and says which limit it overran', async () => {
    const child = limitedChild(program('for (;;);'), { heapMegabytes: 64, megabytes: 300, seconds: 0.7 });
    expect([await ended(child), child.overrun()]).toEqual(['SIGKILL', 'too-long']);
  });
  it('cannot take more memory than it may, whichever kind', async () => {
    const child = limitedChild(
      program(
        'const h = []; for (;;) h.push(new WebAssembly.Memory({ initial: 1000 }), Buffer.alloc(6e7, 1));',
      ),
      { heapMegabytes: 64, megabytes: 300, seconds: 20 },
      { stdio: ['ignore', 'ignore', 'ignore', 'ipc'] },
    );
    expect(await ended(child)).not.toBe(0);
    expect(child.overrun()).not.toBe('too-long');
  });
  it('ends when the one that started it is killed, even in the middle of endless work', async () => {
    const parent = program(
      `import { limitedChild } from ${JSON.stringify(join(process.cwd(), 'limits/src/limited-child.ts'))};`,
    );
    const { build } = await import('esbuild');
    const bundled = `${parent}.bundle.mjs`;
    writeFileSync(
      parent.replace('.mjs', '.ts'),
      `import { limitedChild } from ${JSON.stringify(join(process.cwd(), 'limits/src/limited-child.ts'))};
      const c = limitedChild(${JSON.stringify(program('for (;;);'))}, { heapMegabytes: 64, megabytes: 300, seconds: 60 }); console.log(c.process.pid); setInterval(() => {}, 1000);`,
    );
    await build({
      entryPoints: [parent.replace('.mjs', '.ts')],
      bundle: true,
      platform: 'node',
      format: 'esm',
      outfile: bundled,
      logLevel: 'error',
    });
    const { spawn } = await import('node:child_process');
    const running = spawn(process.execPath, [bundled], { stdio: ['ignore', 'pipe', 'inherit'] });
    const pid = await new Promise<number>((resolve) =>
      running.stdout.once('data', (d: Buffer) => resolve(Number(d.toString()))),
    );
    const alive = () => {
      try {
        process.kill(pid, 0);
        return true;
      } catch {
        return false;
      }
    };
    await new Promise((resolve) => setTimeout(resolve, 400));
    expect(alive()).toBe(true);
    running.kill('SIGKILL');
    await expect.poll(alive, { timeout: 5000 }).toBe(false);
  });
});
