import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { allSaved, card, chooseSection, command, entities, newProject, planeOnScreen } from './bench.ts';

interface Beam {
  id: string;
  from: [number, number];
  to: [number, number];
}
/** A beam of 1 m along x, its top on the plan, in the middle of the view. */
async function beam(page: Page): Promise<Beam> {
  await page.keyboard.press('3');
  await page.getByRole('tab', { name: 'Frame' }).click();
  await command(page, 'member');
  await chooseSection(page, 'ipe 200', 'IPE 200');
  await page.mouse.click(380, 400);
  await page.mouse.move(700, 400);
  await page.keyboard.type('1000');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await entities(page, 'member')).length).toBe(1);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Home');
  return (await entities<Beam>(page, 'member'))[0];
}

test('a plate with a hole is bolted to a beam: the length of the bolts follows, and what does not fit is said', async ({
  page,
}) => {
  await newProject(page, 'Bolted plate');
  const { from } = await beam(page),
    at = async (x: number, y: number) =>
      page.mouse.click(...(await planeOnScreen(page, [from[0] + x, from[1] + y])));
  await page.getByTestId('drawing').press(',');
  await page.keyboard.press('p');
  await page.getByRole('button', { name: 'rectangular, by two corners' }).click();
  await at(300, -50);
  await page.mouse.move(...(await planeOnScreen(page, [from[0] + 600, from[1] + 100])));
  await page.keyboard.type('200');
  await page.keyboard.press('Tab');
  await page.keyboard.type('100');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await entities(page, 'plate')).length).toBe(1);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  const [plate] = await entities<{ rings: { points: [number, number][] }[] }>(page, 'plate'),
    [x0, y0] = [0, 1].map((k) => Math.min(...plate.rings[0].points.map((p) => p[k]))),
    on = async (x: number, y: number) => page.mouse.click(...(await planeOnScreen(page, [x0 + x, y0 + y])));

  await test.step('bolts go through the plate and the flange on which it lies', async () => {
    await page.keyboard.press(',');
    await page.keyboard.press('x');
    await card(page).getByLabel('Pitch, mm').fill('50');
    await card(page).getByLabel('Gauge, mm').fill('120');
    await page.keyboard.press('Enter');
    await on(100, 50);
    await expect.poll(async () => (await entities(page, 'bolts')).length).toBe(1);
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
    await on(100 + 60, 50 + 25);
    // 10 and 8.5, two washers of 3, a nut of 14.8, two threads of 2.
    await expect(card(page).getByTestId('bolt-figures')).toContainText('4 M16 x 45, grip 18.5');
    await card(page).getByLabel('Gauge, mm').fill('190');
    await page.keyboard.press('Enter');
    await expect(card(page)).toContainText('Bolts lie too near an edge of a plate.');
    await page.keyboard.press('4');
    await expect(page.getByTestId('frame-doubts')).toContainText(
      'Plates, bolts or cleats do not come out: bolts lie too near an edge of a plate: select 1 element',
    );
    await page.keyboard.press('3');
    await page.getByTestId('drawing').press('Control+z');
  });

  await test.step('a thicker plate asks for longer ones; a hole lies within it', async () => {
    await page.keyboard.press('Escape');
    await page.mouse.click(...(await planeOnScreen(page, [x0, y0 + 30])));
    await expect(card(page).getByTestId('plate-figures')).toContainText('1.57 kg');
    await card(page).getByLabel('Thickness, mm').fill('30');
    await page.keyboard.press('Enter');
    await command(page, 'cut a round hole or a slot');
    await on(-100, 50);
    await expect(page.getByText('Click within a plate').first()).toBeVisible();
    await on(100, 50);
    await expect
      .poll(async () => (await entities<{ rings: unknown[] }>(page, 'plate'))[0].rings.length)
      .toBe(2);
    await page.keyboard.press('Escape');
    await command(page, 'takeoff');
    await page.getByRole('tab', { name: 'Bolts' }).click();
    await expect(page.getByRole('row').filter({ hasText: 'M16 x 65' })).toContainText('4');
    await page.getByRole('tab', { name: 'Plates' }).click();
    await expect(page.getByRole('row').filter({ hasText: 'plate' }).last()).toContainText('30');
    await page.keyboard.press('Escape');
  });

  await test.step('it is drawn for the shop', async () => {
    await page.keyboard.press('5');
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Write drawings' }).click();
    const pdf = await download;
    expect(pdf.suggestedFilename()).toBe('Bolted plate shop.pdf');
    expect(readFileSync((await pdf.path())!, 'latin1')).toMatch(/^%PDF-1/);
    await page.keyboard.press('3');
  });

  await test.step('what is shown alone stays, the rest is put away and cannot be picked', async () => {
    await page.keyboard.press('Escape');
    await page.mouse.click(...(await planeOnScreen(page, [x0, y0 + 30])));
    await command(page, 'show some elements alone');
    await page.getByTestId('alone-card').getByRole('button', { name: 'What is selected (1)' }).click();
    await expect(
      page.getByRole('status').filter({ hasText: 'Shown alone: 1 element selected' }),
    ).toBeVisible();
    await page.keyboard.press('Escape');
    await at(850, 50);
    await expect(page.getByTestId('selection')).toHaveCount(0);
    await page.getByRole('button', { name: 'Show all', exact: true }).click();
    await at(850, 50);
    await expect(page.getByTestId('selection')).toContainText('one beam');
  });
  await allSaved(page);
});

test('a purlin is held on the member that it runs over by a cleat; construction lines are drawn, hidden and removed', async ({
  page,
}) => {
  await newProject(page, 'Purlin');
  const { from } = await beam(page),
    on = async (x: number, y: number) => planeOnScreen(page, [from[0] + x, from[1] + y]);
  await command(page, 'put members of a frame');
  await chooseSection(page, 'upe 140', 'UPE 140');
  await page.mouse.click(...(await on(500, -180)));
  await page.mouse.click(...(await on(500, 180)));
  await expect.poll(async () => (await entities(page, 'member')).length).toBe(2);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.mouse.click(...(await on(500, 150)));
  // Its bottom on the line, on the top of the other.
  await card(page).getByRole('radio', { name: 'the line is the bottom of the member', exact: true }).click();
  await page.getByTestId('drawing').press(',');
  await page.keyboard.press('j');
  await page.getByRole('button', { name: 'purlin cleat' }).click();
  await page.mouse.click(...(await on(500, 140)));
  await page.mouse.click(...(await on(200, 0)));
  const cleats = card(page).getByRole('group', { name: 'Cleats' });
  await expect(cleats).toContainText('Held by a cleat on IPE 200');
  await cleats.getByLabel('Thickness, mm').fill('12');
  await page.keyboard.press('Enter');
  await command(page, 'takeoff');
  await page.getByRole('tab', { name: 'Plates' }).click();
  await expect(page.getByRole('row').filter({ hasText: 'purlin cleat' })).toContainText('12');
  await page.keyboard.press('Escape');

  await page.keyboard.press('Escape');
  await command(page, 'draw construction lines');
  await page.getByRole('button', { name: 'level, through a place' }).click();
  await page.mouse.click(...(await on(700, 150)));
  const lines = () => entities(page, 'constructionLine');
  await expect.poll(async () => (await lines()).length).toBe(1);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.mouse.click(...(await on(800, 150)));
  await expect(page.getByTestId('selection')).toContainText('one construction line');
  await command(page, 'show construction lines, or hide');
  await expect(page.getByTestId('selection')).toHaveCount(0);
  await command(page, 'remove the construction lines');
  await expect.poll(async () => (await lines()).length).toBe(0);
  await allSaved(page);
});
