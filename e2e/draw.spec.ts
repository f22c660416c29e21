import { expect, test, type Page } from '@playwright/test';
import {
  allSaved,
  attach,
  drawing,
  entities,
  newProject,
  planeOnScreen,
  sheetFile,
  snapReady,
  traceMenu,
} from './bench.ts';

interface Drawn {
  id: string;
  type: string;
  layerId?: string | null;
}
interface Arc extends Drawn {
  centre: [number, number];
  radius: number;
  sweep: number;
}
interface Path extends Drawn {
  points: [number, number][];
  bulges: number[];
  closed: boolean;
}
interface Dimension extends Drawn {
  points: [number, number][];
  on: ({ id: string; grip: number } | null)[];
}
interface WallEntity extends Drawn {
  from: [number, number];
  to: [number, number];
  thickness: number;
}

const click = async (page: Page, x: number, y: number) => {
  await page.mouse.move(x, y, { steps: 3 });
  await page.mouse.click(x, y);
};
const end = async (page: Page) => {
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
};
const words = (page: Page) =>
  page.evaluate(
    () =>
      (
        window as unknown as { calque: { table: { state: { getState(): { toolWords: string } } } } }
      ).calque.table.state.getState().toolWords,
  );

/** Lays a sheet at 1:100 and opens Trace. */
async function laid(page: Page, name: string, file: string): Promise<void> {
  await newProject(page, name);
  await attach(page, sheetFile(file));
  await page.getByRole('button', { name: 'Lay at the origin' }).click();
  await snapReady(page);
  await page.evaluate(() => {
    const { session, table } = (
      window as unknown as {
        calque: {
          session: {
            state: { model: Map<string, { type: string; id: string; placement: number[] }> };
            do(c: object, l: string): void;
          };
          table: { showAll(): void };
        };
      }
    ).calque;
    const u = [...session.state.model.values()].find((e) => e.type === 'underlay')!,
      k = (100 * 25.4) / 72;
    session.do(
      { type: 'set', id: u.id, before: { placement: u.placement }, after: { placement: [k, 0, 0, k, 0, 0] } },
      'Lay at 1:100',
    );
    table.showAll();
  });
  await page.keyboard.press('3');
}

test('shapes by mouse and typed figures; a dimension follows; a corner is rounded; grips are dragged; undo takes each back', async ({
  page,
}) => {
  await newProject(page, 'Shapes');
  await page.keyboard.press('3');
  await test.step('a rectangle and a circle as they were typed', async () => {
    await page.keyboard.press('Shift+R');
    await click(page, 400, 600);
    await page.mouse.move(520, 520);
    await page.keyboard.type('2*1200');
    await page.keyboard.press('Tab');
    await page.keyboard.type('1.5 m');
    await page.keyboard.press('Enter');
    await end(page);
    const [box] = await entities<Path>(page, 'path');
    expect([box.points[2][0] - box.points[0][0], box.points[2][1] - box.points[0][1]]).toEqual([2400, 1500]);
    await page.keyboard.press('Shift+C');
    await click(page, 700, 300);
    await page.mouse.move(740, 310);
    await page.keyboard.type('900');
    await page.keyboard.press('Enter');
    await end(page);
    expect((await entities<Arc>(page, 'arc'))[0].radius).toBe(900);
  });
  await test.step('coordinates by Tab, the last figure offered again by the arrow', async () => {
    await page.keyboard.press('Shift+C');
    await page.mouse.move(600, 200);
    await drawing(page).focus();
    await page.keyboard.press('Tab');
    await page.keyboard.type('5000');
    await page.keyboard.press('Tab');
    await page.keyboard.type('-250');
    await page.keyboard.press('Enter');
    await page.mouse.move(650, 260);
    await page.keyboard.type('1');
    await page.keyboard.press('Backspace');
    await page.keyboard.press('ArrowUp');
    await page.keyboard.press('Enter');
    await end(page);
    expect((await entities<Arc>(page, 'arc'))[1]).toMatchObject({ centre: [5000, -250], radius: 900 });
  });
  await test.step('a dimension rests on corners and follows them', async () => {
    const [box] = await entities<Path>(page, 'path');
    await page.keyboard.press('Shift+D');
    for (const p of [box.points[0], box.points[1]]) await click(page, ...(await planeOnScreen(page, p)));
    const [x, y] = await planeOnScreen(page, box.points[0]);
    await click(page, x + 40, y + 60);
    await end(page);
    expect((await entities<Dimension>(page, 'dimension'))[0].on).toEqual([
      { id: box.id, grip: 0 },
      { id: box.id, grip: 1 },
    ]);
  });
  await test.step('two stretches of the rectangle get a round corner, by its radius', async () => {
    const [box] = await entities<Path>(page, 'path');
    const mid = (a: [number, number], b: [number, number]): [number, number] => [
      (a[0] + b[0]) / 2,
      (a[1] + b[1]) / 2,
    ];
    await page.keyboard.press('q');
    await page.mouse.move(...(await planeOnScreen(page, mid(box.points[1], box.points[2]))));
    await page.keyboard.type('0');
    await page.keyboard.press('Tab');
    await page.keyboard.type('300');
    await page.keyboard.press('Enter');
    await click(page, ...(await planeOnScreen(page, mid(box.points[1], box.points[2]))));
    await click(page, ...(await planeOnScreen(page, mid(box.points[2], box.points[3]))));
    await end(page);
    const [rounded] = await entities<Path>(page, 'path');
    expect(rounded.points).toHaveLength(5);
    expect(rounded.bulges.filter((b) => b !== 0).map((b) => Math.abs(b))).toEqual([
      expect.closeTo(Math.tan(Math.PI / 8), 6),
    ]);
  });
  await test.step('a circle is pulled by a quarter; undo goes back step by step, to nothing', async () => {
    const [circle] = await entities<Arc>(page, 'arc');
    await click(page, ...(await planeOnScreen(page, [circle.centre[0], circle.centre[1] - circle.radius])));
    const [x, y] = await planeOnScreen(page, [circle.centre[0] + circle.radius, circle.centre[1]]);
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(x + 40, y, { steps: 5 });
    await page.mouse.up();
    expect((await entities<Arc>(page, 'arc'))[0].radius).toBeGreaterThan(1000);
    await allSaved(page);
    for (let i = 0; i < 6; i++) await page.keyboard.press('Control+z');
    for (const type of ['path', 'arc', 'dimension']) expect(await entities(page, type)).toEqual([]);
    await allSaved(page);
  });
});

test('layers: new elements come onto the current one; hidden ones are neither seen nor picked, locked ones not changed; steps are listed in words', async ({
  page,
}) => {
  await newProject(page, 'Layers');
  await page.keyboard.press('3');
  const card = page.getByTestId('layers');
  await traceMenu(page, /Layers of the trace/);
  await card.getByLabel('New layer').fill('Joinery');
  await card.getByRole('button', { name: 'Add' }).click();
  await card.getByLabel('New layer').fill('joinery');
  await card.getByRole('button', { name: 'Add' }).click();
  await expect(card.getByText('There is a layer "joinery" already.')).toBeVisible();
  await page.keyboard.press('Shift+C');
  await drawing(page).focus();
  await page.keyboard.press('Shift+C');
  await click(page, 600, 300);
  await click(page, 660, 300);
  await end(page);
  const [circle] = await entities<Arc>(page, 'arc');
  expect(circle.layerId).toBe((await entities<Drawn>(page, 'layer'))[0].id);
  await card.getByRole('button', { name: 'Lock' }).click();
  await click(page, 600, 240);
  await expect(page.getByTestId('selection')).toHaveCount(0);
  await card.getByRole('button', { name: 'Unlock' }).click();
  await click(page, 600, 240);
  await expect(page.getByTestId('selection')).toContainText('one circle');
  await page.keyboard.press('Escape');
  await card.getByRole('button', { name: 'Hide', exact: true }).click();
  await page.keyboard.press('i');
  await page.mouse.move(601, 301);
  expect(
    await page.evaluate(
      () =>
        (
          window as unknown as { calque: { table: { state: { getState(): { snap: unknown } } } } }
        ).calque.table.state.getState().snap,
    ),
  ).toBeNull();
  await end(page);
  await test.step('the list of steps takes back several at once', async () => {
    await page.getByRole('button', { name: 'Steps' }).click();
    await expect(page.getByRole('menuitem')).toContainText([
      'take back: Hide Joinery',
      'Unlock Joinery',
      'to before: Lock Joinery',
      'Draw a circle',
      'Add the layer Joinery',
    ]);
    await page.getByRole('menuitem', { name: 'take back to before: Lock Joinery' }).click();
    await expect
      .poll(async () => (await entities<Drawn & { locked: boolean; visible: boolean }>(page, 'layer'))[0])
      .toMatchObject({ locked: false, visible: true });
    expect(await entities(page, 'arc')).toHaveLength(1);
  });
  await allSaved(page);
});

test('a region of a sheet becomes linework on its layers, in one step that undo takes back', async ({
  page,
}) => {
  await laid(page, 'Convert', '02_reportlab_imperial_ocg.pdf');
  await page.keyboard.press('Shift+V');
  const card = page.getByTestId('convert');
  await expect(card).toContainText('730 lines, 90 arcs and curves, 95 texts; less than a second');
  await card.getByRole('button', { name: 'texts' }).click();
  await card.getByRole('button', { name: 'DIMS' }).click();
  await expect(card).not.toContainText('95 texts');
  await card.getByRole('button', { name: 'is hidden' }).click();
  await card.getByRole('button', { name: 'Convert', exact: true }).click();
  await expect(card).toHaveCount(0);
  const layers = await entities<Drawn & { name: string }>(page, 'layer');
  expect(layers.map((l) => l.name)).toEqual(expect.arrayContaining(['WALLS']));
  expect(layers.map((l) => l.name)).not.toContain('DIMS');
  expect((await entities(page, 'path')).length).toBeGreaterThan(20);
  expect(await entities(page, 'text')).toEqual([]);
  expect((await entities<Drawn & { visible: boolean }>(page, 'underlay'))[0].visible).toBe(false);
  await allSaved(page);
  await page.keyboard.press('Control+z');
  for (const type of ['path', 'line', 'arc', 'layer']) expect(await entities(page, type)).toEqual([]);
  expect((await entities<Drawn & { visible: boolean }>(page, 'underlay'))[0].visible).toBe(true);
});

test('taken from the plan: a wall by both faces on the sheet\u2019s own lines, and the outline of a room', async ({
  page,
}) => {
  await laid(page, 'Take', '01_cairo_plan_100.pdf');
  await page.keyboard.press('Shift+L');
  // Between the faces of the outer wall at the foot of the plan, where no window is.
  const find = await page.evaluate(() => {
    const { session, table } = (
      window as unknown as {
        calque: {
          session: {
            state: {
              model: Map<string, { type: string; fileId: string; page: number; placement: number[] }>;
            };
          };
          table: { sheets: { get(f: string, p: number): { linework: { segments: Float64Array } } } };
        };
      }
    ).calque;
    const u = [...session.state.model.values()].find((e) => e.type === 'underlay')!,
      { segments } = table.sheets.get(u.fileId, u.page).linework,
      k = u.placement[0];
    return { k, segments: [...segments] };
  });
  await page.mouse.move(600, 400);
  await expect
    .poll(async () => {
      await page.mouse.move(600 + Math.random(), 470);
      return (await words(page)).includes('Take a wall');
    })
    .toBe(true);
  // The longest level lines of the plan bound its outer wall.
  const level: { y: number; x0: number; x1: number }[] = [];
  for (let i = 0; i < find.segments.length; i += 4)
    if (find.segments[i + 1] === find.segments[i + 3])
      level.push({
        y: find.segments[i + 1] * find.k,
        x0: Math.min(find.segments[i], find.segments[i + 2]) * find.k,
        x1: Math.max(find.segments[i], find.segments[i + 2]) * find.k,
      });
  const at = level
    .filter((s) => s.x1 - s.x0 > 2500 && s.x1 - s.x0 < 30000)
    .flatMap((s) =>
      level
        .filter(
          (o) =>
            Math.abs(o.y - s.y) > 200 &&
            Math.abs(o.y - s.y) < 450 &&
            Math.min(o.x1, s.x1) - Math.max(o.x0, s.x0) > 2000,
        )
        .map((o) => ({
          x: (Math.max(o.x0, s.x0) + Math.min(o.x1, s.x1)) / 2,
          y: Math.max(o.y, s.y) - 30,
          t: Math.abs(o.y - s.y),
        })),
    )[0];
  await expect
    .poll(
      async () => {
        const [x, y] = await planeOnScreen(page, [at.x, at.y]);
        await page.mouse.move(x + Math.random(), y);
        return words(page);
      },
      { timeout: 20000 },
    )
    .toContain('thick');
  await click(page, ...(await planeOnScreen(page, [at.x, at.y])));
  const [wall] = await entities<WallEntity>(page, 'wall');
  expect(wall).toBeDefined();
  const onFace = (y: number) => level.some((s) => Math.abs(s.y - y) < 0.5);
  expect([onFace(wall.from[1] + wall.thickness / 2), onFace(wall.from[1] - wall.thickness / 2)]).toEqual([
    true,
    true,
  ]);
  for (let i = 0; i < 4; i++) await page.keyboard.press('f');
  expect(await words(page)).toContain('outline');
  await click(page, 500, 400);
  await expect.poll(async () => (await entities(page, 'area')).length).toBe(1);
  await allSaved(page);
});
