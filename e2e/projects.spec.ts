import { expect, test } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { allSaved, entities, newProject, OURS, sheetFile } from './bench.ts';

test('the demo tells its story at first sight', async ({ page }) => {
  await page.goto('/');
  const tile = page.getByRole('article').filter({ hasText: 'Riverside boathouse' });
  await expect(tile.locator('img')).toHaveJSProperty('complete', true);
  await tile.getByRole('link').first().click();
  await expect(page.getByText('1 of 7 to scale')).toBeVisible();
  await expect(page.getByText('This sheet is to scale')).toBeVisible();
  await expect(page.getByText(/^11 walls, 8 others/)).toBeVisible();
  await expect(page.getByRole('row').filter({ hasText: '9\u2009450' })).toContainText('≠');
});

test('projects are renamed, put into the bin, taken back, deleted for good', async ({ page }) => {
  await newProject(page, 'Short-lived');
  await page.goto('/');
  let tile = page.getByRole('article').filter({ hasText: 'Short-lived' });
  await tile.getByRole('button', { name: 'Rename' }).click();
  await page.getByLabel('Project name').fill('Long-lived');
  await page.keyboard.press('Enter');
  tile = page.getByRole('article').filter({ hasText: 'Long-lived' });
  await tile.getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByText('Long-lived was put into the bin.')).toBeVisible();
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(tile).toBeVisible();
  await tile.getByRole('button', { name: 'Delete' }).click();
  await page.getByRole('button', { name: /^Bin/ }).click();
  await page.getByRole('button', { name: 'Delete for good' }).last().click();
  await page.getByRole('dialog').getByRole('button', { name: 'Delete for good' }).click();
  await expect(page.getByText('Long-lived', { exact: true })).toHaveCount(0);
});

test('the package opens again with nothing lost, files and history included', async ({ page }) => {
  await page.goto('/');
  await page
    .getByRole('article')
    .filter({ hasText: 'Riverside boathouse' })
    .getByRole('link')
    .first()
    .click();
  await expect(page.getByText(/^11 walls, 8 others/)).toBeVisible();
  const wallsBefore = await entities(page, 'wall');
  const first = page.url();
  await page.getByRole('button', { name: /^Deliver/ }).click();
  await allSaved(page);
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Write .calque' }).click(),
  ]);
  const path = await download.path();
  // A file chosen before the page has come to life would be heard by nobody.
  await page.goto('/', { waitUntil: 'networkidle' });
  await page.getByLabel('Package file').setInputFiles({
    name: 'boathouse.calque',
    mimeType: 'application/zip',
    buffer: await (await import('node:fs/promises')).readFile(path),
  });
  await page.waitForURL('**/project/*');
  expect(page.url()).not.toBe(first);
  await expect(page.getByText(/^11 walls, 8 others/)).toBeVisible();
  expect(await entities(page, 'wall')).toEqual(wallsBefore);
  await page.getByRole('button', { name: /^Sheets/ }).click();
  await expect(
    page.getByRole('region', { name: 'Boathouse drawings.pdf' }).getByText('PDF, 4 pages'),
  ).toBeVisible({ timeout: 60000 });
  // Its history came with it: the last step of the demo is its roof.
  expect(await entities(page, 'roof')).toHaveLength(1);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await entities(page, 'roof')).length).toBe(0);
  // A file chosen before the page has come to life would be heard by nobody.
  await page.goto('/', { waitUntil: 'networkidle' });
  await page
    .getByLabel('Package file')
    .setInputFiles({ name: 'x.calque', mimeType: 'application/zip', buffer: Buffer.from('no zip') });
  await expect(page.getByText('This is not a .calque package')).toBeVisible();
});

test('an unknown project and foreign requests are refused in words', async ({ page, request }) => {
  await page.goto('/project/00000000-0000-4000-8000-000000000000');
  await expect(page.getByText('This project does not exist any more.')).toBeVisible();
  const foreign = await request.post('/api/projects', {
    data: { name: 'x', units: 'mm', precision: 0 },
    headers: { 'sec-fetch-site': 'cross-site' },
  });
  expect(foreign.status()).toBe(403);
  const bad = await request.post('/api/projects', {
    data: { name: '', units: 'parsecs', precision: 0 },
    headers: OURS,
  });
  expect(bad.status()).toBe(400);
  expect((await request.get('/api/projects/..%2f..%2fetc/files/x/bytes')).status()).toBe(404);
});

test('a PDF dropped on the list becomes a project; what state it is in is told; it is duplicated, found by its name', async ({
  page,
}) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New project' }).first().waitFor();
  const data = readFileSync(sheetFile('01_cairo_plan_100.pdf')).toString('base64');
  const transfer = await page.evaluateHandle((base64) => {
    const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
    const dataTransfer = new DataTransfer();
    dataTransfer.items.add(new File([bytes], 'Slipway plan.pdf'));
    return dataTransfer;
  }, data);
  // What is dragged says so again and again; the page may not hear the first of it while it wakes up.
  await expect(async () => {
    await page.dispatchEvent('main', 'dragover', { dataTransfer: transfer });
    await expect(page.getByRole('status')).toContainText('a project is made of it', { timeout: 500 });
  }).toPass({ timeout: 30000 });
  await page.dispatchEvent('main', 'drop', { dataTransfer: transfer });
  await page.waitForURL('**/project/*');
  await page.getByTestId('scale-offer').getByRole('button', { name: 'Lay it down to scale' }).click();
  await page.getByRole('button', { name: 'Trace the first wall' }).click();
  await page.mouse.click(500, 300);
  await page.mouse.click(700, 300);
  await allSaved(page);
  await page.goto('/');
  const tile = (name: string) =>
    page.getByRole('article').filter({ has: page.getByRole('link', { name, exact: true }) });
  await expect(tile('Slipway plan')).toContainText('1 of 1 sheet calibrated, 1 wall');
  await tile('Slipway plan').getByRole('button', { name: 'Duplicate' }).click();
  await expect(tile('Slipway plan, copy')).toContainText('1 of 1 sheet calibrated, 1 wall', {
    timeout: 30000,
  });
  await page.getByLabel('Find a project').fill('slipway');
  await expect(page.getByRole('article')).toHaveCount(2);
  await page.getByRole('button', { name: 'by name' }).click();
  await expect(page.getByRole('article').first()).toContainText('Slipway plan');
  await tile('Slipway plan, copy').getByRole('button', { name: 'Delete' }).click();
  await page.getByRole('button', { name: /^Bin/ }).click();
  await expect(page.getByText(/deleted on \d+ \w+ 20\d\d/).first()).toBeVisible();
  await tile('Slipway plan').getByRole('button', { name: 'Delete' }).click();
  await page.getByLabel('Find a project').fill('no such name');
  await expect(page.getByText('No project has all these words')).toBeVisible();
});
