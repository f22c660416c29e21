import { readFileSync, writeFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import {
  allSaved,
  card,
  command,
  dropFile,
  entities,
  newProject,
  planeOnScreen,
  snapReady,
} from './bench.ts';
import { circle, pdfOf, PT, words } from './pdf-sheet.ts';

const panel = (page: Page) => page.getByTestId('part-panel');
const space = (page: Page) => page.getByTestId('part-space');
/** A figure in a field of the part's cards, taken by Enter. */
async function figure(page: Page, label: string | RegExp, value: string): Promise<void> {
  // The card of the picture in space lies over that of the plane.
  const field = page.getByLabel(label, { exact: typeof label === 'string' }).last();
  await field.fill(value);
  await field.press('Enter');
}
/** The mass that the card says, kilograms. */
const mass = async (page: Page): Promise<number> =>
  Number((await page.getByTestId('part-mass').innerText()).replace(/[^\d.]/g, ''));

test('a part is drawn, ruled, driven by a figure, extruded, drilled by the note of a sheet, rounded and written', async ({
  page,
}) => {
  await newProject(page, 'Bracket');
  await page.keyboard.press('3');
  await command(page, 'New part');
  await expect.poll(async () => (await entities(page, 'plane')).length).toBe(3);
  await expect(panel(page)).toContainText('None yet');
  await expect(panel(page).getByRole('button', { name: 'Extrude' })).toBeDisabled();

  await command(page, 'Rectangle');
  await page.mouse.click(400, 500);
  await page.mouse.move(600, 400);
  await page.keyboard.type('120');
  await page.keyboard.press('Tab');
  await page.keyboard.type('60');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await entities(page, 'path')).length).toBe(1);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Home');
  const [{ points }] = await entities<{ points: [number, number][] }>(page, 'path'),
    on = async (x: number, y: number) =>
      page.mouse.click(...(await planeOnScreen(page, [points[0][0] + x, points[0][1] + y])));

  await test.step('it becomes a solid at once, ten thick, and comes apart into lines that keep it', async () => {
    await on(60, 0);
    await panel(page).getByRole('button', { name: 'Extrude' }).click();
    await expect(panel(page).getByTestId('features')).toContainText('Extrude 1');
    const depth = page.getByLabel('Depth, mm');
    for (const [typed, why] of [
      ['abc', 'Not a length'],
      ['0', 'More than nothing'],
      ['2000 km', 'Longer than a thousand kilometres'],
    ]) {
      await depth.fill(typed);
      await depth.press('Enter');
      await expect(panel(page)).toContainText(why);
    }
    await depth.press('Escape');
    await expect(depth).toHaveValue('10');
    await figure(page, 'Depth, mm', '8');
    await panel(page).getByRole('button', { name: 'Find rules' }).click();
    await expect.poll(async () => (await entities(page, 'rule')).length).toBe(8);
    await expect(page.getByTestId('plane-state')).toHaveText('It can still move in 4 ways.');
    await expect(panel(page).getByTestId('features')).not.toContainText('not made');
  });

  await test.step('a figure drives its width, and one that contradicts it is named', async () => {
    await page.keyboard.press('Escape');
    await on(60, 0);
    await figure(page, /^Length, not fixed yet/, '150');
    await expect(page.getByTestId('plane-state')).toHaveText('It can still move in 3 ways.');
    const lines = await entities<{ from: [number, number]; to: [number, number] }>(page, 'line'),
      width = Math.max(...lines.map((l) => Math.abs(l.to[0] - l.from[0])));
    expect(width).toBeCloseTo(150, 9);
    await page.keyboard.press('Escape');
    await on(75, 60);
    await figure(page, /^Length, not fixed yet/, '140');
    await expect(page.getByTestId('plane-state')).toHaveText('Figures contradict one another.');
    await expect(panel(page)).toContainText('Without one of these it holds');
    await page.keyboard.press('Control+z');
    await expect(page.getByTestId('plane-state')).toHaveText('It can still move in 3 ways.');
  });

  await test.step('a hole comes as the note of the sheet says', async () => {
    await page.keyboard.press('Escape');
    await command(page, 'Circle');
    await page.mouse.click(...(await planeOnScreen(page, [points[0][0] + 30, points[0][1] + 30])));
    await page.mouse.move(...(await planeOnScreen(page, [points[0][0] + 40, points[0][1] + 30])));
    await page.keyboard.type('5');
    await page.keyboard.press('Enter');
    await expect.poll(async () => (await entities(page, 'arc')).length).toBe(1);
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
    const [circle] = await entities<{ centre: [number, number]; radius: number }>(page, 'arc');
    await page.mouse.click(
      ...(await planeOnScreen(page, [circle.centre[0] + circle.radius, circle.centre[1]])),
    );
    await panel(page).getByRole('button', { name: 'Holes' }).click();
    await figure(page, 'As the sheet says it', 'Ø99 ⌴');
    await expect(panel(page)).toContainText('is not a note at a hole');
    await figure(page, 'As the sheet says it', 'Ø9 THRU ⌴ Ø15 ↧ 4');
    await expect(page.getByLabel('Diameter, mm', { exact: true })).toHaveValue('9');
  });

  await test.step('in space it has the mass that the formulas give, and its edges can be rounded', async () => {
    await panel(page).getByRole('button', { name: 'See it in space' }).click();
    const volume = 150 * 60 * 8 - Math.PI * (4.5 ** 2 * 4 + 7.5 ** 2 * 4);
    await expect.poll(() => mass(page), { timeout: 60000 }).toBeCloseTo((volume * 7850) / 1e9, 3);
    await expect(page.getByTestId('part-holes')).toContainText('1 of ⌀ 9, through, counterbore ⌀ 15');
    await expect(space(page)).toHaveAttribute('data-faces', '9');
    // The middle of the picture is its large face.
    await page.waitForTimeout(400);
    const box = (await space(page).boundingBox())!;
    await page.mouse.click(box.x + (box.width - 320) / 2, box.y + box.height / 2);
    await expect(page.getByTestId('part-chosen')).toContainText('1 face chosen');
    await page.getByTestId('part-chosen').getByRole('button', { name: 'Chamfer' }).click();
    await figure(page, 'Cut off, mm', '1');
    await expect.poll(() => mass(page)).toBeLessThan(((volume - 100) * 7850) / 1e9);
    await figure(page, 'Cut off, mm', '500');
    await expect(page.getByTestId('feature-card').last()).toContainText('does not allow a chamfer of 500 mm');
    await expect(space(page)).toHaveAttribute('data-faces', '9');
    await page.keyboard.press('Control+z');
  });

  await test.step('it is written for others, and is there again after a reload', async () => {
    const file = page.waitForEvent('download');
    await page.getByTestId('part-facts').getByRole('button', { name: 'STEP' }).click();
    const download = await file;
    expect(download.suggestedFilename()).toBe('Part 1.step');
    const text = readFileSync((await download.path())!, 'utf8');
    expect(text).toContain('AP242');
    expect(text).toContain("'Part 1'");
    await page.getByRole('button', { name: 'Back to the plane' }).click();
    await allSaved(page);
    await page.reload();
    await allSaved(page);
    await page.getByRole('complementary', { name: 'On the table' }).waitFor();
    expect((await entities(page, 'feature')).length).toBe(3);
    expect((await entities(page, 'rule')).length).toBe(9);
  });
});

test('a part is looked after like anything else: another plane, a face to draw on, and gone as a whole', async ({
  page,
}) => {
  await newProject(page, 'Two parts');
  await page.keyboard.press('3');
  await command(page, 'New part');
  await command(page, 'New part');
  await expect
    .poll(async () => (await entities<{ name: string }>(page, 'part')).map((p) => p.name))
    .toEqual(['Part 1', 'Part 2']);
  await expect(card(page).getByTestId('part-panel')).toContainText('Part 2');
  await command(page, 'storeys and planes');
  const dialog = page.getByRole('dialog', { name: 'Storeys and planes' });
  await expect(dialog).toContainText('Part 1');
  await dialog.getByRole('button', { name: 'Remove the part' }).first().click();
  await expect.poll(async () => (await entities(page, 'part')).length).toBe(1);
  await expect.poll(async () => (await entities(page, 'plane')).length).toBe(3);
  await dialog.getByRole('button', { name: 'Part 2: top' }).click();
  await expect(page.getByRole('complementary', { name: 'On the table' })).toContainText('Part 2: top');
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await entities(page, 'part')).length).toBe(2);
});

/** A plate that prints 80 x 50 and is drawn 79.6 wide, with two holes and their note: where its foot stands, points. */
const FOOT = [100, 80] as const;
const plateSheet = (): string => {
  const [x, y] = FOOT,
    [w, h] = [79.6 * PT, 50 * PT];
  return pdfOf(
    [
      '1 w\n',
      `${x} ${y} m ${x + w} ${y} l ${x + w} ${y + h} l ${x} ${y + h} l h S\n`,
      circle(x + 15 * PT, y + 25 * PT, 4 * PT),
      circle(x + 65 * PT, y + 25 * PT, 4 * PT),
      words('80', x + w / 2, y - 24),
      words('50', x - 24, y + h / 2),
      words('2x \\3309 THRU', x + w - 60, y + h + 14),
    ].join(''),
  );
};

test('a part is made from its sheet alone: outline by one click, printed figure and note by pointing at them', async ({
  page,
}, info) => {
  const file = info.outputPath('plate.pdf');
  writeFileSync(file, plateSheet(), 'latin1');
  await newProject(page, 'From a sheet');
  await page.keyboard.press('3');
  await command(page, 'New part');
  await expect.poll(async () => (await entities(page, 'plane')).length).toBe(3);
  await dropFile(page, file);
  await page.getByRole('button', { name: 'Lay at the origin' }).click({ timeout: 40000 });
  await allSaved(page);
  const [u] = await entities<{ placement: number[]; planeId: string }>(page, 'underlay'),
    planes = await entities<{ id: string; partId?: string }>(page, 'plane');
  expect(planes.find((p) => p.id === u.planeId)?.partId).toBeTruthy();
  await page.keyboard.press('3');
  await snapReady(page);
  // From millimetres of the plate to the screen, by where the sheet lies.
  const on = async (x: number, y: number) => {
    const [a, b, c, d, e, f] = u.placement,
      [px, py] = [FOOT[0] + x * PT, FOOT[1] + y * PT];
    return planeOnScreen(page, [a * px + c * py + e, b * px + d * py + f]);
  };
  const click = async (x: number, y: number) => page.mouse.click(...(await on(x, y)));

  await test.step('the outline is taken by one click, and the holes by theirs', async () => {
    await command(page, 'Take from the plan');
    await page.getByRole('button', { name: 'the outline around a point' }).click();
    // The lines of the sheet are made ready when they are first asked for.
    await expect(async () => {
      if ((await entities(page, 'path')).length === 0) await click(40, 10);
      expect((await entities(page, 'path')).length).toBe(1);
    }).toPass();
    await page.getByRole('button', { name: 'a line', exact: true }).click();
    await click(15 + 4, 25);
    await click(65 + 4, 25);
    await expect.poll(async () => (await entities(page, 'arc')).length).toBe(2);
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
  });

  await test.step('the printed width drives, and what the drawing measured is said', async () => {
    await click(40, 0);
    await panel(page).getByRole('button', { name: 'Find rules' }).click();
    await expect.poll(async () => (await entities(page, 'line')).length).toBe(4);
    await page.keyboard.press('Escape');
    await click(40, 0);
    await page.getByRole('button', { name: 'Point at the printed figure: length' }).click();
    await page.mouse.click(...(await on(79.6 / 2 + 1.5, -24 / PT + 1)));
    await expect(
      page.getByText(/80 drives; the drawing measured 80|80 drives; the drawing measured 79/),
    ).toBeVisible();
    const [rule] = (
      await entities<{ value: number | null; printed?: { text: string } }>(page, 'rule')
    ).filter((r) => r.value !== null);
    expect(rule.value).toBeCloseTo(80, 9);
    expect(rule.printed!.text).toBe('80');
    const lines = await entities<{ from: [number, number]; to: [number, number] }>(page, 'line');
    expect(Math.max(...lines.map((l) => Math.abs(l.to[0] - l.from[0])))).toBeCloseTo(80, 9);
  });

  await test.step('it is extruded, and drilled by the note', async () => {
    await page.keyboard.press('Escape');
    for (const [x, y, shift] of [
      [40, 0, false],
      [80, 10, true],
      [40, 50, true],
      [0, 10, true],
    ] as const) {
      if (shift) await page.keyboard.down('Shift');
      await click(x, y);
      if (shift) await page.keyboard.up('Shift');
    }
    await panel(page).getByRole('button', { name: 'Extrude' }).click();
    await figure(page, 'Depth, mm', '6');
    await page.keyboard.press('Escape');
    await click(15 + 4, 25);
    await page.keyboard.down('Shift');
    await click(65 + 4, 25);
    await page.keyboard.up('Shift');
    await panel(page).getByRole('button', { name: 'Holes' }).click();
    await page.getByRole('button', { name: 'Note on the sheet' }).click();
    await page.mouse.click(...(await on(79.6 - 60 / PT + 9, 50 + 14 / PT + 1)));
    await expect
      .poll(
        async () =>
          (await entities<{ form: { kind: string; said?: string; diameter?: number } }>(page, 'feature')).at(
            -1,
          )?.form,
      )
      .toMatchObject({ kind: 'hole', diameter: 9, depth: null });
  });

  await test.step('its mass and its printed figure are those of the sheet', async () => {
    await panel(page).getByRole('button', { name: 'See it in space' }).click();
    const volume = 80 * 50 * 6 - 2 * Math.PI * 4.5 ** 2 * 6;
    await expect.poll(() => mass(page), { timeout: 60000 }).toBeCloseTo((volume * 7850) / 1e9, 3);
    await expect(page.getByTestId('part-printed')).toContainText(
      'All 1 agree with the solid: 1 drive, 0 are measured.',
    );
    await expect(page.getByTestId('part-holes')).toContainText('2 of ⌀ 9, through');
  });
});
