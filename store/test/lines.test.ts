import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { loadEntities, projectLines, setBinned, submitSteps } from '@calque/store';
import type { Change, Entity } from '@calque/core/model';
import { newProject, step, testDatabase, wall } from './given.ts';

const database = testDatabase();
const layer = {
  type: 'layer',
  id: 'walls',
  name: 'Walls – äöü 壁',
  colour: 0,
  lineType: 'solid',
  weight: 0.25,
  visible: true,
  locked: false,
  fade: 0,
} as const;

async function read(lines: AsyncIterable<Uint8Array>): Promise<Entity[]> {
  const parts: Uint8Array[] = [];
  for await (const part of lines) parts.push(part);
  const text = Buffer.concat(parts).toString('utf8');
  return text === ''
    ? []
    : text
        .trimEnd()
        .split('\n')
        .map((l) => JSON.parse(l) as Entity);
}

describe('a project line by line', () => {
  it('is all of it, what others lie on first, each in the order in which it came', async () => {
    const id = await newProject(database);
    const walls = Array.from({ length: 3000 }, (_, i): Change => ({
      type: 'add',
      entity: wall(`w${i}`, 100 + i),
    }));
    await submitSteps(database, id, 'c', [
      step({ type: 'group', changes: walls }),
      step({ type: 'add', entity: layer }),
    ]);
    const project = (await projectLines(database, id))!;
    const entities = await read(project.lines);
    expect(project).toMatchObject({ seq: 3, count: 3003 });
    expect(entities).toHaveLength(3003);
    expect(entities.slice(0, 4).map((e) => e.id)).toEqual(['settings', 'ground', 'walls', 'w0']);
    const all = await loadEntities(database, id);
    expect(entities.filter((e) => e.type === 'wall')).toEqual(all.filter((e) => e.type === 'wall'));
    expect(entities[2]).toEqual(layer);
  });

  it('holds no connection: not when all is taken, not when the reader goes, not where there is nothing', async () => {
    const id = await newProject(database);
    for (let i = 0; i < 12; i++) {
      const { lines } = (await projectLines(database, id))!;
      // One reads all, one goes after the first piece, one never begins.
      if (i % 3 === 0) await read(lines);
      else if (i % 3 === 1) for await (const _ of lines) break;
      expect(await projectLines(database, randomUUID())).toBeNull();
    }
    await expect.poll(() => database.$client.idleCount).toBe(database.$client.totalCount);
    await setBinned(database, id, true);
    expect(await projectLines(database, id)).toBeNull();
  });
});
