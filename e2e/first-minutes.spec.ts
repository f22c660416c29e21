import { expect, test, type Page } from '@playwright/test';
import { allSaved, newProject, dropFile, sheetFile, SHEET_01, snapReady } from './bench.ts';

interface Exposed {
  calque: { session: { state: { model: Map<string, { type: string }> } } };
}
const slip = (page: Page) => page.getByRole('region', { name: 'First minutes' });
const shown = (page: Page) => page.getByTestId('shown');

test.describe('the first time', () => {
  test.use({ storageState: { cookies: [], origins: [] } });

  test('five steps stand in place, each ends when it is done by whichever way, and what is pressed has a ring', async ({
    page,
  }) => {
    await newProject(page, 'First');
    await expect(slip(page)).toContainText('1 of 5: Lay a plan on the table');
    // Nothing lies under it: the card ends above.
    const below = (await slip(page).boundingBox())!,
      card = (await page.getByRole('complementary', { name: 'Stage' }).boundingBox())!;
    expect(card.y + card.height).toBeLessThanOrEqual(below.y);
    await dropFile(page, sheetFile(SHEET_01.file));
    // Laid to scale by one press: two steps are done at once.
    await page.getByRole('button', { name: /lay it down to scale/i }).click({ timeout: 30000 });
    await expect(slip(page)).toContainText('3 of 5: Trace a wall');
    await expect(slip(page)).toContainText('In Trace:');
    const ring = page.getByTestId('first-target'),
      trace = (await page
        .getByRole('navigation', { name: 'Stages' })
        .getByRole('button', { name: /^Trace/ })
        .boundingBox())!;
    await expect.poll(async () => Math.abs(((await ring.boundingBox())?.x ?? 0) - trace.x)).toBeLessThan(4);
    await snapReady(page);
    await page.keyboard.press('3');
    await page.keyboard.press('w');
    await page.mouse.click(500, 300);
    await page.mouse.click(700, 300);
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
    await expect(slip(page)).toContainText('4 of 5: Measure it again');
    // What is done stays done.
    await allSaved(page);
    await page.reload();
    await expect(slip(page)).toContainText('4 of 5');
    // What a tool does while it is shown is not what the person has done.
    await slip(page).getByRole('button', { name: /^Show/ }).click();
    await expect.poll(() => shown(page).getAttribute('data-did'), { timeout: 30000 }).not.toBe('0');
    await page.getByRole('button', { name: 'Close', exact: true }).last().click();
    await expect(slip(page)).toContainText('4 of 5');
    await page.keyboard.press('4');
    await page.keyboard.press('m');
    await page.mouse.click(500, 300);
    await page.mouse.click(640, 380);
    await expect(slip(page)).toContainText('5 of 5: Deliver it');
    await page.keyboard.press('Escape');
    await page.keyboard.press('5');
    const file = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Write DXF' }).click();
    await file;
    await expect(slip(page)).toContainText('That is the whole way.');
    await slip(page).getByRole('button', { name: 'Close' }).click();
    await page.reload();
    await page.getByTestId('saved').waitFor();
    await expect(slip(page)).toHaveCount(0);
  });

  test('one press puts them away for ever; the search brings them back', async ({ page }) => {
    await newProject(page, 'Known already');
    await slip(page).getByRole('button', { name: 'Not again' }).click();
    await expect(slip(page)).toHaveCount(0);
    await newProject(page, 'Another');
    await expect(slip(page)).toHaveCount(0);
    await page.keyboard.press('Control+k');
    await page.keyboard.type('first minutes');
    await page.keyboard.press('Enter');
    await expect(slip(page)).toContainText('1 of 5');
  });
});

test('every instrument is shown at work, and does what it is for', async ({ page }) => {
  test.setTimeout(240000);
  await newProject(page, 'Shown');
  // Fast, so that all fit into a minute; people see them at their usual pace.
  await page.goto(`${page.url()}?pace=40`);
  await page.getByTestId('saved').waitFor();
  const links = () => page.getByRole('button', { name: /^Show .* at work$/ });
  await page.keyboard.press('?');
  await links().first().waitFor();
  const count = await links().count();
  expect(count).toBeGreaterThan(55);
  for (let i = 0; i < count; i++) {
    const name = await links().nth(i).getAttribute('aria-label');
    await links().nth(i).click();
    await expect
      .poll(() => shown(page).getAttribute('data-rounds'), { message: `${name} comes to its end` })
      .not.toBe('0');
    expect(Number(await shown(page).getAttribute('data-did')), `${name} does something`).toBeGreaterThan(0);
    await page.getByRole('button', { name: 'Close', exact: true }).last().click();
    await expect(shown(page)).toHaveCount(0);
  }
  // Nothing of it has come into the project.
  await page.keyboard.press('Escape');
  const types = await page.evaluate(() =>
    [...(window as unknown as Exposed).calque.session.state.model.values()].map((e) => e.type),
  );
  expect(types.sort()).toEqual(['settings', 'storey']);
});

test('a tool is shown from its card and by F1, can be stopped, and is taken in hand from there; what it remembers stays', async ({
  page,
}) => {
  await newProject(page, 'From the card');
  await page.keyboard.press('3');
  await page.keyboard.press('w');
  const thickness = page.getByRole('textbox', { name: /Thickness/i });
  await thickness.fill('240');
  await thickness.press('Enter');
  await page.keyboard.press('F1');
  await expect(page.getByRole('dialog', { name: /Wall/ })).toBeVisible();
  await page.getByRole('button', { name: 'Pause' }).click();
  await page.getByRole('button', { name: 'Play' }).click();
  await page.getByRole('button', { name: /Use it now/ }).click();
  await expect(shown(page)).toHaveCount(0);
  await expect(page.getByTestId('in-hand')).toContainText('Wall');
  await expect(thickness).toHaveValue('240');
});
