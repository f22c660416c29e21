import { readFileSync, writeFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { drawBracketSheet } from '../demo/src/sheets.ts';
import { allSaved, command, dropFile, entities, newProject, planeOnScreen, snapReady } from './bench.ts';
import { circle, pdfOf, PT, words } from './pdf-sheet.ts';

const panel = (page: Page) => page.getByTestId('part-panel');
const mass = async (page: Page): Promise<number> =>
  Number((await page.getByTestId('part-mass').innerText()).replace(/[^\d.]/g, ''));
async function figure(page: Page, label: string | RegExp, value: string): Promise<void> {
  const field = page.getByLabel(label, { exact: typeof label === 'string' }).last();
  await field.fill(value);
  await field.press('Enter');
}

/** A new part with a sheet laid on its front; gives the way from its own lengths, from where it draws its foot, to the screen. */
async function partOn(
  page: Page,
  file: string,
  foot: readonly [number, number],
  { unit = 1, stated = false } = {},
) {
  await page.keyboard.press('3');
  await command(page, 'New part');
  await expect.poll(async () => (await entities(page, 'plane')).length).toBe(3);
  await dropFile(page, file);
  await page.getByRole('button', { name: 'Lay at the origin' }).waitFor({ timeout: 40000 });
  if (stated) {
    await page.getByLabel(/at a stated scale/).click();
    await page.getByLabel('Scale', { exact: true }).fill('1:1');
    await page.getByRole('button', { name: 'Lay at the origin' }).click();
  } else await page.getByRole('button', { name: 'Lay it down to scale' }).click({ timeout: 40000 });
  await allSaved(page);
  const [u] = await entities<{ placement: number[] }>(page, 'underlay');
  await page.keyboard.press('3');
  await snapReady(page);
  await page.keyboard.press('Home');
  const on = (x: number, y: number) => {
    const [a, b, c, d, e, f] = u.placement,
      [px, py] = [foot[0] + x * unit * PT, foot[1] + y * unit * PT];
    return planeOnScreen(page, [a * px + c * py + e, b * px + d * py + f]);
  };
  const click = async (x: number, y: number) => page.mouse.click(...(await on(x, y)));
  const letGo = async () => {
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
  };
  /** Takes the outline around a place from the sheet. */
  const outline = async (x: number, y: number) => {
    const before = (await entities(page, 'path')).length;
    await command(page, 'Take from the plan');
    await page.getByRole('button', { name: 'the outline around a point' }).click();
    await expect(async () => {
      if ((await entities(page, 'path')).length === before) await click(x, y);
      expect((await entities(page, 'path')).length).toBe(before + 1);
    }).toPass();
    await letGo();
  };
  const round = async (x: number, y: number, r: number) => {
    const before = (await entities(page, 'arc')).length;
    await command(page, 'Take from the plan');
    await page.getByRole('button', { name: 'a line', exact: true }).click();
    // Beside its axes, which are lines too.
    await click(x + r * Math.SQRT1_2, y + r * Math.SQRT1_2);
    await expect.poll(async () => (await entities(page, 'arc')).length).toBe(before + 1);
    await letGo();
  };
  return { on, click, letGo, outline, round };
}

test('the rigging bracket is made from its sheet alone: outline, holes by their notes, every printed figure, and it is that of the sheet', async ({
  page,
}, info) => {
  test.slow();
  const file = info.outputPath('bracket.pdf');
  writeFileSync(file, await drawBracketSheet());
  await newProject(page, 'Bracket from its sheet');
  const { on, click, letGo, outline, round } = await partOn(page, file, [60 * PT, 70 * PT]);

  await test.step('outline and slot by one click each, holes and bore by theirs', async () => {
    await outline(40, 60);
    await click(75, 0);
    await panel(page).getByRole('button', { name: 'Extrude' }).click();
    await figure(page, 'Depth, mm', '6');
    await letGo();
    await outline(110, 61);
    await click(110, 66);
    await panel(page).getByRole('button', { name: 'Cut' }).click();
    await letGo();
    for (const [x, y] of [
      [20, 20],
      [130, 20],
      [20, 70],
    ] as const)
      await round(x, y, 5.5);
    await round(75, 45, 16);
  });

  await test.step('three holes come by one note, the bore by its own', async () => {
    const note = async (x: number, y: number, r: number, at: [number, number]) => {
      await click(x + r * Math.SQRT1_2, y + r * Math.SQRT1_2);
      await panel(page).getByRole('button', { name: 'Holes' }).click();
      await page.getByRole('button', { name: 'Note on the sheet' }).click();
      await page.mouse.click(...(await on(...at)));
      await letGo();
    };
    await note(20, 20, 5.5, [178, 97]);
    await note(75, 45, 16, [178, 89]);
    const holes = (
      await entities<{ form: { kind: string; diameter: number; centres: string[] } }>(page, 'feature')
    ).filter((f) => f.form.kind === 'hole');
    expect(holes.map((h) => [h.form.diameter, h.form.centres.length])).toEqual([
      [11, 3],
      [32, 1],
    ]);
  });

  await test.step('what nearly holds is made so, and all that is printed drives', async () => {
    await click(75, 0);
    await panel(page).getByRole('button', { name: 'Find rules' }).click();
    await expect.poll(async () => (await entities(page, 'line')).length).toBeGreaterThan(3);
    await letGo();
    const offered = page.getByTestId('offered-figures');
    await offered.getByRole('button', { name: /^Let all \d+ drive$/ }).click();
    await expect(offered).toBeHidden();
    const driving = (
      await entities<{ value: number | null; printed?: { text: string } | null }>(page, 'rule')
    ).filter((r) => r.value !== null);
    expect(driving.length).toBeGreaterThanOrEqual(8);
    for (const r of driving) expect(r.printed!.text).toBe(String(Math.abs(r.value!)));
    await expect(page.getByTestId('plane-state')).not.toContainText('contradict');
  });

  await test.step('the solid lies on the lines of its sheet, and can be shown to move where it is not fixed', async () => {
    await page.getByLabel('Hold the solid against the sheet').click();
    await expect(page.getByTestId('held-words')).toContainText(
      'All edges of the solid that are seen here lie on lines of the sheet within 0.35 mm; no line within it is on the sheet alone.',
      { timeout: 60000 },
    );
    const ways = panel(page).getByRole('button', { name: 'Show what can move' });
    if (await ways.isVisible()) {
      await ways.click();
      await expect(panel(page)).toContainText(/way 1 of \d/);
      await panel(page).getByRole('button', { name: 'Done' }).click();
    }
  });

  await test.step('mass, holes and every printed figure are those of the sheet', async () => {
    await panel(page).getByRole('button', { name: 'See it in space' }).click();
    const rounds = 3 * (144 - (Math.PI * 144) / 4),
      face = 150 * 90 - 450 - rounds - 3 * Math.PI * 5.5 ** 2 - Math.PI * 16 ** 2 - (14 * 10 + Math.PI * 25);
    await expect.poll(() => mass(page), { timeout: 60000 }).toBeCloseTo((6 * face * 7850) / 1e9, 3);
    await expect(page.getByTestId('part-holes')).toContainText('3 of ⌀ 11, through');
    await expect(page.getByTestId('part-holes')).toContainText('1 of ⌀ 32, through');
    await expect(page.getByTestId('part-printed')).toContainText(
      'All 12 agree with the solid: 9 drive, 3 are measured.',
    );
  });

  await test.step('cut open it has the area of its face, its walls are as thick as the plate', async () => {
    const look = page.getByTestId('part-look'),
      shown = async (words: string) => {
        await look.getByRole('combobox', { name: 'Shown' }).click();
        await page.getByRole('option', { name: words }).click();
      };
    await shown('Cut open by a plane');
    await expect(page.getByTestId('section-area')).toContainText(/Cut area 116\.4/, { timeout: 20000 });
    await shown('Wall thickness as colours');
    await expect(page.getByTestId('thickness-legend')).toContainText('Thinnest found 6', { timeout: 20000 });
    await shown('As it is');
  });

  await test.step('its views are written on paper, and it is put into the building as a plate', async () => {
    for (const [button, name, begins] of [
      ['PDF', 'Part 1, views.pdf', '%PDF'],
      ['SVG', 'Part 1, views.svg', '<?xml'],
      ['CSV of holes', 'Part 1, holes.csv', 'hole,'],
      ['DXF of its largest face', 'Part 1, face.dxf', ''],
    ]) {
      const file = page.waitForEvent('download');
      await page.getByTestId('part-files').getByRole('button', { name: button, exact: true }).click();
      const download = await file;
      expect(download.suggestedFilename()).toBe(name);
      expect(
        readFileSync((await download.path())!, 'latin1')
          .replace(/^\u00ef\u00bb\u00bf/, '')
          .startsWith(begins),
      ).toBe(true);
    }
    await page.getByRole('combobox', { name: 'As a group in the building or frame' }).click();
    await page.getByRole('option').first().click();
    await expect.poll(async () => (await entities(page, 'placed')).length).toBe(1);
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await entities(page, 'placed')).length).toBe(0);
  });
});

/** A plate of 4 x 2.5 inches with a table of its holes, X and Y from its lower left corner; where its foot stands, points. */
const FOOT = [72, 90] as const,
  INCH = 25.4;
const HOLES = [
  ['A1', '.500', '.500', '.281 THRU'],
  ['A2', '3.500', '.500', '.281 THRU'],
  ['B1', '2.000', '1.750', '1/4-20 UNC'],
] as const;
const inchSheet = (): string => {
  const [x, y] = FOOT,
    at = (v: number) => v * 72;
  return pdfOf(
    [
      '1 w\n',
      `${x} ${y} m ${x + at(4)} ${y} l ${x + at(4)} ${y + at(2.5)} l ${x} ${y + at(2.5)} l h S\n`,
      circle(x + at(0.5), y + at(0.5), at(0.281 / 2)),
      circle(x + at(3.5), y + at(0.5), at(0.281 / 2)),
      circle(x + at(2), y + at(1.75), at(0.25 / 2)),
      words('4.000', x + at(2), y - 30),
      `${x} ${y - 34} m ${x + at(4)} ${y - 34} l S\n`,
      words('2.500', x - 44, y + at(1.25)),
      words('TAG', 400, 260),
      words('X', 440, 260),
      words('Y', 480, 260),
      words('SIZE', 520, 260),
      ...HOLES.flatMap((row, i) => row.map((text, k) => words(text, 400 + 40 * k, 244 - 16 * i))),
      words('1/4 PLATE, ALUMINIUM. ALL DIMENSIONS IN INCHES', 72, 20),
    ].join(''),
    [620, 320],
  );
};

test('a part in inches is drilled by the table of its sheet, written as STEP, and read back as a solid', async ({
  page,
}, info) => {
  test.slow();
  const file = info.outputPath('plate.pdf');
  writeFileSync(file, inchSheet(), 'latin1');
  await newProject(page, 'Inches', 'inches');
  const { click, letGo, outline } = await partOn(page, file, FOOT, { unit: INCH, stated: true });
  const volume = 4 * 2.5 * 0.25 * INCH ** 3,
    drilled = Math.PI * 0.25 * INCH * (2 * (0.281 * INCH) ** 2 + 5.1054 ** 2) * 0.25;

  await test.step('its outline is taken, made a quarter of an inch thick, and drilled by its table', async () => {
    await outline(2, 1);
    await click(1, 0);
    await panel(page).getByRole('button', { name: 'Extrude' }).click();
    await figure(page, 'Depth, in', '1/4');
    await letGo();
    const table = page.getByTestId('hole-table');
    await expect(table).toContainText('a table of 3 holes in 2 sizes');
    await expect(table).toContainText('so 3 of 3 stand in circles that are drawn');
    await table.getByRole('button', { name: 'Drill them' }).click();
    await expect(table).toBeHidden();
    const at = (await entities<{ form: { kind: string; at: [number, number][] } }>(page, 'feature')).flatMap(
      (f) => (f.form.kind === 'hole' ? f.form.at : []),
    );
    expect(at).toHaveLength(3);
    const [a, b] = at;
    expect(b[0] - a[0]).toBeCloseTo(3 * INCH, 2);
  });

  await test.step('its holes and its mass are those of the sheet, in inches', async () => {
    await panel(page).getByRole('button', { name: 'See it in space' }).click();
    await expect.poll(() => mass(page), { timeout: 60000 }).toBeCloseTo(((volume - drilled) * 7850) / 1e9, 3);
    await expect(page.getByTestId('part-holes')).toContainText('2 of ⌀ 0.281, through');
    await expect(page.getByTestId('part-holes')).toContainText('1 of 1/4-20 UNC, through');
    await expect(page.getByTestId('part-box')).toHaveText('4.00 x 0.25 x 2.50');
  });

  await test.step('its STEP file is taken into another part as it is', async () => {
    const before = await mass(page),
      waits = page.waitForEvent('download');
    await page.getByTestId('part-files').getByRole('button', { name: 'STEP' }).click();
    const step = info.outputPath('plate.step');
    await (await waits).saveAs(step);
    await page.getByRole('button', { name: 'Back to the plane' }).click();
    await dropFile(page, step);
    await expect(page.getByText('a solid, for parts')).toBeVisible({ timeout: 40000 });
    await page.keyboard.press('3');
    await command(page, 'New part');
    await panel(page).getByRole('combobox', { name: 'Take the solid of a STEP file' }).click();
    await page.getByRole('option', { name: 'plate.step' }).click();
    await panel(page).getByRole('button', { name: 'See it in space' }).click();
    await expect.poll(() => mass(page), { timeout: 60000 }).toBeCloseTo(before, 3);
    await expect(page.getByTestId('part-holes')).toContainText('3 round holes');
  });
});
