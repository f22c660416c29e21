import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { readingChild, runChild } from '../src/service/run-child.ts';
import { WarmChildren, type ReadyChild } from '../src/service/warm-children.ts';
import { warmUp } from '../src/service/warm-up.ts';

const folder = mkdtempSync(join(tmpdir(), 'calque-warm-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const ROOM = { heapMegabytes: 64, megabytes: 400, secondsPerFile: 60, warm: 1 };

/** Children that do what a program text says. */
function children(program: string, warm = 1): WarmChildren {
  const path = join(folder, `child-${Math.random()}.mjs`);
  writeFileSync(path, program);
  return new WarmChildren({ ...ROOM, warm }, (into, room, more) =>
    readingChild(into, room, { ...more, program: path }),
  );
}
const ANSWERS = `process.once('message', () => process.send({ type: 'done' }, undefined, undefined, () => process.exit(0)));`;
const ended = ({ child }: ReadyChild) => new Promise((resolve) => child.process.once('exit', resolve));
const read = (ready: ReadyChild) =>
  runChild(
    {
      source: '',
      results: ready.folder,
      password: null,
      maxMegabytes: 100,
      picturePixels: 10,
      millimetresPerUnit: null,
    },
    { ...ROOM, secondsPerPage: 30, cancelled: async () => false },
    Promise.resolve(),
    async () => {},
    ready.child,
  );

describe('children that wait for a file', () => {
  it('are taken once each, read one file and end; the next is another, started when it is asked for', async () => {
    const warm = children(ANSWERS);
    const first = warm.take()!;
    expect(existsSync(first.folder)).toBe(true);
    expect(warm.take()).toBeUndefined();
    await read(first);
    expect(first.child.process.exitCode).toBe(0);
    warm.refill();
    const second = warm.take()!;
    expect(second.child.process.pid).not.toBe(first.child.process.pid);
    expect(second.folder).not.toBe(first.folder);
    await read(second);
    warm.close();
    for (const { folder: f } of [first, second]) rmSync(f, { recursive: true, force: true });
  });

  it('that end while they wait are given to nobody, and not started again without pause', async () => {
    const warm = children('process.exit(3);');
    const waiting = (warm as unknown as { waiting: ReadyChild[] }).waiting,
      [one] = waiting;
    await ended(one);
    expect(warm.take()).toBeUndefined();
    expect(existsSync(one.folder)).toBe(false);
    warm.refill();
    expect(waiting).toEqual([]);
    warm.close();
  });

  it('end with the service, and leave no folder behind', async () => {
    const warm = children(ANSWERS);
    const [one] = (warm as unknown as { waiting: ReadyChild[] }).waiting,
      gone = ended(one);
    warm.close();
    await gone;
    expect(existsSync(one.folder)).toBe(false);
    expect(warm.take()).toBeUndefined();
    warm.refill();
    expect(warm.take()).toBeUndefined();
  });

  it('can be none', () => {
    const warm = children(ANSWERS, 0);
    expect(warm.take()).toBeUndefined();
    warm.close();
  });
});

it('what a child reads to make itself ready is a sound sheet', async () => {
  await expect(warmUp()).resolves.toBeUndefined();
});
