import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import {
  allSaved,
  attach,
  dropFile,
  entities,
  newProject,
  onScreen,
  planeOnScreen,
  SHEET_01,
  sheetFile,
  snapReady,
  sheetMenu,
} from './bench.ts';

interface UnderlayEntity {
  id: string;
  name: string;
  page: number;
  placement: number[];
  crop: number[];
  scaleState: string;
  planeId: string;
  order: number;
}
interface Path {
  id: string;
  type: string;
  points: [number, number][];
  layerId?: string | null;
}

const toolWords = (page: Page) =>
  page.evaluate(
    () =>
      (
        window as unknown as { calque: { table: { state: { getState(): { toolWords: string } } } } }
      ).calque.table.state.getState().toolWords,
  );
const tableState = <T>(page: Page, name: string) =>
  page.evaluate((key) => {
    const value = (
      window as unknown as { calque: { table: { state: { getState(): Record<string, unknown> } } } }
    ).calque.table.state.getState()[key];
    return (value instanceof Set ? [...value] : value) as T;
  }, name);
const view = (page: Page) => tableState<{ scale: number; x: number; y: number }>(page, 'view');
const currentSheet = (page: Page) => tableState<string | null>(page, 'underlayId');
const notice = (page: Page) => page.locator('.MuiSnackbar-root');
const underlays = (page: Page) => entities<UnderlayEntity>(page, 'underlay');
const K = (100 * 25.4) / 72;

/** Lays case 01 at the stated scale of 1:100. */
async function laid(page: Page, name: string, file = SHEET_01.file): Promise<void> {
  await newProject(page, name);
  await attach(page, sheetFile(file));
  if (await page.getByLabel(/it says/).count()) await page.getByLabel(/at a stated scale/).check();
  await page.getByRole('button', { name: 'Lay at the origin' }).click();
  await snapReady(page);
}

/** Attaches a further file to the project in Sheets and lays its page at the origin. */
async function layAnother(page: Page, name: string): Promise<void> {
  await page.keyboard.press('1');
  const card = page.locator(`section[aria-label="${name}"]`),
    lay = card.getByRole('button', { name: 'Lay at the origin' });
  await dropFile(page, sheetFile(name));
  await expect(card.getByText('PDF, 1 page')).toBeVisible({ timeout: 40000 });
  if (!(await lay.isVisible()))
    await card
      .getByRole('button', { name: name.slice(0, 6) })
      .first()
      .click();
  await lay.click();
  await snapReady(page);
}

test('single keys work after a tick box, a radio or a slider was used; view keys in the middle of any tool', async ({
  page,
}) => {
  await laid(page, 'Keys');
  await page.getByLabel(/not to scale yet/).check();
  await page.keyboard.press('3');
  await expect(page.getByRole('heading', { name: 'Trace' })).toBeVisible();
  const fade = page.getByRole('slider', { name: 'Faded' });
  await fade.focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('w');
  await expect.poll(() => toolWords(page)).toContain('Wall');
  // In the middle of a wall: a digit belongs to the figure, Home sees everything, Page Up looks nearer.
  await page.mouse.move(600, 400);
  await page.mouse.click(600, 400);
  await page.mouse.move(700, 400);
  // What is worth seeing is known once the sheet's lines are there.
  await page.keyboard.press('Home');
  const before = await view(page);
  await page.keyboard.press('PageUp');
  expect((await view(page)).scale).toBeGreaterThan(before.scale);
  await page.keyboard.press('Home');
  expect((await view(page)).scale).toBeCloseTo(before.scale, 6);
  await page.keyboard.press('0');
  await expect(page.getByTestId('cursor-field').getByLabel('length')).toHaveValue('0');
  // With something typed Home moves in the field; with nothing in it, it looks.
  await page.keyboard.press('PageDown');
  expect((await view(page)).scale).toBeLessThan(before.scale);
  const now = await view(page);
  await page.keyboard.press('Home');
  expect(await view(page)).toEqual(now);
  await page.keyboard.press('Backspace');
  await page.keyboard.press('Delete');
  await page.keyboard.press('Home');
  expect((await view(page)).scale).toBeCloseTo(before.scale, 6);
  await test.step('also while a figure must be given', async () => {
    await page.keyboard.press('Escape');
    await page.keyboard.press('c');
    for (const at of [
      [200, 300],
      [700, 300],
    ] as [number, number][])
      await page.mouse.click(...(await onScreen(page, at)));
    await expect(page.getByTestId('cursor-field').getByLabel('true length')).toBeFocused();
    await page.keyboard.press('PageUp');
    expect((await view(page)).scale).toBeGreaterThan(before.scale);
    await page.keyboard.press('Home');
    expect((await view(page)).scale).toBeCloseTo(before.scale, 6);
    await expect(page.getByTestId('cursor-field').getByLabel('true length')).toHaveValue('');
  });
});

test('a command that can do nothing says why, by its key and in the search', async ({ page }) => {
  await newProject(page, 'Reasons');
  await page.keyboard.press('c');
  await expect(notice(page)).toContainText('Choose a sheet first: this works on the current one');
  await page.keyboard.press('v');
  await expect(notice(page)).toContainText('Select something first: this works on what is selected');
  await page.keyboard.press('Control+k');
  // Each command is there once.
  await page.getByLabel('Find a command').fill('sheet');
  const listed = await page.getByRole('option').allTextContents();
  expect(new Set(listed).size).toBe(listed.length);
  await page.getByLabel('Find a command').fill('explode');
  const option = page.getByRole('option', { name: /Take apart/ });
  await expect(option).toContainText('Select something first');
  await page.keyboard.press('Enter');
  await expect(notice(page)).toContainText('Select something first');
});

test('the storey in hand and the ghosts beside it are there after a reload', async ({ page }) => {
  await newProject(page, 'Storeys');
  await page.keyboard.press('3');
  await page.keyboard.press('i');
  await page.mouse.click(500, 400);
  await page.mouse.click(700, 400);
  await page.keyboard.press('Escape');
  const stack = page.getByRole('complementary', { name: 'On the table' });
  await stack.getByRole('button', { name: /top first/ }).click();
  await page.getByRole('menuitem', { name: 'Add a storey above' }).click();
  await stack.getByRole('button', { name: 'Let Ground floor show through' }).click();
  await allSaved(page);
  const [planeId, ghosts] = [await tableState(page, 'planeId'), await tableState(page, 'ghosts')];
  expect([planeId !== 'ground', ghosts]).toEqual([true, ['ground']]);
  await page.reload();
  await page.getByTestId('saved').waitFor();
  expect([await tableState(page, 'planeId'), await tableState(page, 'ghosts')]).toEqual([planeId, ghosts]);
  await expect(stack.getByRole('button', { name: 'Upper floor, top first' })).toBeVisible();
});

test('a PDF under another ending can be chosen and is read by its bytes', async ({ page }) => {
  await newProject(page, 'Endings');
  const input = page.getByTestId('file-input');
  expect(await input.getAttribute('accept')).toBeNull();
  await input.setInputFiles({
    name: 'plan of the slip.ai',
    mimeType: 'application/postscript',
    buffer: readFileSync(sheetFile(SHEET_01.file)),
  });
  await expect(
    page.getByRole('region', { name: 'plan of the slip.ai' }).getByText('PDF, 1 page'),
  ).toBeVisible({ timeout: 40000 });
});

test('a sheet laid beside another to scale lies beside it, as large, and not known; what is taken off leaves the next one current; undone calibrations stay in sight', async ({
  page,
}) => {
  await laid(page, 'Beside');
  const [first] = await underlays(page);
  await page.keyboard.press('1');
  const name = '12_mupdf_annotations.pdf',
    card = page.locator(`section[aria-label="${name}"]`);
  await dropFile(page, sheetFile(name));
  await expect(card.getByText('PDF, 1 page')).toBeVisible({ timeout: 30000 });
  const beside = card.getByRole('button', { name: 'Lay beside the others' });
  if (!(await beside.isVisible())) await card.getByRole('button', { name: /12_mu/ }).first().click();
  await card.getByLabel(/not to scale yet \(as large as the sheets beside it, at 1:100\)/).check();
  await beside.click();
  const second = (await underlays(page)).find((u) => u.id !== first.id)!;
  expect(second.scaleState).toBe('paper');
  expect(second.placement[0]).toBeCloseTo(K, 9);
  expect(second.placement[4]).toBeGreaterThan(first.placement[0] * first.crop[2]);
  await expect(page.getByText('not to scale yet', { exact: false }).first()).toBeVisible();

  await test.step('a calibration that is undone keeps the sheet in sight', async () => {
    await page.keyboard.press('2');
    await page.keyboard.press('Control+k');
    await page.getByLabel('Find a command').fill('give the sheet a scale');
    await page.keyboard.press('Enter');
    // The field has the cursor a moment after the search has closed.
    await expect(page.getByLabel('Scale, factor or paper')).toBeFocused();
    await page.keyboard.insertText('1:20');
    await page.keyboard.press('Enter');
    await expect
      .poll(async () => (await underlays(page)).find((u) => u.id === second.id)!.placement[0])
      .toBeCloseTo(K / 5, 6);
    await allSaved(page);
    await page.locator('[data-testid=drawing]').focus();
    await page.keyboard.press('Control+z');
    await expect
      .poll(async () => (await underlays(page)).find((u) => u.id === second.id)!.placement[0])
      .toBeCloseTo(K, 6);
    const middle = await onScreen(page, [
      (second.crop[0] + second.crop[2]) / 2,
      (second.crop[1] + second.crop[3]) / 2,
    ]);
    const [left, right] = [
      await onScreen(page, [second.crop[0], 0]),
      await onScreen(page, [second.crop[2], 0]),
    ];
    expect(middle[0] > 270 && middle[0] < 930 && middle[1] > 60 && middle[1] < 760, middle.join()).toBe(true);
    expect(right[0] - left[0]).toBeGreaterThan(300);
  });
  await test.step('taken off, the next in the stack is current', async () => {
    expect(await currentSheet(page)).toBe(second.id);
    await sheetMenu(page, 'Take off the table …');
    await page.getByRole('button', { name: 'Take it off' }).click();
    expect(await currentSheet(page)).toBe(first.id);
  });
});

test('a quarter turn goes about a picked point, arrows go by a typed length', async ({ page }) => {
  await laid(page, 'Turning');
  await page.keyboard.press('2');
  await page.getByLabel('about a point that I pick next').check();
  const [u] = await underlays(page),
    corner: [number, number] = [175.748, SHEET_01.height - 181.417];
  await page.getByRole('button', { name: 'Quarter left' }).click();
  const [x, y] = await onScreen(page, corner);
  await page.mouse.move(x + 1, y - 1);
  await page.mouse.click(x + 1, y - 1);
  await expect.poll(async () => (await underlays(page))[0].placement[1]).not.toBe(0);
  const turned = (await underlays(page))[0].placement,
    k = u.placement[0];
  expect(turned[0]).toBeCloseTo(0, 9);
  // The one point that a quarter turn leaves where it is: within a snap of the corner, not the middle of the page.
  const [tx, ty, nx, ny] = [u.placement[4], u.placement[5], turned[4], turned[5]],
    [sx, sy] = [((nx + ty - ny + tx) / 2 - tx) / k, ((nx + ty + ny - tx) / 2 - ty) / k];
  expect(Math.hypot(sx - corner[0], sy - corner[1])).toBeLessThan(12);
  await page.keyboard.press('j');
  await page.keyboard.press('1');
  await page.keyboard.press('Backspace');
  await page.getByTestId('cursor-field').getByLabel('arrow step').fill('250');
  await page.keyboard.press('Enter');
  await page.keyboard.press('ArrowRight');
  await expect.poll(async () => (await underlays(page))[0].placement[4]).toBeCloseTo(turned[4] + 250, 6);
  await page.keyboard.press('Shift+ArrowUp');
  await expect.poll(async () => (await underlays(page))[0].placement[5]).toBeCloseTo(turned[5] + 2500, 6);
});

test('converting a scan says that it is one; what a conversion makes is selected, on layers by kind where the file has none', async ({
  page,
}) => {
  await laid(page, 'Scan');
  await page.keyboard.press('Shift+V');
  const card = page.getByTestId('convert');
  await card.getByRole('button', { name: 'hatches' }).click();
  await card.getByRole('button', { name: 'Convert', exact: true }).click();
  await expect(card).toHaveCount(0);
  const layers = await entities<{ id: string; name: string }>(page, 'layer');
  expect(layers.map((l) => l.name).sort()).toEqual(['Curves', 'Dimensions', 'Hatches', 'Lines', 'Texts']);
  const made = (
    await Promise.all(['path', 'line', 'arc', 'text', 'spline'].map((t) => entities<Path>(page, t)))
  ).flat();
  expect(new Set(await tableState<string[]>(page, 'selection'))).toEqual(new Set(made.map((e) => e.id)));
  await expect(page.getByTestId('selection')).toContainText('Selected');
  await layAnother(page, '08a_scan_200dpi.pdf');
  await page.keyboard.press('Shift+V');
  await expect(card).toContainText('This sheet is a scan: it has no lines of its own, only ink.');
  await expect(card.getByRole('button', { name: 'Convert', exact: true })).toBeDisabled();
});

test('what a kind holds is said; what is switched off goes dark although the pointer rests on its row', async ({
  page,
}) => {
  await laid(page, 'Kinds');
  await page.keyboard.press('1');
  const desk = page.getByRole('region', { name: /^The sheet/ });
  await desk.getByRole('button', { name: 'Kinds' }).click();
  await expect(desk).toContainText('titles, names, notes; not the figures of dimensions');
  await expect(desk).toContainText('their lines, ticks and figures');
  const marked = () =>
    page.evaluate(
      () => (window as unknown as { calque: { table: { marked: unknown } } }).calque.table.marked !== null,
    );
  const row = desk.locator('label').filter({ hasText: 'without hatch and dimensions' });
  await row.hover();
  await expect.poll(marked).toBe(true);
  await row.click();
  await expect.poll(marked).toBe(false);
  await page.mouse.move(5, 5);
  await row.hover();
  expect(await marked()).toBe(false);
  await row.click();
  await expect.poll(marked).toBe(true);
});

test('a scan is laid onto another sheet by itself, by the lines of its ink', async ({ page }) => {
  test.setTimeout(180000);
  await laid(page, 'Scan onto');
  await layAnother(page, '08a_scan_200dpi.pdf');
  await page.keyboard.press('2');
  await page.getByLabel('Onto another sheet, by itself').click();
  await page.getByRole('option').first().click();
  await page
    .getByRole('complementary', { name: 'Stage' })
    .getByRole('button', { name: 'Align', exact: true })
    .click();
  await expect(page.getByText('Reading the lines of 08a_scan_200dpi from its ink')).toBeVisible();
  const found = page.getByTestId('align-found');
  await expect(found).toContainText(/% of its lines lie on/, { timeout: 90000 });
  await found.getByRole('button', { name: 'Lay it there' }).click();
  await allSaved(page);
  // The same wall's corners lie on one another: true places of both sheets.
  const all = await underlays(page),
    plan = all.find((u) => u.name.startsWith('01'))!,
    laidScan = all.find((u) => u.name.startsWith('08a'))!;
  const at = (p: number[], [x, y]: number[]) => [p[0] * x + p[2] * y + p[4], p[1] * x + p[3] * y + p[5]];
  for (const [own, scanned] of [
    [
      [175.748, 708.662],
      [169.327, 699.216],
    ],
    [
      [873.071, 708.662],
      [866.47, 715.036],
    ],
  ]) {
    const a = at(plan.placement, own),
      b = at(laidScan.placement, scanned);
    // A pixel of the scan is 12.7 mm here.
    expect(Math.hypot(a[0] - b[0], a[1] - b[1])).toBeLessThan(15);
  }
});

test('DXF refers to the sheets as they lie, and reading it asks for the file and lays it there again', async ({
  page,
}) => {
  await laid(page, 'To DXF');
  await page.keyboard.press('3');
  await page.keyboard.press('i');
  for (const p of [
    [2000, 3000],
    [9000, 3000],
  ] as [number, number][])
    await page.mouse.click(...(await planeOnScreen(page, p)));
  await page.keyboard.press('Escape');
  await page.keyboard.press('2');
  await page.getByRole('button', { name: 'Quarter left' }).click();
  await allSaved(page);
  const [before] = await underlays(page);
  await page.keyboard.press('5');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Write DXF' }).click(),
  ]);
  const dxf = readFileSync(await download.path());
  expect(dxf.toString()).toContain('PDFUNDERLAY');
  await newProject(page, 'From DXF');
  await page
    .getByTestId('file-input')
    .setInputFiles({ name: 'drawing.dxf', mimeType: 'application/dxf', buffer: dxf });
  const asks = page.getByTestId('referred-sheets');
  await expect(asks).toContainText('This drawing lies over a sheet of a PDF', { timeout: 40000 });
  await expect(asks).toContainText('01_cairo_plan_100.pdf, page 1: not attached');
  await expect(asks.getByRole('button', { name: 'Lay it as it lies there' })).toBeDisabled();
  await dropFile(page, sheetFile(SHEET_01.file));
  await expect(asks).toContainText('page 1: attached', { timeout: 40000 });
  await asks.getByRole('button', { name: 'Lay it as it lies there' }).click();
  // Once is enough.
  await expect(asks.getByRole('button', { name: 'It lies there already' })).toBeDisabled();
  const [after] = await underlays(page);
  after.placement.forEach((v, i) => expect(v).toBeCloseTo(before.placement[i], 6));
  expect(after.scaleState).toBe('stated');
  await allSaved(page);
});

test('walls by strokes: a plan of rooms in few actions; lines are made walls, and back, by the words that people use', async ({
  page,
}) => {
  await laid(page, 'Strokes');
  await page.keyboard.press('3');
  await page.keyboard.press('Shift+L');
  const plane = (x: number, y: number): [number, number] => [x * K, (SHEET_01.height - y) * K];
  await expect
    .poll(
      async () => {
        await page.mouse.move(
          ...((await planeOnScreen(page, plane(400 + Math.random(), 183))).map(Math.round) as [
            number,
            number,
          ]),
        );
        return toolWords(page);
      },
      { timeout: 30000 },
    )
    .toContain('thick');
  const stroke = async (from: [number, number], to: [number, number]) => {
    await page.mouse.move(...(await planeOnScreen(page, plane(...from))));
    await page.mouse.down();
    await page.mouse.move(
      ...(await planeOnScreen(page, plane((from[0] + to[0]) / 2, (from[1] + to[1]) / 2))),
      { steps: 4 },
    );
    await page.mouse.move(...(await planeOnScreen(page, plane(...to))), { steps: 4 });
    await page.mouse.up();
  };
  // Two strokes along the plan and two across it, clear of doors.
  await stroke([160, 262], [890, 262]);
  await stroke([160, 420], [890, 420]);
  await stroke([270, 165], [270, 590]);
  await stroke([700, 165], [700, 590]);
  const walls = await entities<{ thickness: number; openings?: unknown[] }>(page, 'wall');
  expect(walls.length).toBeGreaterThanOrEqual(10);
  expect(new Set(walls.map((w) => Math.round(w.thickness)))).toEqual(new Set([100, 300]));
  expect(walls.some((w) => (w.openings?.length ?? 0) > 0)).toBe(true);
  await allSaved(page);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+a').catch(() => {});
  await page.keyboard.press('Shift+R');
  for (const p of [
    [30000, 3000],
    [34000, 6000],
  ] as [number, number][])
    await page.mouse.click(...(await planeOnScreen(page, p)));
  await page.keyboard.press('Escape');
  const [box] = await entities<Path>(page, 'path');
  await page.mouse.click(...(await planeOnScreen(page, [32000, 3000])));
  await expect.poll(() => tableState<string[]>(page, 'selection')).toEqual([box.id]);
  await page.keyboard.press('Control+k');
  await page.getByLabel('Find a command').fill('make these walls');
  await page.keyboard.press('Enter');
  expect((await entities(page, 'wall')).length).toBe(walls.length + 4);
  expect(await entities(page, 'path')).toEqual([]);
  await page.getByRole('button', { name: 'To lines' }).click();
  expect((await entities(page, 'line')).length).toBe(4);
});

test('right after a package is opened no sheet is asked for that is not read yet', async ({ page }) => {
  await page.goto('/');
  await page
    .getByRole('article')
    .filter({ hasText: 'Riverside boathouse' })
    .getByRole('link')
    .first()
    .click();
  await page.getByTestId('saved').waitFor();
  await page.getByRole('button', { name: /^Deliver/ }).click();
  await allSaved(page);
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Write .calque' }).click(),
  ]);
  const buffer = readFileSync(await download.path()),
    bad: string[] = [];
  page.on('response', (r) => {
    if (r.status() >= 400) bad.push(`${r.status()} ${r.url().replace(/.*\/api/, '/api')}`);
  });
  await page.goto('/', { waitUntil: 'networkidle' });
  await page
    .getByLabel('Package file')
    .setInputFiles({ name: 'again.calque', mimeType: 'application/zip', buffer });
  await page.waitForURL('**/project/*');
  await snapReady(page);
  await page.waitForTimeout(1500);
  expect(bad).toEqual([]);
});
