import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type BrowserContext, type Page } from '@playwright/test';
import {
  apply, EMPTY_HISTORY, gripsOf, group, isTraced, modelOf, movedBy, remember, removeElements, replaced, withGrip, type Change, type Entity, type History, type Line, type Model, type Traced,
} from '@calque/core/model';
import { translation } from '@calque/core/geometry';

/**
 * A session of edits while the server is killed at random and the browser is killed and opened: at the end the project must be
 * what a second bookkeeping here, fed with every edit that was shown as saved or waiting, says it is. `faults.mjs [edits] [kills] [seed]`.
 */
const [EDITS, KILLS, SEED] = [1000, 100, Date.now() % 1e6].map((usual, i) => Number(process.argv[2 + i] ?? usual));
/** The browser is killed after so many edits, on average. */
const EDITS_A_BROWSER = 50;
const url = process.env.FAULTS_URL!;

interface Exposed { calque: { session: { do(change: Change, label: string): boolean; undo(): void; redo(): void; state: { saved: string; notice: { text: string } | null; history: { done: unknown[]; undone: unknown[] }; model: Map<string, Entity> } } } }

let seed = SEED >>> 0 || 1;
const chance = () => {
  seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
  return seed / 2 ** 32;
};
const pickOne = <T,>(list: readonly T[]): T => list[Math.floor(chance() * list.length)];

/** The second bookkeeping. */
class Mirror {
  history: History = EMPTY_HISTORY;
  private n = 0;
  constructor(public model: Model) {}

  next(): { kind: 'do' | 'undo' | 'redo'; change: Change } {
    const kind = chance() < 0.12 && this.history.done.length > 0 ? 'undo' : chance() < 0.06 && this.history.undone.length > 0 ? 'redo' : 'do';
    if (kind === 'undo') return { kind, change: this.history.done.at(-1)!.inverse };
    if (kind === 'redo') return { kind, change: this.history.undone.at(-1)!.again };
    const traced = [...this.model.values()].filter(isTraced), r = chance();
    const e = traced.length > 0 ? pickOne(traced) : null;
    let change: Change | null = null;
    if (e && r < 0.2) change = removeElements(this.model, [e]);
    else if (e && r < 0.4) change = group(traced.filter(() => chance() < 0.3).map((x) => replaced(x, movedBy(x, translation(Math.round(chance() * 500), 7)))));
    else if (e && r < 0.5) {
      const moved = withGrip(e, Math.floor(chance() * gripsOf(e).length), [chance() * 9000, chance() * 9000]);
      change = moved && replaced(e, moved);
    }
    return { kind, change: change ?? { type: 'add', entity: this.element() } };
  }

  private element(): Traced {
    const line: Line = { type: 'line', id: `e${++this.n}-${SEED}`, storeyId: 'ground', from: [chance() * 9000, chance() * 9000], to: [chance() * 9000, chance() * 9000 + 1], source: { underlayId: null, ends: 'typed', thickness: 'typed' } };
    const { type: _, to: __, from, ...rest } = line;
    return chance() < 0.5 ? line : chance() < 0.5 ? { ...rest, type: 'arc', centre: from, radius: 10 + chance() * 500, start: 1, sweep: 2 } : { ...rest, type: 'path', points: [from, line.to, [0, 0]], bulges: [0, 0.5], closed: false };
  }

  took({ kind, change }: { kind: 'do' | 'undo' | 'redo'; change: Change }): void {
    const applied = apply(this.model, change);
    if (!applied.ok) throw new Error(`The bookkeeping itself refused a change: ${applied.refusal.code}.`);
    this.model = applied.model;
    const of = kind === 'undo' ? this.history.done.at(-1)!.id : kind === 'redo' ? this.history.undone.at(-1)!.id : null;
    this.history = remember(this.history, { id: `s${++this.n}`, label: 'x', kind, of, change });
  }
}

/** Entities as text, whatever the order of keys; a field that is null is absent. */
const plain = (entities: Iterable<Entity>) => JSON.stringify([...entities].sort((a, b) => (a.id < b.id ? -1 : 1)), (_, value: unknown) =>
  (typeof value === 'object' && value !== null && !Array.isArray(value) ? Object.fromEntries(Object.entries(value).filter(([, v]) => v !== null).sort(([x], [y]) => (x < y ? -1 : 1))) : value));
/** Says where entities differ from the bookkeeping. */
function differences(where: string, entities: readonly Entity[]): void {
  const there = new Map(entities.map((e) => [e.id, e]));
  const missing = [...mirror.model.keys()].filter((key) => !there.has(key)), more = [...there.keys()].filter((key) => !mirror.model.has(key)), other = [...there].filter(([key, e]) => mirror.model.has(key) && plain([e]) !== plain([mirror.model.get(key)!])).map(([key]) => key);
  console.log(`On ${where}: missing ${missing.join(' ') || 'none'}; too many ${more.join(' ') || 'none'}; different ${other.join(' ') || 'none'}.`);
}
const state = (page: Page) => page.evaluate(() => (window as unknown as Exposed).calque.session.state.saved);
const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

let starting: Promise<void> | null = null;
/** Asks for the server to be killed; resolves when it is up again. */
function crash(): void {
  starting ??= new Promise<void>((resolve) => {
    process.once('message', () => {
      starting = null;
      resolve();
    });
    process.send!({ crash: 'web server' });
  });
}

const profile = mkdtempSync(join(tmpdir(), 'calque-faults-'));
const openBrowser = () => chromium.launchPersistentContext(profile, { executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'], viewport: { width: 1280, height: 800 } });

async function openPage(context: BrowserContext, id: string): Promise<Page> {
  await starting;
  const page = await context.newPage();
  for (;;) {
    const there = await page.goto(`${url}/project/${id}`).then(() => page.waitForFunction(() => (window as unknown as Partial<Exposed>).calque?.session.state.history.done.length !== undefined && document.querySelector('[data-testid=saved]') !== null, null, { timeout: 15000 })).then(() => true, () => false);
    if (there) break;
    await starting;
    await wait(200);
  }
  // Undo waits for the steps that were made before.
  await page.waitForFunction(() => (window as unknown as { calque: { session: { historyLoaded: boolean } } }).calque.session.historyLoaded, null, { timeout: 60000 });
  return page;
}

let context = await openBrowser();
const { id } = (await (await context.request.post(`${url}/api/projects`, { data: { name: 'Faults', units: 'mm', precision: 0 } })).json()) as { id: string };
let page = await openPage(context, id);
const mirror = new Mirror(modelOf(await page.evaluate(() => [...(window as unknown as Exposed).calque.session.state.model.values()])));
let kills = 0, browsers = 1, waiting = 0;
const began = Date.now();
for (let n = 1; n <= EDITS; n++) {
  const edit = mirror.next();
  const shown = await page.evaluate(({ kind, change }) => {
    const { session } = (window as unknown as Exposed).calque;
    if (kind === 'do') return session.do(change, 'edit');
    session[kind]();
    return true;
  }, edit);
  if (!shown) {
    const { entities, notice } = await page.evaluate(() => {
      const { state } = (window as unknown as Exposed).calque.session;
      return { entities: [...state.model.values()], notice: state.notice?.text };
    });
    console.log(`Edit ${n} (${edit.kind}) was refused with seed ${SEED}, after ${kills} kills and ${browsers} browsers: ${notice ?? ''}`);
    differences('the page', entities);
    process.exit(1);
  }
  mirror.took(edit);
  if (kills < KILLS && chance() < (KILLS - kills) / (EDITS - n + 1) && !starting) {
    kills++;
    crash();
  }
  // People do not type a thousand edits in a second; the server comes and goes meanwhile.
  await wait(chance() * 30);
  if (chance() < 1 / EDITS_A_BROWSER) {
    // What is still "saving" has not been promised yet.
    while ((await state(page)) === 'saving') await wait(5);
    if ((await state(page)) === 'waiting') waiting++;
    await context.browser()?.close();
    await context.close();
    context = await openBrowser();
    page = await openPage(context, id);
    browsers++;
  }
}
while (kills < KILLS) {
  await starting;
  kills++;
  crash();
}
await starting;
await page.waitForFunction(() => (window as unknown as Exposed).calque.session.state.saved === 'saved', null, { timeout: 120000 });
const server = ((await (await context.request.get(`${url}/api/projects/${id}`)).json()) as { entities: Entity[] }).entities;
const inPage = await page.evaluate(() => [...(window as unknown as Exposed).calque.session.state.model.values()]);
await context.close();
rmSync(profile, { recursive: true, force: true });
const wanted = plain(mirror.model.values()), good = plain(server) === wanted && plain(inPage) === wanted;
console.log(`${EDITS} edits, server killed ${kills} times, browser opened ${browsers} times (${waiting} of them left with steps waiting), ${mirror.model.size} entities at the end, ${Math.round((Date.now() - began) / 1000)} s, seed ${SEED}.`);
if (!good) {
  differences('the server', server);
  differences('the page', inPage);
}
console.log(good ? 'Nothing is missing: server and page hold what every shown edit led to.' : 'Something is missing or different.');
process.exit(good ? 0 : 1);
