import { expect, test, type Page } from '@playwright/test';
import {
  allSaved,
  attach,
  clickSheet,
  drawing,
  entities,
  newProject,
  onScreen,
  planeOnScreen,
  sheetFile,
  snapReady,
} from './bench.ts';

interface LineEntity {
  id: string;
  from: [number, number];
  to: [number, number];
  source: { ends: string; ink?: boolean };
}
interface Placed {
  id: string;
  placement: number[];
}
interface Group {
  id: string;
  elements: unknown[];
}
interface GridLine {
  name: string;
  from: [number, number];
  to: [number, number];
}

const bare = async (page: Page, plane: [number, number]) =>
  page.mouse.click(...(await planeOnScreen(page, plane)));
const move = async (page: Page, plane: [number, number]) =>
  page.mouse.move(...(await planeOnScreen(page, plane)), { steps: 3 });
const lines = (page: Page) => entities<LineEntity>(page, 'line');
const snap = (page: Page) =>
  page.evaluate(
    () =>
      (
        window as unknown as {
          calque: { table: { state: { getState(): { snap: { words: string } | null } } } };
        }
      ).calque.table.state.getState().snap?.words ?? '',
  );
const end = async (page: Page) => {
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
};

/** An empty project with a known view: a tenth of a pixel to the millimetre. */
async function bench(page: Page, name: string): Promise<void> {
  await newProject(page, name);
  await page.keyboard.press('3');
  await page.evaluate(() =>
    (window as unknown as { calque: { table: { setView(v: object): void } } }).calque.table.setView({
      scale: 0.1,
      x: 320,
      y: 640,
    }),
  );
}

test('the grid, grid lines that count their names on, and picks in line with what was touched', async ({
  page,
}) => {
  await bench(page, 'Grid');
  await page.keyboard.press('Shift+G');
  await page.getByRole('button', { name: 'Picks find everything' }).click();
  await page.getByLabel('Across, mm').fill('625');
  await page.getByLabel('Across, mm').press('Enter');
  await page.getByRole('dialog').getByRole('button', { name: 'Close', exact: true }).click();
  await drawing(page).focus();
  await page.keyboard.press('Shift+X');
  for (const x of [0, 1875]) {
    await bare(page, [x + 20, 3020]);
    await bare(page, [x - 20, -20]);
  }
  await end(page);
  expect((await entities<GridLine>(page, 'gridLine')).map((l) => [l.name, l.from, l.to].flat())).toEqual([
    ['1', 0, 3000, 0, 0],
    ['2', 1875, 3000, 1875, 0],
  ]);
  await page.keyboard.press('Shift+G');
  await page.getByRole('button', { name: 'Picks find everything' }).click();
  await expect(page.getByText('Grid is off')).toBeVisible();
  await page.getByRole('dialog').getByRole('button', { name: 'Close', exact: true }).click();
  // The end of the second grid line is touched: from far off a place level with it is found.
  await page.keyboard.press('i');
  await move(page, [1880, 3005]);
  await page.waitForTimeout(700);
  await move(page, [4300, 2960]);
  expect(await snap(page)).toBe('in line with it');
  await bare(page, [4300, 2960]);
  await bare(page, [4300, 1000]);
  await end(page);
  expect((await lines(page))[0].from).toEqual([expect.closeTo(4300, -1), 3000]);
});

test('a group is made, placed, edited in one place for all, and what is done goes out of the way', async ({
  page,
}) => {
  await bench(page, 'Groups');
  await page.keyboard.press('i');
  for (const p of [
    [500, 500],
    [2000, 500],
    [2000, 1200],
  ] as const)
    await bare(page, [...p]);
  await end(page);
  await page.keyboard.press('Shift+Q');
  for (const p of [
    [200, 200],
    [2300, 200],
    [2300, 1500],
    [200, 1500],
  ] as const)
    await bare(page, [...p]);
  await page.keyboard.press('Enter');
  await expect(page.getByText('Selected: 2 lines')).toBeVisible();
  await page.keyboard.press('Shift+F');
  await bare(page, [505, 505]);
  await page.getByTestId('cursor-field').getByLabel('name').fill('Rack');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Shift+Y');
  await move(page, [4000, 2500]);
  await page.keyboard.type('90');
  await page.keyboard.press('Enter');
  await bare(page, [4000, 2500]);
  await end(page);
  const placed = await entities<Placed>(page, 'placed');
  expect(placed.map((p) => p.placement.map((v) => Math.round(v)))).toEqual([
    [1, 0, 0, 1, 500, 500],
    [0, 1, -1, 0, 4000, 2500],
  ]);
  // The first one is opened, a line drawn more, and both have it.
  await bare(page, [1200, 500]);
  await expect(page.getByText('Selected: one group')).toBeVisible();
  await page.keyboard.press('Shift+Z');
  await expect(page.getByTestId('open-group')).toContainText('Editing Rack');
  await page.keyboard.press('i');
  await bare(page, [500, 500]);
  await bare(page, [500, 1200]);
  await end(page);
  await page.getByRole('button', { name: 'Finish (Shift Z)' }).click();
  expect((await entities<Group>(page, 'assembly'))[0].elements).toHaveLength(3);
  // The new line of the turned one lies level, to the left of where it was placed.
  await drawing(page).focus();
  await page.keyboard.press('Escape');
  await bare(page, [3600, 2500]);
  await expect(page.getByText('Selected: one group')).toBeVisible();
  await page.keyboard.press('Shift+K');
  await page.getByRole('button', { name: 'Layers, groups, what is done' }).click();
  await expect(page.getByRole('menuitem', { name: '1 done, hidden' })).toBeVisible();
  await page.keyboard.press('Escape');
  await bare(page, [3600, 2500]);
  await expect(page.getByTestId('selection')).toHaveCount(0);
  await allSaved(page);
  await page.reload();
  await expect.poll(async () => (await entities<Placed>(page, 'placed').catch(() => [])).length).toBe(2);
});

test('lines are drawn, selected and deleted by the keyboard alone; a right click gives up as Esc does', async ({
  page,
}) => {
  await bench(page, 'Keyboard');
  await drawing(page).focus();
  await page.keyboard.press('i');
  const press = async (key: string, times: number) => {
    for (let i = 0; i < times; i++) await page.keyboard.press(key);
  };
  await press('ArrowLeft', 3);
  await page.keyboard.press('Enter');
  await press('ArrowUp', 10);
  await page.keyboard.press('Enter');
  await end(page);
  const [line] = await lines(page);
  expect([line.to[0] - line.from[0], line.to[1] - line.from[1]]).toEqual([
    expect.closeTo(0, 6),
    expect.closeTo(1000, 6),
  ]);
  await press('ArrowDown', 3);
  await page.keyboard.press('Enter');
  await expect(page.getByText('Selected: one line')).toBeVisible();
  await page.keyboard.press('Delete');
  expect(await lines(page)).toHaveLength(0);
  await page.keyboard.press('i');
  await page.mouse.click(500, 300);
  await page.mouse.click(600, 300, { button: 'right' });
  await page.mouse.click(700, 350);
  await page.mouse.click(700, 450);
  await end(page);
  expect(await lines(page)).toHaveLength(1);
});

test('measures: an angle, an area, and the figure offered again where one is typed', async ({ page }) => {
  await bench(page, 'Measures');
  await page.keyboard.press('m');
  await page.keyboard.press('f');
  for (const p of [
    [500, 500],
    [1500, 500],
    [500, 900],
  ] as const)
    await bare(page, [...p]);
  await expect(page.getByTestId('measured')).toContainText('90');
  await page.getByRole('button', { name: 'Area', exact: true }).click();
  await drawing(page).focus();
  for (const p of [
    [500, 500],
    [2500, 500],
    [2500, 2000],
    [500, 2000],
  ] as const)
    await bare(page, [...p]);
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('measured')).toContainText('3.00');
  await page.keyboard.press('i');
  await bare(page, [500, 500]);
  await move(page, [1500, 1500]);
  await page.keyboard.type('1');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Tab');
  await page.keyboard.type('0');
  await page.keyboard.press('Enter');
  await end(page);
  const [line] = await lines(page);
  expect(line.to[0] - line.from[0]).toBeCloseTo(7000, 3);
});

test('on a scan a stroke is fitted to the ink under the cursor, picks find it, and it is forgotten on request', async ({
  page,
}) => {
  await newProject(page, 'Ink under the cursor');
  await attach(page, sheetFile('08a_scan_200dpi.pdf'));
  await page.getByRole('button', { name: 'Lay at the origin' }).click();
  await snapReady(page);
  await page.keyboard.press('3');
  await page.keyboard.press('i');
  // The first wall face of the scan, from the truth that it was printed from.
  const face: [number, number] = [170.42, 842.04 - 191.001];
  await page.mouse.move(...(await onScreen(page, face)));
  for (let i = 0; i < 5; i++) await page.mouse.wheel(0, -200);
  const [x, y] = await onScreen(page, [face[0] + 8, face[1]]);
  await page.mouse.move(x, y);
  await page.keyboard.press(';');
  await expect(page.getByTestId('ink')).toContainText(/fitted to the ink/);
  await expect.poll(() => snap(page)).toContain('from ink within');
  // Fitted once more it is still the same stroke.
  const once = await page.getByTestId('ink').innerText();
  await page.keyboard.press(';');
  await page.waitForTimeout(800);
  expect(await page.getByTestId('ink').innerText()).toBe(once);
  await clickSheet(page, [face[0] + 8, face[1]], [1, 2]);
  await clickSheet(page, [face[0] + 60, face[1] + 40], [0, 0]);
  await end(page);
  const [line] = await lines(page);
  expect(line.source.ink).toBe(true);
  const [u] = await entities<{ placement: number[] }>(page, 'underlay');
  // Good to a small part of a point across the face.
  expect(Math.abs((line.from[1] - u.placement[5]) / u.placement[3] - face[1])).toBeLessThan(0.8);
  await page.getByRole('button', { name: 'Forget them' }).click();
  await expect(page.getByTestId('ink')).not.toContainText('fitted to the ink');
});
