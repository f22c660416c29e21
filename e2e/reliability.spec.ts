import { readFileSync } from 'node:fs';
import { expect, test, type BrowserContext, type Page } from '@playwright/test';
import { PDFDocument, PDFName, PDFString } from '@cantoo/pdf-lib';
import { allSaved, entities, newProject, serverAway, sheetFile } from './bench.ts';

interface Session {
  do(change: object, label: string): boolean;
  pending: object[];
  flush(): Promise<void>;
  state: {
    saved: string;
    model: Map<string, { id: string; type: string; name?: string }>;
    asides: unknown[];
  };
}
const wall = (id: string) => ({
  type: 'wall',
  id,
  planeId: 'ground',
  from: [0, 0],
  to: [1000, 0],
  thickness: 100,
  alignment: 'centre',
  height: 2700,
  heightAssumed: true,
  source: { underlayId: null, ends: 'typed', thickness: 'typed' },
});
/** Does a step as a tool does. */
const draw = (page: Page, id: string) =>
  page.evaluate(
    (entity) =>
      (window as unknown as { calque: { session: Session } }).calque.session.do(
        { type: 'add', entity },
        'Wall',
      ),
    wall(id),
  );
const wallIds = async (page: Page) => (await entities<{ id: string }>(page, 'wall')).map((w) => w.id).sort();
const open = async (context: BrowserContext, url: string) => {
  const page = await context.newPage();
  await page.goto(url);
  await page.getByTestId('saved').waitFor();
  return page;
};

test('twenty tabs on one project work, and each sees what the others do', async ({ page, context }) => {
  test.setTimeout(240000);
  await newProject(page, 'Twenty tabs');
  const tabs = [page];
  while (tabs.length < 20) tabs.push(await open(context, page.url()));
  for (const [i, tab] of tabs.entries()) expect(await draw(tab, `w${i}`)).toBe(true);
  const all = tabs.map((_, i) => `w${i}`).sort();
  for (const tab of tabs) {
    await expect.poll(() => wallIds(tab), { timeout: 30000 }).toEqual(all);
    await allSaved(tab);
  }
  // The one that holds the stream goes: another takes over.
  await tabs[0].close();
  await draw(tabs[19], 'last');
  await expect.poll(() => wallIds(tabs[10]), { timeout: 15000 }).toContain('last');
});

test('two tabs keep their steps apart while the server is away; closed and opened again, nothing is missing', async ({
  page,
  context,
}) => {
  await newProject(page, 'Two tabs');
  const url = page.url(),
    other = await open(context, url);
  await serverAway(page);
  await serverAway(other);
  await draw(page, 'mine');
  await draw(other, 'yours');
  await draw(page, 'mine2');
  for (const tab of [page, other])
    await expect(tab.getByTestId('saved')).toHaveText(/Not saved yet/, { timeout: 20000 });
  await page.close();
  await other.close();
  const again = await open(context, url);
  await expect.poll(() => wallIds(again)).toEqual(['mine', 'mine2', 'yours']);
  await allSaved(again);
  await again.reload();
  await again.getByTestId('saved').waitFor();
  await expect.poll(() => wallIds(again)).toEqual(['mine', 'mine2', 'yours']);
});

test('a malformed step among good ones is set aside with its reason; it can be saved as a file, tried again, let go', async ({
  page,
}) => {
  await newProject(page, 'Set aside');
  await serverAway(page);
  await draw(page, 'a');
  await page.evaluate(
    (bad) => {
      const { session } = (window as unknown as { calque: { session: Session } }).calque;
      session.pending.push({
        id: crypto.randomUUID(),
        label: 'A wall of nothing',
        kind: 'do',
        of: null,
        change: { type: 'add', entity: bad },
      });
    },
    { ...wall('bad'), thickness: -5 },
  );
  await draw(page, 'b');
  await page.unroute('**/changes');
  await expect(page.getByTestId('set-aside')).toHaveText('≠ 1 taken back', { timeout: 20000 });
  await allSaved(page);
  expect(await wallIds(page)).toEqual(['a', 'b']);
  await page.reload();
  await page.getByTestId('set-aside').click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('A wall of nothing: thickness must be greater than 0');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    dialog.getByRole('button', { name: 'Save as a file' }).click(),
  ]);
  expect(JSON.parse(readFileSync(await download.path(), 'utf8'))).toMatchObject({
    format: 'calque-steps',
    steps: [{ label: 'A wall of nothing', change: { entity: { id: 'bad' } } }],
  });
  await dialog.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByText(/"A wall of nothing" cannot be done/)).toBeVisible();
  await dialog.getByRole('button', { name: 'Let go' }).click();
  await expect(page.getByTestId('set-aside')).toHaveCount(0);
  await page.reload();
  await page.getByTestId('saved').waitFor();
  await expect(page.getByTestId('set-aside')).toHaveCount(0);
});

/** A plan with a layer whose name ends in a space, one whose name is no text, and lines on both. */
async function oddLayers(): Promise<Buffer> {
  const document = await PDFDocument.create(),
    sheet = document.addPage([600, 400]),
    { context } = document;
  const names = ['Walls ', `${'Long '.repeat(60)}`, '  '];
  const groups = names.map((name) =>
    context.register(context.obj({ Type: 'OCG', Name: PDFString.of(name) })),
  );
  document.catalog.set(PDFName.of('OCProperties'), context.obj({ OCGs: groups, D: { Order: groups } }));
  const content = names
    .map((_, i) => `/OC /L${i} BDC 2 w 50 ${60 + 80 * i} m 550 ${60 + 80 * i} l S EMC`)
    .join('\n');
  sheet.node.set(PDFName.of('Contents'), context.register(context.stream(content)));
  sheet.node.set(
    PDFName.of('Resources'),
    context.obj({ Properties: Object.fromEntries(groups.map((ref, i) => [`L${i}`, ref])) }),
  );
  return Buffer.from(await document.save({ useObjectStreams: false }));
}

test('ordinary odd names do no harm: of files, and of layers that are converted', async ({ page }) => {
  await newProject(page, 'Odd names');
  const buffer = await oddLayers();
  await page.getByTestId('file-input').setInputFiles({
    name: `${'n'.repeat(192)}.pdf`,
    mimeType: 'application/pdf',
    buffer: readFileSync(sheetFile('13g_nested_q_5000.pdf')),
  });
  await page
    .getByTestId('file-input')
    .setInputFiles({ name: 'Plan .pdf', mimeType: 'application/pdf', buffer });
  await expect(page.getByText('PDF, 1 page').nth(1)).toBeVisible({ timeout: 30000 });
  await page.getByRole('button', { name: 'Lay at the origin' }).first().click();
  await expect.poll(async () => (await entities<{ name: string }>(page, 'underlay')).length).toBe(1);
  await allSaved(page);
  // Its layers become layers of the trace, under names that can be kept.
  await page.evaluate(() => {
    const { session } = (window as unknown as { calque: { session: Session } }).calque;
    for (const [i, name] of ['Walls ', 'Long '.repeat(60), '\ud800 half', '   '].entries())
      session.do(
        {
          type: 'add',
          entity: {
            type: 'layer',
            id: `l${i}`,
            name,
            colour: 0,
            lineType: 'solid',
            weight: 0.25,
            visible: true,
            locked: false,
            fade: 0,
          },
        },
        `Layer ${name}`,
      );
  });
  await allSaved(page);
  await page.reload();
  await page.getByTestId('saved').waitFor();
  const names = (await entities<{ name: string }>(page, 'layer')).map((l) => l.name);
  expect(names).toEqual(['Walls', expect.stringMatching(/^Long .*…$/), '\ufffd half', 'Unnamed']);
});

test('what does not fit is told before it is sent; a reader that does not run is told while one waits for it', async ({
  page,
}) => {
  await newProject(page, 'No room');
  let sent = 0;
  page.on('request', (r) => {
    if (r.method() === 'POST' && r.url().includes('/files?')) sent++;
  });
  await page.route('**/room?bytes=*', (route) =>
    route.fulfill({
      json: {
        ok: false,
        message:
          'The files of this project have 8.0 GB of the 8.0 GB that a project may have; 1 MB more do not fit.',
      },
    }),
  );
  await page.getByTestId('file-input').setInputFiles(sheetFile('13g_nested_q_5000.pdf'));
  await expect(page.getByText(/8.0 GB that a project may have/)).toBeVisible();
  expect(sent).toBe(0);
  await page.unroute('**/room?bytes=*');
  await page.route('**/api/health', (route) =>
    route.fulfill({
      json: { ok: true, parts: [{ name: 'reader', state: 'failing', why: 'ended with 1: no memory' }] },
    }),
  );
  await page.route('**/files', async (route) => {
    const response = await route.fetch(),
      files = (await response.json()) as object[];
    await route.fulfill({ json: files.map((f) => ({ ...f, status: 'waiting', sheets: [] })) });
  });
  await page.getByTestId('file-input').setInputFiles(sheetFile('13g_nested_q_5000.pdf'));
  await expect(
    page
      .getByRole('alert')
      .filter({ hasText: 'The reader ends as soon as it is started (ended with 1: no memory)' }),
  ).toBeVisible({ timeout: 15000 });
  await page.unrouteAll({ behavior: 'ignoreErrors' });
});
