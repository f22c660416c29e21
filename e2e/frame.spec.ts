import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { unzipSync } from 'fflate';
import {
  allSaved,
  card,
  chooseSection,
  command,
  dropFile,
  entities,
  newProject,
  onScreen,
  planeOnScreen,
  SHEET_01,
  sheetFile,
  snapReady,
} from './bench.ts';

interface Member {
  id: string;
  from: [number, number];
  to: [number, number];
  rise: [number, number];
  section: { form: string; name?: string; b?: number; h?: number };
  point: number;
  role: string;
  mirrored: boolean;
  material: string;
}
const members = (page: Page) => entities<Member>(page, 'member');
const lengthOf = ({ from, to, rise }: Member) =>
  Math.hypot(to[0] - from[0], to[1] - from[1], to.length && rise[1] - rise[0]);

test('members by typed lengths, placed in the picture, changed in the card, their ends swapped, counted as by hand', async ({
  page,
}) => {
  await newProject(page, 'Frame');
  await page.keyboard.press('3');
  await page.getByRole('tab', { name: 'Frame' }).click();
  await command(page, 'member');
  await expect(page.getByTestId('tool-words')).toContainText('Member by its ends');
  // The section is found by its name as people write it, before anything is drawn.
  await chooseSection(page, 'he 200 a', 'HEA 200');
  await page.mouse.click(400, 250);
  await page.mouse.move(700, 250);
  await page.keyboard.type('6000');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await members(page)).length).toBe(1);
  const [beam] = await members(page);
  expect(lengthOf(beam)).toBeCloseTo(6000, 6);
  expect(beam).toMatchObject({
    section: { form: 'table', name: 'HEA 200' },
    point: 8,
    role: 'beam',
    material: 'S355',
  });

  await test.step('one that stands, a rectangle of timber by its two sizes', async () => {
    await chooseSection(page, '120x240', '120x240');
    await page.getByRole('button', { name: 'standing at a place' }).click();
    await page.mouse.click(400, 500);
    await expect.poll(async () => (await members(page)).length).toBe(2);
    const [, post] = await members(page);
    expect(post.from).toEqual(post.to);
    expect(post).toMatchObject({ role: 'column', rise: [0, 2700], point: 5, material: 'C24' });
  });

  await test.step('placed by another point, turned, cut back, and its ends swapped', async () => {
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
    await page.mouse.click(550, 250);
    const figures = card(page).getByTestId('member-figures');
    // 42.3 kg/m are printed.
    await expect(figures).toContainText('6\u2009000 mm long, 253.');
    await card(page).getByRole('radio', { name: 'the line is the bottom left edge of the member' }).click();
    await expect.poll(async () => (await members(page))[0].point).toBe(1);
    await card(page).getByRole('textbox', { name: 'Cut back at start' }).fill('100');
    await page.keyboard.press('Enter');
    await expect(figures).toContainText('5\u2009900 mm long');
    await card(page).getByRole('textbox', { name: 'Cut back at start' }).fill('6000');
    await page.keyboard.press('Enter');
    await expect(page.getByText('Nothing would be left of it').first()).toBeVisible();
    await page.getByTestId('drawing').press('/');
    await expect
      .poll(async () => (await members(page))[0])
      .toMatchObject({ from: beam.to, to: beam.from, point: 3, mirrored: true });
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await members(page))[0]).toMatchObject({ from: beam.from, point: 1 });
  });

  await test.step('without a grid none stands at its crossings, and that is said', async () => {
    await command(page, 'on the grid');
    await expect(page.getByText('Draw grid lines first').first()).toBeVisible();
  });

  await test.step('in space both are solids; the takeoff counts them', async () => {
    await command(page, 'model in space');
    await expect(page.getByTestId('space')).toHaveAttribute('data-solids', '2');
    // Once lets go of what is selected, once more leads back to the plan.
    await page.getByTestId('space').press('Escape');
    await page.getByTestId('space').press('Escape');
    await expect(page.getByTestId('space')).toHaveCount(0);
    await command(page, 'takeoff');
    await page.getByRole('tab', { name: 'Cut list' }).click();
    const rows = page.getByRole('row');
    await expect(rows.filter({ hasText: 'HEA 200' })).toContainText('5\u2009900');
    await expect(rows.filter({ hasText: '120x240' })).toContainText('2\u2009700');
    // 0.12 by 0.24 by 2.7 m of 420 kg/m3.
    await expect(rows.filter({ hasText: '120x240' })).toContainText('32.7');
  });
  await allSaved(page);
});

test('a member is laid between two lines of the sheet that are as far apart as its section, and equal pieces are marked alike', async ({
  page,
}) => {
  await newProject(page, 'Along the sheet');
  await dropFile(page, sheetFile(SHEET_01.file));
  await page.getByRole('button', { name: /lay it down to scale/i }).click({ timeout: 30000 });
  await snapReady(page);
  await page.keyboard.press('3');
  await command(page, 'member');
  // The outer walls of this sheet are 300 thick.
  await chooseSection(page, '100x300', '100x300');
  await page.getByRole('button', { name: 'along what the sheet draws' }).click();
  const [u] = await entities<{ placement: number[] }>(page, 'underlay'),
    scale = u.placement[0];
  const edge = await onScreen(page, [500, SHEET_01.height - 572.599]),
    box = (await page.getByTestId('drawing').boundingBox())!;
  await page.mouse.move(box.x + edge[0], box.y + edge[1]);
  await page.waitForTimeout(1500);
  await page.mouse.click(box.x + edge[0], box.y + edge[1]);
  await expect.poll(async () => (await members(page)).length).toBe(1);
  const [wide] = await members(page);
  expect(wide.point).toBe(5);
  // Its middle lies half of 300 beside the edge.
  const middle = (wide.from[1] - u.placement[5]) / u.placement[3];
  expect(Math.abs(middle - (SHEET_01.height - 572.599)) * scale).toBeCloseTo(150, 0);
  await command(page, 'mark pieces');
  await expect.poll(async () => (await entities<{ mark: string }>(page, 'member'))[0].mark).toBe('B1');
  await page.keyboard.press('4');
  await expect(page.getByTestId('frame-doubts')).toContainText('Ends at which nothing is: select 1 member');
  await allSaved(page);
});

test('an end is made by pointing: an end plate on a column, its sizes typed over, counted with its bolts, and cut square again', async ({
  page,
}) => {
  await newProject(page, 'Joined frame');
  await page.keyboard.press('3');
  await page.getByRole('tab', { name: 'Frame' }).click();
  await command(page, 'member');
  await chooseSection(page, 'heb 200', 'HEB 200');
  await page.getByRole('button', { name: 'standing at a place' }).click();
  await page.mouse.click(380, 400);
  await expect.poll(async () => (await members(page)).length).toBe(1);
  await page.getByRole('button', { name: 'by its ends' }).click();
  await chooseSection(page, 'ipe 200', 'IPE 200');
  await page.mouse.click(380, 400);
  await page.mouse.move(700, 400);
  await page.keyboard.type('4000');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await members(page)).length).toBe(2);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Home');
  const [column, beam] = await members(page),
    at = async (x: number) =>
      page.mouse.click(...(await planeOnScreen(page, [beam.from[0] + x, beam.from[1]])));

  await page.getByTestId('drawing').press(',');
  await page.keyboard.press('j');
  await expect(page.getByTestId('tool-words')).toContainText('Joint, end plate');
  await at(1500);
  await expect(page.getByTestId('tool-words')).toContainText('now click the member that this end meets');
  await at(-90);
  await page.keyboard.press('Escape');
  const start = card(page).getByRole('group', { name: 'Start' }),
    figures = card(page).getByTestId('member-figures');
  await expect(start).toContainText('meets HEB 200');
  // From the column's middle: 100 to its face, and a plate of 16.
  await expect(figures).toContainText('3\u2009884 mm long');
  await start.getByLabel('Thickness, mm').fill('20');
  await page.keyboard.press('Enter');
  await expect(figures).toContainText('3\u2009880 mm long');
  await expect(start).toContainText('Typed: thickness');

  await test.step('what does not come out is said at once, and stays in the list of Check', async () => {
    await start.getByLabel('Gauge, mm').fill('400');
    await page.keyboard.press('Enter');
    await expect(start).toContainText('Its bolts lie too near the edge of the flange behind it');
    await page.keyboard.press('4');
    await expect(page.getByTestId('frame-doubts')).toContainText(
      'An end does not come out: its bolts lie too near the edge of the flange',
    );
    await page.keyboard.press('3');
    await page.getByTestId('drawing').press('Control+z');
    await at(2000);
    await expect(start).toContainText('Typed: thickness;');
    await expect(start).not.toContainText('too near the edge');
  });

  await test.step('plates, bolts and assemblies are counted; in space it stands with them', async () => {
    await command(page, 'takeoff');
    const rows = page.getByRole('row');
    await page.getByRole('tab', { name: 'Plates' }).click();
    await expect(rows.filter({ hasText: 'end plate' })).toContainText('20');
    await page.getByRole('tab', { name: 'Bolts' }).click();
    // 20 and 15 of grip, washers of 3, a nut of 18 and two threads: 65.
    await expect(rows.filter({ hasText: 'M20 x 65' })).toContainText('8.8');
    await page.getByRole('tab', { name: 'Assemblies' }).click();
    await expect(rows.filter({ hasText: 'IPE 200' })).toContainText('1 p1');
    await page.getByRole('tab', { name: 'Bars to buy' }).click();
    const cut = page.getByTestId('bars-picture').getByRole('img', {
      name: /^One bar of IPE 200, 6\s000\smm: 3\s880\smm; 2\s120\smm left over/,
    });
    await expect(cut).toBeVisible();
    await page.keyboard.press('Escape');
  });

  await test.step('it is written as STEP, its plates as DXF', async () => {
    await page.keyboard.press('5');
    const step = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Write STEP' }).click();
    const text = readFileSync((await (await step).path())!, 'latin1');
    expect(text).toMatch(/^ISO-10303-21;/);
    expect(text.match(/MANIFOLD_SOLID_BREP/g)!.length).toBe(4);
    const plates = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Write plates' }).click();
    const zip = await plates;
    expect(zip.suggestedFilename()).toBe('Joined frame plates.zip');
    expect(Object.keys(unzipSync(readFileSync((await zip.path())!)))).toEqual(['p1.dxf']);
    await page.keyboard.press('3');
  });

  await test.step('a copy of both is joined by itself; without the column the end is cut square', async () => {
    await page.keyboard.press('Escape');
    await at(2000);
    await page.keyboard.press('Control+c');
    await expect(page.getByText('One element copied')).toBeVisible();
    await page.keyboard.press('Control+v');
    await page.mouse.click(...(await planeOnScreen(page, [beam.from[0], beam.from[1] - 1000])));
    await expect.poll(async () => (await members(page)).length).toBe(3);
    const alone = (await entities<Member & { joints?: unknown }>(page, 'member')).find(
      (m) => m.id !== column.id && m.id !== beam.id,
    )!;
    expect(alone.joints ?? null).toBeNull();
    await page.keyboard.press('Control+z');
    await at(2000);
    await start.getByRole('combobox', { name: 'Its start is' }).click();
    await page.getByRole('option', { name: 'cut square' }).click();
    await expect(figures).toContainText('4\u2009000 mm long');
  });
  await allSaved(page);
});

test('a frame is copied along by spacings as one group, and what is refused says why', async ({ page }) => {
  await newProject(page, 'Frames along');
  await page.keyboard.press('3');
  await command(page, 'copy the frame of the upright plane');
  await expect(page.getByText('Go to the upright plane').first()).toBeVisible();
  await command(page, 'stand a section up: an upright');
  await page.mouse.click(380, 500);
  await page.mouse.click(700, 500);
  await page.keyboard.type('Frame 1');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /Frame 1/ }).first()).toBeVisible();
  await page.getByRole('tab', { name: 'Frame' }).click();
  await command(page, 'put members of a frame');
  await page.mouse.click(420, 500);
  await page.mouse.click(420, 300);
  await expect.poll(async () => (await members(page)).length).toBe(1);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await command(page, 'copy the frame of the upright plane');
  const along = page.getByTestId('along-card');
  await along.getByLabel('Spacings').fill('2x');
  await expect(along).toContainText('Write each from the one before');
  await expect(along.getByRole('button', { name: 'Copy' })).toBeDisabled();
  await along.getByLabel('Spacings').fill('2x5000');
  await along.getByRole('button', { name: 'Make 2 copies' }).click();
  await expect(page.getByText('2 copies stand on planes of their own')).toBeVisible();
  await expect.poll(async () => (await entities(page, 'placed')).length).toBe(3);
  const planes = await entities<{ name: string; origin: number[] }>(page, 'plane');
  expect(planes.map((p) => p.name).sort()).toEqual(['Frame 1', 'Frame 2', 'Frame 3']);
  const [first, second] = [...planes].sort((a, b) => a.name.localeCompare(b.name));
  expect(Math.hypot(...first.origin.map((v, i) => v - second.origin[i]))).toBeCloseTo(5000, 6);
  await command(page, 'takeoff');
  await page.getByRole('tab', { name: 'Cut list' }).click();
  await expect(page.getByRole('row').nth(1)).toContainText('3');
  await page.keyboard.press('Escape');
  await page.getByTestId('drawing').press('Control+z');
  await expect.poll(async () => (await entities(page, 'plane')).length).toBe(1);
  await allSaved(page);
});
