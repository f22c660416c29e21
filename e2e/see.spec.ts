import { writeFileSync } from 'node:fs';
import { PDFDocument } from '@cantoo/pdf-lib';
import { expect, test } from '@playwright/test';
import sharp from 'sharp';
import { openPdf } from '../reader/src/pdf/read-pdf.ts';
import { byLibrary } from '../reader/test/hands/draw/producers.ts';
import { CLEAN, scanOf } from '../reader/test/houses/scans.ts';
import { APART, houseSheet, STRANGE, TUNED } from '../reader/test/houses/sheets.ts';
import { allSaved, command, dropFile, entities, newProject, planeOnScreen } from './bench.ts';
import { pdfOf, words } from './pdf-sheet.ts';

interface WallThere {
  id: string;
  from: [number, number];
  to: [number, number];
  thickness: number;
  openings?: { kind: string; hung: string; opens: string; folds?: boolean | null }[];
}

test('from a plan dropped on the page to a building with walls, openings and rooms in five actions', async ({
  page,
}, info) => {
  const sheet = TUNED.find((s) => s.name === 'lines')!,
    { house, hand } = houseSheet(sheet),
    file = info.outputPath('house.pdf'),
    card = page.getByTestId('seen'),
    walls = () => entities<WallThere>(page, 'wall');
  writeFileSync(file, await byLibrary()([hand]));
  await newProject(page, 'House');

  await test.step('dropped, laid to scale, looked at, taken', async () => {
    await dropFile(page, file);
    await page.getByRole('button', { name: 'Lay it down to scale' }).click({ timeout: 40000 });
    await allSaved(page);
    await page.keyboard.press('3');
    await page.getByRole('button', { name: 'See what the plan shows' }).click();
    await expect(card.getByTestId('seen-words')).toContainText(/Calque sees \d+ walls in 2 thicknesses/, {
      timeout: 30000,
    });
    // Nothing is in the model before it is taken.
    expect(await walls()).toHaveLength(0);
    await card.getByRole('button', { name: /^Take \d+ walls.*rooms/ }).click();
    const made = await walls();
    // Two that lie in line, as thick, may be one.
    expect(made.length).toBeGreaterThanOrEqual(house.walls.length - 1);
    expect((await entities(page, 'space')).length).toBe(house.rooms.length);
    const openings = made.flatMap((w) => w.openings ?? []);
    for (const kind of ['door', 'window'])
      expect(openings.filter((o) => o.kind === kind).length).toBeGreaterThanOrEqual(
        0.85 * house.openings.filter((o) => o.kind === kind).length,
      );
    const names = (await entities<{ name: string }>(page, 'space')).map((s) => s.name).sort();
    expect(names).toEqual(house.rooms.map((r) => r.name).sort());
  });

  await test.step('one undo takes all of it back, and it is offered again', async () => {
    await page.keyboard.press('Control+z');
    await expect.poll(walls).toHaveLength(0);
    expect(await entities(page, 'space')).toHaveLength(0);
    await expect(card.getByRole('button', { name: /^Take \d+ walls/ })).toBeVisible();
  });

  await test.step('a thickness is taken by itself, another refused, and what is looked at again knows what is there', async () => {
    await card.getByRole('button', { name: /Take walls 300/ }).click();
    const outer = await walls();
    expect(outer.length).toBe(house.walls.filter((w) => w.outer).length);
    expect(outer.every((w) => Math.abs(w.thickness - 300) < 3)).toBe(true);
    await expect(card.getByRole('button', { name: /Take walls 300/ })).toHaveCount(0);
    await card.getByRole('button', { name: /Refuse walls 100/ }).click();
    await expect(card.getByRole('button', { name: /walls 100/ })).toHaveCount(0);
    await expect(card).toContainText('Forget what I said');
    await card.getByRole('button', { name: 'Forget what I said' }).click();
    await expect(card.getByRole('button', { name: /Take walls 100/ })).toBeVisible({ timeout: 20000 });
    await expect(card.getByRole('button', { name: /Take walls 300/ })).toHaveCount(0);
  });

  await test.step('a click takes the one wall that is pointed at, Delete refuses one', async () => {
    const before = (await walls()).length,
      [{ placement }] = await entities<{ placement: number[] }>(page, 'underlay'),
      inner = house.walls.filter((w) => !w.outer),
      at = houseSheet(sheet).at;
    const on = async (w: (typeof inner)[number], share: number) => {
      const [x, y] = at(w.from[0] + share * (w.to[0] - w.from[0]), w.from[1] + share * (w.to[1] - w.from[1])),
        [a, b, c, d, e, f] = placement;
      return planeOnScreen(page, [a * x + c * y + e, b * x + d * y + f]);
    };
    await page.keyboard.press('Home');
    await page.mouse.move(...(await on(inner[1], 0.5)));
    await page.mouse.click(...(await on(inner[1], 0.5)));
    await expect.poll(async () => (await walls()).length).toBe(before + 1);
    await page.mouse.move(...(await on(inner[2], 0.25)));
    await expect(page.getByText(/Delete refuses it/).first()).toBeVisible();
    await page.keyboard.press('Delete');
    await expect(page.getByText(/Delete refuses it/)).toHaveCount(0);
    await page.mouse.click(...(await on(inner[2], 0.25)));
    expect((await walls()).length).toBe(before + 1);
    // Refused it stays, until that is forgotten.
    await card.getByRole('button', { name: 'Forget what I said' }).click();
    await expect(card.getByTestId('seen-words')).toBeVisible({ timeout: 20000 });
    await page.mouse.move(...(await on(inner[2], 0.3)));
    await page.mouse.click(...(await on(inner[2], 0.25)));
    await expect.poll(async () => (await walls()).length).toBe(before + 2);
  });
});

for (const [name, most] of [
  ['strange rooms', 2],
  ['strange folding', 2],
] as const)
  test(`openings of strange hands are taken all the same: ${name}`, async ({ page }, info) => {
    const card = page.getByTestId('seen'),
      sheet = STRANGE.find((s) => s.name === name)!,
      { house, hand } = houseSheet(sheet),
      file = info.outputPath('house.pdf'),
      openings = async () => (await entities<WallThere>(page, 'wall')).flatMap((w) => w.openings ?? []);
    writeFileSync(file, await byLibrary()([hand]));
    await newProject(page, 'Strange hands');
    await dropFile(page, file);
    await page.getByRole('button', { name: 'Lay it down to scale' }).click({ timeout: 40000 });
    await allSaved(page);
    await page.keyboard.press('3');
    await page.getByRole('button', { name: 'See what the plan shows' }).click();
    await expect(card.getByTestId('seen-words')).toContainText(/Calque sees \d+ walls/, { timeout: 30000 });
    await card.getByRole('button', { name: /^Take \d+ walls/ }).click();
    // Those that are doubtful wait to be looked at.
    await expect
      .poll(async () => (await openings()).length)
      .toBeGreaterThanOrEqual(house.openings.length - most);
    expect((await openings()).filter((o) => o.folds).length).toBe(
      sheet.strange!.doors === 'folding' ? house.openings.filter((o) => o.kind === 'door').length : 0,
    );
  });

test('a sheet that is not to scale is not measured: it says what comes first', async ({ page }, info) => {
  const file = info.outputPath('house.pdf');
  writeFileSync(file, await byLibrary()([houseSheet(TUNED[4]).hand]));
  await newProject(page, 'On paper');
  await dropFile(page, file);
  await page
    .getByRole('button', { name: /on paper|as it is/i })
    .first()
    .waitFor({ timeout: 40000 });
  await page
    .getByLabel(/as on paper|paper size/i)
    .first()
    .click();
  await page.getByRole('button', { name: 'Lay at the origin' }).click();
  await allSaved(page);
  await page.keyboard.press('3');
  await command(page, 'See what the plan shows');
  await expect(page.getByTestId('seen')).toContainText('is not to scale yet');
  await expect(page.getByTestId('seen').getByRole('button', { name: 'Bring it to scale' })).toBeVisible();
});

test('a frame sheet offers its members with the sections that are written along them', async ({
  page,
}, info) => {
  const file = info.outputPath('frame.pdf'),
    k = 72 / 25.4 / 50,
    at = (x: number, y: number) => `${(60 + x * k).toFixed(3)} ${(60 + y * k).toFixed(3)}`,
    beam = (y: number, name: string) =>
      `2 w ${at(0, y)} m ${at(6000, y)} l S\n${words(name, 60 + 2600 * k, 60 + y * k + 4)}`;
  // Enough of what is fine, as every sheet has it.
  const fine = Array.from({ length: 14 }, (_, i) => `0.3 w ${20 + 6 * i} 10 m ${24 + 6 * i} 18 l S`).join(
    '\n',
  );
  writeFileSync(
    file,
    pdfOf(
      `${fine}\n${beam(0, 'IPE 200')}${beam(2500, 'IPE 200')}${beam(5000, 'HEA 160')}${words('Scale 1:50', 20, 22)}`,
      [520, 420],
    ),
  );
  await newProject(page, 'Frame');
  await dropFile(page, file);
  await page.getByLabel(/^at a stated scale/).click({ timeout: 40000 });
  await page.getByRole('button', { name: 'Lay at the origin' }).click();
  await allSaved(page);
  await page.keyboard.press('3');
  await command(page, 'See what the plan shows');
  const card = page.getByTestId('seen');
  await expect(card).toContainText('Calque sees 3 members', { timeout: 30000 });
  await card.getByRole('button', { name: 'Take members' }).click();
  const members = await entities<{ from: number[]; to: number[]; section: { name: string } }>(page, 'member');
  expect(members.map((m) => m.section.name).sort()).toEqual(['HEA 160', 'IPE 200', 'IPE 200']);
  for (const m of members) expect(Math.hypot(m.to[0] - m.from[0], m.to[1] - m.from[1])).toBeCloseTo(6000, 0);
  await expect(card).toContainText('All of it is taken or refused');
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await entities(page, 'member')).length).toBe(0);
  await expect(card.getByRole('button', { name: 'Take members' })).toBeVisible();
});

test('a scan is seen by its ink: what is taken says so, and is graded against that ink', async ({
  page,
}, info) => {
  test.setTimeout(240000);
  const sheet = APART.find((s) => s.name === 'apart-thin')!,
    { house, hand } = houseSheet(sheet),
    file = info.outputPath('scan.pdf'),
    card = page.getByTestId('seen');
  writeFileSync(file, await scannedPdf(await byLibrary()([hand]), sheet.given.seed));
  await newProject(page, 'Scan');
  await dropFile(page, file);
  await page.getByLabel(/^at a stated scale/).click({ timeout: 40000 });
  await page
    .getByLabel(/^Scale/)
    .last()
    .fill(`1:${sheet.office.factor}`);
  await page.getByRole('button', { name: 'Lay at the origin' }).click();
  await allSaved(page);
  await page.keyboard.press('3');
  await command(page, 'See what the plan shows');
  await expect(card.getByTestId('seen-words')).toContainText(/Calque sees \d+ walls/, { timeout: 180000 });
  await card
    .getByRole('button', { name: /^Take \d+ walls/ })
    .first()
    .click();
  const walls = await entities<{ from: [number, number]; to: [number, number]; source: { ink?: boolean } }>(
      page,
      'wall',
    ),
    length = (of: readonly { from: readonly number[]; to: readonly number[] }[]) =>
      of.reduce((sum, w) => sum + Math.hypot(w.to[0] - w.from[0], w.to[1] - w.from[1]), 0);
  expect(length(walls)).toBeGreaterThan(0.6 * length(house.walls));
  // Nothing read from ink is passed off as the author's own line.
  expect(walls.every((w) => w.source.ink)).toBe(true);
  await page.keyboard.press('4');
  await command(page, 'Grade the trace');
  await expect(page.getByTestId('grade-words')).toContainText(/\d+\s% of the sheet's wall faces/, {
    timeout: 60000,
  });
});

/** A page as a scanner gives it: a picture on paper of the same size. */
async function scannedPdf(pdf: Uint8Array, seed: number): Promise<Uint8Array> {
  const reader = await openPdf(pdf, { maxMegabytes: 640 }),
    scan = await scanOf(reader.raster(1, CLEAN.dpi / 72), CLEAN, seed);
  reader.close();
  const { width, height, grey, scale } = scan,
    jpeg = await sharp(grey, { raw: { width, height, channels: 1 } })
      .jpeg({ quality: 80 })
      .toBuffer(),
    out = await PDFDocument.create(),
    size: [number, number] = [width / scale, height / scale];
  out.addPage(size).drawImage(await out.embedJpg(jpeg), { x: 0, y: 0, width: size[0], height: size[1] });
  return out.save();
}
