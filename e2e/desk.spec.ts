import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect, test, type Page } from '@playwright/test';
import { PDFDocument, rgb } from '@cantoo/pdf-lib';
import sharp from 'sharp';
import {
  allSaved,
  drawing,
  dropFile,
  entities,
  newProject,
  sheetFile,
  snapReady,
  sheetMenu,
} from './bench.ts';

interface UnderlayEntity {
  id: string;
  name: string;
  fileId: string;
  page: number;
  crop: number[];
  outline: number[][] | null;
  placement: number[];
  order: number;
  scaleState: string;
  look: { inFront: boolean; tint: number | null; switches: { pens: string[]; kinds: string[] } };
  former: { page: number } | null;
}
interface Exposed {
  calque: {
    table: {
      sheets: { get(f: string, p: number): { snapper: unknown } | null };
      tiles: { waiting: number };
      view: { scale: number; x: number; y: number };
    };
  };
}

const drawings = (name: string) => fileURLToPath(new URL(`../reader/test/drawings/${name}`, import.meta.url));
const folder = mkdtempSync(join(tmpdir(), 'calque-desk-'));
const card = (page: Page, file: string) => page.locator(`section[aria-label="${file}"]`);
const desk = (page: Page) => page.locator('section[aria-label^="The sheet"]');
const underlays = (page: Page) => entities<UnderlayEntity>(page, 'underlay');

async function attach(page: Page, path: string, name = path.split('/').pop()!): Promise<void> {
  await dropFile(page, path, name);
  await expect(card(page, name).getByText(/^(PDF|DXF|SVG|TIFF|WEBP|PNG|JPEG), \d+ pages?/)).toBeVisible({
    timeout: 30000,
  });
}

async function lay(page: Page, name: string, button: string | RegExp = /^Lay at/): Promise<void> {
  const button1 = card(page, name).getByRole('button', { name: button });
  if (!(await button1.isVisible()))
    await card(page, name)
      .getByRole('button', { name: new RegExp(name.slice(0, 6)) })
      .first()
      .click();
  await button1.click();
  await snapReady(page);
  await settled(page);
}

/** All tiles that are in sight have come. */
const settled = (page: Page) =>
  page.waitForFunction(() => (window as unknown as Exposed).calque.table.tiles.waiting === 0);

/** Dark pixels of the drawing beneath a box on the screen. */
async function inkIn(
  page: Page,
  box: { x: number; y: number; width: number; height: number },
): Promise<number> {
  // Away from the rows that light lines up.
  await page.mouse.move(600, 700);
  await page.waitForTimeout(100);
  await settled(page);
  const { data } = await sharp(await page.screenshot({ clip: box }))
    .greyscale()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return data.filter((v) => v < 150).length;
}
const MIDDLE = { x: 240, y: 60, width: 720, height: 625 };

/** The same plan as a later issue: on larger paper, moved, with two lines more. */
async function newerIssue(path: string): Promise<string> {
  const pdf = await PDFDocument.load(readFileSync(path));
  const [sheet] = pdf.getPages();
  const { width, height } = sheet.getSize();
  sheet.setSize(width + 90, height + 50);
  sheet.translateContent(60, 30);
  sheet.drawLine({ start: { x: 300, y: 700 }, end: { x: 380, y: 760 }, thickness: 1, color: rgb(0, 0, 0) });
  sheet.drawLine({ start: { x: 380, y: 760 }, end: { x: 420, y: 700 }, thickness: 1, color: rgb(0, 0, 0) });
  const out = join(folder, 'issue-b.pdf');
  writeFileSync(out, await pdf.save());
  return out;
}

test('a set is gone through by titles, numbers and words; one crop serves pages of one size', async ({
  page,
}) => {
  await newProject(page, 'Set');
  await attach(page, sheetFile('09_tikz_set_3_pages.pdf'));
  const set = card(page, '09_tikz_set_3_pages.pdf');
  await expect(set.getByText('Kiln Works').first()).toBeVisible();
  await page.getByLabel('Find a page by').fill('scales shown');
  await expect(page.getByTestId('pages-found')).toContainText('page 3');
  await page.getByLabel('Find a page by').fill('nothing such');
  await expect(page.getByTestId('pages-found')).toContainText('No page reads so');
  await page.getByLabel('Find a page by').fill('');
  await set.getByRole('button', { name: 'Name of page 2' }).click();
  await page.getByLabel('Sheet number').fill('K-02');
  await page.getByLabel('Title', { exact: true }).fill('Ground floor');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await page.getByLabel('Find a page by').fill('K-02');
  await expect(page.getByTestId('pages-found')).toContainText('Ground floor');
  await page.getByLabel('Find a page by').fill('');
  await set.getByLabel('Choose page 2').click();
  await set.getByRole('button', { name: 'Lay at the origin' }).click();
  await expect.poll(async () => (await underlays(page)).map((u) => u.name)).toEqual(['K-02 Ground floor']);
  await dropFile(page, sheetFile('09_tikz_set_3_pages.pdf'), 'again.pdf');
  await expect(page.getByText('is attached already, as 09_tikz_set_3_pages.pdf')).toBeVisible();
  await expect(card(page, 'again.pdf')).toHaveCount(0);
});

test('pens, kinds and mark-ups are switched: gone from sight and from snapping, undone and kept under a name', async ({
  page,
}) => {
  await newProject(page, 'Switches');
  await attach(page, sheetFile('12_mupdf_annotations.pdf'));
  await lay(page, '12_mupdf_annotations.pdf');
  const before = await inkIn(page, MIDDLE);
  await desk(page).getByRole('button', { name: 'Pens', exact: true }).click();
  const thick = desk(page).getByLabel(/thickest/);
  await thick.click();
  await expect.poll(() => inkIn(page, MIDDLE)).toBeLessThan(before * 0.9);
  const without = await inkIn(page, MIDDLE);
  await desk(page).getByRole('button', { name: 'Kinds', exact: true }).click();
  await desk(page).getByLabel('Dimensions').click();
  await expect.poll(() => inkIn(page, MIDDLE)).toBeLessThan(without);
  await desk(page).getByRole('button', { name: 'Keep this choice' }).click();
  await page.getByLabel('Name of the choice').fill('Bare');
  await page.keyboard.press('Enter');
  await desk(page).getByRole('button', { name: 'All as in the file' }).click();
  await expect.poll(() => inkIn(page, MIDDLE)).toBeGreaterThan(before * 0.98);
  await desk(page).getByRole('button', { name: 'Use here' }).click();
  await expect.poll(async () => (await underlays(page))[0].look.switches.kinds).toEqual(['dimension']);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(async () => (await underlays(page))[0].look.switches.kinds).toEqual([]);

  await desk(page).getByRole('button', { name: 'Mark-ups', exact: true }).click();
  await expect(desk(page).getByText('3 comments, 3 open')).toBeVisible();
  await desk(page).getByLabel('Dealt with: move this wall?').click();
  await expect(desk(page).getByText('3 comments, 2 open')).toBeVisible();
  const scale = await page.evaluate(() => (window as unknown as Exposed).calque.table.view.scale);
  await desk(page)
    .getByRole('button', { name: /CHECK 7777/ })
    .click();
  expect(await page.evaluate(() => (window as unknown as Exposed).calque.table.view.scale)).toBeGreaterThan(
    scale * 1.5,
  );
  await desk(page).getByLabel('All mark-ups').click();
  await expect.poll(async () => (await underlays(page))[0].look.switches.kinds).toEqual(['markup']);
  await allSaved(page);
});

test("the file's layers: one that is off in the file can be seen and snapped to when it is switched on", async ({
  page,
}) => {
  await newProject(page, 'Layers');
  await attach(page, sheetFile('02_reportlab_imperial_ocg.pdf'));
  await lay(page, '02_reportlab_imperial_ocg.pdf');
  const before = await inkIn(page, MIDDLE);
  await desk(page).getByRole('button', { name: 'Layers', exact: true }).click();
  await expect(desk(page).getByText('off in the file')).toBeVisible();
  for (const layer of ['WALLS', 'HATCH', 'DIMS']) await desk(page).getByLabel(layer).click();
  expect(await inkIn(page, MIDDLE)).toBeLessThan(before / 2);
  const bare = await inkIn(page, MIDDLE);
  await desk(page).getByLabel('SCRATCH').click();
  await expect.poll(() => inkIn(page, MIDDLE)).toBeGreaterThan(bare);
});

test('crops are dragged and drawn on the drawing; sheets are tinted, laid in front, put in order, duplicated', async ({
  page,
}) => {
  await newProject(page, 'Order');
  await attach(page, sheetFile('01_cairo_plan_100.pdf'));
  await lay(page, '01_cairo_plan_100.pdf');
  const [u] = await underlays(page);
  await desk(page).getByRole('button', { name: 'Drag the crop' }).click();
  const view = await page.evaluate(() => (window as unknown as Exposed).calque.table.view);
  const at = (x: number, y: number): [number, number] => [
    view.x + view.scale * (u.placement[0] * x + u.placement[4]),
    view.y - view.scale * (u.placement[3] * y + u.placement[5]),
  ];
  await page.mouse.move(...at(u.crop[2], u.crop[3] / 2));
  await page.mouse.down();
  await page.mouse.move(...at(u.crop[2] * 0.7, u.crop[3] / 2), { steps: 5 });
  await page.mouse.up();
  await expect
    .poll(async () => Math.round((await underlays(page))[0].crop[2] / 50))
    .toBe(Math.round((u.crop[2] * 0.7) / 50));
  await desk(page).getByRole('button', { name: 'Draw an outline' }).click();
  for (const p of [
    [100, 100],
    [600, 100],
    [350, 700],
  ])
    await page.mouse.click(...at(p[0], p[1]));
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await underlays(page))[0].outline?.length).toBe(3);
  await desk(page).getByRole('button', { name: 'Whole page' }).click();
  await expect.poll(async () => (await underlays(page))[0].outline).toBeNull();

  await desk(page).getByRole('radio', { name: 'red' }).click();
  await settled(page);
  const { data, info } = await sharp(await page.screenshot({ clip: MIDDLE }))
    .raw()
    .toBuffer({ resolveWithObject: true });
  let red = 0;
  for (let i = 0; i < data.length; i += info.channels) if (data[i] > data[i + 2] + 60) red++;
  expect(red).toBeGreaterThan(500);

  await sheetMenu(page, 'Duplicate');
  await expect
    .poll(async () => (await underlays(page)).map((x) => x.name))
    .toEqual(['01_cairo_plan_100', '01_cairo_plan_100, copy']);
  await sheetMenu(page, 'Lift up');
  await expect.poll(async () => (await underlays(page))[1].look.inFront).toBe(true);
  const slips = page.getByLabel('On the table');
  await slips
    .getByRole('button', { name: /^01_cairo_plan_100, copy/ })
    .dragTo(slips.getByRole('button', { name: /^01_cairo_plan_100(?!, copy)/ }));
  await expect.poll(async () => (await underlays(page)).map((x) => x.look.inFront)).toEqual([false, false]);
  await allSaved(page);
});

test('words on a sheet are found and gone to', async ({ page }) => {
  await newProject(page, 'Find');
  await attach(page, sheetFile('01_cairo_plan_100.pdf'));
  await lay(page, '01_cairo_plan_100.pdf');
  await desk(page).getByRole('button', { name: 'Find text' }).click();
  const before = await page.evaluate(() => (window as unknown as Exposed).calque.table.view.scale);
  await page.getByLabel('Words on this sheet').fill('pantry');
  await expect(desk(page).getByText(/place/)).toBeVisible();
  await page.keyboard.press('Enter');
  expect(await page.evaluate(() => (window as unknown as Exposed).calque.table.view.scale)).toBeGreaterThan(
    before * 2,
  );
  await page.getByLabel('Words on this sheet').fill('zeppelin');
  await expect(desk(page).getByText('Nothing on what is laid')).toBeVisible();
});

test('drawings and pictures: DXF at true size with its units asked for, SVG, TIFF of two pages, a large scan in tiles', async ({
  page,
}) => {
  await newProject(page, 'Others');
  await attach(page, drawings('boathouse-metres.dxf'));
  await expect(card(page, 'boathouse-metres.dxf').getByText('not understood: 2 RAY')).toBeVisible();
  await lay(page, 'boathouse-metres.dxf', 'Lay at its own place');
  expect((await underlays(page))[0]).toMatchObject({ scaleState: 'own' });
  await expect(page.getByText('at true size, by its own units').first()).toBeVisible();
  expect(await inkIn(page, MIDDLE)).toBeGreaterThan(300);
  await dropFile(page, drawings('no-units.dxf'));
  await card(page, 'no-units.dxf').getByRole('button', { name: 'feet' }).click();
  await expect(card(page, 'no-units.dxf').getByText('DXF, 1 page')).toBeVisible({ timeout: 20000 });
  const svg = join(folder, 'rack.svg');
  writeFileSync(
    svg,
    '<svg xmlns="http://www.w3.org/2000/svg" width="4000mm" height="2000mm" viewBox="0 0 4000 2000"><g id="Rack" fill="none" stroke="#000" stroke-width="20"><rect x="200" y="200" width="3600" height="1600"/></g></svg>',
  );
  await attach(page, svg);
  await lay(page, 'rack.svg', 'Lay at its own place');
  const tiff = join(folder, 'survey.tiff');
  const pages = await Promise.all(
    ['#eee', '#ddd'].map((background) =>
      sharp({ create: { width: 500, height: 400, channels: 3, background } })
        .png()
        .toBuffer(),
    ),
  );
  await sharp(pages, { join: { animated: true } })
    .tiff()
    .toFile(tiff);
  await attach(page, tiff);
  await expect(card(page, 'survey.tiff').getByText('TIFF, 2 pages')).toBeVisible();
  const scan = join(folder, 'scan.png');
  await sharp({ create: { width: 6000, height: 4000, channels: 3, background: '#fff' } })
    .composite([
      {
        input: await sharp({ create: { width: 3000, height: 4000, channels: 3, background: '#111' } })
          .png()
          .toBuffer(),
        left: 0,
        top: 0,
      },
    ])
    .png()
    .toFile(scan);
  await attach(page, scan);
  await lay(page, 'scan.png');
  const [, , third] = await underlays(page);
  await expect
    .poll(async () => await inkIn(page, MIDDLE))
    .toBeGreaterThan(0.3 * MIDDLE.width * MIDDLE.height);
  expect(third.scaleState).toBe('paper');
});

test('a newer issue is laid on the old one, its changes are stepped through, and it takes the place', async ({
  page,
}) => {
  await newProject(page, 'Issues');
  await attach(page, sheetFile('01_cairo_plan_100.pdf'));
  await lay(page, '01_cairo_plan_100.pdf');
  await attach(page, await newerIssue(sheetFile('01_cairo_plan_100.pdf')));
  const [before] = await underlays(page);
  await desk(page).getByRole('button', { name: 'New issue' }).click();
  await desk(page).getByLabel('Newer page').click();
  await page.getByRole('option', { name: 'issue-b.pdf' }).click();
  await desk(page).getByRole('button', { name: 'Compare' }).click();
  const outcome = page.getByTestId('issue-outcome');
  await expect(outcome).toContainText('100.0 % of the old lines lie on the new page', { timeout: 30000 });
  await expect(outcome).toContainText('2 lines added');
  await expect(outcome).toContainText('0 gone');
  await outcome.getByRole('button', { name: 'Next' }).click();
  await expect(outcome).toContainText('1 of 1: 2 added');
  await outcome.getByRole('button', { name: 'Take the new issue' }).click();
  await expect.poll(async () => (await underlays(page))[0].former?.page).toBe(1);
  const [after] = await underlays(page);
  expect(after.fileId).not.toBe(before.fileId);
  // The plan lies where it lay: the page round it has grown.
  expect(after.placement[4]).toBeCloseTo(before.placement[4] - 60 * before.placement[0], 3);
  expect(after.placement[5]).toBeCloseTo(before.placement[5] - 30 * before.placement[0], 3);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(async () => (await underlays(page))[0].fileId).toBe(before.fileId);
});

test('detaching a file says what hangs on it; what was traced stays and remembers its sheet', async ({
  page,
}) => {
  await newProject(page, 'Detach');
  await attach(page, sheetFile('01_cairo_plan_100.pdf'));
  await lay(page, '01_cairo_plan_100.pdf');
  await page.keyboard.press('w');
  await page.mouse.click(420, 360);
  await page.mouse.click(620, 360);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('1');
  await card(page, '01_cairo_plan_100.pdf').getByRole('button', { name: 'Detach' }).click();
  await expect(page.getByRole('dialog')).toContainText('The one element traced on it stay');
  await page.getByRole('button', { name: 'Take them off and detach' }).click();
  await expect(card(page, '01_cairo_plan_100.pdf')).toHaveCount(0);
  const [wall] = await entities<{ source: { sheet: string } }>(page, 'wall');
  expect(wall.source.sheet).toBe('01_cairo_plan_100');
  expect(await underlays(page)).toEqual([]);
  await expect(drawing(page)).toBeVisible();
});
