import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { allSaved, attach, entities, newProject, sheetFile, snapReady } from './bench.ts';

const ledge = (page: Page) => page.getByRole('region', { name: 'Instruments' });
const instrument = (page: Page, name: string) =>
  ledge(page).getByRole('toolbar').getByRole('button', { name, exact: true });
const tool = (page: Page) =>
  page.evaluate(
    () =>
      (
        window as unknown as { calque: { table: { state: { getState(): { toolId: string } } } } }
      ).calque.table.state.getState().toolId,
  );
/** Three lines, drawn by figures. */
async function someLines(page: Page): Promise<void> {
  await page.keyboard.press('i');
  await page.mouse.click(460, 300);
  await page.mouse.click(620, 300);
  await page.mouse.click(620, 420);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
}

test('instruments are taken by mouse, by arrows and by keys; what is in hand stands up, and the card shows its choices', async ({
  page,
}) => {
  await newProject(page, 'Ledge');
  await page.keyboard.press('3');
  await instrument(page, 'Wall').click();
  await expect(instrument(page, 'Wall')).toHaveAttribute('aria-pressed', 'true');
  const lying = (await instrument(page, 'Four walls').boundingBox())!,
    standing = (await instrument(page, 'Wall').boundingBox())!;
  expect(standing.y).toBeLessThan(lying.y - 4);
  const card = page.getByRole('complementary', { name: 'Stage' });
  await card.getByRole('button', { name: 'left face' }).click();
  await expect(page.getByTestId('tool-words')).toContainText('drawn on the left face');

  // By Tab to the one in hand, by arrows to the next, Enter takes it.
  await instrument(page, 'Wall').focus();
  await page.keyboard.press('ArrowRight');
  await expect(instrument(page, 'Four walls')).toBeFocused();
  await page.keyboard.press('Enter');
  expect(await tool(page)).toBe('wall-rectangle');

  // Keys belong to the part that is open: R is four walls here, and in Calibrate it straightens a photo.
  await page.keyboard.press('Escape');
  await page.keyboard.press('w');
  expect(await tool(page)).toBe('wall');
  await page.keyboard.press('r');
  expect(await tool(page)).toBe('wall-rectangle');
  await page.keyboard.press('Escape');
  await page.keyboard.press('2');
  await expect(instrument(page, 'Straighten')).toHaveAttribute('aria-keyshortcuts', 'r');
  await expect(instrument(page, 'Straighten')).toHaveAttribute('aria-disabled', 'true');
  await instrument(page, 'Straighten').hover();
  await expect(page.getByRole('tooltip')).toContainText('Choose a sheet first');

  // Two strokes: what may follow is told, and does follow.
  await page.keyboard.press('3');
  await page.getByRole('tab', { name: 'Drawing' }).click();
  await page.keyboard.press(',');
  await expect(page.getByRole('status').filter({ hasText: 'North' })).toBeVisible();
  await page.keyboard.press('n');
  expect(await tool(page)).toBe('symbol-north');
  await page.keyboard.press('Escape');

  // Another way of a tool is chosen in the card.
  await page.keyboard.press('Shift+R');
  await card.getByRole('button', { name: /three points|turned/ }).click();
  await expect(page.getByTestId('tool-words')).toContainText('Rectangle');
  await expect(page.getByRole('group', { name: 'Used lately' })).toContainText('Four walls');
});

test('what is selected brings what can be done with it, always in the same places, the rest dimmed with its reason', async ({
  page,
}) => {
  await newProject(page, 'Change');
  await page.keyboard.press('3');
  await page.getByRole('tab', { name: 'Change' }).click();
  const move = instrument(page, 'Move');
  await expect(move).toHaveAttribute('aria-disabled', 'true');
  await expect(instrument(page, 'Trim')).not.toHaveAttribute('aria-disabled', 'true');
  const before = (await move.boundingBox())!;
  await move.click({ force: true });
  await expect(page.getByText('Select something first')).toBeVisible();
  await page.getByRole('tab', { name: 'Building' }).click();
  await someLines(page);
  await expect(page.getByRole('tab', { name: 'Drawing' })).toHaveAttribute('aria-selected', 'true');
  await page.mouse.click(540, 300);
  await expect(page.getByTestId('selection')).toContainText('one line');
  await expect(page.getByRole('tab', { name: 'Change' })).toHaveAttribute('aria-selected', 'true');
  expect(await move.boundingBox()).toEqual(before);
  await instrument(page, 'Delete').click();
  expect(await entities(page, 'line')).toHaveLength(1);
  // Nothing is selected any more: what is made lies open again.
  await expect(page.getByRole('tab', { name: 'Drawing' })).toHaveAttribute('aria-selected', 'true');
});

test('keys are found, changed, kept, and given back', async ({ page }) => {
  await newProject(page, 'Keys');
  await page.keyboard.press('3');
  await page.keyboard.press('?');
  const sheet = page.getByRole('dialog', { name: 'Keys and what they do' });
  await sheet.getByLabel('Find a key or a word').fill('draw walls');
  await sheet.getByRole('button', { name: /Key of “Draw walls”/ }).click();
  await page.keyboard.press('n');
  await expect(sheet.getByRole('status')).toContainText('takes this key itself');
  await page.keyboard.press('t');
  await expect(sheet.getByRole('status')).toContainText('Measure a wall thickness');
  await page.keyboard.press('Escape');
  await page.keyboard.press('t');
  expect(await tool(page)).toBe('wall');
  await page.keyboard.press('Escape');
  await page.keyboard.press('w');
  expect(await tool(page)).toBe('select');
  // Kept by the browser, shown wherever the key is shown.
  await page.reload();
  await page.getByTestId('saved').waitFor();
  await page.keyboard.press('3');
  await expect(instrument(page, 'Wall')).toHaveAttribute('aria-keyshortcuts', 't');
  await page.keyboard.press('?');
  await sheet.getByRole('button', { name: 'All keys as they came' }).click();
  await page.keyboard.press('Escape');
  await expect(instrument(page, 'Wall')).toHaveAttribute('aria-keyshortcuts', 'w');
});

test('what is folded stays folded, and the drawing has its room', async ({ page }) => {
  await newProject(page, 'Room');
  await attach(page, sheetFile('01_cairo_plan_100.pdf'));
  await page.getByTestId('scale-offer').getByRole('button', { name: 'Lay it down to scale' }).click();
  await page.keyboard.press('3');
  /** Share of the screen on which a click comes to the drawing. */
  const share = () =>
    page.evaluate(() => {
      let free = 0,
        all = 0;
      for (let x = 4; x < innerWidth; x += 8)
        for (let y = 4; y < innerHeight; y += 8) {
          all++;
          if (document.elementFromPoint(x, y)?.closest('[data-testid=drawing]')) free++;
        }
      return free / all;
    });
  await snapReady(page);
  expect(await share()).toBeGreaterThan(0.6);
  await page.keyboard.press('w');
  expect(await share()).toBeGreaterThan(0.6);
  await page.keyboard.press('Escape');
  await page.keyboard.press('[');
  await page.keyboard.press(']');
  expect(await share()).toBeGreaterThan(0.75);
  // A tool, another stage and a reload open nothing again.
  await page.keyboard.press('w');
  await page.keyboard.press('2');
  await page.keyboard.press('3');
  await page.reload();
  await page.getByTestId('saved').waitFor();
  await page.keyboard.press('3');
  expect(await share()).toBeGreaterThan(0.75);
  await page.getByRole('button', { name: /Open the card/ }).click();
  await expect(page.getByRole('heading', { name: 'Trace' })).toBeVisible();
});

test('from a file to a sheet to scale in two actions, to the first wall in three more', async ({ page }) => {
  await newProject(page, 'Two actions');
  await attach(page, sheetFile('01_cairo_plan_100.pdf'));
  const offer = page.getByTestId('scale-offer');
  await expect(offer).toContainText(/printed dimensions agree on 1:100/);
  await offer.getByRole('button', { name: 'Lay it down to scale' }).click();
  await allSaved(page);
  const [u] = await entities<{
    scaleState: string;
    placement: number[];
    calibration: { fit: { fitted: number } };
  }>(page, 'underlay');
  expect(u.scaleState).toBe('calibrated');
  expect(Math.hypot(u.placement[0], u.placement[1])).toBeCloseTo((100 * 25.4) / 72, 2);
  // Its lower left corner lies on the origin.
  expect(u.placement.slice(4).map(Math.abs)).toEqual([expect.closeTo(0, 6), expect.closeTo(0, 6)]);
  expect(u.calibration.fit.fitted).toBeGreaterThan(30);
  expect(await entities(page, 'calibration')).toHaveLength(1);
  await page.getByRole('button', { name: 'Trace the first wall' }).click();
  await page.mouse.click(500, 300);
  await page.mouse.click(700, 300);
  expect(await entities(page, 'wall')).toHaveLength(1);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  // One step lays it down, one step takes it back, with all that came with it.
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  for (const type of ['underlay', 'check', 'calibration', 'wall'])
    expect(await entities(page, type), type).toHaveLength(0);

  // Switched off, nothing is read by itself.
  await page.keyboard.press('1');
  await page.getByLabel(/Read the printed dimensions/).uncheck();
  await page.reload();
  await page.getByTestId('saved').waitFor();
  await page.keyboard.press('1');
  await page.getByRole('button', { name: 'Lay at the origin' }).waitFor();
  await page.waitForTimeout(1500);
  await expect(page.getByTestId('scale-offer')).toHaveCount(0);
});

test('several sheets are hidden and faded at once', async ({ page }) => {
  await newProject(page, 'Several');
  await page.getByTestId('file-input').setInputFiles(sheetFile('09_tikz_set_3_pages.pdf'));
  await expect(page.getByText('PDF, 3 pages')).toBeVisible({ timeout: 40000 });
  await page.getByRole('button', { name: 'Choose all' }).click();
  await page.getByRole('button', { name: 'Lay at the origin' }).click();
  const stack = page.getByRole('complementary', { name: 'On the table' });
  const slips = stack.locator('[draggable=true]');
  await expect(slips).toHaveCount(3);
  await slips.nth(0).click();
  await slips.nth(2).click({ modifiers: ['Shift'] });
  const chosen = stack.getByRole('group', { name: 'The chosen sheets' });
  await expect(chosen).toContainText('3 sheets chosen');
  await chosen.getByRole('button', { name: 'Hide them' }).click();
  await allSaved(page);
  const visible = async () => (await entities<{ visible: boolean }>(page, 'underlay')).map((u) => u.visible);
  expect(await visible()).toEqual([false, false, false]);
  await page.keyboard.press('Control+z');
  expect(await visible()).toEqual([true, true, true]);
  await chosen.getByRole('slider', { name: 'Fade them' }).focus();
  await page.keyboard.press('End');
  await expect
    .poll(async () => (await entities<{ fade: number }>(page, 'underlay')).map((u) => u.fade))
    .toEqual([0.9, 0.9, 0.9]);
  await chosen.getByRole('button', { name: 'Let go' }).click();
  await expect(chosen).toHaveCount(0);
});

for (const scheme of ['light', 'dark'] as const) {
  test(`nothing serious stands in the way of anybody, ${scheme}`, async ({ page }) => {
    await page.emulateMedia({ colorScheme: scheme });
    const serious = async (where: string) => {
      const { violations } = await new AxeBuilder({ page }).exclude('[data-testid=drawing]').analyze();
      expect(
        violations
          .filter((v) => v.impact === 'serious' || v.impact === 'critical')
          .map((v) => `${where}: ${v.id} ${v.nodes.map((n) => n.target.join(' ')).join(', ')}`),
      ).toEqual([]);
    };
    await page.goto('/');
    await page.getByRole('button', { name: 'New project' }).first().waitFor();
    await serious('projects');
    await newProject(page, `Open to all, ${scheme}`);
    await serious('empty');
    await attach(page, sheetFile('01_cairo_plan_100.pdf'));
    await page.getByTestId('scale-offer').waitFor();
    await serious('a sheet just read');
    await page.getByRole('button', { name: 'Lay it down to scale' }).click();
    await snapReady(page);
    for (const [key, stage] of [
      ['1', 'sheets'],
      ['2', 'calibrate'],
      ['3', 'trace'],
      ['4', 'check'],
      ['5', 'deliver'],
    ]) {
      await page.keyboard.press(key);
      await page.waitForTimeout(300);
      await serious(stage);
    }
    await page.keyboard.press('w');
    await serious('wall in hand');
    await page.keyboard.press('Escape');
    await someLines(page);
    await page.mouse.click(540, 300);
    await serious('selected');
    await page.keyboard.press('Control+k');
    await page.getByLabel('Find a command').waitFor();
    await serious('search');
    await page.keyboard.press('Escape');
    await page.keyboard.press('?');
    await page.getByRole('dialog').waitFor();
    await serious('keys');
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: /Picks find/ }).click();
    await serious('picks');
    await page.keyboard.press('[');
    await page.keyboard.press(']');
    await serious('folded');
  });
}

test('at 200 % of a small screen nothing lies on anything else, the drawing has the page, and panels open over it', async ({
  page,
}) => {
  await page.setViewportSize({ width: 640, height: 400 });
  await newProject(page, 'Zoomed');
  await page.keyboard.press('3');
  const strip = page.getByRole('banner');
  const boxes = [];
  for (const button of await strip.getByRole('button').all())
    if (await button.isVisible()) boxes.push((await button.boundingBox())!);
  expect(boxes.length).toBeGreaterThan(8);
  for (const [i, a] of boxes.entries()) {
    expect(a.x + a.width).toBeLessThanOrEqual(640);
    for (const b of boxes.slice(i + 1))
      expect(a.x + a.width <= b.x + 1 || b.x + b.width <= a.x + 1).toBe(true);
  }
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(640);
  const card = page.getByRole('complementary', { name: 'Stage' });
  await expect(card.getByRole('heading', { name: 'Trace' })).toHaveCount(0);
  await page.keyboard.press(']');
  await expect(card.getByRole('heading', { name: 'Trace' })).toBeVisible();
  await instrument(page, 'Wall').click();
  expect(await tool(page)).toBe('wall');
  // Larger again, both stand as they did.
  await page.setViewportSize({ width: 1280, height: 800 });
  await expect(page.getByRole('button', { name: /Fold the stack/ })).toBeVisible();
});

test('by fingers: one picks, two move and zoom, one that rests steps through what lies there', async ({
  page,
}) => {
  await newProject(page, 'Fingers');
  await page.keyboard.press('3');
  await instrument(page, 'Wall').click();
  const cdp = await page.context().newCDPSession(page);
  const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', ...points: [number, number][]) =>
    cdp.send('Input.dispatchTouchEvent', { type, touchPoints: points.map(([x, y], id) => ({ x, y, id })) });
  const tap = async (x: number, y: number) => {
    await touch('touchStart', [x, y]);
    await touch('touchEnd');
  };
  await tap(400, 300);
  await tap(700, 300);
  await expect.poll(async () => (await entities(page, 'wall')).length).toBe(1);
  const scale = () =>
    page.evaluate(
      () => (window as unknown as { calque: { table: { view: { scale: number } } } }).calque.table.view.scale,
    );
  const before = await scale();
  await touch('touchStart', [450, 350]);
  await touch('touchStart', [450, 350], [550, 350]);
  await touch('touchMove', [450, 350], [650, 350]);
  await touch('touchMove', [450, 350], [650, 350]);
  await touch('touchEnd');
  expect((await scale()) / before).toBeCloseTo(2, 1);
  // The two have picked nothing.
  expect(await entities(page, 'wall')).toHaveLength(1);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  // At the wall's end lie its end, its line and more: a finger that rests goes through them.
  await page.keyboard.press('0');
  await instrument(page, 'Wall').click();
  const [x, y] = await page.evaluate(() => {
    const { table, session } = (
      window as unknown as {
        calque: {
          table: { view: { scale: number; x: number; y: number } };
          session: { state: { model: Map<string, { type: string; to: [number, number] }> } };
        };
      }
    ).calque;
    const wall = [...session.state.model.values()].find((e) => e.type === 'wall')!;
    return [table.view.x + table.view.scale * wall.to[0], table.view.y - table.view.scale * wall.to[1]];
  });
  const box = (await page.getByTestId('drawing').boundingBox())!;
  await touch('touchStart', [box.x + x, box.y + y]);
  const found = () =>
    page.evaluate(() =>
      JSON.stringify(
        (window as unknown as { calque: { table: { lastPick: { found: { plane: number[] } } } } }).calque
          .table.lastPick.found.plane,
      ),
    );
  const first = await found();
  await expect.poll(found).not.toBe(first);
  await touch('touchEnd');
});
