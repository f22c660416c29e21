import { afterEach, expect, it, vi } from 'vitest';
import { FilesWatch } from '@/project/files-watch';
import type { FileInfo } from '@/project/wire';

afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

it('a list of files that got no answer is asked for again, until there is one or the project is closed', async () => {
  vi.useFakeTimers();
  const fetching = vi.fn(async (_: string) => Response.error());
  vi.stubGlobal('fetch', fetching);
  const shown: (readonly FileInfo[])[] = [],
    watch = new FilesWatch('p', (files) => shown.push(files));
  watch.soon();
  await vi.advanceTimersByTimeAsync(5000);
  expect(fetching.mock.calls.length).toBeGreaterThan(1);
  expect(shown).toEqual([]);
  fetching.mockImplementation(async () => new Response('[]'));
  await vi.advanceTimersByTimeAsync(5000);
  expect(shown).toEqual([[]]);
  const asked = fetching.mock.calls.length;
  await vi.advanceTimersByTimeAsync(60000);
  expect(fetching).toHaveBeenCalledTimes(asked);
  fetching.mockImplementation(async () => Response.error());
  watch.soon();
  await vi.advanceTimersByTimeAsync(100);
  watch.close();
  await vi.advanceTimersByTimeAsync(60000);
  expect(fetching).toHaveBeenCalledTimes(asked + 1);
});
