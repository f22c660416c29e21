import { readFileSync, writeFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { byLibrary } from '../reader/test/hands/draw/producers.ts';
import { houseSheet, TUNED } from '../reader/test/houses/sheets.ts';
import { allSaved, command, dropFile, entities, newProject, planeOnScreen } from './bench.ts';

interface WallThere {
  id: string;
  from: [number, number];
  to: [number, number];
  thickness: number;
  openings?: unknown[];
}

test('a trace is graded: what strays, what is missing and what lies on no ink is told, walked to, reported and graded again', async ({
  page,
}, info) => {
  const sheet = TUNED.find((s) => s.name === 'lines')!,
    { hand } = houseSheet(sheet),
    file = info.outputPath('house.pdf'),
    card = page.getByTestId('grade'),
    words = page.getByTestId('grade-words'),
    walls = () => entities<WallThere>(page, 'wall');
  writeFileSync(file, await byLibrary()([hand]));
  await newProject(page, 'Graded');
  await dropFile(page, file);
  await page.getByRole('button', { name: 'Lay it down to scale' }).click({ timeout: 40000 });
  await allSaved(page);

  await test.step('with nothing traced it says so', async () => {
    await page.keyboard.press('4');
    await page.getByRole('button', { name: 'Grade the trace against the sheet' }).click();
    await expect(card).toContainText('there is nothing to hold against it');
  });

  await test.step('a trace on the lines of the sheet lies on them', async () => {
    await page.keyboard.press('3');
    await page.getByRole('button', { name: 'See what the plan shows' }).click();
    await page
      .getByTestId('seen')
      .getByRole('button', { name: /^Take \d+ walls/ })
      .click({ timeout: 30000 });
    await allSaved(page);
    await page.keyboard.press('4');
    await command(page, 'Grade the trace');
    await expect(words).toContainText(/^(9\d|100)\s% of the sheet's wall faces are traced within 2\smm/, {
      timeout: 30000,
    });
    await expect(words).toContainText('nothing strays by more than 5 mm');
  });

  const inner = (await walls()).filter((w) => w.thickness < 200),
    long = (w: WallThere) => Math.hypot(w.to[0] - w.from[0], w.to[1] - w.from[1]),
    // Level ones, which the second figure moves square to themselves.
    whole = inner
      .filter((w) => (w.openings ?? []).length === 0 && Math.abs(w.to[1] - w.from[1]) < 1)
      .sort((a, b) => long(b) - long(a)),
    [moved] = whole,
    gone = inner.filter((w) => w !== moved).sort((a, b) => long(b) - long(a))[0];
  const middle = (w: WallThere): [number, number] => [
    w.from[0] + 0.45 * (w.to[0] - w.from[0]),
    w.from[1] + 0.45 * (w.to[1] - w.from[1]),
  ];

  await test.step('a wall that is moved strays by as much; one that is taken away is missed', async () => {
    await page.keyboard.press('Escape');
    await page.keyboard.press('Home');
    await page.mouse.click(...(await planeOnScreen(page, middle(gone))));
    await page.keyboard.press('Delete');
    await expect.poll(async () => (await walls()).some((w) => w.id === gone.id)).toBe(false);
    await page.mouse.click(...(await planeOnScreen(page, middle(moved))));
    await command(page, 'Move');
    const [x, y] = middle(moved),
      at = await planeOnScreen(page, [x, y]);
    await page.mouse.click(...at);
    await page.mouse.move(at[0] + 60, at[1]);
    await page.keyboard.type('0');
    await page.keyboard.press('Tab');
    await page.keyboard.type('7');
    await page.keyboard.press('Enter');
    await expect
      .poll(async () => {
        const now = (await walls()).find((w) => w.id === moved.id)!;
        return Math.hypot(now.from[0] - moved.from[0], now.from[1] - moved.from[1]);
      })
      .toBeCloseTo(7, 1);
    await command(page, 'Grade the trace');
    await expect(words).toContainText(/(one wall strays|\d walls stray) by more than 5\smm/, {
      timeout: 30000,
    });
    await expect(page.getByTestId('grade-strays')).toContainText(/stray/);
    await expect(page.getByTestId('grade-untraced')).toContainText('1 wall of the sheet is not traced');
  });

  await test.step('they are walked to, the tolerance is the person’s, pointing tells the distance', async () => {
    const strays = page.getByTestId('grade-strays');
    await strays.getByRole('button', { name: 'Walk through them' }).click();
    await expect(strays).toContainText(/1 of \d+: wall.*7\.0\smm off/);
    await page.keyboard.press('Home');
    const [x, y] = middle(moved),
      half = moved.thickness / 2;
    // Its face, where it is now.
    const now = (await walls()).find((w) => w.id === moved.id)!,
      by = [now.from[0] - moved.from[0], now.from[1] - moved.from[1]];
    await page.mouse.move(...(await planeOnScreen(page, [x + by[0], y + by[1] + half])));
    await expect(
      page.getByText(/7\.0\smm from the sheet's ink, more than the tolerance/).first(),
    ).toBeVisible();
    await page.getByLabel(/^Tolerance/).fill('10');
    await page.getByLabel(/^Tolerance/).press('Enter');
    await expect(words).toContainText('nothing strays by more than 25 mm');
    await expect(strays).toHaveCount(0);
    await page.getByLabel(/^Tolerance/).fill('2');
    await page.getByLabel(/^Tolerance/).press('Enter');
    await expect(strays).toHaveCount(1);
  });

  await test.step('the report says the same', async () => {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      card.getByRole('button', { name: 'Write the report' }).click(),
    ]);
    expect(download.suggestedFilename()).toBe('Graded grade of the trace.xlsx');
    expect(
      readFileSync(await download.path())
        .subarray(0, 2)
        .toString(),
    ).toBe('PK');
  });

  await test.step('undo puts the wall back, and it is graded again by itself', async () => {
    await page.keyboard.press('Control+z');
    await expect(words).toContainText('nothing strays by more than 5 mm', { timeout: 30000 });
    await expect(page.getByTestId('grade-untraced')).toHaveCount(1);
    await page.keyboard.press('Control+z');
    await expect(page.getByTestId('grade-untraced')).toHaveCount(0, { timeout: 30000 });
  });
});
