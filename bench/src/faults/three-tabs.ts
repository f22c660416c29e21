import type { Page } from '@playwright/test';
import { modelOf, type Change, type Entity, type TraceLayer } from '@calque/core/model';
import { allSaved, Browser, inPage, savedState, type Exposed } from './browser.ts';
import { chance, pickOne, SEED, wait } from './chance.ts';
import { order, settled } from './installation.ts';
import { difference, Mirror } from './mirror.ts';

const TABS = 3;
/** Names as files and people bring them. */
const ODD_NAMES = [
  'Plan .pdf',
  'Walls ',
  'x'.repeat(300),
  '\ud800 half',
  'zero\0',
  '   ',
  '😀'.repeat(150),
  '<b>&amp;</b>',
  '__proto__',
  'a\nb\tc',
];
const layer = (id: string, name: string): TraceLayer => ({
  type: 'layer',
  id,
  name,
  colour: 0,
  lineType: 'solid',
  weight: 0.25,
  visible: true,
  locked: false,
  fade: 0,
});

interface Tab {
  page: Page;
  mirror: Mirror;
  layers: Map<string, Entity>;
  spoilt: number;
}

/**
 * Three tabs on one project, each with its own elements, odd names and now and then a malformed step among the good ones, while web
 * server, database and reader are killed, tabs are closed and the browser is killed. Everything that was shown must be there, the
 * malformed steps alone set aside.
 */
export async function threeTabs(edits: number, kills: number): Promise<string | null> {
  const browser = new Browser();
  await browser.open();
  const id = await browser.newProject('Three tabs');
  const first = modelOf(await browser.onServer(id));
  const tabs: Tab[] = [];
  for (let k = 0; k < TABS; k++)
    tabs.push({
      page: await browser.page(id),
      mirror: new Mirror(first, `t${k}-${SEED}-`, false),
      layers: new Map(),
      spoilt: 0,
    });
  const began = Date.now();
  let killed = 0,
    closed = 0,
    browsers = 1,
    busy = false,
    spoilt = 0;
  /** What a closed tab left waiting may be on its way through another tab that is still open: a person sees it come, and so is waited for. */
  const reopen = async (tab: Tab) => {
    tab.page = await browser.page(id);
    const own = [...tab.mirror.model.values(), ...tab.layers.values()];
    for (let i = 0; i < 240; i++) {
      const there = await inPage(tab.page);
      if (
        !difference(
          there.filter((e) => own.some((o) => o.id === e.id) || tab.mirror.owns(e.id)),
          own,
        )
      )
        return;
      await wait(250);
    }
    throw new Error('a tab that was opened again does not show what it had shown');
  };
  for (let n = 1; n <= edits; n++) {
    const tab = pickOne(tabs),
      r = chance();
    if (r < 0.06) {
      const made = layer(`l${n}-${SEED}`, pickOne(ODD_NAMES));
      const shown = await tab.page.evaluate(
        ({ entity, label }) => {
          const { session } = (window as unknown as Exposed).calque;
          return session.do({ type: 'add', entity }, label) ? session.state.model.get(entity.id) : null;
        },
        { entity: made, label: `Add ${made.name}` },
      );
      if (!shown) return `a layer named ${JSON.stringify(made.name)} was refused`;
      tab.layers.set(made.id, shown);
    } else if (r < 0.1) {
      // A step that its own page would have refused, as a faulty version of it might send.
      spoilt++;
      await tab.page.evaluate(
        (bad) => {
          const { session } = (
            window as unknown as { calque: { session: { pending: unknown[]; flush(): Promise<void> } } }
          ).calque;
          session.pending.push({
            id: crypto.randomUUID(),
            label: 'Malformed',
            kind: 'do',
            of: null,
            change: bad,
          });
          void session.flush();
        },
        { type: 'set', id: 'ground', before: {}, after: { height: -5 } } satisfies Change,
      );
    } else {
      const edit = tab.mirror.next();
      const shown = await tab.page.evaluate(
        ({ change }) => (window as unknown as Exposed).calque.session.do(change, 'edit'),
        edit,
      );
      if (!shown)
        return `edit ${n} was refused: ${await tab.page.evaluate(() => (window as unknown as Exposed).calque.session.state.notice?.text)}`;
      tab.mirror.took(edit);
    }
    if (killed < kills && chance() < (kills - killed) / (edits - n + 1) && !busy) {
      killed++;
      busy = true;
      void order({ crash: pickOne(['web server', 'web server', 'database', 'reader'] as const) }).then(() => {
        busy = false;
      });
    }
    await wait(chance() * 40);
    if (chance() < 0.02) {
      // What is still "saving" has not been promised yet.
      while ((await savedState(tab.page)) === 'saving') await wait(5);
      await tab.page.close({ runBeforeUnload: false });
      closed++;
      await reopen(tab);
    }
    if (chance() < 0.006) {
      for (const t of tabs) while ((await savedState(t.page)) === 'saving') await wait(5);
      await browser.close();
      await browser.open();
      browsers++;
      for (const t of tabs) await reopen(t);
    }
  }
  await settled();
  for (const t of tabs) await allSaved(t.page);
  // What a closed tab left is taken up by the others within seconds.
  const wanted = new Map<string, Entity>(first);
  for (const t of tabs)
    for (const e of [...t.mirror.model.values(), ...t.layers.values()]) wanted.set(e.id, e);
  let wrong: string | null = null;
  for (let i = 0; i < 60; i++) {
    wrong = difference(await browser.onServer(id), wanted.values());
    if (!wrong) break;
    await wait(500);
  }
  const pages = await Promise.all(tabs.map(async (t) => difference(await inPage(t.page), wanted.values())));
  const asides = await Promise.all(
    tabs.map((t) => t.page.evaluate(() => (window as unknown as Exposed).calque.session.state.asides.length)),
  );
  await browser.end();
  console.log(
    `Three tabs: ${edits} edits, ${killed} kills of web server, database and reader, ${closed} tabs closed, browser opened ${browsers} times, ${spoilt} malformed steps (${asides.join(', ')} seen set aside), ${wanted.size} entities at the end, ${Math.round((Date.now() - began) / 1000)} s.`,
  );
  return wrong ? `on the server ${wrong}` : (pages.find((p) => p !== null) ?? null);
}
