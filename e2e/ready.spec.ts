import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { allSaved, dropFile, entities, newProject, sheetFile, SHEET_01 } from './bench.ts';

interface Paper {
  name: string;
  views: { id: string; scale: number; at: [number, number]; beneath: boolean; caption: string }[];
}
const paper = async (page: Page) => (await entities<Paper>(page, 'paperDrawing'))[0];
const folder = mkdtempSync(path.join(tmpdir(), 'calque-ready-'));

/** What stands on a written PDF: lengths of its lines in millimetres of paper, and its words. */
function readBack(file: string): { lengths: number[]; words: string } {
  const said = JSON.parse(
      execFileSync('./calque', ['read', file, '--linework', '--json'], {
        encoding: 'utf8',
        maxBuffer: 256 << 20,
      }),
    ) as { pages: { segments: number[][]; texts: { text: string }[] }[] },
    { segments, texts } = said.pages[0];
  return {
    lengths: segments.map(([x0, y0, x1, y1]) => (Math.hypot(x1 - x0, y1 - y0) * 25.4) / 72),
    words: texts.map((t) => t.text).join(' '),
  };
}

test('a ready drawing: the traced plan over its sheet and a page beside it, seen, moved, and true as PDF', async ({
  page,
}) => {
  await newProject(page, 'Ready drawing');
  await dropFile(page, sheetFile(SHEET_01.file));
  await page.getByRole('button', { name: /lay it down to scale/i }).click({ timeout: 30000 });
  await page.keyboard.press('3');
  await page.keyboard.press('r');
  await page.mouse.click(480, 500);
  await page.mouse.move(700, 400);
  await page.keyboard.type('9000');
  await page.keyboard.press('Tab');
  await page.keyboard.type('6000');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await entities(page, 'wall')).length).toBe(4);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('5');
  await page.getByRole('button', { name: 'New drawing' }).click();
  const desk = page.getByRole('dialog', { name: /Ready drawing/ });
  // It begins with what has been traced, and is seen as it will print.
  await expect(desk.getByRole('img', { name: /as it will print/ })).toBeVisible();
  await expect.poll(async () => (await paper(page)).views.length).toBe(1);
  await desk.getByLabel('with the sheets beneath').check();
  await desk.getByLabel('Scale').fill('1:100');
  await desk.getByLabel('Scale').press('Enter');
  await desk.getByLabel('Drawing', { exact: true }).fill('River front');
  await desk.getByLabel('Drawing', { exact: true }).press('Enter');
  await expect.poll(async () => (await paper(page)).name).toBe('River front');
  expect((await paper(page)).views[0]).toMatchObject({ scale: 100, beneath: true });

  await desk.getByLabel('Paper').click();
  await page.getByRole('option', { name: 'A2' }).click();
  await desk.getByLabel('Add a page as it is').click();
  await page.getByRole('option').first().click();
  await expect.poll(async () => (await paper(page)).views.length).toBe(2);

  // By the arrows a millimetre at a time, by dragging as far as the pointer goes; undone as everything is.
  const before = (await paper(page)).views[0].at,
    frame = desk.getByRole('button', { name: /Ground floor at 1:100/ });
  await frame.focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+ArrowUp');
  await expect
    .poll(async () => (await paper(page)).views[0].at)
    .toEqual([expect.closeTo(before[0] + 1, 5), expect.closeTo(before[1] + 10, 5)]);
  const box = (await frame.boundingBox())!,
    sheet = (await desk.getByTestId('ready-paper').boundingBox())!,
    middle = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(middle[0], middle[1]);
  await page.mouse.down();
  await page.mouse.move(middle[0] - 30, middle[1] + 20, { steps: 4 });
  await page.mouse.up();
  const moved = (await paper(page)).views[0].at,
    millimetre = sheet.width / 594;
  expect(moved[0]).toBeCloseTo(before[0] + 1 - 30 / millimetre, 0);
  expect(moved[1]).toBeCloseTo(before[1] + 10 - 20 / millimetre, 0);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await paper(page)).views[0].at[0]).toBeCloseTo(before[0] + 1, 5);

  const coming = page.waitForEvent('download');
  await desk.getByRole('button', { name: 'Write PDF' }).click();
  const pdf = path.join(folder, 'ready.pdf');
  await (await coming).saveAs(pdf);
  await expect(desk.getByText('The PDF was written.')).toBeVisible();
  const { lengths, words } = readBack(pdf),
    [wall] = await entities<{ thickness: number }>(page, 'wall'),
    outside = 90 + wall.thickness / 100;
  // The outer face of nine metres and its wall's thickness at 1:100, and the sheet's own lines at its scale beneath.
  expect(lengths.some((l) => Math.abs(l - outside) < 0.01)).toBe(true);
  const own = readBack(sheetFile(SHEET_01.file));
  expect(words).toContain('River front');
  expect(lengths.length).toBeGreaterThan(1.1 * own.lengths.length);

  const svgComing = page.waitForEvent('download');
  await desk.getByRole('button', { name: 'Write SVG' }).click();
  const svg = path.join(folder, 'ready.svg');
  await (await svgComing).saveAs(svg);
  const text = readFileSync(svg, 'utf8');
  expect(text).toContain('width="594mm" height="420mm"');
  expect(text.match(/<image /g)).toHaveLength(2);
  // Its sheets are there, not white pictures.
  expect(text.length).toBeGreaterThan(60000);

  await desk.getByRole('button', { name: 'Close' }).click();
  await allSaved(page);
  await page.reload();
  await allSaved(page);
  await page.keyboard.press('5');
  await expect(page.getByRole('button', { name: /River front.*A2, 2 views/ })).toBeVisible();
});

test('a ready drawing says what will not print as one may expect, and is removed and brought back', async ({
  page,
}) => {
  await newProject(page, 'Doubts on paper');
  await page.keyboard.press('5');
  await page.getByRole('button', { name: 'New drawing' }).click();
  const desk = page.getByRole('dialog', { name: /Ready drawing/ });
  await expect(desk.getByText('Nothing stands on it yet')).toBeVisible();
  await expect(desk.getByRole('button', { name: 'Write PDF' })).toBeDisabled();
  await desk.getByLabel('Add a storey or plane').click();
  await page.getByRole('option', { name: 'Ground floor' }).click();
  await expect(desk.getByText(/nothing to draw of Ground floor yet/)).toBeVisible();
  await desk.getByRole('button', { name: 'Remove' }).click();
  await expect.poll(async () => (await entities(page, 'paperDrawing')).length).toBe(0);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: /Drawing 1.*0 views/ })).toBeVisible();
});
