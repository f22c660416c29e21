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
  serverAway,
  sheetFile,
  snapReady,
} from './bench.ts';

interface WallEntity {
  id: string;
  from: [number, number];
  to: [number, number];
  thickness: number;
  height: number;
  heightAssumed: boolean;
  alignment: string;
}

/** Draws a chain of walls on the bare table by typed lengths: 6000 to the right, then 4000 up. */
async function drawCorner(page: Page): Promise<void> {
  await page.keyboard.press('w');
  await page.mouse.click(420, 560);
  await page.mouse.move(600, 560);
  await page.keyboard.type('6 m');
  await page.keyboard.press('Tab');
  await page.keyboard.type('0');
  await page.keyboard.press('Enter');
  await page.mouse.move(640, 300);
  await page.keyboard.type('4000');
  await page.keyboard.press('Tab');
  await page.keyboard.type('90');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await allSaved(page);
  await page.keyboard.press('0');
}

const walls = (page: Page) => entities<WallEntity>(page, 'wall');
const middle = (w: WallEntity): [number, number] => [(w.from[0] + w.to[0]) / 2, (w.from[1] + w.to[1]) / 2];

test('walls by typed figures; Backspace takes one back; select, edit several, drag an end, delete, undo', async ({
  page,
}) => {
  await newProject(page, 'Edits');
  await drawCorner(page);
  let all = await walls(page);
  expect(all).toHaveLength(2);
  expect(Math.hypot(all[0].to[0] - all[0].from[0], all[0].to[1] - all[0].from[1])).toBeCloseTo(6000, 6);
  expect(all[1].to[0] - all[1].from[0]).toBeCloseTo(0, 6);
  expect(all[1].to[1] - all[1].from[1]).toBeCloseTo(4000, 6);
  expect(all[1].from).toEqual(all[0].to);

  await test.step('Backspace takes back the point and its wall', async () => {
    await page.keyboard.press('w');
    await page.mouse.click(420, 250);
    await page.mouse.click(500, 250);
    await page.mouse.click(500, 330);
    await expect.poll(async () => (await walls(page)).length).toBe(4);
    await drawing(page).focus();
    await page.keyboard.press('Backspace');
    await expect.poll(async () => (await walls(page)).length).toBe(3);
    await page.keyboard.press('Backspace');
    await expect.poll(async () => (await walls(page)).length).toBe(2);
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
  });

  await test.step('a box selects both; thickness, height and alignment change together', async () => {
    await page.mouse.move(240, 70);
    await page.mouse.down();
    await page.mouse.move(966, 690, { steps: 6 });
    await page.mouse.up();
    await expect(page.getByTestId('selection')).toContainText('2 walls');
    await page
      .getByTestId('selection')
      .getByLabel(/Thickness/)
      .fill('0.24 m');
    await page.keyboard.press('Enter');
    await page
      .getByTestId('selection')
      .getByLabel(/Height/)
      .fill('3 m');
    await page.keyboard.press('Enter');
    await page.getByTestId('selection').getByRole('button', { name: 'left face' }).click();
    await allSaved(page);
    all = await walls(page);
    expect(
      all.every(
        (w) => w.thickness === 240 && w.height === 3000 && !w.heightAssumed && w.alignment === 'left',
      ),
    ).toBe(true);
  });

  await test.step('dragging the shared corner moves both walls', async () => {
    const [x, y] = await planeOnScreen(page, all[0].to);
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(x + 60, y + 40, { steps: 6 });
    await page.mouse.up();
    await allSaved(page);
    const moved = await walls(page);
    expect(moved[0].to).toEqual(moved[1].from);
    expect(moved[0].to[0]).toBeGreaterThan(all[0].to[0]);
  });

  await test.step('a click selects one, Delete removes it, undo brings it back', async () => {
    await page.keyboard.press('Escape');
    const [x, y] = await planeOnScreen(page, middle((await walls(page))[0]));
    await page.mouse.click(x, y);
    await expect(page.getByTestId('selection')).toContainText('one wall');
    await page.keyboard.press('Delete');
    await expect.poll(async () => (await walls(page)).length).toBe(1);
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await walls(page)).length).toBe(2);
  });
});

test('measure with snap: straight, horizontal and vertical parts', async ({ page }) => {
  await newProject(page, 'Measuring');
  await drawCorner(page);
  const [a, b] = await walls(page);
  await page.keyboard.press('m');
  for (const end of [a.from, b.to]) {
    const [x, y] = await planeOnScreen(page, end);
    await page.mouse.click(x + 1, y);
  }
  const measured = page.getByTestId('measured');
  await expect(measured).toContainText('6\u2009000');
  await expect(measured).toContainText('4\u2009000');
  await expect(measured).toContainText('7\u2009211');
});

test('feet and inches: lengths are typed and shown as the trade does', async ({ page }) => {
  await newProject(page, 'Imperial', 'feet and inches');
  await page.keyboard.press('i');
  await page.mouse.click(420, 560);
  await page.mouse.move(600, 560);
  await page.keyboard.type('1');
  await page.getByLabel('length').fill('11\'-4 1/2"');
  await expect(page.getByTestId('cursor-field')).toContainText('11′-4 1/2″');
  await page.keyboard.press('Enter');
  await allSaved(page);
  const [line] = await entities<WallEntity>(page, 'line');
  expect(Math.hypot(line.to[0] - line.from[0], line.to[1] - line.from[1])).toBeCloseTo(136.5 * 25.4, 6);
});

test('what the server has not taken is shown, kept over a reload, and sent when it is back', async ({
  page,
}) => {
  await newProject(page, 'Server away');
  await serverAway(page);
  await page.keyboard.press('i');
  await page.mouse.click(420, 560);
  await page.mouse.click(620, 500);
  await expect(page.getByTestId('saved')).toHaveText('Not saved yet: 1');
  page.on('dialog', (dialog) => void dialog.accept());
  await page.unroute('**/changes');
  await page.reload();
  await expect.poll(async () => (await entities(page, 'line').catch(() => [])).length).toBe(1);
  await allSaved(page);
  await page.reload();
  await expect.poll(async () => (await entities(page, 'line').catch(() => [])).length).toBe(1);
});

test('commands are found by plain words, and every key is listed', async ({ page }) => {
  await newProject(page, 'Commands');
  await page.keyboard.press('Control+k');
  await page.getByLabel('Find a command').fill('draw wall');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('tool-words')).toContainText('click where it starts');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toContainText('look through the trace');
  await page.keyboard.press('Escape');
});

test('on a scan lines are read from the ink, picks find them, and what is traced on them stays marked', async ({
  page,
}) => {
  await newProject(page, 'Ink');
  await attach(page, sheetFile('08a_scan_200dpi.pdf'));
  await page.getByRole('button', { name: 'Lay at the origin' }).click();
  await snapReady(page);
  await page.keyboard.press('3');
  const ink = page.getByTestId('ink');
  await expect(ink).toContainText('no lines to snap to');
  await page.keyboard.press('g');
  await expect(ink).toContainText(/\d+ lines read from the ink/, { timeout: 40000 });
  await page.keyboard.press('i');
  // Near the first wall face of the scan; the end that is found is good to a pixel or two.
  const [x, y] = await onScreen(page, [170.42, 842.04 - 191.001]);
  await page.mouse.move(x, y);
  for (let i = 0; i < 5; i++) await page.mouse.wheel(0, -200);
  await clickSheet(page, [170.42, 842.04 - 191.001], [2, -2]);
  await clickSheet(page, [217.18, 842.04 - 189.94], [1, -1]);
  await allSaved(page);
  await page.keyboard.press('Escape');
  const [line] = await entities<{ from: number[]; source: { ink?: boolean; ends: string } }>(page, 'line');
  expect(line.source).toMatchObject({ ink: true });
  const [u] = await entities<{ placement: number[] }>(page, 'underlay');
  const sheet = [
    (line.from[0] - u.placement[4]) / u.placement[0],
    (line.from[1] - u.placement[5]) / u.placement[3],
  ];
  expect(Math.hypot(sheet[0] - 170.42, sheet[1] - (842.04 - 191.001))).toBeLessThan(1);
  await page.keyboard.press('s');
  await page.keyboard.press('g');
  await expect(ink.getByRole('button', { name: 'Show them (G)' })).toBeVisible();
});

test('drawn lines are trimmed, copied in a row and offset; picks are limited to one kind; all is undone step by step', async ({
  page,
}) => {
  await newProject(page, 'Edits');
  const lines = async () =>
    (await entities<{ from: number[]; to: number[] }>(page, 'line')).map((l) =>
      [...l.from, ...l.to].map(Math.round),
    );
  const at = async (x: number, y: number) => page.mouse.click(...(await planeOnScreen(page, [x, y])));
  const hover = async (x: number, y: number) => page.mouse.move(...(await planeOnScreen(page, [x, y])));
  /** A line from a place by typed figures. */
  const draw = async (x: number, y: number, length: string, angle: string) => {
    await page.keyboard.press('i');
    await at(x, y);
    await hover(x + 300, y + 300);
    await page.keyboard.type(length.replace(/^(\d)/, '$1'));
    await page.keyboard.press('Tab');
    await page.keyboard.type(angle);
    await page.keyboard.press('Enter');
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
  };
  await draw(0, 0, '2*2000', '0');
  await draw(1500, -1000, '2000', '90');
  await allSaved(page);
  const first = await lines();
  expect(first.map((l) => Math.hypot(l[2] - l[0], l[3] - l[1]))).toEqual([4000, 2000]);
  const [x0, y0] = first[0],
    cross = first[1][0];

  await test.step('trim takes what is pointed at, up to the crossing', async () => {
    await page.keyboard.press('z');
    await at(x0 + 3500, y0);
    await allSaved(page);
    expect((await lines())[0]).toEqual([x0, y0, cross, y0]);
  });
  await test.step('a copy three times, by typed figures', async () => {
    await page.keyboard.press('s');
    await at(x0 + 500, y0);
    await expect(page.getByTestId('selection')).toContainText('one line');
    await page.keyboard.press('d');
    await at(x0 + 500, y0 + 300);
    await hover(x0 + 600, y0 + 400);
    await page.keyboard.type('0');
    await page.keyboard.press('Tab');
    await page.keyboard.type('700');
    await page.keyboard.press('Tab');
    await page.keyboard.type('3');
    await page.keyboard.press('Enter');
    await allSaved(page);
    expect((await lines()).slice(2).map((l) => l[1] - y0)).toEqual([700, 1400, 2100]);
    await expect(page.getByTestId('selection')).toContainText('3 lines');
  });
  await test.step('an offset at a typed distance, on the side that is clicked', async () => {
    await page.keyboard.press('p');
    await at(x0 + 400, y0 + 2100);
    await hover(x0 + 400, y0 + 2300);
    await page.keyboard.type('250');
    await page.keyboard.press('Enter');
    await at(x0 + 400, y0 + 2500);
    await allSaved(page);
    expect((await lines()).at(-1)![1] - y0).toBe(2350);
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
  });
  await test.step('H limits a pick to middles', async () => {
    await page.keyboard.press('m');
    await page.keyboard.press('h');
    await expect(page.getByTestId('snap')).toContainText('finds ends alone');
    for (let i = 0; i < 3; i++) await page.keyboard.press('h');
    await hover((x0 + cross) / 2 + 40, y0 + 20);
    await expect(page.getByTestId('snap')).toContainText('middle');
    await page.keyboard.press('Escape');
  });
  await test.step('the whole chain is selected, copied, and pasted into another project', async () => {
    await page.keyboard.press('3');
    await at(x0 + 400, y0 + 700);
    await page.getByRole('button', { name: /all of this kind/ }).click();
    await expect(page.getByTestId('selection')).toContainText('6 lines');
    await page.keyboard.press('Control+c');
    const here = page.url();
    await newProject(page, 'Edits, elsewhere');
    await page.keyboard.press('Control+v');
    await page.mouse.click(500, 500);
    await allSaved(page);
    expect(await lines()).toHaveLength(6);
    await page.goto(here);
    await page.getByTestId('saved').waitFor();
    await allSaved(page);
  });
  await test.step('every step is undone', async () => {
    for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
    // Undo waits for the history of a project that has just been opened.
    await expect.poll(lines).toEqual(first);
    await allSaved(page);
  });
});
