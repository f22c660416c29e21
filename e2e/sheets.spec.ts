import { writeFileSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import {
  allSaved,
  attach,
  drawing,
  dropFile,
  entities,
  newProject,
  onScreen,
  sheetFile,
  sheetMenu,
} from './bench.ts';

interface UnderlayEntity {
  name: string;
  page: number;
  visible: boolean;
  locked: boolean;
  snap: boolean;
  fade: number;
  order: number;
  placement: number[];
  scaleState: string;
}

test('bad files end in words, and the good one beside them is read', async ({ page }) => {
  await newProject(page, 'Bad input');
  const empty = join(mkdtempSync(join(tmpdir(), 'calque-e2e-')), 'empty.pdf');
  writeFileSync(empty, '');
  await page.getByTestId('file-input').setInputFiles(empty);
  await expect(page.getByText('empty.pdf is empty (0 bytes)')).toBeVisible();
  await page
    .getByTestId('file-input')
    .setInputFiles([
      sheetFile('13a_truncated.pdf'),
      sheetFile('13h_zip_bomb_500mb.pdf'),
      sheetFile('13g_nested_q_5000.pdf'),
    ]);
  await expect(page.getByText('damaged or incomplete')).toBeVisible({ timeout: 60000 });
  await expect(page.getByText('unpacks to more than reading may use')).toBeVisible({ timeout: 80000 });
  await expect(
    page.getByRole('region', { name: '13g_nested_q_5000.pdf' }).getByText('PDF, 1 page'),
  ).toBeVisible({ timeout: 60000 });
  await expect(
    page.getByRole('region', { name: '13a_truncated.pdf' }).getByRole('button', { name: 'Read it again' }),
  ).toBeVisible();
});

test('a protected file asks for its password; a renamed picture is told by its bytes', async ({ page }) => {
  await newProject(page, 'Passwords and pictures');
  await page.getByTestId('file-input').setInputFiles(sheetFile('13e_password.pdf'));
  await expect(page.getByText('it needs a password')).toBeVisible({ timeout: 40000 });
  await page.locator('input[type=password]').fill('wrong');
  await page.getByRole('button', { name: 'Open it' }).click();
  await expect(page.getByText('does not open this file')).toBeVisible({ timeout: 40000 });
  await page.locator('input[type=password]').fill('letmein-13');
  await page.getByRole('button', { name: 'Open it' }).click();
  await expect(page.getByText('lines to snap to')).toBeVisible({ timeout: 40000 });
  await dropFile(page, sheetFile('13c_png_renamed.pdf'), 'photo.pdf');
  await expect(page.getByRole('region', { name: 'photo.pdf' }).getByText('PNG, 1 page')).toBeVisible({
    timeout: 40000,
  });
  await expect(
    page.getByRole('region', { name: 'photo.pdf' }).getByText('a scan, no lines to snap to').first(),
  ).toBeVisible();
});

test('several pages are laid down at a stated scale; underlays are renamed, hidden, locked, moved, removed', async ({
  page,
}) => {
  await newProject(page, 'A set');
  await page.getByTestId('file-input').setInputFiles(sheetFile('09_tikz_set_3_pages.pdf'));
  await expect(page.getByLabel('Choose page 3')).toBeVisible({ timeout: 40000 });
  await page.getByLabel('Choose page 2').check();
  await page.getByLabel('Choose page 3').check();
  await page.getByLabel(/at a stated scale/).check();
  await page.getByLabel('Scale', { exact: true }).fill('a lot');
  await expect(page.getByText('"a lot" is not a scale')).toBeVisible();
  await page.getByLabel('Scale', { exact: true }).fill('1/4" = 1\'-0"');
  await page.getByRole('button', { name: 'Lay at the origin' }).click();
  await allSaved(page);
  let laid = await entities<UnderlayEntity>(page, 'underlay');
  expect(laid.map((u) => u.page).sort()).toEqual([2, 3]);
  expect(Math.hypot(laid[0].placement[0], laid[0].placement[1])).toBeCloseTo((48 * 25.4) / 72, 6);
  // The view went to what was laid down: its corner is on the screen.
  const [x, y] = await onScreen(page, [0, 0]);
  expect(x > 200 && x < 1000 && y > 60 && y < 780).toBe(true);

  const stack = page.getByRole('complementary', { name: 'On the table' });
  await sheetMenu(page, 'Rename');
  await page.getByLabel('Name of the underlay').fill('Plan of the hall');
  await page.keyboard.press('Enter');
  await expect(stack.getByText('Plan of the hall')).toBeVisible();
  for (const name of ['Hide', 'Snap off', 'Lock'])
    await stack.getByRole('button', { name, exact: true }).click();
  await allSaved(page);
  laid = await entities<UnderlayEntity>(page, 'underlay');
  expect(laid.find((u) => u.name === 'Plan of the hall')).toMatchObject({
    visible: false,
    locked: true,
    snap: false,
  });
  await stack.getByRole('button', { name: 'More', exact: true }).click();
  await expect(page.getByRole('menuitem', { name: 'Take off the table …' })).toBeDisabled();
  await page.keyboard.press('Escape');
  await stack.getByRole('button', { name: 'Unlock' }).click();
  await stack.getByRole('button', { name: 'Show', exact: true }).click();

  const before = (await entities<UnderlayEntity>(page, 'underlay')).find(
    (u) => u.name === 'Plan of the hall',
  )!.placement;
  await sheetMenu(page, 'Move');
  await page.mouse.click(500, 400);
  await page.mouse.click(560, 430);
  await allSaved(page);
  const after = (await entities<UnderlayEntity>(page, 'underlay')).find(
    (u) => u.name === 'Plan of the hall',
  )!.placement;
  expect(after[4] - before[4]).toBeGreaterThan(0);
  expect(after[5] - before[5]).toBeLessThan(0);

  await page
    .getByRole('region', { name: '09_tikz_set_3_pages.pdf' })
    .getByRole('button', { name: 'Detach' })
    .click();
  await expect(page.getByRole('dialog')).toContainText('2 sheets lie on the table from it');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await sheetMenu(page, 'Take off the table …');
  await page.getByRole('button', { name: 'Take it off' }).click();
  await expect.poll(async () => (await entities(page, 'underlay')).length).toBe(1);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await entities(page, 'underlay')).length).toBe(2);
});

test('a scan is laid at a point, turned and levelled by two picks', async ({ page }) => {
  await newProject(page, 'A scan');
  await attach(page, sheetFile('08a_scan_200dpi.pdf'));
  await page.getByRole('button', { name: 'At a point' }).click();
  await page.mouse.click(520, 500);
  await allSaved(page);
  await page.keyboard.press('2');
  await page.getByRole('button', { name: 'Quarter left' }).click();
  await allSaved(page);
  let [u] = await entities<UnderlayEntity>(page, 'underlay');
  expect(Math.atan2(u.placement[1], u.placement[0])).toBeCloseTo(Math.PI / 2, 9);
  await page.getByLabel('Angle').fill('-90');
  await page.getByRole('button', { name: 'Turn', exact: true }).click();
  await page.keyboard.press('Escape');
  await allSaved(page);
  await drawing(page).focus();
  await page.keyboard.press('l');
  await page.mouse.click(450, 400);
  await page.mouse.click(750, 407);
  await allSaved(page);
  [u] = await entities<UnderlayEntity>(page, 'underlay');
  expect(Math.atan2(u.placement[1], u.placement[0])).toBeCloseTo(Math.atan2(7, 300), 3);
});
