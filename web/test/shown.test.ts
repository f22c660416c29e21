import { describe, expect, it } from 'vitest';
import { parseEntity } from '@calque/core/model';
import { isShowable } from '../src/commands/shown.ts';
import { makeRegistry } from '../src/commands/registry.ts';
import { allCommands } from '../src/shell/commands.ts';
import { SHOWINGS } from '../src/shell/shown/showings/index.ts';
import { AROUND } from './given-around.ts';
import { tableWith } from './given-table.ts';

describe('tools shown at work', () => {
  const t = tableWith();
  const { list } = makeRegistry(allCommands(AROUND), {
    table: t.table,
    session: t.table.session,
    goTo: () => {},
  });

  it('are all the instruments of the ledge, and nothing that does not exist', () => {
    expect(Object.keys(SHOWINGS).sort()).toEqual(
      list
        .filter(isShowable)
        .map((c) => c.id)
        .sort(),
    );
  });

  it('begin with what a project can hold, run what they show, and say what it is about first', () => {
    for (const [id, { before, acts }] of Object.entries(SHOWINGS)) {
      for (const e of before) expect(() => parseEntity(e), `${id}: ${e.id}`).not.toThrow();
      expect(acts[0].does, id).toBe('say');
      const ran = acts.flatMap((a) => (a.does === 'run' ? [a.command] : []));
      for (const command of ran)
        expect(
          list.some((c) => c.id === command),
          command,
        ).toBe(true);
      expect(ran.includes(id) || acts.some((a) => a.does === 'call'), id).toBe(true);
    }
  });

  it('take half a minute at the most', () => {
    const seconds = (words: string) => 0.042 * words.length;
    for (const [id, { acts }] of Object.entries(SHOWINGS)) {
      const total = acts.reduce((sum, a) => sum + (a.does === 'say' ? seconds(a.words) : 1.6), 0);
      expect(total, id).toBeLessThan(32);
    }
  });
});
