import { test, expect } from '@playwright/test';
import { attach, newProject, onScreen, snapReady } from './bench.ts';
const hands = (name: string) => new URL(`../reader/test/hands/tuned/${name}.pdf`, import.meta.url).pathname;
test('shots', async ({ page }) => {
  test.setTimeout(120000);
  await page.setViewportSize({ width: 1280, height: 800 });
  await newProject(page, 'Shots a'); await attach(page, hands('boat-store-cm')); await page.getByRole('button', { name: 'Lay at the origin' }).click(); await snapReady(page); await page.keyboard.press('2');
  await expect(page.getByTestId('found')).toContainText('printed dimensions');
  await page.keyboard.press('c');
  const [x, y] = await onScreen(page, [324.5, 358]); await page.mouse.move(x - 2, y); await page.mouse.move(x, y); await page.waitForTimeout(500);
  await page.screenshot({ path: '/tmp/s1.png' });
  await page.mouse.click(x, y); await page.waitForTimeout(300); await page.screenshot({ path: '/tmp/s2.png' });
  await newProject(page, 'Shots b'); await attach(page, hands('riverside-bar')); await page.getByRole('button', { name: 'Lay at the origin' }).click(); await snapReady(page); await page.keyboard.press('2');
  await expect(page.getByTestId('found')).toContainText('graphic scale'); await page.waitForTimeout(500); await page.screenshot({ path: '/tmp/s3.png' });
});
