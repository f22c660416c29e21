import { expect, test, type Page } from '@playwright/test';
import {
  allSaved,
  attach,
  clickSheet,
  entities,
  newProject,
  planeOnScreen,
  seenIn,
  SHEET_01,
  sheetFile,
  snapReady,
} from './bench.ts';

interface Plane {
  id: string;
  name: string;
  role: string;
  origin: number[];
  across: number[];
  width: number;
  height: number;
  grid?: { across: number } | null;
}
interface Lying {
  id: string;
  planeId: string;
  scaleState: string;
}

const stack = (page: Page) => page.getByRole('complementary', { name: 'On the table' });
const command = async (page: Page, words: string) => {
  await page.keyboard.press('Control+k');
  await page.getByLabel('Find a command').fill(words);
  await page.keyboard.press('Enter');
};
const planeInHand = (page: Page) =>
  page.evaluate(
    () =>
      (
        window as unknown as { calque: { table: { state: { getState(): { planeId: string } } } } }
      ).calque.table.state.getState().planeId,
  );

/** A line from (0, 0) to (12 m, 0) on the ground floor, in sight. */
async function groundLine(page: Page): Promise<void> {
  await page.keyboard.press('3');
  await page.keyboard.press('i');
  await page.mouse.click(520, 420);
  await page.mouse.move(620, 420);
  await page.keyboard.type('12000');
  await page.keyboard.press('Tab');
  await page.keyboard.type('0');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Home');
}

test('an elevation is stood up on two points, carries a sheet that is calibrated and traced there, and shows in space', async ({
  page,
}) => {
  await newProject(page, 'Planes');
  await groundLine(page);
  const [line] = await entities<{ from: [number, number]; to: [number, number] }>(page, 'line');
  await command(page, 'stand an elevation');
  for (const end of [line.from, line.to]) await page.mouse.click(...(await planeOnScreen(page, end)));
  const field = page.getByTestId('cursor-field');
  await expect(field).toBeVisible();
  await page.keyboard.type('River side');
  await page.keyboard.press('Enter');
  const [plane] = await entities<Plane>(page, 'plane');
  // It stands exactly on the ends that were picked.
  expect(plane).toMatchObject({ name: 'River side', role: 'elevation', height: 2700 });
  expect([plane.width, plane.origin[2]]).toEqual([expect.closeTo(12000, 6), 0]);
  expect(await planeInHand(page)).toBe(plane.id);
  await expect(stack(page).getByRole('button', { name: 'River side, top first' })).toBeVisible();

  // Walls stand on floors: here their tool says so.
  await page.keyboard.press('w');
  await expect(page.getByText('River side is an upright plane')).toBeVisible();
  expect(await entities(page, 'wall')).toHaveLength(0);

  await page.keyboard.press('1');
  await attach(page, sheetFile(SHEET_01.file));
  await page.getByRole('button', { name: 'Lay at the origin' }).click();
  await expect.poll(async () => (await entities<Lying>(page, 'underlay'))[0]?.planeId).toBe(plane.id);
  await page.keyboard.press('2');
  await page.getByRole('button', { name: 'Calibrate from them' }).click();
  await expect
    .poll(async () => (await entities<Lying>(page, 'underlay'))[0].scaleState, { timeout: 20000 })
    .toBe('calibrated');
  await snapReady(page);
  await page.keyboard.press('3');
  await page.keyboard.press('i');
  await clickSheet(page, [200, 300]);
  await clickSheet(page, [400, 300]);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  const lines = await entities<Lying>(page, 'line');
  expect(lines.map((l) => l.planeId)).toEqual(['ground', plane.id]);

  // A grid of its own leaves the plan as it is.
  await page.getByRole('button', { name: 'Picks find everything' }).click();
  await page.getByRole('button', { name: /Grid is off/ }).click();
  await page.getByRole('button', { name: 'A grid of its own here' }).click();
  expect((await entities<Plane>(page, 'plane'))[0].grid).toMatchObject({ across: 500 });

  await command(page, 'model in space');
  const space = page.getByTestId('space');
  await expect(space).toHaveAttribute('data-planes', '2');
  await page.getByRole('button', { name: 'From above' }).click();
  // Seen from above the elevation is a line: what is seen is the line on the ground.
  await expect.poll(async () => (await seenIn(page, space)).dark).toBeGreaterThan(50);
  await page.getByRole('button', { name: 'From the front' }).click();
  await space.press('ArrowRight');
  const box = (await space.boundingBox())!;
  await page.mouse.dblclick(box.x + box.width / 2, box.y + box.height / 2);
  await expect(space).toHaveCount(0);
  expect(await planeInHand(page)).toBe(plane.id);

  // After a reload the plane in hand is in hand again.
  await allSaved(page);
  await page.reload();
  await page.getByTestId('saved').waitFor();
  expect(await planeInHand(page)).toBe(plane.id);
});

test('the list of storeys and planes changes them, removes only what carries nothing, and undo leads back', async ({
  page,
}) => {
  await newProject(page, 'Storeys and planes');
  await groundLine(page);
  await command(page, 'stand a section');
  await page.mouse.click(560, 300);
  await page.mouse.click(560, 520);
  await page.keyboard.press('Enter');
  expect(await entities<Plane>(page, 'plane')).toMatchObject([{ name: 'Section A', role: 'section' }]);
  const [{ id }] = await entities<Plane>(page, 'plane');
  await command(page, 'storeys and planes');
  const ground = page.getByTestId('storey-row'),
    section = page.getByTestId('plane-row');
  await expect(ground.getByRole('button', { name: 'Remove' })).toBeDisabled();
  await expect(ground).toContainText('A project needs one storey at least.');
  await section.getByLabel('Name').fill('Section through the slip');
  await section.getByLabel('Name').press('Enter');
  await section.getByLabel('From level').fill('-500');
  await section.getByLabel('From level').press('Enter');
  const before = (await entities<Plane>(page, 'plane'))[0];
  expect(before).toMatchObject({ name: 'Section through the slip' });
  expect(before.origin[2]).toBe(-500);
  await section.getByRole('button', { name: 'Look from the other side' }).click();
  const [turned] = await entities<Plane>(page, 'plane');
  expect(turned.across.map((n) => n + 0)).toEqual(before.across.map((n) => -n + 0));
  await section.getByRole('button', { name: 'Remove' }).click();
  await expect(page.getByText('None yet.')).toBeVisible();
  await page.getByRole('button', { name: 'Close' }).click();
  // The plane in hand is gone: the ground floor is in hand.
  expect(await planeInHand(page)).toBe('ground');
  await page.keyboard.press('Control+z');
  expect(await entities<Plane>(page, 'plane')).toMatchObject([{ id, name: 'Section through the slip' }]);
  // Undone to before it was made, nothing of it is left and nothing is broken.
  for (let i = 0; i < 4; i++) await page.keyboard.press('Control+z');
  expect(await entities<Plane>(page, 'plane')).toEqual([]);
  await allSaved(page);
});

test('marks are put by a click or two, say what they mean, and level marks their height', async ({
  page,
}) => {
  await newProject(page, 'Marks');
  await groundLine(page);
  await command(page, 'level mark');
  await page.mouse.click(500, 300);
  await page.keyboard.press('Escape');
  await command(page, 'section mark');
  await page.mouse.click(600, 300);
  await page.mouse.click(700, 300);
  await page.keyboard.press('Escape');
  const marks = await entities<{ mark: string; text: string; angle: number }>(page, 'symbol');
  expect(marks.map((m) => [m.mark, m.text])).toEqual([
    ['level', '±0'],
    ['section', 'A'],
  ]);
  expect(marks[1].angle).toBeCloseTo(0, 3);
  await allSaved(page);
});

test('what a browser kept in the form before is still sent and pasted: a pending step, and what was copied', async ({
  page,
}) => {
  await newProject(page, 'From before');
  await allSaved(page);
  const projectUrl = page.url(),
    projectId = projectUrl.split('/').pop()!;
  const former = {
    type: 'line',
    storeyId: 'ground',
    from: [0, 0],
    to: [4000, 0],
    source: { underlayId: null, ends: 'free', thickness: 'typed' },
  };
  // As a page of that time left them, which has gone since.
  await page.goto('/');
  await page.evaluate(
    async ([project, line]) => {
      const database = await new Promise<IDBDatabase>((resolve, reject) => {
        const opening = indexedDB.open('calque');
        opening.onsuccess = () => resolve(opening.result);
        opening.onerror = () => reject(opening.error);
      });
      const transaction = database.transaction('steps', 'readwrite');
      transaction.objectStore('steps').add({
        projectId: project,
        tab: 'gone',
        step: {
          id: crypto.randomUUID(),
          label: 'Draw a line',
          kind: 'do',
          of: null,
          change: { type: 'add', entity: { ...(line as object), id: 'kept' } },
        },
      });
      await new Promise((resolve) => (transaction.oncomplete = resolve));
      database.close();
      localStorage.setItem(
        'calque-elements',
        JSON.stringify({ elements: [{ ...(line as object), id: 'copied' }], groups: [] }),
      );
    },
    [projectId, former] as const,
  );
  await page.goto(projectUrl);
  await page.getByTestId('saved').waitFor();
  await expect.poll(() => entities<Lying>(page, 'line')).toMatchObject([{ id: 'kept', planeId: 'ground' }]);
  await allSaved(page);
  await page.keyboard.press('Control+v');
  await page.keyboard.press('Enter');
  await expect
    .poll(async () => (await entities<Lying>(page, 'line')).map((l) => l.planeId))
    .toEqual(['ground', 'ground']);
  await allSaved(page);
  await page.reload();
  await page.getByTestId('saved').waitFor();
  expect(JSON.stringify(await entities(page, 'line'))).not.toContain('storeyId');
});

test('a storey is copied to the next one above in one step; where there is none it says so', async ({
  page,
}) => {
  await newProject(page, 'Typical floor');
  await groundLine(page);
  await command(page, 'copy all that is traced on this storey');
  await expect(page.getByText('There is no storey above this one')).toBeVisible();
  await command(page, 'add a storey above');
  await expect.poll(() => planeInHand(page)).not.toBe('ground');
  const upper = await planeInHand(page);
  await page.getByRole('button', { name: /top first/ }).click();
  await page.getByRole('menuitem', { name: /Ground floor/ }).click();
  await expect.poll(() => planeInHand(page)).toBe('ground');
  await command(page, 'copy all that is traced on this storey');
  await expect
    .poll(async () => (await entities<Lying>(page, 'line')).map((l) => l.planeId))
    .toEqual(['ground', upper]);
  expect(await planeInHand(page)).toBe(upper);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await entities<Lying>(page, 'line')).length).toBe(1);
});
