import { modelOf } from '@calque/core/model';
import { allSaved, Browser, inPage, savedState, type Exposed } from './browser.ts';
import { chance, SEED, wait } from './chance.ts';
import { order, settled } from './installation.ts';
import { difference, Mirror } from './mirror.ts';

/** The browser is killed after so many edits, on average. */
const EDITS_A_BROWSER = 50;

/** One tab edits, takes back and does again while the web server is killed at random and the browser too. Says what is missing, or null. */
export async function oneTab(edits: number, kills: number): Promise<string | null> {
  const browser = new Browser();
  await browser.open();
  const id = await browser.newProject('Faults');
  let page = await browser.page(id);
  const mirror = new Mirror(modelOf(await inPage(page)), `e${SEED}-`);
  let killed = 0,
    browsers = 1,
    waiting = 0,
    busy = false;
  const began = Date.now();
  const crash = () => {
    killed++;
    busy = true;
    void order({ crash: 'web server' }).then(() => {
      busy = false;
    });
  };
  for (let n = 1; n <= edits; n++) {
    const edit = mirror.next();
    const shown = await page.evaluate(({ kind, change }) => {
      const { session } = (window as unknown as Exposed).calque;
      if (kind === 'do') return session.do(change, 'edit');
      session[kind]();
      return true;
    }, edit);
    if (!shown)
      return `Edit ${n} (${edit.kind}) was refused, after ${killed} kills and ${browsers} browsers: ${await page.evaluate(() => (window as unknown as Exposed).calque.session.state.notice?.text)}`;
    mirror.took(edit);
    if (killed < kills && chance() < (kills - killed) / (edits - n + 1) && !busy) crash();
    // People do not type a thousand edits in a second; the server comes and goes meanwhile.
    await wait(chance() * 30);
    if (chance() < 1 / EDITS_A_BROWSER) {
      // What is still "saving" has not been promised yet.
      while ((await savedState(page)) === 'saving') await wait(5);
      if ((await savedState(page)) === 'waiting') waiting++;
      await browser.close();
      await browser.open();
      page = await browser.page(id);
      browsers++;
    }
  }
  while (killed < kills) {
    await settled();
    crash();
  }
  await settled();
  await allSaved(page);
  const wrong = difference(await browser.onServer(id), mirror.model.values()),
    here = difference(await inPage(page), mirror.model.values());
  await browser.end();
  console.log(
    `One tab: ${edits} edits, web server killed ${killed} times, browser opened ${browsers} times (${waiting} of them left with steps waiting), ${mirror.model.size} entities at the end, ${Math.round((Date.now() - began) / 1000)} s.`,
  );
  return wrong ? `on the server ${wrong}` : here && `on the page ${here}`;
}
