import { mkdtempSync, rmSync } from 'node:fs';
import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { LimitedChild } from '@calque/limits';
import { readingChild, type ChildRoom } from './run-child.ts';

/** A child that waits for its file, within its limits and walls, and the folder that it may write into. */
export interface ReadyChild {
  folder: string;
  child: LimitedChild;
}

const folderName = (): string => join(tmpdir(), 'calque-read-');
/** A folder for the results of one file. */
export const readingFolder = (): Promise<string> => mkdtemp(folderName());

/** One that has waited for so long is let go, with what it may have gathered. */
const LONGEST_WAIT_S = 3600;
/** One that ends while it waits is not started again at once: something is wrong with it. */
const AGAIN_MS = 30000;

/**
 * Children that are started before there is a file for them, so that a file waits for no start. Each reads one file and ends: what a
 * file has done to its child, the next never meets.
 */
export class WarmChildren {
  private readonly waiting: ReadyChild[] = [];
  private closed = false;
  private notBefore = 0;

  constructor(
    private readonly room: ChildRoom & { warm: number },
    private readonly start = readingChild,
  ) {
    this.refill();
  }

  /** One that is ready; undefined where none is, so that one must be started. */
  take(): ReadyChild | undefined {
    // One that has just ended may not have been heard of yet.
    const isAlive = ({ child: { process } }: ReadyChild) =>
      process.exitCode === null && process.signalCode === null;
    const ready = this.waiting.find(isAlive);
    if (ready) this.waiting.splice(this.waiting.indexOf(ready), 1);
    return ready;
  }

  /** Starts those that are missing; called when a file is done, so that it is not slowed by it. */
  refill(): void {
    if (this.closed || performance.now() < this.notBefore) return;
    while (this.waiting.length < this.room.warm) {
      const folder = mkdtempSync(folderName());
      const ready: ReadyChild = { folder, child: this.start(folder, this.room, { warm: true }) };
      ready.child.allow(LONGEST_WAIT_S);
      this.waiting.push(ready);
      const gone = () => this.drop(ready);
      ready.child.process.once('exit', gone);
      ready.child.process.once('error', gone);
    }
  }

  private drop(ready: ReadyChild): void {
    const at = this.waiting.indexOf(ready);
    if (at < 0) return;
    this.waiting.splice(at, 1);
    rmSync(ready.folder, { recursive: true, force: true });
    this.notBefore = performance.now() + AGAIN_MS;
  }

  close(): void {
    this.closed = true;
    for (const { child, folder } of this.waiting.splice(0)) {
      child.kill();
      rmSync(folder, { recursive: true, force: true });
    }
  }
}
