import { describe, expect, it } from 'vitest';
import {
  attachFile,
  fileToRead,
  keepPicture,
  keptPicture,
  oneChunk,
  setFileState,
  storeBlob,
  storeSheet,
} from '@calque/store';
import { groundStorey, type Entity, type TracedArc } from '@calque/core/model';
import { projectPicture } from '../src/project-picture.ts';
import { newProject, sheetOf, testDatabase, underlayOf, wall } from './given.ts';

const database = testDatabase();
const first: Entity[] = [
  { type: 'settings', id: 'settings', name: 'T', units: 'mm', precision: 0 },
  groundStorey('ground'),
];
/** A project of no files. */
const NONE = '00000000-0000-4000-8000-000000000000';
const arc = (i: number, radius: number): TracedArc => ({
  type: 'arc',
  id: `a${i}`,
  planeId: 'ground',
  source: wall('w').source,
  centre: [i * 100, (i % 7) * 100],
  radius,
  start: 0,
  sweep: 6,
});

describe('a project at a glance', () => {
  it('shows walls and lines within its frame; of nothing it shows empty sheets', async () => {
    expect(await projectPicture(database, NONE, first)).toContain('<rect x="230"');
    const svg = await projectPicture(database, NONE, [
      ...first,
      { ...wall('w'), to: [6000, 0] },
      arc(1, 500),
    ]);
    const figures = [...svg.matchAll(/[ML](-?[\d.]+) (-?[\d.]+)/g)].map((m) => [Number(m[1]), Number(m[2])]);
    expect(figures.length).toBeGreaterThan(20);
    expect(figures.every(([x, y]) => x >= 0 && x <= 640 && y >= 0 && y <= 400)).toBe(true);
  });

  it.each([
    ['twenty thousand arcs', 20000, 1e9],
    ['small ones', 20000, 10],
  ])('of %s a part is drawn, and it stays small', async (_, n, radius) => {
    const svg = await projectPicture(database, NONE, [
      ...first,
      ...Array.from({ length: n }, (_, i) => arc(i, radius)),
      ...Array.from(
        { length: 3000 },
        (_, i) => ({ ...wall(`w${i}`), from: [i * 10, 0], to: [i * 10, 5000] }) as Entity,
      ),
    ]);
    expect(svg.length).toBeLessThan(2e6);
  });

  it('shows no sheet of another project, whatever id an underlay names', async () => {
    const [mine, other] = [await newProject(database), await newProject(database)];
    const file = await attachFile(
      database,
      other,
      (await storeBlob(database, oneChunk(new Uint8Array([1])))).id,
      'secret.pdf',
    );
    await storeSheet(database, { ...sheetOf(file, 1), picture: new Uint8Array([1, 2, 3]) });
    const under = (fileId: string) => underlayOf(fileId);
    expect(await projectPicture(database, other, [...first, under(file)])).toContain('<image');
    for (const id of [file, 'none', "' or 1=1"])
      expect(await projectPicture(database, mine, [...first, under(id)])).not.toContain('<image');
  });

  it('is kept for the state that it shows, never an older over a newer, and made anew when a file has been read again', async () => {
    const id = await newProject(database);
    await keepPicture(database, id, 3, '<svg>3</svg>');
    await keepPicture(database, id, 2, '<svg>2</svg>');
    expect(await keptPicture(database, id)).toEqual({ seq: 3, svg: '<svg>3</svg>' });
    const file = await attachFile(
      database,
      id,
      (await storeBlob(database, oneChunk(new Uint8Array([1])))).id,
      'plan.pdf',
    );
    await setFileState(database, (await fileToRead(database, file))!, { status: 'ready' });
    expect(await keptPicture(database, id)).toBeNull();
  });
});
