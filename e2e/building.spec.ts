import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, test, type Download, type Page } from '@playwright/test';
import { allSaved, entities, newProject, planeOnScreen, seenIn } from './bench.ts';

interface Placed {
  id: string;
  planeId: string;
}
interface Wall extends Placed {
  underRoof?: boolean;
  height: number;
}
interface Slab extends Placed {
  rings: { points: [number, number][] }[];
  thickness: number;
  assumed: string[];
}
interface Roof extends Placed {
  pitches: number[];
  eaves: number;
  assumed: string[];
}
interface Stair extends Placed {
  risers: number;
  rise: number;
  back?: { risers: number; side: string; gap: number } | null;
}

const card = (page: Page) => page.getByRole('complementary', { name: 'Stage' });
const command = async (page: Page, words: string) => {
  await page.keyboard.press('Control+k');
  await page.getByLabel('Find a command').fill(words);
  await page.keyboard.press('Enter');
};
const click = async (page: Page, at: [number, number]) =>
  page.mouse.click(...(await planeOnScreen(page, at)));
const savedAs = async (download: Download, name: string) => {
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'calque-')), name);
  await download.saveAs(file);
  return file;
};
const bytesOf = async (download: Download) => readFileSync((await download.path())!);

/** Four walls of 9 by 6 m to their middles, in sight. */
async function fourWalls(page: Page): Promise<void> {
  await page.keyboard.press('3');
  await page.keyboard.press('r');
  await page.mouse.click(480, 560);
  await page.mouse.move(700, 400);
  await page.keyboard.type('9000');
  await page.keyboard.press('Tab');
  await page.keyboard.type('6000');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await entities(page, 'wall')).length).toBe(4);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Home');
}
/** The corner of the walls' middles that lies at the lower left, and the opposite one. */
async function corners(page: Page): Promise<[number, number, number, number]> {
  const walls = await entities<{ from: [number, number]; to: [number, number] }>(page, 'wall'),
    points = walls.flatMap((w) => [w.from, w.to]);
  return [
    Math.min(...points.map((p) => p[0])),
    Math.min(...points.map((p) => p[1])),
    Math.max(...points.map((p) => p[0])),
    Math.max(...points.map((p) => p[1])),
  ];
}

test('a slab and a roof are made of the walls, a hole is cut, sides become gables, and what is assumed is confirmed', async ({
  page,
}) => {
  await newProject(page, 'Boathouse of four walls');
  await fourWalls(page);
  const [x0, y0] = await corners(page);
  await command(page, 'slab of all that the walls');
  const [slab] = await entities<Slab>(page, 'slab');
  expect(slab.assumed).toEqual(['thickness', 'top']);
  await expect(card(page)).toContainText('thickness, top assumed');
  await card(page).getByLabel('Thickness, mm').fill('250');
  await page.keyboard.press('Enter');
  await expect(card(page)).toContainText('top assumed');
  expect((await entities<Slab>(page, 'slab'))[0]).toMatchObject({ thickness: 250, assumed: ['top'] });
  await card(page).getByRole('button', { name: 'Confirm' }).click();
  expect((await entities<Slab>(page, 'slab'))[0].assumed).toEqual([]);

  await command(page, 'cut a hole into a slab');
  for (const [dx, dy] of [
    [1000, 1000],
    [3000, 1000],
    [3000, 2000],
    [1000, 2000],
    [1000, 1000],
  ])
    await click(page, [x0 + dx, y0 + dy]);
  await expect.poll(async () => (await entities<Slab>(page, 'slab'))[0].rings.length).toBe(2);
  // Beside it there is nothing to cut.
  for (const [dx, dy] of [
    [-3000, 0],
    [-2000, 0],
    [-2000, 900],
    [-3000, 0],
  ])
    await click(page, [x0 + dx, y0 + dy]);
  await expect(page.getByText('All corners of a hole lie within one slab')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');

  await command(page, 'make a roof over the outside');
  const [roof] = await entities<Roof>(page, 'roof');
  expect(roof.pitches).toHaveLength(4);
  expect((await entities<Wall>(page, 'wall')).every((w) => w.underRoof)).toBe(true);
  await card(page).getByRole('button', { name: 'Make a gable' }).first().click();
  await card(page).getByRole('button', { name: 'Make a gable' }).nth(1).click();
  await expect(card(page).getByText(/: gable$/)).toHaveCount(2);
  const all = card(page).getByLabel('Pitch of all, °');
  await all.fill('45');
  await all.press('Enter');
  await expect
    .poll(async () =>
      (await entities<Roof>(page, 'roof'))[0].pitches.map((p) => Math.round((p * 180) / Math.PI)).sort(),
    )
    .toEqual([45, 45, 90, 90]);
  // With nothing but gables there is no roof: it says so, and undo leads back.
  await card(page).getByRole('button', { name: 'Make a gable' }).first().click();
  await card(page).getByRole('button', { name: 'Make a gable' }).first().click();
  await expect(card(page)).toContainText('Its planes never meet');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(card(page)).not.toContainText('never meet');
  await allSaved(page);
});

test('walls stand between levels with offsets: they follow a storey that is raised, and keep their height when it goes', async ({
  page,
}) => {
  await newProject(page, 'Walls between levels');
  await fourWalls(page);
  await command(page, 'add a storey');
  await expect(page.getByRole('button', { name: /First floor|Upper floor/ }).first()).toBeVisible();
  const [ground, upper] = (
    await entities<{ id: string; name: string; elevation: number; height: number }>(page, 'storey')
  ).sort((a, b) => a.elevation - b.elevation);
  await page.getByRole('button', { name: /top first/ }).click();
  await page.getByRole('menuitem', { name: new RegExp(`^${ground.name}`) }).click();
  await page.keyboard.press('Home');
  await page.mouse.move(240, 70);
  await page.mouse.down();
  await page.mouse.move(966, 690, { steps: 6 });
  await page.mouse.up();
  await expect(page.getByTestId('selection')).toContainText('4 walls');
  const choose = async (label: string, option: string | RegExp) => {
    await card(page).getByRole('combobox', { name: label }).click();
    await page.getByRole('option', { name: option }).click();
  };
  const type = async (label: RegExp, text: string) => {
    await card(page).getByLabel(label).fill(text);
    await page.keyboard.press('Enter');
  };
  await choose('Goes up to', new RegExp(`^${upper.name}`));
  await type(/^Top above it/, '-200');
  await type(/^Foot above it/, '-300');
  await expect(card(page)).toContainText(/high: from .300\smm to .* above its floor/);
  const stored = { base: { storeyId: null, offset: -300 }, top: { storeyId: upper.id, offset: -200 } };
  for (const wall of await entities<Wall>(page, 'wall')) expect(wall).toMatchObject(stored);

  // What leaves no height is refused, and nothing is changed by it.
  await type(/^Top above it/, '-9000');
  await expect(page.getByText('its top lies below its foot')).toBeVisible();
  for (const wall of await entities<Wall>(page, 'wall')) expect(wall).toMatchObject(stored);

  await page.keyboard.press('Escape');
  await command(page, 'storeys and planes');
  const row = page.getByTestId('storey-row').filter({ has: page.locator(`input[value="${upper.name}"]`) });
  await row.getByLabel(/^Level/).fill('4000');
  await page.keyboard.press('Enter');
  await row.getByRole('button', { name: 'Remove' }).click();
  await page.keyboard.press('Escape');
  for (const wall of await entities<Wall>(page, 'wall'))
    expect(wall).toMatchObject({ base: stored.base, top: null, height: 4000 - 200 + 300 });
  await allSaved(page);
});

test('columns and a stair are put by typed sizes and picks; a stair out of step says so', async ({
  page,
}) => {
  await newProject(page, 'Stair and columns');
  await fourWalls(page);
  const [x0, y0] = await corners(page);
  await command(page, 'put a column');
  await page.mouse.move(...(await planeOnScreen(page, [x0 + 2000, y0 + 3000])));
  await page.keyboard.type('400');
  await page.keyboard.press('Tab');
  await page.keyboard.type('200');
  await page.keyboard.press('Enter');
  await click(page, [x0 + 3500, y0 + 3000]);
  await page.keyboard.press('f');
  await click(page, [x0 + 5000, y0 + 3000]);
  await page.keyboard.press('Escape');
  const columns = await entities<{ section: object }>(page, 'column');
  expect(columns.map((c) => c.section)).toEqual([
    { form: 'rectangle', width: 400, depth: 200 },
    { form: 'rectangle', width: 400, depth: 200 },
    { form: 'round', diameter: 300 },
  ]);

  await command(page, 'put a stair');
  await page.keyboard.press('f');
  await click(page, [x0 + 1500, y0 + 1500]);
  await click(page, [x0 + 4200, y0 + 1500]);
  await click(page, [x0 + 2040, y0 + 2700]);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  const [stair] = await entities<Stair>(page, 'stair');
  expect(stair).toMatchObject({ risers: 11, back: { side: 'left', risers: 9 } });
  await click(page, [x0 + 2000, y0 + 1300]);
  await expect(page.getByTestId('stair-steps')).toContainText('20 risers of 135');
  const rise = card(page).getByLabel('Rise of all, mm');
  await rise.fill('4200');
  await rise.press('Enter');
  await expect(card(page)).toContainText('Unusual: steep');
});

test('the model in space shows all of it as solids, hides, cuts and measures, and leads back to the plan', async ({
  page,
}) => {
  await newProject(page, 'Model in space');
  await fourWalls(page);
  await command(page, 'slab of all that the walls');
  await command(page, 'make a roof over the outside');
  await page.getByRole('button', { name: 'Model', exact: true }).click();
  const space = page.getByTestId('space');
  await expect(space).toHaveAttribute('data-solids', '6');
  await expect.poll(async () => (await seenIn(page, space)).dark).toBeGreaterThan(100);
  await page.getByLabel('Roofs').uncheck();
  await expect(space).toHaveAttribute('data-solids', '5');

  const box = (await space.boundingBox())!,
    middle: [number, number] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.getByRole('button', { name: 'From above' }).click();
  await page.mouse.click(...middle);
  await expect(page.getByTestId('space-chosen')).toContainText('Slab');
  // Cut away at its lowest nothing of the slab is left to be picked.
  await page.getByRole('combobox', { name: 'Cut open' }).click();
  await page.getByRole('option', { name: 'at a height' }).click();
  await page.getByLabel('Height of the cut').focus();
  await page.keyboard.press('Home');
  await page.mouse.click(...middle);
  await expect(page.getByTestId('space-chosen')).toHaveCount(0);
  await page.getByRole('combobox', { name: 'Cut open' }).click();
  await page.getByRole('option', { name: 'not cut' }).click();

  // From the front the wall is 9.1 m long over its corners and 2.7 m high: measured from end to end of its edges.
  await page.getByLabel('Roofs').check();
  await page.getByLabel('Roofs').uncheck();
  await page.getByRole('button', { name: 'From the front' }).click();
  await page.getByLabel('parallel').check();
  await page.getByRole('button', { name: 'From the front' }).click();
  await space.focus();
  await page.keyboard.press('m');
  // The slab lies below the feet of the walls: the ends of both are within reach of a pick beside the corner.
  for (let i = 0; i < 3; i++) await space.press('-');
  await page.waitForTimeout(400);
  const { left, right, bottom } = await seenIn(page, space);
  await page.mouse.click(left + 3, bottom - 18);
  await page.mouse.click(right - 3, bottom - 18);
  await expect(page.getByTestId('space-measured')).toContainText(/9.100.mm/);
  await page.keyboard.press('Escape');

  await page.mouse.dblclick(...middle);
  await expect(space).toHaveCount(0);
  await expect(page.getByTestId('drawing')).toBeVisible();
});

test('the takeoff counts in tables, shows what a row counts, and is delivered as a model, a scene and a workbook', async ({
  page,
}) => {
  await newProject(page, 'Counted');
  await fourWalls(page);
  await command(page, 'slab of all that the walls');
  await command(page, 'make rooms of all');
  await expect.poll(async () => (await entities(page, 'space')).length).toBe(1);
  await page.keyboard.press('4');
  await page.getByRole('button', { name: /Tables of the takeoff/ }).click();
  const view = page.getByRole('region', { name: 'Takeoff' });
  await view.getByRole('tab', { name: /^Walls 4/ }).click();
  await expect(view.getByRole('row')).toHaveCount(5);
  await view.getByRole('row').nth(2).click();
  await expect
    .poll(() =>
      page.evaluate(
        () =>
          (
            window as unknown as { calque: { table: { state: { getState(): { selection: Set<string> } } } } }
          ).calque.table.state.getState().selection.size,
      ),
    )
    .toBe(1);
  await view.getByRole('tab', { name: /^Slabs 1/ }).click();
  // 9.1 by 6.1 m to the outside faces.
  await expect(view.getByRole('gridcell', { name: '55.51 m²' })).toBeVisible();
  const csv = page.waitForEvent('download');
  await view.getByRole('button', { name: 'This table as CSV' }).click();
  expect((await bytesOf(await csv)).toString()).toContain('55.51');
  await view.getByRole('button', { name: 'Close' }).click();

  await page.keyboard.press('5');
  const written = async (name: string) => {
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name }).click();
    return download;
  };
  const ifc = (await bytesOf(await written('Write IFC'))).toString();
  expect(ifc.match(/=IFCWALL\(/g)).toHaveLength(4);
  expect(ifc.match(/=IFCSPACE\(/g)).toHaveLength(1);
  const glb = await bytesOf(await written('Write glTF'));
  expect(glb.subarray(0, 4).toString()).toBe('glTF');
  const pdf = await bytesOf(await written('Write PDF'));
  expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
  await expect(page.getByText('The PDF was written on A4.')).toBeVisible();
  const xlsx = await written('Write XLSX');
  const sheets = execFileSync('/usr/bin/python3', [
    '-c',
    'import openpyxl, sys; print(openpyxl.load_workbook(sys.argv[1]).sheetnames)',
    await savedAs(xlsx, 'tables.xlsx'),
  ]).toString();
  expect(sheets).toContain("'Walls', 'Walls by type', 'Slabs'");
});

test('a wall type of layers: walls are drawn by its core, follow when it changes, and are counted by layer', async ({
  page,
}) => {
  await newProject(page, 'Wall types');
  await page.keyboard.press('3');
  await page.keyboard.press('w');
  await card(page).getByRole('button', { name: 'Types …' }).click();
  const types = page.getByRole('dialog', { name: 'Wall types' });
  await expect(types).toContainText('none yet');
  await types.getByRole('button', { name: 'New wall type' }).click();
  await types.getByLabel('Name').fill('Boarded studs');
  await page.keyboard.press('Enter');
  const layer = (n: number) => types.getByRole('group', { name: `Layer ${n}`, exact: true });
  await layer(1).getByLabel('1 material').fill('Studs');
  await page.keyboard.press('Enter');
  await layer(1).getByLabel(/Thick/).fill('165');
  await page.keyboard.press('Enter');
  await types.getByRole('button', { name: 'Add a layer' }).click();
  await layer(2).getByLabel('2 material').fill('Larch boards');
  await page.keyboard.press('Enter');
  await layer(2).getByLabel(/Thick/).fill('25');
  await page.keyboard.press('Enter');
  await types.getByRole('button', { name: 'Layer 2 one earlier' }).click();
  await expect(types.getByRole('button', { name: /Boarded studs/ })).toContainText(
    '190 mm, 2 layers, 0 walls',
  );
  await types.getByLabel('Name').fill('Boarded studs');
  await page.keyboard.press('Enter');
  await types.getByRole('button', { name: 'Close' }).click();

  await card(page).getByLabel('Type').click();
  await page.getByRole('option', { name: /Boarded studs/ }).click();
  await expect(card(page).getByLabel(/Thickness/)).toHaveValue('190');
  await card(page).getByRole('button', { name: 'core, left' }).click();
  await expect(card(page).getByRole('button', { name: 'core, left' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await page.keyboard.press('Escape');
  await fourWalls(page);
  interface Typed {
    id: string;
    thickness: number;
    inset: number | null;
    wallType: string | null;
  }
  const drawn = await entities<Typed>(page, 'wall'),
    [type] = await entities<{ id: string; layers: { thickness: number }[] }>(page, 'wallType');
  expect(drawn.map((w) => [w.thickness, w.inset, w.wallType])).toEqual(drawn.map(() => [190, 25, type.id]));

  await test.step('another thickness of a layer is that of all its walls, in one step', async () => {
    await command(page, 'Wall types');
    await types.getByRole('button', { name: /Boarded studs/ }).click();
    await layer(1).getByLabel(/Thick/).fill('40');
    await page.keyboard.press('Enter');
    await expect
      .poll(async () => (await entities<Typed>(page, 'wall')).map((w) => [w.thickness, w.inset]))
      .toEqual(drawn.map(() => [205, 40]));
    await types.getByRole('button', { name: 'Close' }).click();
    await page.keyboard.press('Control+z');
    await expect
      .poll(async () => (await entities<Typed>(page, 'wall')).map((w) => w.thickness))
      .toEqual(drawn.map(() => 190));
  });

  await test.step('one wall gets a thickness of its own; the others are still of the type', async () => {
    const [x0, y0, x1] = await corners(page);
    await click(page, [(x0 + x1) / 2, y0]);
    await expect(card(page)).toContainText('Larch boards on the left first');
    await card(page)
      .getByLabel(/Thickness/)
      .fill('300');
    await page.keyboard.press('Enter');
    await expect
      .poll(async () => (await entities<Typed>(page, 'wall')).map((w) => w.wallType === null).filter(Boolean))
      .toHaveLength(1);
    await page.keyboard.press('Escape');
  });

  await test.step('the takeoff counts the layers', async () => {
    await page.keyboard.press('4');
    await page.getByRole('button', { name: /Tables of the takeoff/ }).click();
    await page.getByRole('tab', { name: 'Layers of walls' }).click();
    const grid = page.getByRole('grid');
    await expect(grid).toContainText('Larch boards');
    await expect(grid).toContainText('Studs');
  });
  await allSaved(page);
});

test('an open boundary parts a room in two; both are named, counted with the opening between them, and one again without it', async ({
  page,
}) => {
  await newProject(page, 'Open plan');
  await fourWalls(page);
  const [x0, y0, x1, y1] = await corners(page),
    middle = (x0 + x1) / 2;
  await command(page, 'where one room ends');
  await click(page, [middle, y0]);
  await page.mouse.move(...(await planeOnScreen(page, [middle, y1])));
  await click(page, [middle, y1]);
  await expect.poll(async () => (await entities(page, 'openBoundary')).length).toBe(1);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await command(page, 'make rooms of all');
  await expect.poll(async () => (await entities(page, 'space')).length).toBe(2);

  await page.keyboard.press('4');
  await page.getByRole('button', { name: /Tables of the takeoff/ }).click();
  const view = page.getByRole('region', { name: 'Takeoff' });
  await view.getByRole('tab', { name: /^Rooms 2/ }).click();
  await view.getByRole('tab', { name: /^Sides of rooms/ }).click();
  await expect(view.getByRole('row').filter({ hasText: 'open' })).toHaveCount(2);
  await view.getByRole('button', { name: 'Close' }).click();

  await click(page, [middle, (y0 + y1) / 2]);
  await page.keyboard.press('Delete');
  await expect.poll(async () => (await entities(page, 'openBoundary')).length).toBe(0);
  await page.getByRole('button', { name: /Tables of the takeoff/ }).click();
  await expect(view.getByRole('tab', { name: /^Rooms 1/ })).toBeVisible();
  await page.keyboard.press('Escape');
  await allSaved(page);
});

test('a bent wall through three points takes a window, bends further by its card, and is counted with its room', async ({
  page,
}) => {
  await newProject(page, 'Bent wall');
  await page.keyboard.press('3');
  await page.getByRole('toolbar').getByRole('button', { name: 'Bent wall', exact: true }).click();
  // Half a tower, and a straight wall to close it.
  for (const [x, y] of [
    [480, 560],
    [600, 470],
    [720, 560],
  ] as const)
    await page.mouse.click(x, y);
  interface Bent extends Wall {
    from: [number, number];
    to: [number, number];
    curve?: number | null;
    openings?: { from: [number, number]; to: [number, number] }[];
  }
  const bent = async () => (await entities<Bent>(page, 'wall')).find((w) => w.curve)!;
  await expect.poll(async () => Math.abs((await bent())?.curve ?? 0)).toBeGreaterThan(0.5);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  const { from, to } = await bent();
  await page.keyboard.press('w');
  for (const end of [from, to]) await click(page, end);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await expect.poll(async () => (await entities(page, 'wall')).length).toBe(2);
  // A window at its crown, straight in the bend.
  await page.keyboard.press('o');
  await page.keyboard.press('f');
  await page.keyboard.press('f');
  await page.mouse.move(600, 471);
  await page.mouse.click(600, 471);
  await expect.poll(async () => (await bent()).openings?.length ?? 0).toBe(1);
  const [pane] = (await bent()).openings!;
  expect(Math.hypot(pane.to[0] - pane.from[0], pane.to[1] - pane.from[1])).toBeCloseTo(1200, 6);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.getByRole('toolbar').getByRole('button', { name: 'All rooms', exact: true }).click();
  await expect.poll(async () => (await entities(page, 'space')).length).toBe(1);
  await page.keyboard.press('Escape');
  const [chosen] = (await entities<Bent>(page, 'wall')).filter((w) => w.curve);
  await page.evaluate(
    (id) =>
      (
        window as unknown as { calque: { table: { setSelection(ids: string[]): void } } }
      ).calque.table.setSelection([id]),
    chosen.id,
  );
  const rise = card(page).getByLabel(/^Rise of its bend/);
  await rise.fill('99999');
  await rise.press('Enter');
  await expect(page.getByText(/bends by half a turn at most/)).toBeVisible();
  expect((await bent()).curve).toBe(chosen.curve);
  const chord = Math.hypot(to[0] - from[0], to[1] - from[1]);
  await rise.fill(String(Math.round(chord / 4)));
  await rise.press('Enter');
  await expect.poll(async () => Math.abs((await bent()).curve!)).toBeCloseTo(0.5, 2);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await bent()).curve).toBe(chosen.curve);
  await allSaved(page);
});
