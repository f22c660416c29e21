import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import type { ChildMessage } from '../src/service/protocol.ts';
import { Cancelled, readingChild, runChild, type ReadingLimits } from '../src/service/run-child.ts';

const folder = mkdtempSync(join(tmpdir(), 'calque-child-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

let made = 0;
/** Runs a child that does what the given program text says. */
async function run(
  program: string,
  limits: Partial<ReadingLimits> = {},
  onMessage?: (m: ChildMessage) => Promise<void>,
  sourceReady: Promise<unknown> = Promise.resolve(),
): Promise<ChildMessage[]> {
  const path = join(folder, `child-${made++}.mjs`);
  writeFileSync(
    path,
    `const send = (m) => new Promise((r) => process.send(m, undefined, undefined, r));\n${program}`,
  );
  const heard: ChildMessage[] = [];
  const take = async (m: ChildMessage) => {
    await onMessage?.(m);
    heard.push(m);
  };
  const room = {
    heapMegabytes: 64,
    megabytes: 400,
    secondsPerPage: 30,
    secondsPerFile: 60,
    cancelled: async () => false,
    ...limits,
  };
  await runChild(
    {
      source: '',
      results: '',
      password: null,
      maxMegabytes: 100,
      picturePixels: 10,
      millimetresPerUnit: null,
    },
    room,
    sourceReady,
    take,
    readingChild('', room, { program: path }),
  );
  return heard;
}
const page = (n: number) => `await send({ type: 'page', page: ${n} });`;
const DONE = `await send({ type: 'done' }); process.disconnect();`;

describe('the reading child', () => {
  it('hands its messages on in order, one after the other', async () => {
    let busy = false;
    const heard = await run(`${page(1)} ${page(2)} ${page(3)} ${DONE}`, {}, async () => {
      expect(busy).toBe(false);
      busy = true;
      await new Promise((resolve) => setTimeout(resolve, 5));
      busy = false;
    });
    expect(heard.map((m) => m.type === 'page' && m.page)).toEqual([1, 2, 3]);
  });

  it('is told to begin when its source is there, and ends when that cannot be fetched', async () => {
    const program = `await new Promise((r) => process.once('message', r)); ${page(1)} ${DONE}`;
    let there = false;
    const source = new Promise<void>((resolve) =>
      setTimeout(() => {
        there = true;
        resolve();
      }, 300),
    );
    await run(
      program,
      {},
      async () => {
        expect(there).toBe(true);
      },
      source,
    );
    await expect(
      run(program, {}, undefined, Promise.reject(new Error('the database went away'))),
    ).rejects.toThrow('the database went away');
  });

  it('a failure that it tells comes with its code and words', async () => {
    await expect(
      run(
        `await send({ type: 'failure', code: 'password', message: 'It is locked.' }); process.disconnect();`,
      ),
    ).rejects.toMatchObject({ code: 'password', message: 'It is locked.' });
  });

  it('one that runs out of memory ends alone, and the words say what to do', async () => {
    await expect(
      run(`${page(1)} const hoard = []; for (;;) hoard.push(new Array(1e5).fill({}));`),
    ).rejects.toMatchObject({ code: 'too-large', message: expect.stringMatching(/memory.*split it/) });
  });

  it('one that ends without a word is not taken for success', async () => {
    await expect(run(`${page(1)} process.exit(0);`)).rejects.toMatchObject({ code: 'too-large' });
  });

  it('a page that never ends is stopped; each page has its own time', async () => {
    const pause = 'await new Promise((r) => setTimeout(r, 700));';
    expect(
      await run(`${pause} ${page(1)} ${pause} ${page(2)} ${pause} ${DONE}`, { secondsPerPage: 1.6 }),
    ).toHaveLength(2);
    await expect(run(`${page(1)} for (;;);`, { secondsPerPage: 0.8 })).rejects.toMatchObject({
      code: 'too-long',
    });
  });

  it('a file has its time as a whole, however quickly its pages come', async () => {
    await expect(
      run(
        `for (let n = 1; ; n++) { await send({ type: 'page', page: n }); await new Promise((r) => setTimeout(r, 20)); }`,
        { secondsPerFile: 1.2 },
      ),
    ).rejects.toMatchObject({ code: 'too-long', message: expect.stringContaining('Split') });
  });

  it('memory beside the heap is held by the system too', async () => {
    await expect(
      run(`${page(1)} const hoard = []; for (;;) hoard.push(Buffer.alloc(5e7, 1));`),
    ).rejects.toMatchObject({ code: 'too-large' });
  });

  it('gets neither the surroundings nor the secrets of the service, and no password in its arguments', async () => {
    process.env.CALQUE_TEST_SECRET = 'oar';
    await run(`const { readFileSync } = await import('node:fs');
      const { task } = await new Promise((r) => process.once('message', r));
      if (process.env.CALQUE_TEST_SECRET || process.env.DATABASE_URL || readFileSync('/proc/self/cmdline', 'utf8').includes('password')) process.exit(3);
      ${DONE}`).finally(() => {
      delete process.env.CALQUE_TEST_SECRET;
    });
  });

  it('is stopped when the person cancels, even while it computes', async () => {
    let asked = 0;
    await expect(run('for (;;);', { cancelled: async () => ++asked > 1 })).rejects.toThrow(Cancelled);
  });

  it('a result that cannot be stored stops the reading with that error', async () => {
    await expect(
      run(`${page(1)} for (;;);`, {}, async () => {
        throw new Error('the disk is full');
      }),
    ).rejects.toThrow('the disk is full');
  });
});
