import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { FORM } from '@calque/core/formats';
import { groundStorey, type Entity } from '@calque/core/model';
import { openProject, type PartlyOpened } from '../src/project/opening.ts';
import type { PendingStore } from '../src/project/pending.ts';
import { ProjectSession } from '../src/project/session.ts';
import { wall } from './given-table.ts';

afterEach(() => vi.unstubAllGlobals());
const first: Entity[] = [
  { type: 'settings', id: 'settings', name: 'T', units: 'mm', precision: 0 },
  groundStorey('ground'),
];
class FakeEvents {
  onmessage = null;
  onopen = null;
  close(): void {}
}
const NOTHING_KEPT: PendingStore = {
  takeLeft: async () => [],
  add: async () => {},
  remove: async () => {},
  asides: async () => [],
  setAside: async () => {},
  forgetAside: async () => {},
};

describe('a project that comes line by line', () => {
  const many = Array.from({ length: 25000 }, (_, i): Entity => wall(`w${i}`, [0, 0], [1000 + i, 0]));
  const head = { form: FORM, seq: 1, count: many.length + first.length, files: [] };
  const text = [head, ...first, ...many].map((l) => `${JSON.stringify(l)}\n`);
  /** A response whose body comes in pieces, each when it is asked for; cut where it is told to be. */
  const coming = (lines: readonly string[], pieces: number) => {
    const whole = lines.join(''),
      length = Math.ceil(whole.length / pieces);
    let at = 0;
    return new Response(
      new ReadableStream({
        async pull(controller) {
          await new Promise((resolve) => setTimeout(resolve, 60));
          if (at >= whole.length) controller.close();
          else controller.enqueue(new TextEncoder().encode(whole.slice(at, (at += length))));
        },
      }),
    );
  };
  const opened = (answer: () => Response) => {
    vi.stubGlobal('fetch', (url: string) =>
      Promise.resolve(
        url.endsWith('/lines') ? answer() : Response.json({ form: FORM, steps: [], more: false }),
      ),
    );
    return openProject('p', (partly) => parts.push(partly));
  };
  let parts: PartlyOpened[] = [];
  beforeEach(() => {
    parts = [];
  });

  it('is the very project, however its lines are cut; a large one is told of while it comes, and never as whole', async () => {
    const { model, seq } = await opened(() => coming(text, 17));
    expect([...model.values()]).toEqual([...first, ...many]);
    expect(seq).toBe(1);
    expect(parts.length).toBeGreaterThan(0);
    for (const { model: partly, share } of parts) {
      expect(share).toBeLessThan(1);
      expect(share).toBeCloseTo(partly.size / head.count, 12);
      expect([...partly.values()]).toEqual([...first, ...many].slice(0, partly.size));
    }
  });

  it('that breaks off is not taken for whole', async () => {
    for (const lines of [text.slice(0, -1), text.slice(0, 1), [], [text.join('').slice(0, 5000)]])
      await expect(opened(() => coming(lines, 3))).rejects.toThrow();
    await expect(opened(() => coming(text.slice(0, -1), 3))).rejects.toThrow(/did not come whole/);
  });

  it('of another form is not understood, and that is said', async () => {
    const newer = [`${JSON.stringify({ ...head, form: FORM + 1 })}\n`, ...text.slice(1)];
    await expect(opened(() => coming(newer, 2))).rejects.toMatchObject({
      code: 'newer-form',
      message: expect.stringContaining('Reload this page'),
    });
  });

  it('can be looked at while it comes and changed when it is there', async () => {
    vi.stubGlobal('EventSource', FakeEvents);
    vi.stubGlobal('fetch', (url: string) =>
      Promise.resolve(
        url.endsWith('/lines')
          ? coming(text, 17)
          : url.endsWith('/files')
            ? Response.json([])
            : Response.json({ form: FORM, steps: [], more: false }),
      ),
    );
    const session = new ProjectSession('p', NOTHING_KEPT, 'tab', () => crypto.randomUUID());
    const opening = session.open();
    await vi.waitFor(() => expect(session.state.opening).not.toBeNull(), { timeout: 5000 });
    expect(session.state.loaded).toBe(true);
    const add = { type: 'add', entity: wall('new', [0, 0], [500, 0]) } as const;
    expect(session.can(add)).toBe(false);
    expect(session.do(add, 'Draw')).toBe(false);
    expect(session.state.notice?.text).toMatch(/still being opened/);
    const { key } = session.state.notice!;
    expect([session.undo(), session.redo()]).toEqual([false, false]);
    expect(session.state.notice!.key).toBe(key + 2);
    await opening;
    expect(session.state.opening).toBeNull();
    expect(session.state.model.size).toBe(head.count);
    expect(session.can(add)).toBe(true);
    session.close();
  });
});
