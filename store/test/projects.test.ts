import { randomUUID } from 'node:crypto';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  attachFile,
  destroyProject,
  findProject,
  listen,
  listProjects,
  loadEntities,
  loadProject,
  loadProjectText,
  loadSteps,
  loadStepsText,
  oneChunk,
  projectTally,
  renameProject,
  setBinned,
  sheetsOnTable,
  storeBlob,
  storeSheet,
  submitSteps,
  type Notice,
} from '@calque/store';
import { applyOrThrow, EMPTY_MODEL, inverseOf, type Change, type Underlay } from '@calque/core/model';
import { newProject, sheetOf, step, testDatabase, underlayOf, wall } from './given.ts';

const database = testDatabase();
const add = (id: string, thickness?: number): Change => ({ type: 'add', entity: wall(id, thickness) });
const set = (id: string, before: number, after: number): Change => ({
  type: 'set',
  id,
  before: { thickness: before },
  after: { thickness: after },
});

describe('projects', () => {
  it('a new one has its settings and a ground floor, made by the first step of its log', async () => {
    const id = await newProject(database, 'Rowing club');
    expect(await findProject(database, id)).toMatchObject({ name: 'Rowing club', seq: 1, deleted: null });
    expect((await loadEntities(database, id)).map((e) => e.type)).toEqual(['settings', 'storey']);
    expect((await loadSteps(database, id, 0)).map((s) => s.label)).toEqual(['New project']);
  });

  it('goes to the bin and comes back; only from the bin is it removed for good', async () => {
    const id = await newProject(database);
    expect(await destroyProject(database, id)).toBe(false);
    expect(await setBinned(database, id, true)).toBe(true);
    expect((await listProjects(database)).some((p) => p.id === id)).toBe(false);
    expect((await listProjects(database, true)).some((p) => p.id === id)).toBe(true);
    expect(await loadProject(database, id)).toBeNull();
    expect(await submitSteps(database, id, 'c', [step(add('a'))])).toEqual({ ok: false, code: 'no-project' });
    await setBinned(database, id, false);
    expect(await loadProject(database, id)).not.toBeNull();
    await setBinned(database, id, true);
    expect(await destroyProject(database, id)).toBe(true);
    expect(await findProject(database, id)).toBeNull();
    expect(await loadEntities(database, id)).toEqual([]);
    expect(await setBinned(database, randomUUID(), true)).toBe(false);
  });

  it('takes its name from its settings', async () => {
    const id = await newProject(database, 'Old');
    await submitSteps(database, id, 'c', [
      step({ type: 'set', id: 'settings', before: { name: 'Old' }, after: { name: 'New' } }),
    ]);
    expect((await findProject(database, id))?.name).toBe('New');
  });
});

describe('steps', () => {
  it('are written with the entities, in the order of their coming', async () => {
    const id = await newProject(database);
    expect(
      await submitSteps(database, id, 'c', [
        step(add('b')),
        step({ type: 'group', changes: [add('c'), add('a')] }),
        step(set('b', 100, 150)),
      ]),
    ).toEqual({ ok: true, seq: 4 });
    const project = await loadProject(database, id),
      text = await loadProjectText(database, id);
    expect(text && { seq: text.seq, entities: JSON.parse(text.entities) as unknown }).toEqual(project);
    expect(project?.seq).toBe(4);
    expect(project?.entities.slice(2).map((e) => e.id)).toEqual(['b', 'c', 'a']);
    expect(project?.entities.find((e) => e.id === 'b')).toMatchObject({ thickness: 150 });
  });

  it('a removed entity that comes back stands last, as on a page that was open all along', async () => {
    const id = await newProject(database);
    await submitSteps(database, id, 'c', [
      step(add('a')),
      step(add('b')),
      step({ type: 'remove', entity: wall('a') }),
      step(add('a')),
    ]);
    expect((await loadEntities(database, id)).slice(2).map((e) => e.id)).toEqual(['b', 'a']);
  });

  it('one that was sent twice counts once', async () => {
    const id = await newProject(database);
    const one = step(add('a'));
    await submitSteps(database, id, 'c', [one]);
    expect(await submitSteps(database, id, 'c', [one, step(set('a', 100, 120))])).toEqual({
      ok: true,
      seq: 3,
    });
    expect((await loadSteps(database, id, 1)).map((s) => s.seq)).toEqual([2, 3]);
  });

  it('stops at the first that does not fit, keeps those before it and says which and why', async () => {
    const id = await newProject(database);
    const bad = step(set('a', 999, 120));
    const answer = await submitSteps(database, id, 'c', [step(add('a')), bad, step(add('z'))]);
    expect(answer).toEqual({
      ok: false,
      code: 'refused',
      refusal: { code: 'stale', id: 'a' },
      stepId: bad.id,
      seq: 2,
    });
    expect((await loadEntities(database, id)).map((e) => e.id)).toEqual(['settings', 'ground', 'a']);
  });

  it('a group is taken whole or not at all', async () => {
    const id = await newProject(database);
    const answer = await submitSteps(database, id, 'c', [
      step({ type: 'group', changes: [add('a'), set('none', 1, 2)] }),
    ]);
    expect(answer).toMatchObject({ ok: false, refusal: { code: 'missing', id: 'none' } });
    expect(await loadSteps(database, id, 1)).toEqual([]);
    expect(await loadEntities(database, id)).toHaveLength(2);
  });

  it('an entity that is not sound is refused with the words of the check', async () => {
    const id = await newProject(database);
    const answer = await submitSteps(database, id, 'c', [step(add('a', -5))]);
    expect(answer).toMatchObject({ ok: false, code: 'invalid', seq: 1 });
    expect((answer as { message: string }).message).toMatch(/thickness/);
  });

  it('a malformed step alone is refused, named with its reason; those before it are kept', async () => {
    const id = await newProject(database);
    const bad = { ...step(add('x')), change: { type: 'drop', everything: true } };
    expect(await submitSteps(database, id, 'c', [step(add('a')), bad, step(add('z'))])).toEqual({
      ok: false,
      code: 'invalid',
      stepId: bad.id,
      message: expect.stringContaining('not a change'),
      seq: 2,
    });
    const zero = step({
      type: 'add',
      entity: { ...wall('n'), source: { ...wall('n').source, sheet: 'half \ud800' } },
    });
    expect(await submitSteps(database, id, 'c', [step(add('b')), zero])).toMatchObject({
      ok: false,
      code: 'invalid',
      stepId: zero.id,
      seq: 3,
    });
    expect((await loadEntities(database, id)).map((e) => e.id)).toEqual(['settings', 'ground', 'a', 'b']);
  });

  it('what the database refuses ends its own step, not those before it', async () => {
    const id = await newProject(database);
    // The fields that a set expects to replace are kept in the log as they came.
    const bad = step({
      type: 'set',
      id: 'a',
      before: { thickness: 100, ['none\0']: null },
      after: { thickness: 5 },
    });
    expect(await submitSteps(database, id, 'c', [step(add('a')), bad])).toMatchObject({
      ok: false,
      code: 'invalid',
      stepId: bad.id,
      seq: 2,
    });
    expect((await loadEntities(database, id)).find((e) => e.id === 'a')).toMatchObject({ thickness: 100 });
  });

  it('a step of more entities than a query takes parameters is saved, changed and removed', async () => {
    const id = await newProject(database);
    const many = Array.from({ length: 70000 }, (_, i) => wall(`w${i}`));
    const all = (make: (w: (typeof many)[number]) => Change): Change => ({
      type: 'group',
      changes: many.map(make),
    });
    expect(await submitSteps(database, id, 'c', [step(all((entity) => ({ type: 'add', entity })))])).toEqual({
      ok: true,
      seq: 2,
    });
    expect(await submitSteps(database, id, 'c', [step(all((w) => set(w.id, 100, 120)))])).toEqual({
      ok: true,
      seq: 3,
    });
    expect((await loadEntities(database, id)).slice(2).map((e) => e.id)).toEqual(many.map((w) => w.id));
    expect(
      await submitSteps(database, id, 'c', [
        step(all((w) => ({ type: 'remove', entity: { ...w, thickness: 120 } }))),
      ]),
    ).toEqual({ ok: true, seq: 4 });
    expect(await loadEntities(database, id)).toHaveLength(2);
    // One answer holds no more than so many bytes, but one step always.
    const seqs = async (asked: Parameters<typeof loadStepsText>[3]) => {
      const { text, more } = await loadStepsText(database, id, 0, { ...asked, most: 1e6 });
      return [(JSON.parse(text) as { seq: number }[]).map((s) => s.seq), more];
    };
    expect([await seqs({}), await seqs({ last: 10 }), await seqs({ before: 2 })]).toEqual([
      [[1, 2], true],
      [[4], true],
      [[1], false],
    ]);
  });

  it('nothing is left that refers to what is missing: a storey, a layer, a file', async () => {
    const id = await newProject(database);
    const layer = {
      type: 'layer',
      id: 'l',
      name: 'Walls',
      colour: 0,
      lineType: 'solid',
      weight: 0.25,
      visible: true,
      locked: false,
      fade: 0,
    } as const;
    const message = async (change: Change) =>
      ((await submitSteps(database, id, 'c', [step(change)])) as { message?: string }).message ?? null;
    expect(await message({ type: 'add', entity: { ...wall('a'), planeId: 'attic' } })).toMatch(/storey/);
    expect(
      await message({
        type: 'group',
        changes: [
          { type: 'add', entity: layer },
          { type: 'add', entity: { ...wall('a'), layerId: 'l' } },
        ],
      }),
    ).toBeNull();
    expect(await message({ type: 'remove', entity: layer })).toMatch(/layer/);
    expect(
      await message({
        type: 'group',
        changes: [
          { type: 'set', id: 'a', before: { layerId: 'l' }, after: { layerId: null } },
          { type: 'remove', entity: layer },
        ],
      }),
    ).toBeNull();
    const [settings, ground] = await loadEntities(database, id);
    expect(await message({ type: 'remove', entity: ground })).toMatch(/one storey/);
    expect(await message({ type: 'remove', entity: settings })).toMatch(/settings/);
    expect(await message({ type: 'add', entity: underlayOf(randomUUID()) })).toMatch(/file/);
  });

  it('steps as text are the very steps', async () => {
    const id = await newProject(database, 'A "quoted" näme');
    await submitSteps(database, id, 'c', [
      step(add('a'), 'Draw "a", then \\ more'),
      step(set('a', 100, 110)),
    ]);
    const { text, more } = await loadStepsText(database, id, 0);
    expect([JSON.parse(text), more]).toEqual([await loadSteps(database, id, 0), false]);
    expect((await loadStepsText(database, randomUUID(), 0)).text).toBe('[]');
  });

  it('of two pages that change the same thing at once, one is taken and one refused', async () => {
    const id = await newProject(database);
    await submitSteps(database, id, 'c', [step(add('a'))]);
    const answers = await Promise.all([
      submitSteps(database, id, 'x', [step(set('a', 100, 110))]),
      submitSteps(database, id, 'y', [step(set('a', 100, 220))]),
    ]);
    expect(answers.map((a) => a.ok).sort()).toEqual([false, true]);
    expect(await loadSteps(database, id, 2)).toHaveLength(1);
  });

  it('the latest few can be asked for', async () => {
    const id = await newProject(database);
    await submitSteps(
      database,
      id,
      'c',
      ['a', 'b', 'c', 'd'].map((w) => step(add(w), `Draw ${w}`)),
    );
    expect((await loadSteps(database, id, 1, { last: 2 })).map((s) => s.label)).toEqual(['Draw c', 'Draw d']);
    expect(await loadSteps(database, id, 1, { last: 50 })).toHaveLength(4);
  });

  it('whatever is sent, the entities are what the log makes of nothing', async () => {
    const wish = fc.record({
      who: fc.constantFrom('a', 'b', 'c'),
      what: fc.constantFrom('add', 'remove', 'set', 'back'),
      size: fc.integer({ min: 1, max: 500 }),
    });
    await fc.assert(
      fc.asyncProperty(fc.array(wish, { maxLength: 14 }), async (wishes) => {
        const id = await newProject(database);
        for (const { who, what, size } of wishes) {
          const now = (await loadEntities(database, id)).find((e) => e.id === who);
          const last = (await loadSteps(database, id, 1)).at(-1);
          const change: Change =
            what === 'back' && last
              ? inverseOf(last.change)
              : what === 'remove'
                ? { type: 'remove', entity: now ?? wall(who) }
                : what === 'set' && now?.type === 'wall'
                  ? set(who, now.thickness, size)
                  : add(who, size);
          await submitSteps(database, id, 'c', [step(change)]);
        }
        const replayed = (await loadSteps(database, id, 0)).reduce(
          (model, s) => applyOrThrow(model, s.change),
          EMPTY_MODEL,
        );
        expect(await loadEntities(database, id)).toEqual([...replayed.values()]);
      }),
      { numRuns: 15 },
    );
  });

  it('others are told', async () => {
    const id = await newProject(database);
    const heard: Notice[] = [];
    const stop = await listen(database, (n) => {
      if (n.projectId === id) heard.push(n);
    });
    await submitSteps(database, id, 'c', [step(add('a'))]);
    await submitSteps(database, id, 'c', [step(set('a', 1, 2))]);
    await setBinned(database, id, true);
    await expect
      .poll(() => heard)
      .toEqual([
        { projectId: id, what: 'changes', seq: 2 },
        { projectId: id, what: 'project' },
      ]);
    await stop();
  });
});

describe('sheets on the table', () => {
  it('are the pages of shown underlays that have been read, each once', async () => {
    const id = await newProject(database);
    const fileId = await attachFile(
      database,
      id,
      (await storeBlob(database, oneChunk(new Uint8Array([1])))).id,
      'plan.pdf',
    );
    const underlay = (name: string, page: number, visible: boolean): Underlay =>
      ({
        type: 'underlay',
        id: name,
        name,
        fileId,
        page,
        planeId: 'ground',
        crop: [0, 0, 10, 10],
        placement: [1, 0, 0, 1, 0, 0],
        scaleState: 'paper',
        calibration: null,
        visible,
        fade: 0,
        locked: false,
        snap: true,
        order: 1,
      }) as unknown as Underlay;
    await submitSteps(
      database,
      id,
      'c',
      [underlay('u', 1, true), underlay('v', 1, true), underlay('w', 2, false), underlay('x', 3, true)].map(
        (entity) => step({ type: 'add', entity }),
      ),
    );
    // Right after a package was opened there is nothing to fetch of them.
    expect(await sheetsOnTable(database, id)).toEqual([]);
    const linework = (await storeBlob(database, oneChunk(new Uint8Array([2])))).id;
    for (const page of [1, 2, 3])
      await storeSheet(database, sheetOf(fileId, page, { lineworkBlobId: linework }));
    expect(await sheetsOnTable(database, id)).toEqual([
      { fileId, page: 1 },
      { fileId, page: 3 },
    ]);
    expect(await sheetsOnTable(database, randomUUID())).toEqual([]);
  });

  it('are told by what they hold, and renamed by a step of their log', async () => {
    const id = await newProject(database),
      blob = await storeBlob(database, oneChunk(new Uint8Array([3]))),
      fileId = await attachFile(database, id, blob.id, 'plan.pdf');
    const sheet = (name: string, more: object): Change => ({
      type: 'add',
      entity: underlayOf(fileId, { id: name, name, ...more }),
    });
    const calibration = {
      from: [0, 0],
      to: [1, 0],
      trueLength: 100,
      oldLength: 1,
      factor: 100,
      typed: '100',
      fit: null,
    };
    const taken = await submitSteps(
      database,
      id,
      'c',
      [
        add('a'),
        add('b'),
        sheet('bare', {}),
        sheet('scaled', { scaleState: 'calibrated', calibration }),
        // Taken against what the sheet says itself: nothing is promised of it.
        sheet('against', {
          scaleState: 'calibrated',
          calibration: { ...calibration, against: { kind: 'dimensions', count: 9, factor: 50 } },
        }),
      ].map((c) => step(c)),
    );
    expect(taken).toMatchObject({ ok: true });
    expect(await projectTally(database, id)).toEqual({
      sheets: 3,
      calibrated: 1,
      types: { settings: 1, storey: 1, wall: 2 },
    });
    const before = (await findProject(database, id))!;
    await renameProject(database, id, 'Boathouse, copy');
    await renameProject(database, id, 'Boathouse, copy');
    expect(await findProject(database, id)).toMatchObject({ name: 'Boathouse, copy', seq: before.seq + 1 });
    await renameProject(database, randomUUID(), 'Nothing');
  });
});
