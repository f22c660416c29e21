import { FORM } from '@calque/core/formats';
import { createHash, randomBytes, randomUUID } from 'node:crypto';
import { createWriteStream, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { strToU8, unzipSync, zipSync } from 'fflate';
import fc from 'fast-check';
import { sql } from 'drizzle-orm';
import { afterAll, describe, expect, it } from 'vitest';
import {
  attachFile,
  blobBytes,
  fileToRead,
  listFiles,
  listProjects,
  loadEntities,
  loadSteps,
  oneChunk,
  readAgain,
  schema,
  storeBlob,
  submitSteps,
  type NewStep,
} from '@calque/store';
import { PackageError } from '@calque/core/exchange';
import { groundStorey, inverseOf, type Change, type Entity } from '@calque/core/model';
import { anyEntity } from '../../core/test/any-entity.ts';
import { packProject } from '../src/package/pack.ts';
import { unpackProject } from '../src/package/unpack.ts';
import { newProject, step, testDatabase, underlayOf, wall } from './given.ts';

const database = testDatabase();
const folder = mkdtempSync(join(tmpdir(), 'calque-package-test-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

let made = 0;
async function packed(projectId: string): Promise<string> {
  const path = join(folder, `p${made++}.calque`);
  expect(await packProject(database, projectId, createWriteStream(path), '2026-11-28T12:00:00Z')).toBe(true);
  return path;
}
function written(bytes: Uint8Array): string {
  const path = join(folder, `w${made++}.calque`);
  writeFileSync(path, bytes);
  return path;
}
const counts = async () =>
  (
    await database.execute<Record<string, string>>(
      sql`select (select count(*) from projects) p, (select count(*) from entities) e, (select count(*) from changes) c, (select count(*) from files) f, (select count(*) from blobs) b`,
    )
  ).rows[0];
/** What a project is, but for the ids that are given anew. */
async function portrait(projectId: string) {
  const files = await listFiles(database, projectId);
  const named = new Map(files.map((f, i) => [f.id, `file${i}`]));
  const plain = (v: unknown) =>
    JSON.parse([...named].reduce((text, [id, as]) => text.replaceAll(id, as), JSON.stringify(v))) as unknown;
  const steps = await loadSteps(database, projectId, 0),
    place = new Map(steps.map((s) => [s.id, s.seq]));
  return {
    entities: plain(await loadEntities(database, projectId)),
    steps: steps.map((s) => ({
      seq: s.seq,
      label: s.label,
      kind: s.kind,
      of: s.of && place.get(s.of),
      change: plain(s.change),
    })),
    files: await Promise.all(
      files.map(async (f) => ({
        name: f.name,
        millimetresPerUnit: f.millimetresPerUnit,
        sha256: createHash('sha256')
          .update(await blobBytes(database, f.blobId))
          .digest('hex'),
      })),
    ),
  };
}

describe('a package', () => {
  const PASSWORD = 'öar "1"';
  it('gives the very project again, whatever it holds: entities of every type, any log, files and units said; passwords stay behind', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.uniqueArray(anyEntity, { maxLength: 12, selector: (e) => e.id }),
        fc.array(fc.nat(), { maxLength: 6 }),
        async (entities, picks) => {
          const id = await newProject(database, 'A "quoted" \\ näme 😀');
          const fileId = await attachFile(
            database,
            id,
            (await storeBlob(database, oneChunk(randomBytes(picks.length * 300)))).id,
            'Plan .pdf',
          );
          await database
            .update(schema.files)
            .set({ millimetresPerUnit: 25.4 })
            .where(sql`id = ${fileId}`);
          await readAgain(database, (await fileToRead(database, fileId))!, { password: PASSWORD });
          const steps: NewStep[] = entities.map((e) =>
            step({ type: 'add', entity: { ...e, ...(e.type === 'underlay' && { fileId }) } }),
          );
          for (const s of steps) await submitSteps(database, id, 'c', [s]);
          // Some are taken back and done again.
          for (const pick of picks) {
            const s = steps[pick % Math.max(1, steps.length)];
            if (s)
              await submitSteps(database, id, 'c', [
                { id: randomUUID(), label: 'Undo', kind: 'undo', of: s.id, change: inverseOf(s.change) },
              ]);
          }
          const path = await packed(id),
            opened = await unpackProject(database, path);
          expect(await portrait(opened)).toEqual(await portrait(id));
          expect((await listFiles(database, opened)).map((f) => f.password)).toEqual([null]);
          expect(
            Object.values(unzipSync(readFileSync(path))).some((bytes) =>
              Buffer.from(bytes).includes(PASSWORD),
            ),
          ).toBe(false);
        },
      ),
      { numRuns: 30 },
    );
  });

  it('of a project with a long log, and with a step of many entities, opens', async () => {
    const id = await newProject(database);
    const many: Change = {
      type: 'group',
      changes: Array.from({ length: 3000 }, (_, i) => ({ type: 'add', entity: wall(`m${i}`) })),
    };
    await submitSteps(database, id, 'c', [step(many)]);
    // A log of many steps as the database has it: sixty-six thousand by the store one by one would take minutes.
    const STEPS = 66000;
    await database.execute(sql`insert into changes (project_id, seq, id, client_id, label, kind, change)
      select ${id}, 2 + i, gen_random_uuid(), 'c', 'Thicker', 'do', jsonb_build_object('type', 'set', 'id', 'm0', 'before', jsonb_build_object('thickness', 99 + i), 'after', jsonb_build_object('thickness', 100 + i)) from generate_series(1, ${STEPS}::int) i`);
    await database.execute(
      sql`update entities set data = jsonb_set(data, '{thickness}', to_jsonb(100 + ${STEPS}::int)) where project_id = ${id} and id = 'm0'`,
    );
    await database.execute(sql`update projects set seq = ${STEPS + 2} where id = ${id}`);
    const opened = await unpackProject(database, await packed(id));
    expect((await loadSteps(database, opened, STEPS)).map((s) => s.seq)).toEqual([STEPS + 1, STEPS + 2]);
    expect((await loadEntities(database, opened)).find((e) => e.id === 'm0')).toMatchObject({
      thickness: 100 + STEPS,
    });
  });

  const settings: Entity = { type: 'settings', id: 'settings', name: 'Old', units: 'mm', precision: 0 };
  const first: Entity[] = [settings, groundStorey('ground')];
  const added = (entities: readonly Entity[], id = 's1') => ({
    id,
    seq: 1,
    label: 'New',
    kind: 'do',
    of: null,
    change: { type: 'group', changes: entities.map((entity) => ({ type: 'add', entity })) },
  });
  const bytes = new Uint8Array([1, 2, 3]),
    sha256 = createHash('sha256').update(bytes).digest('hex');
  const file = { id: 'f1', name: '../../plan.pdf', sha256, bytes: 3, path: `files/${sha256}` };
  type Parts = { manifest?: object; entities?: unknown; log?: unknown; more?: Record<string, Uint8Array> };
  const version1 = ({ manifest = {}, entities = first, log = [added(first)], more = {} }: Parts) =>
    zipSync({
      'manifest.json': strToU8(
        JSON.stringify({ format: 'calque', version: 1, written: '', files: [], ...manifest }),
      ),
      'entities.json': strToU8(JSON.stringify(entities)),
      'log.json': strToU8(JSON.stringify(log)),
      ...more,
    });

  it('of the first version opens as it was; what it names and lacks is put in order by a last step', async () => {
    const under = underlayOf('f1');
    const fine: Entity[] = [...first, under, wall('w')];
    const id = await unpackProject(
      database,
      written(
        version1({
          manifest: { files: [file] },
          entities: fine,
          log: [added(fine)],
          more: { [file.path]: bytes },
        }),
      ),
    );
    expect((await loadEntities(database, id)).map((e) => e.id)).toEqual(['settings', 'ground', 'u', 'w']);
    const [attached] = await listFiles(database, id);
    expect([attached.name, (await fileToRead(database, attached.id))!.status]).toEqual([
      '../../plan.pdf',
      'waiting',
    ]);
    expect((await loadEntities(database, id)).find((e) => e.id === 'u')).toMatchObject({
      fileId: attached.id,
    });

    const stray: Entity[] = [
      ...first,
      { ...under, fileId: 'none' },
      { ...wall('w'), planeId: 'gone', layerId: 'gone' },
    ];
    const mended = await unpackProject(database, written(version1({ entities: stray, log: [added(stray)] })));
    const now = await loadEntities(database, mended);
    expect(now.map((e) => e.id)).toEqual(['settings', 'ground', 'w']);
    expect(now[2]).toMatchObject({ planeId: 'ground', layerId: null });
    expect((await loadSteps(database, mended, 1)).map((s) => s.label)).toEqual([
      'Put in order while opening',
    ]);
  });

  const nasty = { ...wall('w'), thickness: -5 };
  it.each<[string, () => Uint8Array, string]>([
    ['no zip', () => new Uint8Array([1, 2, 3]), 'not-a-package'],
    ['an empty one', () => new Uint8Array(0), 'not-a-package'],
    ['another zip', () => zipSync({ 'a.txt': strToU8('x') }), 'not-a-package'],
    ['one that is cut short', () => version1({}).slice(0, -40), 'not-a-package'],
    ['a newer version', () => version1({ manifest: { version: 99 } }), 'newer-version'],
    ['one without its file', () => version1({ manifest: { files: [file] } }), 'damaged'],
    [
      'a file that is another',
      () => version1({ manifest: { files: [file] }, more: { [file.path]: new Uint8Array([1, 2, 4]) } }),
      'damaged',
    ],
    [
      'a file that is longer',
      () => version1({ manifest: { files: [file] }, more: { [file.path]: new Uint8Array([1, 2, 3, 4]) } }),
      'damaged',
    ],
    [
      'entities that the log does not lead to',
      () => version1({ entities: [...first, wall('w')] }),
      'damaged',
    ],
    ['a log that leads to more', () => version1({ log: [added([...first, wall('w')])] }), 'damaged'],
    [
      'an entity that is none',
      () => version1({ entities: [...first, nasty], log: [added([...first, nasty] as Entity[])] }),
      'damaged',
    ],
    ['a step that does not apply', () => version1({ log: [added(first), added(first, 's2')] }), 'damaged'],
    [
      'two steps of one id',
      () => version1({ log: [added(first), { ...added([]), change: { type: 'group', changes: [] } }] }),
      'damaged',
    ],
    ['a log that is no list', () => version1({ log: 5 }), 'damaged'],
    ['no settings', () => version1({ entities: [first[1]], log: [added([first[1]])] }), 'damaged'],
    ['no storey', () => version1({ entities: [first[0]], log: [added([first[0]])] }), 'damaged'],
    [
      'numbers without end',
      () =>
        zipSync({
          ...unzipSync(version1({})),
          'entities.json': strToU8(JSON.stringify(first).replace('2700', '1e999')),
        }),
      'damaged',
    ],
    [
      'text that is no JSON',
      () => zipSync({ ...unzipSync(version1({})), 'log.json': strToU8('[{]') }),
      'damaged',
    ],
    [
      'a manifest that is none',
      () => zipSync({ ...unzipSync(version1({})), 'manifest.json': strToU8('[]') }),
      'not-a-package',
    ],
  ])('refuses %s in words, and nothing is left of it', async (_, make, code) => {
    const before = await counts();
    const failure = await unpackProject(database, written(make())).catch((error: unknown) => error);
    expect(failure).toBeInstanceOf(PackageError);
    expect((failure as PackageError).code).toBe(code);
    expect((failure as PackageError).message.length).toBeLessThan(500);
    expect(await counts()).toEqual(before);
  });

  it('that inflates to gigabytes is refused before it does', async () => {
    const line = Buffer.alloc(450e6, 32);
    const bomb = written(
      zipSync(
        {
          ...unzipSync(version1({})),
          'entities.json': new Uint8Array(line.buffer, line.byteOffset, line.length),
        },
        { level: 1 },
      ),
    );
    const before = process.memoryUsage.rss();
    await expect(unpackProject(database, bomb)).rejects.toMatchObject({
      code: 'too-large',
      message: expect.stringContaining('450 MB'),
    });
    expect(process.memoryUsage.rss() - before).toBeLessThan(600e6);
  });

  it('is written in lines that an independent reader takes', async () => {
    const id = await newProject(database);
    await submitSteps(database, id, 'c', [step({ type: 'add', entity: wall('w') })]);
    const entries = unzipSync(new Uint8Array(readFileSync(await packed(id))));
    const lines = (name: string) =>
      Buffer.from(entries[name])
        .toString('utf8')
        .trim()
        .split('\n')
        .map((l) => JSON.parse(l) as { id: string; seq?: number });
    expect(JSON.parse(Buffer.from(entries['manifest.json']).toString())).toMatchObject({
      format: 'calque',
      version: 3,
      form: FORM,
      files: [],
    });
    expect([lines('entities.jsonl').map((e) => e.id), lines('log.jsonl').map((s) => s.seq)]).toEqual([
      ['settings', 'ground', 'w'],
      [1, 2],
    ]);
    expect(await packProject(database, randomUUID(), createWriteStream(join(folder, 'none')), '')).toBe(
      false,
    );
    expect((await listProjects(database)).some((p) => p.id === id)).toBe(true);
  });
});
