import { fileURLToPath } from 'node:url';
import { expect, test } from '@playwright/test';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { allSaved, attach, entities, newProject, onScreen, snapReady } from './bench.ts';
import { checks, lies, type UnderlayEntity } from './calibrated.ts';

const PHOTO = fileURLToPath(
  new URL('../reader/test/hands/photos/boat-store-on-a-table.jpg', import.meta.url),
);

test('a photo at a slant tells so, and by one press is straight, to scale, with its dimensions known', async ({
  page,
}) => {
  test.setTimeout(240000);
  await newProject(page, 'Photo');
  await attach(page, PHOTO);
  await page.getByRole('button', { name: 'Lay at the origin' }).click();
  await snapReady(page);
  await page.keyboard.press('2');
  const found = page.getByTestId('photo-found');
  await expect(found).toContainText('a photo at a slant', { timeout: 120000 });
  await expect(found).toContainText(/\d+ of its \d+ printed dimensions agree on one scale/);
  await expect(page.getByTestId('found')).toHaveCount(0);
  await test.step('at one scale it is never green: none holds all over it', async () => {
    await page.getByLabel('Scale, factor or paper').fill('1:25');
    await page.getByRole('button', { name: 'Lay at it' }).click();
    await expect(page.getByTestId('doubt')).toContainText(
      /lies at 1:25, but it is a photo at a slant: \d+ printed dimensions say 1:\d+(\.\d+)? at its farthest corner/,
    );
    await expect(page.getByText(/≠ lies at 1:25/).first()).toBeVisible();
  });
  await page.getByTestId('doubt').getByRole('button', { name: 'Straighten it and lay it to scale' }).click();
  await expect.poll(async () => (await entities(page, 'underlay')).length, { timeout: 90000 }).toBe(2);
  await allSaved(page);
  const straight = (
    await entities<UnderlayEntity & { visible: boolean; name: string }>(page, 'underlay')
  ).find((u) => u.visible)!;
  expect(straight).toMatchObject({ scaleState: 'calibrated', name: 'boat-store-on-a-table, straightened' });
  const known = await checks(page);
  expect(known.length).toBeGreaterThan(8);
  // Every dimension of the store measures what it says, wherever on the photo it lay.
  for (const c of known)
    if (c.use === 'fit')
      expect(Math.abs(lies(straight.placement, c.from, c.to) - c.printed), `${c.printed}`).toBeLessThan(13);
  expect(known.filter((c) => c.use !== 'fit').length).toBeLessThanOrEqual(1);
  await expect(page.getByTestId('evidence')).toContainText(/Within \d+ mm across the sheet/);
  // What was recognised on the photo is not recognised again.
  await expect(page.getByTestId('found')).toContainText('printed dimensions', { timeout: 20000 });
  await test.step('undo brings the photo back', async () => {
    await page.keyboard.press('Control+z');
    await expect
      .poll(async () => (await entities<{ visible: boolean }>(page, 'underlay')).map((u) => u.visible))
      .toEqual([true]);
  });
});

test('a photo at a slant is straightened by four corners, and lies to scale', async ({ page }) => {
  test.setTimeout(180000);
  // A board of 2,400 by 1,800 mm as a camera sees it, with a disc at 1,800, 450 from its first corner.
  const seen = ([x, y]: [number, number]): [number, number] => {
    const w = 4e-5 * x + 6e-5 * y + 1;
    return [(0.42 * x + 0.03 * y + 180) / w, (-0.02 * x + 0.38 * y + 160) / w];
  };
  const corners = (
    [
      [0, 0],
      [2400, 0],
      [2400, 1800],
      [0, 1800],
    ] as [number, number][]
  ).map(seen);
  const [dx, dy] = seen([1800, 450]);
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="1600" height="1200"><rect width="1600" height="1200" fill="#fff"/><polygon points="${corners.map((c) => c.join()).join(' ')}" fill="#ddd" stroke="#999" stroke-width="2"/><circle cx="${dx}" cy="${dy}" r="9" fill="#000"/></svg>`;
  const path = join(mkdtempSync(join(tmpdir(), 'calque-photo-')), 'board.jpg');
  writeFileSync(path, await sharp(Buffer.from(svg)).jpeg({ quality: 95 }).toBuffer());
  await newProject(page, 'Slant');
  await attach(page, path);
  await page.getByRole('button', { name: 'Lay at the origin' }).click();
  await snapReady(page);
  await page.keyboard.press('2');
  await page.getByRole('button', { name: 'Straighten by four corners (R)' }).click();
  const [photo] = await entities<{ crop: number[] }>(page, 'underlay');
  const per = photo.crop[2] / 1600;
  const pickCorner = async ([x, y]: [number, number]) =>
    page.mouse.click(...(await onScreen(page, [x * per, photo.crop[3] - y * per])));
  // In a crossing order first.
  for (const i of [0, 2, 1, 3]) await pickCorner(corners[i]);
  await page.getByLabel('first side').fill('2400');
  await page.getByLabel('second side').fill('1.8 m');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('cursor-field')).toContainText('The four corners cross');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Straighten by four corners (R)' }).click();
  for (const c of corners) await pickCorner(c);
  await page.getByLabel('first side').fill('2400');
  await page.getByLabel('second side').fill('1.8 m');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await entities(page, 'underlay')).length, { timeout: 90000 }).toBe(2);
  await allSaved(page);
  const laid = await entities<
    UnderlayEntity & { name: string; fileId: string; crop: number[]; visible: boolean }
  >(page, 'underlay');
  expect(laid.map((u) => u.visible).sort()).toEqual([false, true]);
  const straight = laid.find((u) => u.visible)!;
  expect(straight).toMatchObject({ scaleState: 'calibrated', name: 'board, straightened' });
  const sides = await checks(page);
  expect(sides.map((c) => c.printed)).toEqual([2400, 1800, 2400, 1800]);
  for (const c of sides) expect(lies(straight.placement, c.from, c.to)).toBeCloseTo(c.printed, 0);
  // The disc lies where it truly is, to a pick's width.
  const bytes = await (
    await page.request.get(`/api/projects/${page.url().split('/').pop()!}/files/${straight.fileId}/bytes`)
  ).body();
  const { data, info } = await sharp(bytes).greyscale().raw().toBuffer({ resolveWithObject: true });
  let n = 0,
    sx = 0,
    sy = 0;
  data.forEach((v, i) => {
    if (v > 60) return;
    n++;
    sx += i % info.width;
    sy += Math.floor(i / info.width);
  });
  expect(n).toBeGreaterThan(50);
  const disc = [
    ((sx / n + 0.5) / info.width) * straight.crop[2],
    straight.crop[3] - ((sy / n + 0.5) / info.height) * straight.crop[3],
  ];
  expect(Math.abs(lies(straight.placement, sides[0].from, disc) - Math.hypot(1800, 450))).toBeLessThan(20);
  expect(Math.abs(lies(straight.placement, sides[2].from, disc) - Math.hypot(600, 1350))).toBeLessThan(20);
  await expect(page.getByTestId('evidence')).toContainText(/Within \d+ mm across the sheet/);

  await test.step('by more points: each further one with its place, Enter straightens', async () => {
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await entities(page, 'underlay')).length).toBe(1);
    await page
      .getByRole('button', { name: /^board/ })
      .first()
      .click();
    await page.getByRole('button', { name: 'By more points' }).click();
    for (const c of corners) await pickCorner(c);
    await page.getByLabel('first side').fill('2400');
    await page.getByLabel('second side').fill('1800');
    await page.keyboard.press('Enter');
    await pickCorner([dx, dy]);
    await page.getByLabel('along').fill('somewhere');
    await page.keyboard.press('Enter');
    await expect(page.getByTestId('cursor-field')).toContainText('Type both lengths');
    await page.getByLabel('along').fill('1800');
    await page.getByLabel('away').fill('450');
    await page.keyboard.press('Enter');
    await page.keyboard.press('Enter');
    await expect(page.getByText('Straightened by 5 points')).toBeVisible({ timeout: 40000 });
    expect(await entities(page, 'underlay')).toHaveLength(2);
  });
});
