import { Logger, run } from 'graphile-worker';
import { journal } from '@calque/journal';
import { collectBlobs, projectFlag, READ_TASK, takeUpLeftFiles, type Database } from '@calque/store';
import { readTask } from './read-task.ts';
import { settings } from './settings.ts';
import { WarmChildren } from './warm-children.ts';

const log = journal('reader');
const LONGEST_MESSAGE = 1000;

export interface ReadingService {
  ended: Promise<void>;
  stop(): Promise<void>;
}

/** How often what was left behind is looked for, and bytes that nothing refers to are collected. */
const SWEEP_MS = 5000,
  COLLECT_MS = 5 * 60000;

/**
 * Takes files from the queue. One project may take up so many places; one more is kept for the others, so that nobody waits
 * for the whole of somebody else's files.
 */
export async function readingService(database: Database, connectionString: string): Promise<ReadingService> {
  const { atOnce } = settings();
  const running = new Map<string, number>();
  const warm = new WarmChildren(settings());
  const runner = await run({
    connectionString,
    concurrency: atOnce + 1,
    pollInterval: 1000,
    noHandleSignals: true,
    maxPoolSize: atOnce + 3,
    forbiddenFlags: () => [...running].filter(([, n]) => n >= atOnce).map(([flag]) => flag),
    logger: new Logger(() => (level, message) => {
      if (level === 'error' || level === 'warning')
        log[level === 'error' ? 'error' : 'warn'](message.slice(0, LONGEST_MESSAGE));
    }),
    taskList: {
      [READ_TASK]: async (payload, { job }) => {
        const flags = Object.keys(job.flags ?? {}).filter((f) => f.startsWith(projectFlag('')));
        const count = (by: number) =>
          flags.forEach((f) => {
            const n = (running.get(f) ?? 0) + by;
            if (n > 0) running.set(f, n);
            else running.delete(f);
          });
        count(1);
        try {
          const file = (payload as { fileId: string }).fileId,
            began = performance.now();
          await readTask(database, file, { lastTry: job.attempts >= job.max_attempts, warm });
          log.info({ file, job: job.id, ms: Math.round(performance.now() - began) }, 'read');
        } finally {
          count(-1);
        }
      },
    },
  });
  const every = (ms: number, work: () => Promise<unknown>) => {
    let busy = false;
    const act = async () => {
      if (busy) return;
      busy = true;
      await work().catch((error: unknown) => log.error({ err: error }, 'sweeping failed'));
      busy = false;
    };
    void act();
    return setInterval(() => void act(), ms);
  };
  const timers = [
    every(SWEEP_MS, () => takeUpLeftFiles(database)),
    every(COLLECT_MS, () => collectBlobs(database)),
  ];
  return {
    ended: runner.promise,
    stop: async () => {
      timers.forEach(clearInterval);
      warm.close();
      await runner.stop();
    },
  };
}
