import { describe, expect, it } from 'vitest';
import type { UsualOpening } from '@calque/core/model';
import { listShelf, putOnShelf, takeOffShelf } from '@calque/store';
import { testDatabase } from './given.ts';

const database = testDatabase();
const opening = (id: string, more: Partial<UsualOpening> = {}): UsualOpening => ({
  type: 'opening',
  id,
  name: `Door ${id}`,
  kind: 'door',
  width: 900,
  sill: 0,
  head: 2100,
  ...more,
});
const named = async (id: string) => (await listShelf(database)).find((t) => t.thing.id === id);

describe('the shelf', () => {
  it('keeps what is put there, and another in its place only for who saw what was there', async () => {
    expect(await putOnShelf(database, opening('a'), 0)).toBe(1);
    expect(await named('a')).toEqual({ thing: opening('a'), version: 1 });
    // Two that saw the same: the second is told.
    expect(await putOnShelf(database, opening('a', { head: 2040 }), 1)).toBe(2);
    expect(await putOnShelf(database, opening('a', { head: 2200 }), 1)).toBe('changed');
    expect((await named('a'))!.thing).toMatchObject({ head: 2040 });
    expect(await putOnShelf(database, opening('a'), 0)).toBe('changed');
    expect(await takeOffShelf(database, 'a', 1)).toBe(false);
    expect(await takeOffShelf(database, 'a', 2)).toBe(true);
    expect(await named('a')).toBeUndefined();
    expect(await putOnShelf(database, opening('a'), 2)).toBe('changed');
  });

  it('of many at once that put one thing there, one does', async () => {
    const put = await Promise.all(
      Array.from({ length: 12 }, (_, i) => putOnShelf(database, opening('race', { head: 2000 + i }), 0)),
    );
    expect(put.filter((p) => p === 1)).toHaveLength(1);
    expect(put.filter((p) => p === 'changed')).toHaveLength(11);
  });
});
