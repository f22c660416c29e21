import { join } from 'node:path';
import { limitedChild, type LimitedChild } from '@calque/limits';
import { corpus } from './corpus.ts';
import type { FuzzAnswer, FuzzTask } from './fuzz-child.ts';
import { mutated } from './mutate.ts';
import { Random } from './random.ts';
import type { Report } from './report.ts';

/** As much as a reading child has, and the time that a page may take. */
const MEGABYTES = 1600,
  HEAP_MB = 800,
  SECONDS_EACH = 60;
/** A child reads so many files, then a fresh one goes on. */
const FILES_EACH = 60,
  AT_ONCE = 2;

/** Reads so many mutated practice files: each must be read or refused in words, within its time and memory. */
export async function fuzz(root: string, times: number, seed: number, report: Report): Promise<void> {
  const samples = await corpus(root);
  const ends = new Map<string, number>();
  let next = 0,
    slowest = 0;
  const line = async () => {
    let child: Reading | null = null;
    while (next < times) {
      const n = next++,
        random = new Random(seed + n * 7919),
        sample = random.pick(samples),
        bytes = mutated(sample.bytes, random);
      if (!child || child.read >= FILES_EACH) {
        child?.end();
        child = new Reading(root);
      }
      const began = Date.now(),
        answer: FuzzAnswer | string = await child.ask({ n, bytes });
      slowest = Math.max(slowest, Date.now() - began);
      const end = typeof answer === 'string' ? answer : answer.end;
      ends.set(end, (ends.get(end) ?? 0) + 1);
      const silent = typeof answer !== 'string' && answer.end !== 'read' && answer.message.trim().length < 10;
      // The limits of memory and time are ends in words too, by the one that holds them; a crash is told the same.
      const fault =
        typeof answer === 'string' && answer !== 'too-large'
          ? `it ${answer}`
          : silent
            ? 'it was refused without words'
            : null;
      report.check(`mutation ${n} of ${sample.name} (seed ${seed})`, fault);
      if (typeof answer === 'string') child = null;
    }
    child?.end();
  };
  await Promise.all(Array.from({ length: AT_ONCE }, line));
  console.log(
    `${times} mutated files: ${[...ends]
      .sort((a, b) => b[1] - a[1])
      .map(([end, count]) => `${count} ${end}`)
      .join(', ')}; slowest ${(slowest / 1000).toFixed(1)} s.`,
  );
}

/** A child that reads one file after the other. */
class Reading {
  read = 0;
  private readonly child: LimitedChild;

  constructor(root: string) {
    this.child = limitedChild(
      join(root, '.build/fuzz-child.mjs'),
      { heapMegabytes: HEAP_MB, megabytes: MEGABYTES, seconds: FILES_EACH * SECONDS_EACH, nice: 5 },
      {
        env: { PATH: process.env.PATH, NODE_ENV: 'production' },
        serialization: 'advanced',
        stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
      },
    );
  }

  /** Its answer; or how the child ended over it. */
  ask(task: FuzzTask): Promise<FuzzAnswer | string> {
    this.read++;
    return new Promise((resolve) => {
      const { process: child } = this.child;
      const timer = setTimeout(() => {
        this.end();
        resolve(`took longer than ${SECONDS_EACH} s`);
      }, SECONDS_EACH * 1000);
      const done = (answer: FuzzAnswer | string) => {
        clearTimeout(timer);
        child.removeAllListeners('message');
        child.removeAllListeners('exit');
        resolve(answer);
      };
      child.once('message', done);
      child.once('exit', () => done('too-large'));
      this.child.send(task);
    });
  }

  end(): void {
    this.child.kill();
  }
}
