import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PDFDocument, StandardFonts } from '@cantoo/pdf-lib';
import { expect, test, type Page } from '@playwright/test';
import {
  allSaved,
  attach,
  card,
  chooseSection,
  clickSheet,
  command,
  entities,
  newProject,
  planeOnScreen,
  snapReady,
} from './bench.ts';

/** Where its columns stand, points of the sheet. */
const COLUMNS = [100, 100 + (6000 / 100 / 25.4) * 72];

/** An elevation at 1:100 with two columns and a level mark that is drawn 4 mm lower than it says, measured from the foot of the sheet. */
async function elevation(): Promise<string> {
  const document = await PDFDocument.create(),
    page = document.addPage([842, 595]),
    font = await document.embedFont(StandardFonts.Helvetica),
    up = (mm: number) => (mm / 100 / 25.4) * 72;
  page.drawText('Section A-A   Scale 1:100', { x: 40, y: 560, size: 10, font });
  page.drawLine({ start: { x: 300, y: up(3446) }, end: { x: 400, y: up(3446) }, thickness: 0.5 });
  // Two columns, 6 m from middle to middle.
  for (const x of COLUMNS) page.drawLine({ start: { x, y: up(0) }, end: { x, y: up(3446) }, thickness: 0.5 });
  page.drawText('+3.450', { x: 402, y: up(3446) - 3, size: 8, font });
  const path = join(mkdtempSync(join(tmpdir(), 'elevation-')), 'section.pdf');
  writeFileSync(path, await document.save());
  return path;
}

/** A project with the elevation laid on an upright plane; gives where a place of the sheet lies on that. */
async function section(page: Page, name: string): Promise<(x: number, y: number) => [number, number]> {
  await newProject(page, name);
  await page.keyboard.press('3');
  await command(page, 'stand a section up: an upright');
  await page.mouse.click(380, 500);
  await page.mouse.click(700, 500);
  await page.keyboard.type('Section A');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /Section A/ }).first()).toBeVisible();
  const [plane] = await entities<{ id: string }>(page, 'plane');
  await page.keyboard.press('1');
  await attach(page, await elevation());
  if (await page.getByLabel(/at a stated scale/).count()) await page.getByLabel(/at a stated scale/).check();
  await page.getByRole('button', { name: 'Lay at the origin' }).click();
  await expect
    .poll(async () => (await entities<{ planeId: string }>(page, 'underlay'))[0]?.planeId)
    .toBe(plane.id);
  await snapReady(page);
  await page.keyboard.press('3');
  const [sheet] = await entities<{ placement: number[] }>(page, 'underlay'),
    [a, b, c, d, e, f] = sheet.placement;
  return (x, y) => [a * x + c * y + e, b * x + d * y + f];
}

test('an end of a member is put at the level that the elevation prints, and what it draws otherwise is told and listed', async ({
  page,
}) => {
  const onSheet = await section(page, 'Printed level');
  await page.getByRole('tab', { name: 'Frame' }).click();
  const places = [onSheet(150, 120), onSheet(350, 130)];
  await command(page, 'put members of a frame');
  for (const p of places) await page.mouse.click(...(await planeOnScreen(page, p)));
  interface Member {
    from: [number, number];
    to: [number, number];
    levels?: { level: number; drawn: number }[];
  }
  const member = async () => (await entities<Member>(page, 'member'))[0];
  await expect.poll(async () => (await entities(page, 'member')).length).toBe(1);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  const before = await member();
  await command(page, 'put ends of members at a level');
  await expect(page.getByTestId('tool-words')).toContainText('Printed level: click its mark');
  await clickSheet(page, [40, 400]);
  await expect(page.getByText('No figure of a level stands near').first()).toBeVisible();
  await clickSheet(page, [398, 97.683]);
  await expect(page.getByTestId('tool-words')).toContainText('Level +3.450');
  const near = [
    before.from[0] + 0.9 * (before.to[0] - before.from[0]),
    before.from[1] + 0.9 * (before.to[1] - before.from[1]),
  ];
  await page.mouse.click(...(await planeOnScreen(page, [near[0], near[1]])));
  await expect.poll(async () => (await member()).to[1]).toBeCloseTo(3450, 9);
  expect((await member()).from).toEqual(before.from);
  await expect(card(page)).toContainText('End at +3.450 as printed, drawn');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('4');
  await expect(page.getByTestId('frame-doubts')).toContainText(
    '1 end lies at a printed level that the sheet draws up to',
  );
  await allSaved(page);
});

test('a portal from its elevation with a printed level: lengths, weights and counts as by hand', async ({
  page,
}) => {
  const onSheet = await section(page, 'Portal'),
    click = async (p: [number, number]) => page.mouse.click(...(await planeOnScreen(page, p)));
  await page.getByRole('tab', { name: 'Frame' }).click();
  await command(page, 'put members of a frame');
  await chooseSection(page, 'heb 200', 'HEB 200');
  await card(page).getByRole('radio', { name: 'the line is the centre of the member' }).click();
  const head = (3446 / 100 / 25.4) * 72;
  for (const x of COLUMNS) {
    await click(onSheet(x, 0));
    await click(onSheet(x, head));
  }
  interface Member {
    from: [number, number];
    to: [number, number];
    section: { name: string };
  }
  const members = () => entities<Member>(page, 'member');
  await expect.poll(async () => (await members()).length).toBe(2);
  // As the sheet draws them, 4 mm short.
  for (const m of await members()) expect(m.to[1]).toBeCloseTo(3446, 0);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await command(page, 'put ends of members at a level');
  await clickSheet(page, [398, head]);
  await expect(page.getByTestId('tool-words')).toContainText('Level +3.450');
  for (const x of COLUMNS) await click(onSheet(x, 0.9 * head));
  await expect
    .poll(async () => (await members()).map((m) => Math.round(m.to[1] * 1e6) / 1e6))
    .toEqual([3450, 3450]);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await command(page, 'put members of a frame');
  await chooseSection(page, 'ipe 200', 'IPE 200');
  const [west, east] = (await members()).sort((a, b) => a.to[0] - b.to[0]);
  await click(west.to);
  await click(east.to);
  await expect.poll(async () => (await members()).length).toBe(3);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');

  await test.step('base plates under the columns, end plates on their flanges', async () => {
    await page.getByTestId('drawing').press(',');
    await page.keyboard.press('j');
    await page.getByRole('button', { name: 'base plate' }).click();
    for (const m of [west, east]) await click([m.from[0], 500]);
    await page.getByRole('button', { name: 'end plate' }).click();
    const [low, high] = [west.to[0], east.to[0]];
    for (const [x, on] of [
      [low + 1500, low],
      [high - 1500, high],
    ]) {
      await click([x, 3450]);
      await click([on, 1500]);
    }
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
  });

  await test.step('the takeoff is what is worked out by hand', async () => {
    await command(page, 'takeoff');
    await page.getByRole('tab', { name: 'Cut list' }).click();
    const rows = page.getByRole('row'),
      columns = rows.filter({ hasText: 'HEB 200' }),
      beam = rows.filter({ hasText: 'IPE 200' });
    // 3 450 less a plate of 23; 6 000 less half a column of 200 and a plate of 16 at either end.
    await expect(columns).toContainText('3\u2009427');
    await expect(beam).toContainText('5\u2009768');
    const weigh = async (row: typeof beam) =>
      Number(await row.locator('td, th, [role=cell], [role=gridcell]').last().textContent());
    // 7 808 mm2 by 3.427 m by 7 850 kg/m3, twice, less four holes of 22 through 15; 2 848 mm2 by 5.768 m.
    const columnsByHand = 2 * (7808 * 3427 - 4 * (Math.PI / 4) * 22 ** 2 * 15) * 7850e-9;
    expect(Math.abs((await weigh(columns)) - columnsByHand) / columnsByHand).toBeLessThan(0.005);
    const beamByHand = 2848 * 5768 * 7850e-9;
    expect(Math.abs((await weigh(beam)) - beamByHand) / beamByHand).toBeLessThan(0.005);
    await page.getByRole('tab', { name: 'Plates' }).click();
    await expect(rows.filter({ hasText: 'base plate' })).toContainText('2');
    await expect(rows.filter({ hasText: 'end plate' })).toContainText('2');
    await page.getByRole('tab', { name: 'Bolts' }).click();
    // 16 and 15 of grip: M20 x 60, four at either end; four anchors under each column.
    await expect(rows.filter({ hasText: 'M20 x 60' })).toContainText('8');
    await expect(rows.filter({ hasText: 'anchor' })).toContainText('8');
  });
  await allSaved(page);
});
