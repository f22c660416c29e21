import { describe, expect, it, vi } from 'vitest';
import { runTask, Stopped, type Said } from '../src/workers/task.ts';

type From = Said | { type: 'done'; value: number };
class FakeWorker {
  onmessage: ((event: { data: From }) => void) | null = null;
  onerror: ((event: object) => void) | null = null;
  asked: unknown[] = [];
  ended = 0;
  postMessage(message: unknown): void {
    this.asked.push(message);
  }
  terminate(): void {
    this.ended++;
  }
  says(data: From): void {
    this.onmessage!({ data });
  }
}
const begin = (
  more: Partial<Parameters<typeof runTask<string, { type: 'done'; value: number }>>[2]> = {},
) => {
  const worker = new FakeWorker(),
    onProgress = vi.fn();
  const task = runTask<string, From & { type: 'done'; value: number }>(worker as unknown as Worker, 'begin', {
    broken: 'It broke.',
    onProgress,
    ...more,
  });
  task.done.catch(() => {});
  return { worker, task, onProgress };
};

describe('the one task of a worker', () => {
  it('is asked once, tells how far it is, and ends the worker with what came of it', async () => {
    const { worker, task, onProgress } = begin();
    expect(worker.asked).toEqual(['begin']);
    worker.says({ type: 'progress', share: 0.4 });
    expect([onProgress.mock.calls, worker.ended]).toEqual([[[0.4]], 0]);
    worker.says({ type: 'done', value: 7 });
    await expect(task.done).resolves.toMatchObject({ value: 7 });
    expect(worker.ended).toBe(1);
  });

  it.each(['failed', 'none'] as const)('that is %s says why, in the words of the worker', async (type) => {
    const { worker, task } = begin();
    worker.says({ type, why: 'There are no lines.' });
    await expect(task.done).rejects.toThrow('There are no lines.');
    expect(worker.ended).toBe(1);
  });

  it('that breaks says so in words of ours', async () => {
    const { worker, task } = begin();
    worker.onerror!({ message: 'x is not a function' });
    await expect(task.done).rejects.toThrow('It broke.');
    expect(worker.ended).toBe(1);
  });

  it('can be stopped at any time, which is no failure; what comes afterwards is not heard', async () => {
    const { worker, task } = begin();
    task.stop();
    worker.says({ type: 'done', value: 1 });
    await expect(task.done).rejects.toBeInstanceOf(Stopped);
    expect(worker.ended).toBeGreaterThan(0);
  });

  it('can go on where what came of it is not the end', async () => {
    const { worker, task } = begin({
      goesOn: ({ value }, ask) => {
        if (value > 1) return false;
        ask('more');
        return true;
      },
    });
    worker.says({ type: 'done', value: 1 });
    expect([worker.asked, worker.ended]).toEqual([['begin', 'more'], 0]);
    worker.says({ type: 'done', value: 2 });
    await expect(task.done).resolves.toMatchObject({ value: 2 });
  });
});
