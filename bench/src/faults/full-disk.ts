import { modelOf, type Change, type Note } from '@calque/core/model';
import { allSaved, Browser, inPage, savedState, url, type Exposed } from './browser.ts';
import { SEED, wait } from './chance.ts';
import { order } from './installation.ts';
import { difference, Mirror } from './mirror.ts';
import { ours } from '../ours.ts';

/** Edits while the disk of the database is full, and a file while the temporary folder is: nothing is lost, all goes on when there is room. */
export async function fullDisk(edits: number): Promise<string | null> {
  if (!(await order({ fill: 'disk' }))) {
    console.log('Full disk: this machine lets no disk of its own be made for it; left out.');
    return null;
  }
  await order({ free: 'disk' });
  const browser = new Browser();
  await browser.open();
  const id = await browser.newProject('Full disk');
  const page = await browser.page(id);
  const mirror = new Mirror(modelOf(await inPage(page)), `d${SEED}-`, false);
  const edit = async () => {
    const next = mirror.next();
    if (
      !(await page.evaluate(
        ({ change }) => (window as unknown as Exposed).calque.session.do(change, 'edit'),
        next,
      ))
    )
      throw new Error('an edit was refused');
    mirror.took(next);
  };
  for (let n = 0; n < edits; n++) await edit();
  await order({ fill: 'disk' });
  // Large enough that the last free blocks of the database do not take them.
  const line: Omit<Note, 'id'> = {
    type: 'text',
    planeId: 'ground',
    at: [0, 0],
    angle: 0,
    height: 100,
    text: 'x'.repeat(1900),
    source: { underlayId: null, ends: 'typed', thickness: 'typed' },
  };
  for (let n = 0; n < 40; n++) {
    const change: Change = {
      type: 'group',
      changes: Array.from({ length: 200 }, (_, i) => ({
        type: 'add',
        entity: { ...line, id: `f${n}-${i}`, text: `${n}-${i}-${line.text}` },
      })),
    };
    await page.evaluate((c) => (window as unknown as Exposed).calque.session.do(c, 'edit'), change);
    mirror.took({ kind: 'do', change });
  }
  await wait(15000);
  const state = await savedState(page),
    asides = await page.evaluate(() => (window as unknown as Exposed).calque.session.state.asides.length);
  await page.close();
  await order({ free: 'disk' });
  const again = await browser.page(id);
  await allSaved(again);
  const wrong = difference(await browser.onServer(id), mirror.model.values());

  await order({ fill: 'temporary folder' });
  const sent = await browser.context.request.post(`${url}/api/projects/${id}/files?name=plan.svg`, {
    data: Buffer.from(
      '<svg xmlns="http://www.w3.org/2000/svg" width="9mm" height="9mm"><line x2="5" y2="5" stroke="#000"/></svg>',
    ),
    headers: { ...ours(url), 'content-type': 'application/octet-stream' },
  });
  const file = async () =>
    (
      (await (await browser.context.request.get(`${url}/api/projects/${id}/files`)).json()) as {
        status: string;
        message: string | null;
      }[]
    )[0];
  let ended = await file();
  for (let i = 0; i < 120 && (ended.status === 'waiting' || ended.status === 'reading'); i++) {
    await wait(500);
    ended = await file();
  }
  await order({ free: 'temporary folder' });
  await browser.end();
  console.log(
    `Full disk: shown as ${state} while it was full, ${asides} set aside, ${mirror.model.size} entities after. Full temporary folder: the file (${sent.status()}) is ${ended.status}: ${ended.message ?? ''}`,
  );
  if (wrong) return `after a full disk ${wrong}`;
  if (state === 'saved' || asides > 0)
    return `while the disk was full the page showed ${state}, ${asides} set aside`;
  return ended.status === 'failed' && ended.message
    ? null
    : `with a full temporary folder the file is ${ended.status}`;
}
