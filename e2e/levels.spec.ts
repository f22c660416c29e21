import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PDFDocument, StandardFonts } from '@cantoo/pdf-lib';
import { expect, test, type Page } from '@playwright/test';
import { allSaved, attach, clickSheet, entities, newProject, planeOnScreen, snapReady } from './bench.ts';

const card = (page: Page) => page.getByRole('complementary', { name: 'Stage' });
const command = async (page: Page, words: string) => {
  await page.keyboard.press('Control+k');
  await page.getByLabel('Find a command').fill(words);
  await page.keyboard.press('Enter');
};

/** An elevation at 1:100 with a level mark that is drawn 4 mm lower than it says, measured from the foot of the sheet. */
async function elevation(): Promise<string> {
  const document = await PDFDocument.create(),
    page = document.addPage([842, 595]),
    font = await document.embedFont(StandardFonts.Helvetica),
    up = (mm: number) => (mm / 100 / 25.4) * 72;
  page.drawText('Section A-A   Scale 1:100', { x: 40, y: 560, size: 10, font });
  page.drawLine({ start: { x: 300, y: up(3446) }, end: { x: 400, y: up(3446) }, thickness: 0.5 });
  page.drawText('+3.450', { x: 402, y: up(3446) - 3, size: 8, font });
  const path = join(mkdtempSync(join(tmpdir(), 'elevation-')), 'section.pdf');
  writeFileSync(path, await document.save());
  return path;
}

test('an end of a member is put at the level that the elevation prints, and what it draws otherwise is told and listed', async ({
  page,
}) => {
  await newProject(page, 'Printed level');
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
  await page.getByRole('button', { name: 'Lay at the origin' }).click();
  await expect
    .poll(async () => (await entities<{ planeId: string }>(page, 'underlay'))[0]?.planeId)
    .toBe(plane.id);
  await snapReady(page);
  await page.keyboard.press('3');
  await page.getByRole('tab', { name: 'Frame' }).click();
  const [sheet] = await entities<{ placement: number[] }>(page, 'underlay'),
    onSheet = (x: number, y: number): [number, number] => {
      const [a, b, c, d, e, f] = sheet.placement;
      return [a * x + c * y + e, b * x + d * y + f];
    },
    places = [onSheet(150, 120), onSheet(350, 130)];
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
