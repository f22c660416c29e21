import { execFileSync } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { allSaved, dropFile, entities, newProject, planeOnScreen, sheetFile, snapReady } from './bench.ts';

interface Lying {
  id: string;
  planeId: string;
  page: number;
  crop: [number, number, number, number];
  placement: number[];
  scaleState: string;
}
interface Wall {
  id: string;
  planeId: string;
  from: [number, number];
  to: [number, number];
  openings?: { kind: string; leaves: number; from: [number, number]; to: [number, number] }[];
}
interface Space {
  name: string;
  printed: number | null;
}
const command = async (page: Page, words: string) => {
  await page.keyboard.press('Control+k');
  await page.getByLabel('Find a command').fill(words);
  await page.keyboard.press('Enter');
};
const walls = (page: Page) => entities<Wall>(page, 'wall');
const underlays = (page: Page) => entities<Lying>(page, 'underlay');

/** What the set prints: its rooms with their areas, square metres; and how many swings of doors its plan draws. */
const ROOMS: Readonly<Record<string, number>> = {
  Living: 16,
  'Bedroom 2': 12.1,
  Bath: 13.3,
  Workshop: 22.7,
  Meeting: 12.5,
  Kitchen: 13.8,
  Hall: 13.1,
  Store: 20.5,
  Plant: 18.1,
  Office: 10.9,
  'Bedroom 1': 25.3,
  Study: 10.3,
  Utility: 11.2,
  Archive: 7.8,
  Lobby: 18.1,
  Dining: 10.5,
  Pantry: 15.6,
};
const SWINGS = 18;

/** One short stroke across each of its walls, where nothing else is drawn: shares of the page, from its upper left corner. */
const STROKES: readonly (readonly [number, number, number, number])[] = (
  [
    [350, 180, 350, 196],
    [297, 235, 314, 235],
    [724, 240, 708, 240],
    [385, 396, 385, 380],
    [400, 215, 412, 215],
    [470, 235, 483, 235],
    [545, 215, 560, 215],
    [648, 235, 662, 235],
    [330, 242, 330, 253],
    [360, 290, 360, 303],
    [430, 244, 430, 257],
    [540, 244, 540, 258],
    [463, 280, 476, 280],
    [425, 321, 425, 334],
    [510, 331, 510, 345],
    [630, 260, 630, 273],
    [590, 323, 590, 335],
    [596, 360, 609, 360],
    [690, 258, 690, 270],
    [700, 323, 700, 335],
    [352, 445, 369, 445],
    [400, 466, 400, 450],
    [516, 410, 500, 410],
    [415, 400, 428, 400],
  ] as const
).map(([x0, y0, x1, y1]) => [(x0 - 185.5) / 769, (y0 - 73) / 543.5, (x1 - 185.5) / 769, (y1 - 73) / 543.5]);

/** Lays a page of the set from the list of its pages. */
async function layPage(page: Page, number: number): Promise<void> {
  await page.keyboard.press('1');
  await page.getByRole('checkbox', { name: `Choose page ${number}` }).check();
  await page
    .getByRole('button', { name: /^Lay at/ })
    .first()
    .click();
}

test('a whole house from a set: its plan to scale, walls with their openings, rooms as they are printed, its elevation upright', async ({
  page,
}) => {
  test.setTimeout(180000);
  page.setDefaultTimeout(15000);
  await newProject(page, 'House from a set');
  await dropFile(page, sheetFile('09_tikz_set_3_pages.pdf'));
  await expect(page.getByText(/^PDF, 3 pages/)).toBeVisible({ timeout: 30000 });
  await layPage(page, 2);
  await expect.poll(async () => (await underlays(page)).length).toBe(1);
  await page.keyboard.press('2');
  await page.getByRole('button', { name: 'Calibrate from them' }).click();
  await expect.poll(async () => (await underlays(page))[0].scaleState, { timeout: 20000 }).toBe('calibrated');
  await snapReady(page);
  await page.keyboard.press('3');
  await page.keyboard.press('Shift+L');
  await page.waitForTimeout(1500);
  const [{ placement: m, crop }] = await underlays(page);
  const onPlan = ([x, y]: readonly [number, number]): [number, number] => {
    const [u, v] = [crop[0] + x * (crop[2] - crop[0]), crop[3] - y * (crop[3] - crop[1])];
    return [m[0] * u + m[2] * v + m[4], m[1] * u + m[3] * v + m[5]];
  };
  for (const [x0, y0, x1, y1] of STROKES) {
    const [p, q] = [await planeOnScreen(page, onPlan([x0, y0])), await planeOnScreen(page, onPlan([x1, y1]))];
    await page.mouse.move(...p);
    await page.mouse.down();
    await page.mouse.move((p[0] + q[0]) / 2, (p[1] + q[1]) / 2, { steps: 3 });
    await page.mouse.move(...q, { steps: 3 });
    await page.waitForTimeout(350);
    await page.mouse.up();
  }
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  // Of one wall a last short face was read as part of a dimension: its end is dragged to the corner, along the wall.
  const right = (await walls(page)).reduce((a, b) => (a.from[0] + a.to[0] > b.from[0] + b.to[0] ? a : b)),
    low = right.from[1] < right.to[1] ? right.from : right.to,
    high = right.from[1] < right.to[1] ? right.to : right.from;
  await page.mouse.click(...(await planeOnScreen(page, [low[0], low[1] + 0.3 * (high[1] - low[1])])));
  await page.mouse.move(...(await planeOnScreen(page, low)));
  await page.mouse.down();
  await page.mouse.move(...(await planeOnScreen(page, [low[0], low[1] - 400])), { steps: 4 });
  await page.mouse.move(...(await planeOnScreen(page, onPlan([(717 - 185.5) / 769, (388 - 73) / 543.5]))), {
    steps: 4,
  });
  await page.waitForTimeout(300);
  await page.mouse.up();
  await page.keyboard.press('Escape');
  await page.getByRole('toolbar').getByRole('button', { name: 'All rooms', exact: true }).click();
  await expect.poll(async () => (await entities<Space>(page, 'space')).length).toBe(17);
  const openings = (await walls(page)).flatMap((w) => w.openings ?? []);
  // Every swing that the plan draws is a leaf of a door.
  expect(openings.reduce((n, o) => n + o.leaves, 0)).toBe(SWINGS);
  expect(openings.filter((o) => o.kind === 'window').length).toBeGreaterThan(10);
  await allSaved(page);
  await page.keyboard.press('Escape');
  // The river side: from corner to corner of its outer face.
  await command(page, 'stand an elevation');
  for (const at of [
    [303, 391],
    [720, 391],
  ] as const)
    await page.mouse.click(
      ...(await planeOnScreen(page, onPlan([(at[0] - 185.5) / 769, (at[1] - 73) / 543.5]))),
    );
  await page.keyboard.type('South');
  await page.keyboard.press('Enter');
  const [plane] = await entities<{ id: string; width: number }>(page, 'plane');
  // As long as the plan prints it.
  expect(Math.abs(plane.width - 22800)).toBeLessThan(2);
  await page.keyboard.press('1');
  await page.getByRole('checkbox', { name: 'Choose page 2' }).uncheck();
  await layPage(page, 3);
  await expect.poll(async () => (await underlays(page)).length).toBe(2);
  await page.keyboard.press('2');
  await page.getByRole('button', { name: 'Calibrate from them' }).click();
  const elevation = async () => (await underlays(page)).find((u) => u.page === 3)!;
  await expect.poll(async () => (await elevation()).scaleState, { timeout: 20000 }).toBe('calibrated');
  expect((await elevation()).planeId).toBe(plane.id);
  expect(Math.hypot((await elevation()).placement[0], (await elevation()).placement[1])).toBeCloseTo(
    (50 * 25.4) / 72,
    1,
  );

  await allSaved(page);
  await page.keyboard.press('5');
  const packed = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Write .calque' }).click();
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'calque-house-')), 'house.calque');
  await (await packed).saveAs(file);
  const counted = JSON.parse(execFileSync('./calque', ['takeoff', file, '--json'], { encoding: 'utf8' })) as {
    spaces: { name: string; area: number }[];
    openings: unknown[];
  };
  expect(counted.openings).toHaveLength(openings.length);
  expect(Object.fromEntries(counted.spaces.map((s) => [s.name, s.area]))).toEqual(
    // Printed with one decimal.
    Object.fromEntries(Object.entries(ROOMS).map(([name, area]) => [name, expect.closeTo(area, 1)])),
  );
});
