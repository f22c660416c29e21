import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { emptyLinework, encodeLinework } from '@calque/core/linework';
import { buildSheetIndex, indexBytes } from '@calque/core/snapping';
import { wholeLinework } from '../src/workers/whole-linework.ts';

const page = (hatches: number, whole: string) => {
  const linework = { ...emptyLinework(10, 10), hatches };
  return new Response(encodeLinework(linework, indexBytes(buildSheetIndex(linework))) as BodyInit, {
    headers: { 'Calque-Whole': whole },
  });
};

describe('what is concluded from a page is concluded from all of it', () => {
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => void vi.useRealTimers());
  /** Fetches while time passes; what it gave, or why not. */
  const asked = async (answers: () => Response) => {
    const fetching = vi.fn(async () => answers());
    vi.stubGlobal('fetch', fetching);
    const done = wholeLinework('x').then(
      (l) => l.hatches,
      (error: Error) => error.message,
    );
    await vi.advanceTimersByTimeAsync(400000);
    return { gave: await done, times: fetching.mock.calls.length };
  };

  it('one that is whole is taken at once', async () => {
    expect(await asked(() => page(3, 'yes'))).toEqual({ gave: 3, times: 1 });
  });
  it('one of which the lines came first is waited for', async () => {
    let n = 0;
    expect(await asked(() => (++n < 4 ? page(0, 'later') : page(3, 'yes')))).toEqual({ gave: 3, times: 4 });
  });
  it('one of which reading broke off says so, as does one that takes too long', async () => {
    expect(await asked(() => page(0, 'never'))).toEqual({
      gave: expect.stringContaining('Have its file read again'),
      times: 1,
    });
    const { gave, times } = await asked(() => page(0, 'later'));
    expect(gave).toMatch(/still being read/);
    expect(times).toBeGreaterThan(100);
  });
  it('one that cannot be fetched says so', async () => {
    expect((await asked(() => new Response('', { status: 500 }))).gave).toMatch(/cannot be fetched/);
  });
});
