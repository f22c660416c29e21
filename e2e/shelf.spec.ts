import { expect, test, type Page } from '@playwright/test';
import { entities, newProject, OURS } from './bench.ts';

interface WallType {
  id: string;
  name: string;
  layers: { material: string; thickness: number }[];
  shelfId?: string | null;
}
const types = (page: Page) => entities<WallType>(page, 'wallType');
const open = async (page: Page, words: string) => {
  await page.keyboard.press('Control+k');
  await page.getByLabel('Find a command').fill(words);
  await page.keyboard.press('Enter');
};

/** Other tests share the installation: this one's things have a name of their own, and go when it ends. */
const own = `Tarred planks ${Date.now() % 1e6}`;

test.afterEach(async ({ request }) => {
  const all = (await (await request.get('/api/shelf')).json()) as {
    thing: { id: string; name: string };
    version: number;
  }[];
  for (const { thing, version } of all.filter((t) => t.thing.name.startsWith(own)))
    await request.delete(`/api/shelf/${thing.id}?seen=${version}`, { headers: { Origin: OURS.origin } });
});

test('a wall type is kept for all projects, taken into another, and said where it differs', async ({
  page,
}) => {
  await newProject(page, 'Shelf, from');
  await page.keyboard.press('3');
  await open(page, 'Wall types: their');
  const card = page.getByRole('dialog', { name: 'Wall types' });
  await card.getByRole('button', { name: 'New wall type' }).click();
  await card.getByLabel('Name', { exact: true }).fill(own);
  await card.getByLabel('Name', { exact: true }).press('Enter');
  await expect.poll(async () => (await types(page))[0]?.name).toBe(own);
  await card.getByRole('button', { name: 'Put on the shelf' }).click();
  await expect(card.getByText('as on the shelf')).toBeVisible();
  expect((await types(page))[0].shelfId).toBeTruthy();

  // Another project takes it from there.
  await newProject(page, 'Shelf, into');
  await page.keyboard.press('3');
  await open(page, 'The shelf: wall types');
  const shelf = page.getByRole('dialog', { name: /The shelf/ });
  const row = shelf.getByTestId('shelf-thing').filter({ hasText: own });
  await row.getByRole('button', { name: 'Use' }).click();
  await expect.poll(async () => (await types(page)).map((t) => t.name)).toEqual([own]);
  await expect(row.getByText(/in this project/)).toBeVisible();
  // Taken twice it is there once.
  await row.getByRole('button', { name: 'Use' }).click();
  expect(await types(page)).toHaveLength(1);

  // Changed here, it differs; put there, it is the shelf's.
  await open(page, 'Wall types: their');
  await card.getByRole('button', { name: new RegExp(own) }).click();
  const thickness = card.getByLabel(/^Thick/).first();
  await thickness.fill('77');
  await thickness.press('Enter');
  await expect(card.getByText(/differs from the shelf/)).toBeVisible();
  await card.getByRole('button', { name: 'Put this there' }).click();
  await expect(card.getByText('as on the shelf')).toBeVisible();

  // The first project keeps what it had, says so, and follows when it is told to.
  await page.goto('/');
  await page.getByText('Shelf, from', { exact: true }).first().click();
  await page.getByTestId('saved').waitFor();
  await page.keyboard.press('3');
  expect((await types(page))[0].layers[0].thickness).not.toBe(77);
  await open(page, 'Wall types: their');
  await card.getByRole('button', { name: 'Make it as there' }).click();
  await expect.poll(async () => (await types(page))[0].layers[0].thickness).toBe(77);
  await expect(card.getByText('as on the shelf')).toBeVisible();
});

test('an opening is kept with its figures, renamed and taken off; the figures serve the next ones', async ({
  page,
}) => {
  await newProject(page, 'Shelf of openings');
  await page.keyboard.press('3');
  await open(page, 'The shelf: wall types');
  const shelf = page.getByRole('dialog', { name: /The shelf/ });
  await shelf.getByRole('button', { name: 'Keep an opening' }).click();
  await expect(shelf.getByRole('button', { name: 'Keep it' })).toBeDisabled();
  await shelf.getByLabel('Name of the opening').fill(`${own} door`);
  await shelf.getByLabel(/^Head/).fill('2240');
  await shelf.getByLabel(/^Head/).press('Enter');
  await shelf.getByRole('button', { name: 'Keep it' }).click();
  const row = shelf.getByTestId('shelf-thing').filter({ hasText: own });
  await row.getByRole('button', { name: 'Use' }).click();
  await expect(page.getByText(/The next doors are made as/)).toBeVisible();
  await row.getByRole('button', { name: 'Rename' }).click();
  await row.getByLabel('Name').fill(`${own} gate`);
  await row.getByLabel('Name').press('Enter');
  await expect(row.getByText(`${own} gate`)).toBeVisible();
  await row.getByRole('button', { name: 'Take off' }).click();
  await expect(row).toHaveCount(0);
});
