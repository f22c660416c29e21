import { FORM } from '@calque/core/formats';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import {
  apply,
  groundStorey,
  modelOf,
  type Change,
  type Entity,
  type LogStep,
  type Model,
  type Wall,
} from '@calque/core/model';
import { ProjectSession } from '../src/project/session.ts';
import type { PendingStore, SetAside } from '../src/project/pending.ts';
import type { ChangesRequest, SentStep } from '../src/project/wire.ts';

const wall = (id: string, thickness = 100): Wall => ({
  type: 'wall',
  id,
  planeId: 'ground',
  from: [0, 0],
  to: [1000, 0],
  thickness,
  alignment: 'centre',
  height: 2700,
  heightAssumed: true,
  source: { underlayId: null, ends: 'typed', thickness: 'typed' },
});
const first: Entity[] = [
  { type: 'settings', id: 'settings', name: 'T', units: 'mm', precision: 0 },
  groundStorey('ground'),
];

/** A server in memory that keeps the same rules as the real one. */
class FakeServer {
  model: Model = modelOf(first);
  log: (LogStep & { clientId: string })[] = [
    {
      id: 's0',
      seq: 1,
      label: 'New',
      kind: 'do',
      of: null,
      clientId: 'x',
      change: { type: 'group', changes: first.map((entity) => ({ type: 'add', entity })) },
    },
  ];
  away = false;
  /** Takes the steps, but the answer is lost. */
  answerLost = false;
  posts = 0;
  mostSteps = Infinity;
  /** Labels of steps that the server's own schema refuses, and of those over which it fails each time. */
  invalid = new Set<string>();
  failing = new Set<string>();

  take(step: SentStep, clientId: string): 'ok' | 'known' | 'refused' {
    if (this.log.some((s) => s.id === step.id)) return 'known';
    const applied = apply(this.model, step.change);
    if (!applied.ok) return 'refused';
    this.model = applied.model;
    this.log.push({ ...step, seq: this.log.length + 1, clientId });
    return 'ok';
  }

  fetch = async (url: string, init?: { method?: string; body?: string }): Promise<Response> => {
    if (this.away) throw new TypeError('network');
    if (init?.method === 'POST' && url.endsWith('/changes')) {
      this.posts++;
      const { steps, clientId } = JSON.parse(init.body!) as ChangesRequest;
      if (steps.some((s) => this.failing.has(s.label)))
        return Response.json({ code: 'server', message: 'It failed.' }, { status: 500 });
      for (const step of steps) {
        if (this.invalid.has(step.label))
          return Response.json(
            { ok: false, code: 'invalid', stepId: step.id, message: 'it is malformed', seq: this.log.length },
            { status: 409 },
          );
        if (this.take(step, clientId) === 'refused')
          return Response.json(
            {
              ok: false,
              code: 'refused',
              stepId: step.id,
              message: 'changed elsewhere',
              seq: this.log.length,
            },
            { status: 409 },
          );
      }
      if (this.answerLost) {
        this.answerLost = false;
        throw new TypeError('network');
      }
      return Response.json({ ok: true, seq: this.log.length });
    }
    if (url.includes('/changes?after=')) {
      const query = new URL(url, 'http://server').searchParams;
      const asked = this.log
        .filter((s) => s.seq > Number(query.get('after')) && s.seq < Number(query.get('before') ?? Infinity))
        .slice(-Number(query.get('last') ?? Infinity));
      // Few fit into one answer.
      const steps = query.has('last') ? asked : asked.slice(0, this.mostSteps);
      return Response.json({ form: FORM, steps, more: steps.length < asked.length });
    }
    if (url.endsWith('/files')) return Response.json([]);
    const lines = [
      { form: FORM, seq: this.log.length, count: this.model.size, files: [] },
      ...this.model.values(),
    ];
    return new Response(lines.map((l) => `${JSON.stringify(l)}\n`).join(''));
  };
}

class FakeEvents {
  static last: FakeEvents;
  static readonly CLOSED = 2;
  onmessage: ((e: { data: string }) => void) | null = null;
  onopen: (() => void) | null = null;
  constructor() {
    FakeEvents.last = this;
  }
  close(): void {}
}

let server: FakeServer;
let kept: SentStep[];
let asides: SetAside[];
/** Ids of the steps that the open page itself keeps. */
let mine = new Set<string>();
let ids = 0;
const store: PendingStore = {
  takeLeft: async () => {
    const left = kept.filter((s) => !mine.has(s.id));
    left.forEach((s) => mine.add(s.id));
    return left;
  },
  add: async (_, steps) => {
    kept.push(...steps);
    steps.forEach((s) => mine.add(s.id));
  },
  remove: async (stepIds) => void (kept = kept.filter((s) => !stepIds.includes(s.id))),
  asides: async () => [...asides],
  setAside: async (_, aside) => void asides.push(aside),
  forgetAside: async (stepIds) => void (asides = asides.filter((a) => !stepIds.includes(a.step.id))),
};
const open = async () => {
  mine = new Set();
  const session = new ProjectSession('p', store, 'me', () => `id-${ids++}`);
  await session.open();
  await vi.advanceTimersByTimeAsync(0);
  return session;
};
const settle = () => vi.advanceTimersByTimeAsync(20000);
const walls = (s: ProjectSession) =>
  [...s.state.model.values()].filter((e) => e.type === 'wall').map((e) => e.id);
const set = (id: string, before: number, after: number): Change => ({
  type: 'set',
  id,
  before: { thickness: before },
  after: { thickness: after },
});

beforeEach(() => {
  vi.useFakeTimers();
  server = new FakeServer();
  kept = [];
  asides = [];
  vi.stubGlobal('fetch', server.fetch);
  vi.stubGlobal('EventSource', FakeEvents);
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe('an open project', () => {
  it('shows a step at once and says saved only when the server has it', async () => {
    const s = await open();
    s.do({ type: 'add', entity: wall('a') }, 'Draw');
    expect(walls(s)).toEqual(['a']);
    expect(s.state.saved).toBe('saving');
    await settle();
    expect(s.state).toMatchObject({ saved: 'saved', pendingCount: 0 });
    expect(server.model.has('a')).toBe(true);
    expect(kept).toEqual([]);
  });

  it('keeps steps while the server is away, over a reload too, and sends them in order when it is back', async () => {
    const s = await open();
    server.away = true;
    s.do({ type: 'add', entity: wall('a') }, 'Draw');
    s.do(set('a', 100, 150), 'Thicker');
    await vi.advanceTimersByTimeAsync(3000);
    expect(s.state).toMatchObject({ saved: 'waiting', pendingCount: 2 });
    s.close();
    server.away = false;
    const again = await open();
    expect((again.state.model.get('a') as Wall).thickness).toBe(150);
    await settle();
    expect(again.state.saved).toBe('saved');
    expect((server.model.get('a') as Wall).thickness).toBe(150);
  });

  it('a lost answer does not do the step twice', async () => {
    const s = await open();
    server.answerLost = true;
    s.do({ type: 'add', entity: wall('a') }, 'Draw');
    await settle();
    expect(server.posts).toBeGreaterThan(1);
    expect(server.log.filter((l) => l.label === 'Draw')).toHaveLength(1);
    expect(s.state).toMatchObject({ saved: 'saved', pendingCount: 0 });
    expect(walls(s)).toEqual(['a']);
  });

  it('takes in what another tab did, with its own pending steps on top', async () => {
    const s = await open();
    server.take(
      { id: 'other', label: 'Theirs', kind: 'do', of: null, change: { type: 'add', entity: wall('b') } },
      'they',
    );
    FakeEvents.last.onmessage!({ data: JSON.stringify({ projectId: 'p', what: 'changes', seq: 2 }) });
    s.do({ type: 'add', entity: wall('a') }, 'Mine');
    await settle();
    expect(walls(s).sort()).toEqual(['a', 'b']);
    expect(s.state.saved).toBe('saved');
  });

  it('a step that another tab overtook is taken back and told, the rest stays', async () => {
    const s = await open();
    s.do({ type: 'add', entity: wall('a') }, 'Draw');
    await settle();
    server.take({ id: 'other', label: 'Theirs', kind: 'do', of: null, change: set('a', 100, 300) }, 'they');
    s.do(set('a', 100, 150), 'Mine');
    s.do({ type: 'add', entity: wall('c') }, 'Also mine');
    await settle();
    expect((s.state.model.get('a') as Wall).thickness).toBe(300);
    expect(walls(s).sort()).toEqual(['a', 'c']);
    expect(s.state.notice?.text).toContain('"Mine"');
    expect(s.state.saved).toBe('saved');
  });

  it('undo and redo are steps of the log; the project itself is never undone', async () => {
    const s = await open();
    s.undo();
    expect(s.state.model.size).toBe(2);
    s.do({ type: 'add', entity: wall('a') }, 'Draw');
    s.undo();
    expect(walls(s)).toEqual([]);
    s.redo();
    await settle();
    expect(walls(s)).toEqual(['a']);
    expect(server.log.map((l) => l.kind)).toEqual(['do', 'do', 'undo', 'redo']);
    const again = await open();
    again.undo();
    expect(walls(again)).toEqual([]);
  });

  it('undo pressed before the history has come waits for it; steps done meanwhile are kept', async () => {
    const before = await open();
    before.do({ type: 'add', entity: wall('a') }, 'Draw');
    await settle();
    before.close();
    const answer = server.fetch;
    let release = () => {};
    const held = new Promise<void>((resolve) => {
      release = resolve;
    });
    vi.stubGlobal('fetch', async (url: string, init?: { method?: string; body?: string }) => {
      if (url.includes('last=')) await held;
      return answer(url, init);
    });
    const s = await open();
    s.do({ type: 'add', entity: wall('b') }, 'Draw another');
    await settle();
    s.undo();
    s.undo();
    expect(walls(s)).toEqual(['a', 'b']);
    release();
    await settle();
    expect(walls(s)).toEqual([]);
    expect(server.model.has('a')).toBe(false);
    expect(s.state.history.undone).toHaveLength(2);
  });

  it('where the browser keeps nothing and the server is away, that is said; when it is back all is saved', async () => {
    const session = new ProjectSession(
      'p',
      { ...store, add: () => Promise.reject(new Error('no store here')) },
      'me',
      () => 'one',
    );
    await session.open();
    server.away = true;
    session.do({ type: 'add', entity: wall('a') }, 'Draw');
    expect(session.state.saved).toBe('saving');
    await settle();
    expect(session.state).toMatchObject({ saved: 'unkept', pendingCount: 1 });
    server.away = false;
    await settle();
    expect(session.state.saved).toBe('saved');
    expect(server.model.has('a')).toBe(true);
  });

  it('a step is said to be kept only when it is: one that could not be kept at first is kept later, before that is said', async () => {
    let failing = true;
    const session = new ProjectSession(
      'p',
      {
        ...store,
        add: (id, steps) => (failing ? Promise.reject(new Error('not now')) : store.add(id, steps)),
      },
      'me',
      () => `id-${ids++}`,
    );
    await session.open();
    server.away = true;
    session.do({ type: 'add', entity: wall('a') }, 'Draw');
    await vi.advanceTimersByTimeAsync(700);
    expect(session.state.saved).toBe('unkept');
    failing = false;
    session.do({ type: 'add', entity: wall('b') }, 'Draw');
    await vi.advanceTimersByTimeAsync(0);
    expect([session.state.saved, kept.map((s) => s.change.type === 'add' && s.change.entity.id)]).toEqual([
      'waiting',
      ['a', 'b'],
    ]);
    session.close();
    server.away = false;
    const again = await open();
    await settle();
    expect(walls(again)).toEqual(['a', 'b']);
  });

  it('what has been saved stays the same object, so that nothing shown is made again', async () => {
    const s = await open();
    s.do({ type: 'add', entity: wall('a') }, 'Draw');
    const before = s.state.model.get('a');
    await settle();
    expect(s.state.saved).toBe('saved');
    expect(s.state.model.get('a')).toBe(before);
  });

  it('undo has no end: steps from long before come when they are needed', async () => {
    const MANY = 1300;
    for (let i = 0; i < MANY; i++)
      server.take(
        {
          id: `old${i}`,
          label: `Draw ${i}`,
          kind: 'do',
          of: null,
          change: { type: 'add', entity: wall(`w${i}`) },
        },
        'other',
      );
    const s = await open();
    expect([s.state.history.done.length, s.state.hasEarlier]).toEqual([1000, true]);
    for (let i = 0; i < MANY; i++) {
      s.undo();
      if (i % 200 === 0 || s.state.history.done.length === 0) await settle();
    }
    await settle();
    expect([walls(s).length, s.state.hasEarlier, s.state.history.undone.length]).toEqual([0, false, MANY]);
    s.redo();
    expect(walls(s)).toEqual(['w0']);
  });

  it('a change that does not fit is refused before it is sent', async () => {
    const s = await open();
    expect(s.can(set('none', 1, 2))).toBe(false);
    expect(s.do(set('none', 1, 2), 'Nothing')).toBe(false);
    expect(s.state.notice?.bad).toBe(true);
    expect(server.posts).toBe(0);
  });

  it('steps kept from before lose nothing when the server takes some of them while the page opens', async () => {
    const step = (id: string, change: Change): SentStep => ({ id, label: id, kind: 'do', of: null, change });
    const [one, two] = [step('one', { type: 'add', entity: wall('a') }), step('two', set('a', 100, 240))];
    kept = [one, two];
    // The request of the page that was closed is still under way: it is taken right after the project has been fetched.
    const plain = server.fetch;
    vi.stubGlobal('fetch', async (url: string, init?: { method?: string; body?: string }) => {
      const answer = await plain(url, init);
      if (url.endsWith('/projects/p') && !init?.body) server.take(one, 'me');
      return answer;
    });
    const session = await open();
    await settle();
    expect(session.state.model.get('a')).toMatchObject({ thickness: 240 });
    expect(server.model.get('a')).toMatchObject({ thickness: 240 });
    expect(session.state.history.done.map((d) => d.label)).toEqual(['one', 'two']);
    expect(session.state.saved).toBe('saved');
  });

  it('of steps that wait only the one at fault is refused, named with its reason, kept aside; those round it are saved', async () => {
    const s = await open();
    server.away = true;
    server.invalid.add('Bad');
    ['a', 'b', 'bad', 'c', 'd', 'e'].forEach((id) =>
      s.do({ type: 'add', entity: wall(id) }, id === 'bad' ? 'Bad' : 'Draw'),
    );
    await settle();
    expect(s.state).toMatchObject({ saved: 'waiting', pendingCount: 6 });
    server.away = false;
    await settle();
    expect([...server.model.keys()].slice(2)).toEqual(['a', 'b', 'c', 'd', 'e']);
    expect(walls(s)).toEqual(['a', 'b', 'c', 'd', 'e']);
    expect(s.state).toMatchObject({
      saved: 'saved',
      pendingCount: 0,
      asides: [{ step: { label: 'Bad' }, why: 'it is malformed' }],
    });
    expect([kept, asides.map((a) => a.step.label)]).toEqual([[], ['Bad']]);
    expect(s.state.notice?.text).toContain('"Bad"');
    // It is there after a reload too, can be tried again, and goes when the person lets it go.
    s.close();
    server.invalid.clear();
    const again = await open();
    expect(again.state.asides).toHaveLength(1);
    expect(again.retryAsides()).toBe(1);
    await settle();
    expect([again.state.asides, asides, server.model.has('bad')]).toEqual([[], [], true]);
  });

  it('no answer is met without end: after the same failure a few times the step is set aside and the rest goes on', async () => {
    const s = await open();
    server.failing.add('Fatal');
    s.do({ type: 'add', entity: wall('a') }, 'Draw');
    s.do({ type: 'add', entity: wall('f') }, 'Fatal');
    s.do({ type: 'add', entity: wall('b') }, 'Draw');
    s.do(set('f', 100, 120), 'Stands on it');
    for (let i = 0; i < 6; i++) await settle();
    expect([...server.model.keys()].slice(2)).toEqual(['a', 'b']);
    expect(s.state).toMatchObject({ saved: 'saved', pendingCount: 0 });
    expect(s.state.asides.map((x) => x.step.label)).toEqual(['Fatal', 'Stands on it']);
    expect(server.posts).toBeLessThan(20);
    s.forgetAsides(s.state.asides.map((x) => x.step.id));
    expect(s.state.asides).toEqual([]);
  });

  it('a server that has no room keeps everything waiting, and says why', async () => {
    const s = await open();
    const plain = server.fetch;
    vi.stubGlobal('fetch', async (url: string, init?: { method?: string; body?: string }) =>
      init?.method === 'POST'
        ? Response.json({ code: 'away', message: 'The disk of the database is full.' }, { status: 503 })
        : plain(url, init),
    );
    s.do({ type: 'add', entity: wall('a') }, 'Draw');
    for (let i = 0; i < 5; i++) await settle();
    expect(s.state).toMatchObject({
      saved: 'waiting',
      pendingCount: 1,
      away: 'The disk of the database is full.',
      asides: [],
    });
    vi.stubGlobal('fetch', plain);
    await settle();
    expect(s.state).toMatchObject({ saved: 'saved', away: null });
  });

  it("what is shown is what will be saved: texts are made sound and the server's own checks are made before", async () => {
    const s = await open();
    s.do(
      {
        type: 'add',
        entity: {
          type: 'layer',
          id: 'l',
          name: ' Walls \ud800',
          colour: 0,
          lineType: 'solid',
          weight: 0.25,
          visible: true,
          locked: false,
          fade: 0,
        },
      },
      `Add ${'x'.repeat(400)} \udc00`,
    );
    expect(s.state.model.get('l')).toMatchObject({ name: 'Walls \ufffd' });
    expect(s.do({ type: 'add', entity: { ...wall('n'), thickness: NaN } }, 'Nonsense')).toBe(false);
    expect(s.do({ type: 'add', entity: { ...wall('n'), planeId: 'attic' } }, 'Nowhere')).toBe(false);
    expect(s.do({ type: 'remove', entity: s.state.model.get('settings')! }, 'Forget')).toBe(false);
    expect(walls(s)).toEqual([]);
    await settle();
    expect(server.posts).toBe(1);
    expect(server.log.at(-1)!.label.length).toBeLessThanOrEqual(200);
    expect(server.model.get('l')).toEqual(s.state.model.get('l'));
  });

  it('what many answers hold is taken until there is no more', async () => {
    const s = await open();
    server.mostSteps = 2;
    for (let i = 0; i < 7; i++)
      server.take(
        {
          id: `o${i}`,
          label: 'Theirs',
          kind: 'do',
          of: null,
          change: { type: 'add', entity: wall(`o${i}`) },
        },
        'they',
      );
    FakeEvents.last.onmessage!({ data: JSON.stringify({ projectId: 'p', what: 'changes', seq: 8 }) });
    await settle();
    expect(walls(s)).toHaveLength(7);
  });

  it('what it is told of while it fetches or sends is fetched too', async () => {
    const s = await open();
    const plain = server.fetch,
      tell = (seq: number) =>
        FakeEvents.last.onmessage!({ data: JSON.stringify({ projectId: 'p', what: 'changes', seq }) });
    const theirs = (id: string) =>
      server.take(
        { id, label: 'Theirs', kind: 'do', of: null, change: { type: 'add', entity: wall(id) } },
        'they',
      );
    theirs('one');
    vi.stubGlobal('fetch', async (url: string, init?: { method?: string; body?: string }) => {
      const answer = await plain(url, init);
      // Another's step comes right after the server has answered, before the page has it.
      if (url.includes('/changes?after=') && !server.model.has('two')) {
        theirs('two');
        tell(3);
      }
      if (init?.method === 'POST' && !server.model.has('three')) {
        theirs('three');
        tell(server.log.length);
      }
      return answer;
    });
    tell(2);
    await settle();
    expect(walls(s)).toEqual(['one', 'two']);
    s.do({ type: 'add', entity: wall('mine') }, 'Mine');
    await settle();
    expect(walls(s).sort()).toEqual(['mine', 'one', 'three', 'two']);
  });

  it('steps that another tab left when it went are sent from here', async () => {
    const s = await open();
    await settle();
    kept.push({
      id: 'theirs',
      label: 'Left',
      kind: 'do',
      of: null,
      change: { type: 'add', entity: wall('left') },
    });
    await settle();
    expect([walls(s), server.model.has('left'), s.state.saved]).toEqual([['left'], true, 'saved']);
    expect(kept).toEqual([]);
  });
});
