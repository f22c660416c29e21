import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import {
  allSaved,
  attach,
  clickSheet,
  dropFile,
  entities,
  newProject,
  onScreen,
  sheetFile,
  SHEET_01,
  snapReady,
} from './bench.ts';
import { checks, lies, type CheckEntity, type UnderlayEntity } from './calibrated.ts';

/** Lays the page down as paper and goes to Calibrate. */
async function laid(page: Page, name: string, file: string): Promise<void> {
  await newProject(page, name);
  await attach(page, sheetFile(file));
  await page.getByRole('button', { name: 'Lay at the origin' }).click();
  await snapReady(page);
  await page.keyboard.press('2');
}
const underlay = async (page: Page) => (await entities<UnderlayEntity>(page, 'underlay'))[0];

/** The outermost lines of sheet 01, points: their middle and size. */
const FRAME = { x: 595.2775, y: 420.945, width: 1133.859, height: 785.197 };

test('a sheet calibrates itself from its printed dimensions, and the wrong figure is shown', async ({
  page,
}) => {
  await laid(page, 'By itself', '04_chromium_fit973_wrong_dim.pdf');
  const found = page.getByTestId('found');
  await expect(found).toContainText('This sheet has 20 printed dimensions. 19 agree on 1:102.8');
  await expect(found).toContainText('Prints 4560, measures 5\u2009460 on this sheet');
  await expect(found).toContainText('The note “Scale 1:100 @ A3” says otherwise');

  await test.step('walk through the evidence, the doubtful one first', async () => {
    await found.getByRole('button', { name: 'Walk through them' }).click();
    const walk = page.getByTestId('walk');
    await expect(walk).toContainText('Prints 4560, measures 5\u2009460, disagrees');
    await walk.getByLabel('It ought to say').fill('a length');
    await expect(walk).toContainText('Type a length');
    await walk.getByLabel('It ought to say').fill('5460');
    await walk.getByRole('button', { name: 'Correct it' }).click();
    await expect(walk).toContainText('taken as 5460');
    await expect(found).toContainText('All agree');
    await walk.getByRole('button', { name: 'Next' }).click();
    await expect(walk).toContainText('2 of 20');
    await walk.getByRole('button', { name: 'Leave it out' }).click();
    await expect(walk).toContainText('left out');
    await walk.getByRole('button', { name: 'Take it in' }).click();
  });

  await found.getByRole('button', { name: 'Calibrate from them' }).click();
  await allSaved(page);
  const u = await underlay(page);
  expect(u.scaleState).toBe('calibrated');
  expect(u.calibration!.fit).toMatchObject({ model: 'uniform', fitted: 20 });
  // The far corners: the length over the whole plan, to a tenth of a millimetre in 21.6 m.
  const longest = (await checks(page)).find((c) => c.typed === '21600')!;
  expect(lies(u.placement, longest.from, longest.to)).toBeCloseTo(21600, 0);
  expect(Math.hypot(u.placement[0], u.placement[1]) * (72 / 25.4)).toBeCloseTo(102.7749, 3);
  await expect(page.getByText(/to scale, 1:102.8, within \d+ mm/).first()).toBeVisible();
  await expect(page.getByTestId('evidence')).toContainText('Fitted to 20 dimensions');
  await page.getByRole('button', { name: 'Show it at the corners' }).click();
  await expect(page.getByRole('button', { name: 'Hide the corners' })).toBeVisible();

  await test.step('one is left out and fitted again; every calibration is kept, and undo covers it', async () => {
    await page.getByLabel('Your name, for the record').fill('Mo Keel');
    await page.getByRole('button', { name: 'Fitted: leave out' }).first().click();
    await allSaved(page);
    expect((await underlay(page)).calibration!.fit.fitted).toBe(19);
    const history = page.getByTestId('calibration-history');
    await history.getByRole('button', { name: 'Earlier calibrations (1)' }).click();
    await expect(history).toContainText(/, Mo Keel · 1:102.8/);
    await history.getByRole('button', { name: 'Go back to this one' }).click();
    await allSaved(page);
    expect((await underlay(page)).calibration!.fit.fitted).toBe(20);
    expect((await checks(page)).every((c) => c.use === 'fit')).toBe(true);
    for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'Undo' }).click();
    await allSaved(page);
    expect(await underlay(page)).toMatchObject({ scaleState: 'paper', calibration: null });
    expect(await checks(page)).toEqual([]);
  });
});

test('stretched paper is told, and fitted in both directions; the record can be exported', async ({
  page,
}) => {
  await laid(page, 'Stretched', '08b_stretched_y1012.pdf');
  await expect(page.getByTestId('found')).toContainText('The paper is stretched');
  await page.getByRole('button', { name: 'Calibrate from them' }).click();
  await allSaved(page);
  const u = await underlay(page);
  expect(u.calibration!.fit.model).toBe('directional');
  expect(u.placement[0] * (72 / 25.4)).toBeCloseTo(100, 3);
  expect(u.placement[3] * (72 / 25.4)).toBeCloseTo(98.8142, 3);
  await expect(page.getByTestId('evidence')).toContainText('39 of 39 agree within');
  // Averaged away, most of them differ and the error grows.
  await page.getByLabel('Model of the fit').click();
  await page.getByRole('option', { name: 'one scale' }).last().click();
  await allSaved(page);
  const averaged = await underlay(page);
  expect(averaged.calibration!.fit.model).toBe('uniform');
  expect(averaged.calibration!.fit.across).toBeGreaterThan(5 * u.calibration!.fit.across);
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export (CSV)' }).click();
  const text = readFileSync(await (await download).path(), 'utf8');
  expect(text.split('\r\n')).toHaveLength(41);
  expect(text).toContain('24600,24600,');
});

test('several known dimensions by hand: a short one warns, a leap asks, the one that spoils the fit is named', async ({
  page,
}) => {
  await laid(page, 'By hand', SHEET_01.file);
  const corner = {
    topLeft: [175.748, SHEET_01.height - 181.417],
    topRight: [873.071, SHEET_01.height - 181.417],
    bottomRight: [873.071, SHEET_01.height - 572.599],
    bottomLeft: [175.748, SHEET_01.height - 572.599],
  } as Record<string, [number, number]>;
  const field = page.getByTestId('cursor-field');
  const known = async (a: [number, number], b: [number, number], text: string) => {
    await page.keyboard.press('c');
    await clickSheet(page, a);
    await clickSheet(page, b);
    await page.getByLabel('true length').fill(text);
    await page.keyboard.press('Enter');
  };
  await expect(page.getByTestId('found')).toContainText('39 printed dimensions');
  // A wall's thickness: 8.504 points. The sheet is 1,458 points across.
  await page.evaluate(() =>
    (window as unknown as { calque: { table: { show(b: number[]): void } } }).calque.table.show([
      55, 85, 75, 100,
    ]),
  );
  await known([175.748, SHEET_01.height - 572.599], [184.252, SHEET_01.height - 572.599], '300');
  await expect(field).toContainText('This is short for the sheet');
  await expect(field).toContainText('Better: the 24600 printed on the sheet');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  expect(await checks(page)).toEqual([]);

  await page.keyboard.press('0');
  await known(corner.topLeft, corner.topRight, '246 km');
  await expect(field).toContainText('Is the unit right?');
  await page.getByLabel('true length').fill('24600');
  await page.keyboard.press('Enter');
  await allSaved(page);
  expect((await underlay(page)).calibration!.fit).toMatchObject({ model: 'uniform', fitted: 1 });
  await known(corner.topRight, corner.bottomRight, '13800');
  await known(corner.bottomLeft, corner.bottomRight, '24600');
  // Typed by a slip: the sheet's own dimensions say otherwise, and the question stands where it was typed.
  await known(corner.bottomLeft, corner.topLeft, '12800');
  await expect(field).toContainText(
    /With this dimension the sheet lies at 1:\d+(\.\d+)?\. 39 printed dimensions say 1:100\./,
  );
  await field.getByRole('button', { name: 'Take mine all the same' }).click();
  await allSaved(page);
  await expect(
    page.getByText(/≠ lies at 1:\d+(\.\d+)?, but 39 printed dimensions say 1:100/).first(),
  ).toBeVisible();
  await expect(page.getByText('The scale of this sheet is in doubt')).toBeVisible();
  await expect(page.getByTestId('evidence')).toContainText('12800 spoils the fit');
  await page.getByRole('button', { name: 'Leave it out' }).click();
  await allSaved(page);
  const u = await underlay(page);
  expect(u.calibration!.fit).toMatchObject({ model: 'uniform', fitted: 3 });
  expect(lies(u.placement, corner.topLeft, corner.bottomRight)).toBeCloseTo(Math.hypot(24600, 13800), -1);
  await expect(page.getByText('1 differs')).toBeVisible();
});

test('a scale that the sheet contradicts is asked about in place, and one press puts it right', async ({
  page,
}) => {
  await laid(page, 'Doubt', SHEET_01.file);
  await expect(page.getByTestId('found')).toContainText('39 printed dimensions');
  const [left, right]: [number, number][] = [
    [175.748, SHEET_01.height - 181.417],
    [873.071, SHEET_01.height - 181.417],
  ];
  const slip = async (answer: string) => {
    await page.keyboard.press('c');
    await clickSheet(page, left);
    await clickSheet(page, right);
    await page.getByLabel('true length').fill('24200');
    await page.keyboard.press('Enter');
    await expect(page.getByTestId('scale-question')).toContainText(
      'These two picks make it 1:98.37. 39 printed dimensions say 1:100.',
    );
    await page.getByTestId('scale-question').getByRole('button', { name: answer }).click();
    await allSaved(page);
  };
  await page.keyboard.press('0');
  await slip('Take mine all the same');
  const doubted = page.getByText('≠ lies at 1:98.37, but 39 printed dimensions say 1:100').first();
  await expect(doubted).toBeVisible();
  await expect(page.getByText('0 of 1 to scale')).toBeVisible();
  // It is remembered, and one press puts it right.
  await page.reload();
  await expect(doubted).toBeVisible();
  await page.keyboard.press('2');
  await page.getByTestId('doubt').getByRole('button', { name: 'Take 1:100' }).click();
  await allSaved(page);
  await expect(page.getByText(/^to scale, 1:100, within \d+ mm/).first()).toBeVisible();
  await expect(page.getByText('1 of 1 to scale')).toBeVisible();
  await expect(page.getByTestId('doubt')).toHaveCount(0);
  const u = await underlay(page);
  expect(lies(u.placement, left, right)).toBeCloseTo(24600, 0);
  // A scale that is said is found by plain words, and held against the sheet as well.
  await page.keyboard.press('Control+k');
  await page.keyboard.type('factor paper format');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Scale, factor or paper')).toBeFocused();
  await page.keyboard.type('50 %');
  await expect(page.getByTestId('scale-card')).toContainText('From 1:100 to 1:50. It is a claim');
  await page.keyboard.press('Enter');
  await allSaved(page);
  await expect(page.getByTestId('doubt')).toContainText(
    'The sheet lies at 1:50. 39 printed dimensions say 1:100.',
  );
  await expect(page.getByText('≠ lies at 1:50, but 39 printed dimensions say 1:100').first()).toBeVisible();
});

test('a sheet is laid onto another by itself, and by common points', async ({ page }) => {
  await newProject(page, 'Aligning');
  await attach(page, sheetFile(SHEET_01.file));
  await page.getByLabel(/at a stated scale/).check();
  await page.getByRole('button', { name: 'Lay at the origin' }).click();
  await snapReady(page);
  await page.keyboard.press('1');
  const name = '06g_rotate270_crop_userunit15.pdf',
    card = page.locator(`section[aria-label="${name}"]`);
  await dropFile(page, sheetFile(name));
  await expect(card.getByText('PDF, 1 page')).toBeVisible({ timeout: 30000 });
  const lay = card.getByRole('button', { name: 'Lay at the origin' });
  if (!(await lay.isVisible()))
    await card
      .getByRole('button', { name: /06g_ro/ })
      .first()
      .click();
  await card.getByLabel(/not to scale yet/).check();
  await lay.click();
  await snapReady(page);
  await page.keyboard.press('2');
  const turned = async () =>
    (await entities<UnderlayEntity>(page, 'underlay')).find(
      (u) => u.scaleState !== 'stated' || u.placement[1] !== 0,
    )!;
  await page.getByLabel('Onto another sheet, by itself').click();
  await page.getByRole('option').first().click();
  await page
    .getByRole('complementary', { name: 'Stage' })
    .getByRole('button', { name: 'Align', exact: true })
    .click();
  const found = page.getByTestId('align-found');
  await expect(found).toContainText(/(9\d|100) % of its lines lie on/, { timeout: 30000 });
  await expect(found).toContainText('It takes its scale from');
  await found.getByRole('button', { name: 'Lay it there' }).click();
  await allSaved(page);
  // Turned by a quarter, drawn 1.5 times as large: the same millimetres.
  const { placement } = await turned();
  expect(Math.hypot(placement[0], placement[1]) * 1.5).toBeCloseTo((100 * 25.4) / 72, 3);
  expect(Math.abs(placement[0])).toBeLessThan(1e-3);

  await test.step('by a pair of points it is shifted, with its scale kept', async () => {
    await page.keyboard.press('a');
    const box = (await page.getByTestId('drawing').boundingBox())!;
    await page.mouse.click(box.x + 0.45 * box.width, box.y + 0.5 * box.height);
    await page.mouse.move(box.x + 0.5 * box.width, box.y + 0.5 * box.height);
    await page.getByTestId('cursor-field').getByLabel('x', { exact: true }).fill('1000');
    await page.getByTestId('cursor-field').getByLabel('y', { exact: true }).fill('2 m');
    await page.keyboard.press('Enter');
    await expect(page.getByTestId('align-pairs')).toContainText('One pair shifts the sheet');
    await page.getByRole('button', { name: 'Lay it by this pair' }).click();
    await allSaved(page);
    const after = (await turned()).placement;
    expect(after.slice(0, 4)).toEqual(placement.slice(0, 4));
    expect(after[4]).not.toBe(placement[4]);
    await page.keyboard.press('j');
    await page.keyboard.press('ArrowRight');
    await allSaved(page);
    expect((await turned()).placement[4]).toBeGreaterThan(after[4]);
  });
});

test('a scan calibrates itself: its figures are recognised in a worker, marked so, and the far corner is true', async ({
  page,
}) => {
  await laid(page, 'A scan by itself', '08a_scan_200dpi.pdf');
  await expect(page.getByTestId('recognising')).toContainText('recognising them from the picture');
  await test.step('recognition can be stopped, and taken up again', async () => {
    await page.getByTestId('recognising').getByRole('button', { name: 'Stop' }).click();
    await expect(page.getByTestId('found-none')).toContainText('no texts that can be read');
    await expect(page.getByRole('button', { name: 'Pick a known dimension (C)' })).toBeEnabled();
    await page.getByRole('button', { name: 'Recognise figures from the picture' }).click();
  });
  const found = page.getByTestId('found');
  await expect(found).toContainText(/This sheet has 3[789] printed dimensions\. All agree on 1:100/, {
    timeout: 60000,
  });
  await expect(found).toContainText('recognised from the picture');
  await found.getByRole('button', { name: 'Calibrate from them' }).click();
  await allSaved(page);
  const known = await checks(page);
  expect(new Set(known.map((c) => c.origin))).toEqual(new Set(['recognised']));
  // The longest length of the plan, by its true ends on the scan: within the error that is stated.
  const u = await underlay(page);
  const error = Math.abs(lies(u.placement, [169.327, 699.216], [866.47, 715.036]) - 24600);
  expect(error).toBeLessThan(u.calibration!.fit.across);
  expect(error).toBeLessThan(12);
});

test('the picture of a sheet lies on its lines to a tenth of a point, at the far corner too', async ({
  page,
}) => {
  await laid(page, 'Picture on lines', SHEET_01.file);
  const ink = await page.evaluate(async () => {
    const { table, session } = (
      window as unknown as {
        calque: {
          table: {
            tiles: {
              pictureOf(file: unknown, sheet: unknown, box: number[], scale: number): Promise<ImageBitmap>;
            };
          };
          session: { state: { files: { sheets: { width: number; height: number }[] }[] } };
        };
      }
    ).calque;
    const file = session.state.files[0],
      sheet = file.sheets[0],
      scale = 8;
    const bitmap = await table.tiles.pictureOf(file, sheet, [0, 0, sheet.width, sheet.height], scale);
    const context = new OffscreenCanvas(bitmap.width, bitmap.height).getContext('2d')!;
    context.drawImage(bitmap, 0, 0);
    const { data, width, height } = context.getImageData(0, 0, bitmap.width, bitmap.height);
    let [x0, x1, y0, y1] = [width, 0, height, 0];
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        if (data[4 * (y * width + x)] > 128) continue;
        [x0, x1, y0, y1] = [Math.min(x0, x), Math.max(x1, x + 1), Math.min(y0, y), Math.max(y1, y + 1)];
      }
    return [(x0 + x1) / 2 / scale, (y0 + y1) / 2 / scale, (x1 - x0) / scale, (y1 - y0) / scale];
  });
  // The frame is the outermost of the ink; its pen is as wide on all sides.
  const [mx, my, w, h] = ink,
    pen = w - FRAME.width;
  expect(Math.abs(mx - FRAME.x)).toBeLessThan(0.1);
  expect(Math.abs(SHEET_01.height - my - FRAME.y)).toBeLessThan(0.1);
  expect(Math.abs(h - FRAME.height - pen)).toBeLessThan(0.15);
});

const handsFile = (name: string) => new URL(`../reader/test/hands/${name}.pdf`, import.meta.url).pathname;
async function laidByHand(page: Page, name: string, file: string): Promise<void> {
  await newProject(page, name);
  await attach(page, handsFile(file));
  await page.getByRole('button', { name: 'Lay at the origin' }).click();
  await snapReady(page);
  await page.keyboard.press('2');
}

type Printed = {
  text: string;
  millimetres: number;
  from: [number, number];
  to: [number, number];
  points: number;
};
/** The dimensions of a practice sheet, from its own record. */
function printedOn(file: string): Printed[] {
  const record = JSON.parse(readFileSync(sheetFile('dimensions.json'), 'utf8')) as Record<
    string,
    Record<string, { dimensions: [string, number, number, number, number, number, 0 | 1][] }>
  >;
  return record[file]['1'].dimensions.map(([text, millimetres, x0, y0, x1, y1]) => ({
    text,
    millimetres,
    from: [x0, y0],
    to: [x1, y1],
    points: Math.hypot(x1 - x0, y1 - y0),
  }));
}
const isLevel = (d: Printed) => Math.abs(d.to[1] - d.from[1]) < 0.01;
const near = (a: number[], b: number[]) => Math.hypot(a[0] - b[0], a[1] - b[1]) < 0.1;
const ends = (c: CheckEntity, d: Printed) =>
  (near(c.from, d.from) && near(c.to, d.to)) || (near(c.from, d.to) && near(c.to, d.from));
const partOf = (d: Printed, k: number): [number, number] => [
  d.from[0] + k * (d.to[0] - d.from[0]),
  d.from[1] + k * (d.to[1] - d.from[1]),
];

test('a printed dimension is taken whole by one click on its figure, confirmed or corrected; its ends come before all else', async ({
  page,
}) => {
  await laid(page, 'Pointed at', '01_cairo_plan_100.pdf');
  await expect(page.getByTestId('found')).toContainText('printed dimensions');
  const all = printedOn('01_cairo_plan_100.pdf'),
    longest = all.filter(isLevel).sort((p, q) => q.points - p.points)[0],
    [mx, my] = partOf(longest, 0.5);

  await test.step('one click on the figure: both ends and the figure are there', async () => {
    await page.keyboard.press('c');
    // Its figure stands above the middle of its line.
    await clickSheet(page, [mx, my + 4.5]);
    await expect(page.getByTestId('cursor-field')).toContainText(`${longest.text} is printed there`);
    await page.keyboard.press('Enter');
    await allSaved(page);
    const [known] = await checks(page);
    expect(known).toMatchObject({
      printed: longest.millimetres,
      typed: longest.text,
      use: 'fit',
      origin: 'picked',
    });
    expect(ends(known, longest)).toBe(true);
    await expect(page.getByText(/to scale by one dimension alone, 1:100/).first()).toBeVisible();
  });

  await test.step('a click on its line does the same, and the figure can be corrected', async () => {
    const other = all.filter((d) => d.points > 100 && d !== longest && isLevel(d))[0];
    await page.keyboard.press('k');
    await clickSheet(page, partOf(other, 0.25));
    await expect(page.getByTestId('cursor-field')).toContainText(`${other.text} is printed there`);
    await page.keyboard.type(String(other.millimetres + 10));
    await page.keyboard.press('Enter');
    await allSaved(page);
    const known = (await checks(page)).find((c) => c.use === 'check')!;
    expect(known.printed).toBe(other.millimetres + 10);
    expect(ends(known, other)).toBe(true);
    await expect(page.getByRole('table', { name: 'Known dimensions' })).toContainText('≠');
  });

  await test.step('near an end the end of the dimension is found, not that of its tick', async () => {
    await page.keyboard.press('Escape');
    await page.keyboard.press('c');
    const [x, y] = await onScreen(page, longest.from);
    await page.mouse.move(x + 3, y + 2);
    await expect(page.getByTestId('snap')).toContainText(/end of the .* printed/);
  });
});

test('a sheet without dimensions is calibrated from its graphic scale, and the note is named as contradicted', async ({
  page,
}) => {
  await laidByHand(page, 'By its bar', 'tuned/riverside-bar');
  const found = page.getByTestId('found');
  await expect(found).toContainText('its graphic scale (0 10 20 30 40 m) says 1:617.3');
  await expect(found).toContainText('The note “Scale 1:500 @ A3” says otherwise');
  await found.getByRole('button', { name: 'Calibrate from it' }).click();
  await allSaved(page);
  const u = await underlay(page);
  expect(Math.hypot(u.placement[0], u.placement[1]) * (72 / 25.4)).toBeCloseTo(500 / 0.81, 1);
  expect(u.scaleState).toBe('calibrated');
  await page.keyboard.press('Control+z');
  expect((await underlay(page)).scaleState).toBe('paper');
});

test('a sheet in centimetres with raised halves calibrates itself, and its room numbers and tables are left alone', async ({
  page,
}) => {
  await laidByHand(page, 'In centimetres', 'tuned/boat-store-cm');
  await expect(page.getByTestId('found')).toContainText(
    'This sheet has 28 printed dimensions. All agree on 1:50',
  );
  await page.getByTestId('found').getByRole('button', { name: 'Calibrate from them' }).click();
  await allSaved(page);
  expect((await checks(page)).map((c) => [c.typed, c.printed])).toEqual(
    expect.arrayContaining([
      ['36⁵', 365],
      ['4.01⁵', 4015],
      ['24', 240],
    ]),
  );
});

test('two dimensions that disagree across and up lead to the stretch at once', async ({ page }) => {
  await laid(page, 'Two ways', '08b_stretched_y1012.pdf');
  await expect(page.getByTestId('found')).toContainText('The paper is stretched');
  const all = printedOn('08b_stretched_y1012.pdf');
  for (const way of [true, false]) {
    const d = all.filter((x) => isLevel(x) === way).sort((a, b) => b.points - a.points)[0];
    await page.keyboard.press('c');
    await clickSheet(page, partOf(d, 0.25));
    await expect(page.getByTestId('cursor-field')).toContainText('is printed there');
    await page.keyboard.press('Enter');
    // The first alone is held against the rest of the sheet.
    const mine = page.getByRole('button', { name: 'Take mine all the same' });
    if (await mine.isVisible({ timeout: 1500 }).catch(() => false)) await mine.click();
    await allSaved(page);
  }
  expect((await underlay(page)).calibration!.fit).toMatchObject({ model: 'directional', fitted: 2 });
  await expect(page.getByTestId('evidence')).toContainText(
    /The paper is stretched: 1:100 across, 1:98\.8\d? up/,
  );
});

test('where two units are as likely it is asked, and nothing is calibrated until it is answered', async ({
  page,
}) => {
  await laidByHand(page, 'Unsaid', 'asked/cleat-unsaid');
  const found = page.getByTestId('found');
  await expect(found).toContainText(
    /This sheet has 7 printed dimensions\. They agree on .*1:2 if they are inches.*Which are they\?/,
  );
  await expect(found.getByRole('button', { name: 'Calibrate from them' })).toBeDisabled();
  await found.getByRole('button', { name: 'They are inches' }).click();
  await expect(found).toContainText('All agree on 1:2');
  await found.getByRole('button', { name: 'Calibrate from them' }).click();
  await allSaved(page);
  expect((await checks(page)).map((c) => [c.typed, Math.round(c.printed * 1000) / 1000])).toEqual(
    expect.arrayContaining([
      ['8.250', 209.55],
      ['1.375', 34.925],
    ]),
  );
});
