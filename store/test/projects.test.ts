import { randomUUID } from 'node:crypto';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  destroyProject, findProject, listen, listProjects, loadEntities, loadProject, loadProjectText, loadSteps, setBinned, sheetsOnTable, submitSteps, type Notice,
} from '@calque/store';
import { applyOrThrow, EMPTY_MODEL, inverseOf, type Change, type Underlay } from '@calque/core/model';
import { newProject, step, testDatabase, wall } from './given.ts';

const database = testDatabase();
const add = (id: string, thickness?: number): Change => ({ type: 'add', entity: wall(id, thickness) });
const set = (id: string, before: number, after: number): Change => ({ type: 'set', id, before: { thickness: before }, after: { thickness: after } });

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
    expect(await setBinned(database, randomUUID(), true)).toBe(false);
  });

  it('takes its name from its settings', async () => {
    const id = await newProject(database, 'Old');
    await submitSteps(database, id, 'c', [step({ type: 'set', id: 'settings', before: { name: 'Old' }, after: { name: 'New' } })]);
    expect((await findProject(database, id))?.name).toBe('New');
  });
});

describe('steps', () => {
  it('are written with the entities, in the order of their coming', async () => {
    const id = await newProject(database);
    expect(await submitSteps(database, id, 'c', [step(add('b')), step({ type: 'group', changes: [add('c'), add('a')] }), step(set('b', 100, 150))])).toEqual({ ok: true, seq: 4 });
    const project = await loadProject(database, id), text = await loadProjectText(database, id);
    expect(text && { seq: text.seq, entities: JSON.parse(text.entities) as unknown }).toEqual(project);
    expect(project?.seq).toBe(4);
    expect(project?.entities.slice(2).map((e) => e.id)).toEqual(['b', 'c', 'a']);
    expect(project?.entities.find((e) => e.id === 'b')).toMatchObject({ thickness: 150 });
  });

  it('a removed entity that comes back stands last, as on a page that was open all along', async () => {
    const id = await newProject(database);
    await submitSteps(database, id, 'c', [step(add('a')), step(add('b')), step({ type: 'remove', entity: wall('a') }), step(add('a'))]);
    expect((await loadEntities(database, id)).slice(2).map((e) => e.id)).toEqual(['b', 'a']);
  });

  it('one that was sent twice counts once', async () => {
    const id = await newProject(database);
    const one = step(add('a'));
    await submitSteps(database, id, 'c', [one]);
    expect(await submitSteps(database, id, 'c', [one, step(set('a', 100, 120))])).toEqual({ ok: true, seq: 3 });
    expect((await loadSteps(database, id, 1)).map((s) => s.seq)).toEqual([2, 3]);
  });

  it('stops at the first that does not fit, keeps those before it and says which and why', async () => {
    const id = await newProject(database);
    const bad = step(set('a', 999, 120));
    const answer = await submitSteps(database, id, 'c', [step(add('a')), bad, step(add('z'))]);
    expect(answer).toEqual({ ok: false, code: 'refused', refusal: { code: 'stale', id: 'a' }, stepId: bad.id, seq: 2 });
    expect((await loadEntities(database, id)).map((e) => e.id)).toEqual(['settings', 'ground', 'a']);
  });

  it('a group is taken whole or not at all', async () => {
    const id = await newProject(database);
    const answer = await submitSteps(database, id, 'c', [step({ type: 'group', changes: [add('a'), set('none', 1, 2)] })]);
    expect(answer).toMatchObject({ ok: false, refusal: { code: 'missing', id: 'none' } });
    expect(await loadSteps(database, id, 1)).toEqual([]);
    expect((await loadEntities(database, id))).toHaveLength(2);
  });

  it('an entity that is not sound is refused with the words of the check', async () => {
    const id = await newProject(database);
    const answer = await submitSteps(database, id, 'c', [step(add('a', -5))]);
    expect(answer).toMatchObject({ ok: false, code: 'invalid', seq: 1 });
    expect((answer as { message: string }).message).toMatch(/thickness/);
  });

  it('of two pages that change the same thing at once, one is taken and one refused', async () => {
    const id = await newProject(database);
    await submitSteps(database, id, 'c', [step(add('a'))]);
    const answers = await Promise.all([submitSteps(database, id, 'x', [step(set('a', 100, 110))]), submitSteps(database, id, 'y', [step(set('a', 100, 220))])]);
    expect(answers.map((a) => a.ok).sort()).toEqual([false, true]);
    expect((await loadSteps(database, id, 2))).toHaveLength(1);
  });

  it('the latest few can be asked for', async () => {
    const id = await newProject(database);
    await submitSteps(database, id, 'c', ['a', 'b', 'c', 'd'].map((w) => step(add(w), `Draw ${w}`)));
    expect((await loadSteps(database, id, 1, { last: 2 })).map((s) => s.label)).toEqual(['Draw c', 'Draw d']);
    expect((await loadSteps(database, id, 1, { last: 50 }))).toHaveLength(4);
  });

  it('whatever is sent, the entities are what the log makes of nothing', async () => {
    const wish = fc.record({ who: fc.constantFrom('a', 'b', 'c'), what: fc.constantFrom('add', 'remove', 'set', 'back'), size: fc.integer({ min: 1, max: 500 }) });
    await fc.assert(fc.asyncProperty(fc.array(wish, { maxLength: 14 }), async (wishes) => {
      const id = await newProject(database);
      for (const { who, what, size } of wishes) {
        const now = (await loadEntities(database, id)).find((e) => e.id === who);
        const last = (await loadSteps(database, id, 1)).at(-1);
        const change: Change = what === 'back' && last ? inverseOf(last.change)
          : what === 'remove' ? { type: 'remove', entity: now ?? wall(who) }
            : what === 'set' && now?.type === 'wall' ? set(who, now.thickness, size) : add(who, size);
        await submitSteps(database, id, 'c', [step(change)]);
      }
      const replayed = (await loadSteps(database, id, 0)).reduce((model, s) => applyOrThrow(model, s.change), EMPTY_MODEL);
      expect(await loadEntities(database, id)).toEqual([...replayed.values()]);
    }), { numRuns: 15 });
  });

  it('others are told', async () => {
    const id = await newProject(database);
    const heard: Notice[] = [];
    const stop = await listen(database, (n) => { if (n.projectId === id) heard.push(n); });
    await submitSteps(database, id, 'c', [step(add('a'))]);
    await submitSteps(database, id, 'c', [step(set('a', 1, 2))]);
    await setBinned(database, id, true);
    await expect.poll(() => heard).toEqual([{ projectId: id, what: 'changes', seq: 2 }, { projectId: id, what: 'project' }]);
    await stop();
  });
});

describe('sheets on the table', () => {
  it('are the pages of shown underlays, each once', async () => {
    const id = await newProject(database);
    const fileId = randomUUID();
    const underlay = (name: string, page: number, visible: boolean): Underlay => ({
      type: 'underlay', id: name, name, fileId, page, storeyId: 'ground', crop: [0, 0, 10, 10], placement: [1, 0, 0, 1, 0, 0], scaleState: 'paper', calibration: null,
      visible, fade: 0, locked: false, snap: true, order: 1,
    } as unknown as Underlay);
    await submitSteps(database, id, 'c', [underlay('u', 1, true), underlay('v', 1, true), underlay('w', 2, false), underlay('x', 3, true)].map((entity) => step({ type: 'add', entity })));
    expect(await sheetsOnTable(database, id)).toEqual([{ fileId, page: 1 }, { fileId, page: 3 }]);
    expect(await sheetsOnTable(database, randomUUID())).toEqual([]);
  });
});
