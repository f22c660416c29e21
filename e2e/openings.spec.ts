import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { allSaved, dropFile, entities, newProject, sheetFile, SHEET_01, snapReady } from './bench.ts';

interface Opening {
  depth?: number;
  id: string;
  kind: string;
  from: [number, number];
  to: [number, number];
  leaves: number;
  hung: string;
  opens: string;
  sill: number;
  head: number;
  tag: string;
  assumed: string[];
  folds?: boolean | null;
  type?: string | null;
  material?: string | null;
}
interface Wall {
  id: string;
  from: [number, number];
  to: [number, number];
  thickness: number;
  openings?: Opening[];
}
const walls = (page: Page) => entities<Wall>(page, 'wall');
const openings = async (page: Page) => (await walls(page)).flatMap((w) => w.openings ?? []);
const widthOf = (o: Opening) => Math.hypot(o.to[0] - o.from[0], o.to[1] - o.from[1]);
/** A place of the plane on the screen. */
async function onScreen(page: Page, [x, y]: [number, number]): Promise<[number, number]> {
  const v = await page.evaluate(
    () =>
      (
        window as unknown as {
          calque: { table: { view: { scale: number; x: number; y: number } } };
        }
      ).calque.table.view,
  );
  const box = (await page.getByTestId('drawing').boundingBox())!;
  return [box.x + v.x + v.scale * x, box.y + v.y - v.scale * y];
}
const card = (page: Page) => page.getByRole('complementary', { name: 'Stage' });

/** A sheet laid to scale, with the tool that takes walls in hand; strokes go from one share of the sheet to another. */
async function strokesOn(page: Page, name: string) {
  await newProject(page, name);
  await dropFile(page, sheetFile(SHEET_01.file));
  await page.getByRole('button', { name: /lay it down to scale/i }).click({ timeout: 30000 });
  await snapReady(page);
  await page.keyboard.press('3');
  await page.keyboard.press('Shift+L');
  const [u] = await entities<{ crop: number[]; placement: number[] }>(page, 'underlay');
  const at = ([x, y]: [number, number]): [number, number] => [
    u.placement[4] + u.placement[0] * (u.crop[0] + x * (u.crop[2] - u.crop[0])),
    u.placement[5] + u.placement[3] * (u.crop[1] + y * (u.crop[3] - u.crop[1])),
  ];
  // Its lines are made ready.
  await page.waitForTimeout(1500);
  return async (a: [number, number], b: [number, number]) => {
    const [p, q] = [await onScreen(page, at(a)), await onScreen(page, at(b))];
    await page.mouse.move(...p);
    await page.mouse.down();
    await page.mouse.move((p[0] + q[0]) / 2, (p[1] + q[1]) / 2, { steps: 4 });
    await page.mouse.move(...q, { steps: 4 });
    await page.waitForTimeout(400);
    await page.mouse.up();
  };
}

test('walls taken from a plan have its doors and windows, which are cut out, changed in the card, and delivered', async ({
  page,
}) => {
  // Across the plan: every wall on the way is taken with what the plan shows in it.
  const stroke = await strokesOn(page, 'Openings');
  await stroke([0.05, 0.55], [0.95, 0.55]);
  await stroke([0.35, 0.05], [0.35, 0.95]);
  await expect.poll(async () => (await openings(page)).length).toBeGreaterThan(5);
  const seen = await openings(page);
  expect(new Set(seen.map((o) => o.kind))).toContain('door');
  expect(new Set(seen.map((o) => o.kind))).toContain('window');
  for (const o of seen) {
    expect(widthOf(o)).toBeGreaterThan(300);
    // A plan says nothing of heights.
    expect(o.assumed).toEqual(expect.arrayContaining(['sill', 'head']));
  }
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  const wall = (await walls(page)).find((w) => w.openings?.some((o) => o.kind === 'door' && o.leaves === 1))!;
  await page.evaluate((id) => {
    (
      window as unknown as { calque: { table: { setSelection(ids: string[]): void } } }
    ).calque.table.setSelection([id]);
  }, wall.id);
  const row = card(page)
    .getByRole('group', { name: /^Opening/ })
    .first();
  await expect(row).toBeVisible();
  await card(page).getByRole('button', { name: 'Other side' }).first().click();
  await expect
    .poll(
      async () =>
        (await openings(page)).filter((o) => !o.assumed.includes('swing') && o.kind === 'door').length,
    )
    .toBeGreaterThan(0);
  await card(page).getByRole('button', { name: 'Confirm' }).last().click();
  await expect
    .poll(async () =>
      (await walls(page)).find((w) => w.id === wall.id)!.openings!.every((o) => o.assumed.length === 0),
    )
    .toBe(true);
  // What it is and of what it is made, in words; how it opens.
  await row.getByRole('textbox', { name: 'Type' }).fill('Flush, half-hour');
  await row.getByRole('textbox', { name: 'Type' }).press('Enter');
  await row.getByRole('textbox', { name: 'Material' }).fill('Oak');
  await row.getByRole('textbox', { name: 'Material' }).press('Enter');
  const named = async () => (await walls(page)).find((w) => w.id === wall.id)!.openings!;
  await expect
    .poll(async () => (await named()).map((o) => [o.type ?? null, o.material ?? null]))
    .toContainEqual(['Flush, half-hour', 'Oak']);
  const leaves = card(page).getByRole('combobox', { name: 'Leaves' }).first();
  await leaves.click();
  await page.getByRole('option', { name: 'folds' }).click();
  await expect
    .poll(async () => (await named()).some((o) => o.kind === 'door' && o.leaves === 0 && o.folds === true))
    .toBe(true);
  await leaves.click();
  await page.getByRole('option', { name: 'one leaf' }).click();
  await expect.poll(async () => (await named()).some((o) => o.folds === true)).toBe(false);
  // A head above the wall is refused in words, and nothing changes.
  const head = row.getByRole('textbox', { name: /^Head/ });
  await head.fill('9000');
  await head.press('Enter');
  await expect(page.getByText(/head would be above the wall/)).toBeVisible();
  await allSaved(page);
  await page.keyboard.press('5');
  const file = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Write DXF' }).click();
  const dxf = readFileSync((await (await file).path())!, 'utf8');
  expect(dxf).toContain('Doors');
  expect(dxf).toContain('Windows');
});

test('a door is put by typed width, refused where it does not fit, dragged by its edge, moved with its wall, and undone', async ({
  page,
}) => {
  await newProject(page, 'By hand');
  await page.keyboard.press('3');
  await page.keyboard.press('w');
  await page.mouse.click(400, 300);
  await page.mouse.click(800, 300);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  const [wall] = await walls(page);
  await page.keyboard.press('o');
  const [x, y] = await onScreen(page, [(wall.from[0] + wall.to[0]) / 2, wall.from[1] + 20]);
  await page.mouse.move(x, y);
  await expect(page.getByTestId('tool-words')).toContainText('door 900 mm wide');
  await page.keyboard.type('1000');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await openings(page)).length).toBe(1);
  const [door] = await openings(page);
  expect(widthOf(door)).toBeCloseTo(1000, 6);
  expect(door).toMatchObject({ kind: 'door', tag: 'D01', opens: 'left', leaves: 1 });
  // Over the first there is no room for another.
  await page.mouse.click(x + 3, y);
  await expect(page.getByText(/is there already/).first()).toBeVisible();
  expect(await openings(page)).toHaveLength(1);
  // Beside the wall nothing is meant.
  await page.mouse.move(x, y + 180);
  await expect(page.getByTestId('tool-words')).toContainText('point at a wall');
  await page.keyboard.press('Escape');
  await page.mouse.click(...(await onScreen(page, [wall.from[0] + 300, wall.from[1]])));
  const edge = await onScreen(page, door.to);
  await page.mouse.move(...edge);
  await page.mouse.down();
  await page.mouse.move(edge[0] + 40, edge[1] + 25, { steps: 5 });
  await page.mouse.up();
  await expect.poll(async () => widthOf((await openings(page))[0])).toBeGreaterThan(1100);
  const [wider] = await openings(page);
  expect(wider.to[1]).toBeCloseTo(wall.from[1], 6);
  await page.keyboard.press('ArrowUp');
  await expect.poll(async () => (await walls(page))[0].from[1]).not.toBe(wall.from[1]);
  const [moved] = await walls(page);
  expect(moved.openings![0].from[1]).toBeCloseTo(moved.from[1], 6);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await openings(page)).length).toBe(0);
  await allSaved(page);
});

test('a niche is put at the face that is pointed at, made deeper in the card, and refused where it would go through', async ({
  page,
}) => {
  await newProject(page, 'Niche');
  await page.keyboard.press('3');
  await page.keyboard.press('w');
  await page.mouse.click(400, 300);
  await page.mouse.click(800, 300);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  const [wall] = await walls(page);
  await page.keyboard.press('o');
  for (let i = 0; i < 4; i++) await page.keyboard.press('f');
  const [x, y] = await onScreen(page, [(wall.from[0] + wall.to[0]) / 2, wall.from[1] - 20]);
  await page.mouse.move(x, y);
  await expect(page.getByTestId('tool-words')).toContainText('niche 600 mm wide');
  await page.mouse.click(x, y);
  await expect.poll(async () => (await openings(page)).length).toBe(1);
  expect((await openings(page))[0]).toMatchObject({
    kind: 'niche',
    opens: 'right',
    depth: wall.thickness / 2,
    assumed: ['sill', 'head', 'depth'],
  });
  await page.keyboard.press('Escape');
  await page.mouse.click(...(await onScreen(page, [wall.from[0] + 300, wall.from[1]])));
  const depth = card(page).getByRole('textbox', { name: 'Depth' });
  await depth.fill('60');
  await depth.press('Enter');
  await expect
    .poll(async () => (await openings(page))[0])
    .toMatchObject({ depth: 60, assumed: ['sill', 'head'] });
  await depth.fill(String(wall.thickness));
  await depth.press('Enter');
  await expect(page.getByText(/It would go through the wall/).first()).toBeVisible();
  expect((await openings(page))[0]).toMatchObject({ depth: 60 });
  await card(page).getByRole('button', { name: 'Other side' }).click();
  await expect.poll(async () => (await openings(page))[0]).toMatchObject({ opens: 'left' });
  await allSaved(page);
});

test('how two walls part a corner is chosen by pointing at it, and undone', async ({ page }) => {
  await newProject(page, 'Corner');
  await page.keyboard.press('3');
  await page.keyboard.press('r');
  await page.mouse.click(400, 250);
  await page.mouse.click(800, 500);
  await expect.poll(async () => (await walls(page)).length).toBe(4);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+k');
  await page.getByLabel('Find a command').fill('wall corner');
  await page.keyboard.press('Enter');
  const [first] = await walls(page),
    through = async () =>
      (await entities<{ runsThrough?: string[] | null }>(page, 'wall')).map(
        (w) => w.runsThrough?.length ?? 0,
      );
  const words = page.getByTestId('tool-words');
  await page.mouse.move(600, 380);
  await expect(words).toContainText('point where two straight walls meet');
  await page.mouse.click(600, 380);
  await expect(page.getByText('Point where two straight walls meet in a corner.').first()).toBeVisible();
  const at = await onScreen(page, first.to);
  await page.mouse.move(...at);
  await expect(words).toContainText('mitred; click to have it one wall run through');
  await page.mouse.click(...at);
  await expect.poll(through).toEqual([1, 0, 0, 0]);
  await expect(words).toContainText('click to have it the other wall run through');
  await page.mouse.click(...at);
  await expect.poll(through).toEqual([0, 1, 0, 0]);
  await page.mouse.click(...at);
  await expect.poll(through).toEqual([0, 0, 0, 0]);
  await page.keyboard.press('Control+z');
  await expect.poll(through).toEqual([0, 1, 0, 0]);
  await allSaved(page);
});

interface Space {
  id: string;
  at: [number, number];
  name: string;
  number: string;
  printed: number | null;
}

test('rooms are made by pointing or all at once, are named by the sheet, follow their walls, and say where they do not close', async ({
  page,
}) => {
  await newProject(page, 'Rooms');
  await page.keyboard.press('3');
  await page.keyboard.press('r');
  await page.mouse.click(400, 250);
  await page.mouse.click(800, 500);
  await expect.poll(async () => (await walls(page)).length).toBe(4);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Shift+O');
  await page.mouse.move(600, 380);
  await expect(page.getByTestId('tool-words')).toContainText('click to make one of');
  await page.mouse.click(600, 380);
  await expect.poll(async () => (await entities<Space>(page, 'space')).length).toBe(1);
  // Again in the same room makes no other.
  await page.mouse.click(500, 300);
  await expect(page.getByText(/is a room already/)).toBeVisible();
  expect(await entities<Space>(page, 'space')).toHaveLength(1);
  await page.mouse.move(900, 640);
  await expect(page.getByTestId('tool-words')).toContainText('no walls close');
  await page.keyboard.press('Escape');
  const [room] = await entities<Space>(page, 'space');
  const select = (id: string) =>
    page.evaluate(
      (chosen) =>
        (
          window as unknown as { calque: { table: { setSelection(ids: string[]): void } } }
        ).calque.table.setSelection([chosen]),
      id,
    );
  await select(room.id);
  const area = card(page).getByTestId('room-area');
  await expect(area).toContainText('m²');
  const before = await area.textContent();
  await card(page).getByRole('textbox', { name: 'Name' }).fill('Boat bay');
  await card(page).getByRole('textbox', { name: 'Name' }).press('Enter');
  await expect.poll(async () => (await entities<Space>(page, 'space'))[0].name).toBe('Boat bay');
  // A wall becomes thicker: the room is as large as its walls make it.
  const right = (await walls(page)).reduce((a, b) => (a.from[0] + a.to[0] > b.from[0] + b.to[0] ? a : b));
  await select(right.id);
  const thickness = card(page).getByRole('textbox', { name: /Thickness/ });
  await thickness.fill('600');
  await thickness.press('Enter');
  await expect.poll(async () => (await walls(page)).find((w) => w.id === right.id)!.thickness).toBe(600);
  await select(room.id);
  await expect.poll(() => area.textContent()).not.toBe(before);
  await expect(area).toContainText('m²');
  // Without one of its walls nothing is enclosed, and it says so.
  await select(right.id);
  await page.getByTestId('drawing').focus();
  await page.keyboard.press('Delete');
  await select(room.id);
  await expect(area).toContainText('do not close');
  await page.keyboard.press('Control+z');
  await expect(area).toContainText('m²');
  await allSaved(page);
});

test('all rooms of a plan that was taken are made in one step, named as the sheet names them', async ({
  page,
}) => {
  const stroke = await strokesOn(page, 'All rooms');
  for (const y of [0.4, 0.62]) await stroke([0.03, y], [0.97, y]);
  for (const x of [0.25, 0.45, 0.62]) await stroke([x, 0.05], [x, 0.95]);
  await expect.poll(async () => (await walls(page)).length).toBeGreaterThan(8);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.getByRole('toolbar').getByRole('button', { name: 'All rooms', exact: true }).click();
  await expect.poll(async () => (await entities<Space>(page, 'space')).length).toBeGreaterThan(2);
  const spaces = await entities<Space>(page, 'space');
  expect(spaces.filter((s) => s.name !== '').length).toBeGreaterThan(1);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await entities<Space>(page, 'space')).length).toBe(0);
});

test('an opening takes its tag and its height from the words beside it, and says what the sheet prints', async ({
  page,
}) => {
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'calque-')), 'gap.svg');
  writeFileSync(
    file,
    `<svg xmlns="http://www.w3.org/2000/svg" width="6000mm" height="3000mm" viewBox="0 0 6000 3000">
      <g fill="none" stroke="#000" stroke-width="10"><rect x="500" y="1400" width="2000" height="200"/>
      <rect x="3400" y="1400" width="2100" height="200"/></g>
      <g font-size="120"><text x="2850" y="1250">D07</text><text x="2650" y="1850">910 x 2050</text></g></svg>`,
  );
  await newProject(page, 'Words beside');
  await page.getByTestId('file-input').setInputFiles(file);
  await page.getByRole('button', { name: 'Lay at its own place' }).click({ timeout: 20000 });
  await snapReady(page);
  const [u] = await entities<{ placement: number[]; crop: number[] }>(page, 'underlay');
  // The lower left corner of the drawing, and a millimetre of it, on the plane.
  const at = (x: number, y: number): [number, number] => [
    u.placement[4] + u.placement[0] * (u.crop[0] + (x / 6000) * (u.crop[2] - u.crop[0])),
    u.placement[5] + u.placement[3] * (u.crop[1] + (1 - y / 3000) * (u.crop[3] - u.crop[1])),
  ];
  await page.evaluate(
    ([from, to]) => {
      const { table } = (
        window as unknown as {
          calque: {
            table: {
              session: { do(c: unknown, l: string): void };
              state: { getState(): { planeId: string } };
            };
          };
        }
      ).calque;
      table.session.do(
        {
          type: 'add',
          entity: {
            type: 'wall',
            id: 'w',
            planeId: table.state.getState().planeId,
            source: { underlayId: null, ends: 'typed', thickness: 'typed' },
            from,
            to,
            thickness: 200,
            alignment: 'centre',
            height: 2700,
            heightAssumed: false,
          },
        },
        'Draw a wall',
      );
    },
    [at(500, 1500), at(5500, 1500)],
  );
  await page.keyboard.press('3');
  await page.keyboard.press('Home');
  await page.keyboard.press('o');
  const middle = at(2950, 1500);
  await page.mouse.move(...(await onScreen(page, middle)));
  await page.waitForTimeout(1500);
  await page.mouse.move(...(await onScreen(page, at(2960, 1500))));
  await expect(
    page.getByText(/the sheet prints D07, 910.mm by 2.050.mm, not as wide as it is drawn/),
  ).toBeVisible();
  await page.mouse.click(...(await onScreen(page, middle)));
  await expect.poll(async () => (await openings(page)).length).toBe(1);
  const [opening] = await openings(page);
  expect(opening).toMatchObject({ tag: 'D07', sill: 0, head: 2050 });
  expect(opening.assumed).not.toContain('head');
  expect(widthOf(opening)).toBeCloseTo(900, 1);
  await allSaved(page);
});
