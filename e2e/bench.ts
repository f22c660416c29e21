import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { expect, type Locator, type Page } from '@playwright/test';

type Pair = [number, number];

/** What the page exposes for tests: the surface and the project as they are. */
interface Exposed {
  table: {
    state: { getState(): { view: { scale: number; x: number; y: number }; underlayId: string | null } };
    sheets: { get(fileId: string, page: number): unknown };
    tiles: { waiting: number };
  };
  session: {
    state: {
      model: Map<string, Record<string, unknown> & { type: string; id: string }>;
      files: { id: string; name: string; status: string; message: string | null; sheets: unknown[] }[];
    };
  };
}

export const sheetFile = (name: string) =>
  fileURLToPath(new URL(`../reader/test/sheets/${name}`, import.meta.url));

/** Height of case 01's page, points; the manifest's y goes down, the sheet's up. */
export const SHEET_01 = { file: '01_cairo_plan_100.pdf', width: 1190.551, height: 841.89 };

export async function newProject(page: Page, name: string, units = 'millimetres'): Promise<void> {
  await page.goto('/');
  await page.getByRole('button', { name: 'New project' }).first().click();
  await page.getByRole('dialog').getByLabel('Name').fill(name);
  if (units !== 'millimetres') {
    await page.getByLabel('Units shown').click();
    await page.getByRole('option', { name: units, exact: true }).click();
  }
  await page.getByRole('button', { name: 'Make the project' }).click();
  await page.waitForURL('**/project/*');
  // The panels come a moment after the drawing; keys belong to them.
  await page.getByTestId('saved').waitFor();
}

/** Something of the current sheet that stands behind the dots of its slip. */
export async function sheetMenu(page: Page, name: string): Promise<void> {
  await page
    .getByRole('complementary', { name: 'On the table' })
    .getByRole('button', { name: 'More', exact: true })
    .click();
  await page.getByRole('menuitem', { name, exact: true }).click();
}

/** Something of the trace that stands behind the dots of its slip. */
export async function traceMenu(page: Page, name: RegExp): Promise<void> {
  await page.getByRole('button', { name: 'Layers, groups, what is done' }).click();
  await page.getByRole('menuitem', { name }).click();
}

export const drawing = (page: Page) => page.getByTestId('drawing');

/** Drops a file onto the page as a person does. */
export async function dropFile(page: Page, path: string, name = path.split('/').pop()!): Promise<void> {
  const data = readFileSync(path).toString('base64');
  const transfer = await page.evaluateHandle(
    ([base64, fileName]) => {
      const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
      const dataTransfer = new DataTransfer();
      dataTransfer.items.add(new File([bytes], fileName));
      return dataTransfer;
    },
    [data, name] as const,
  );
  await drawing(page).dispatchEvent('dragover', { dataTransfer: transfer });
  await drawing(page).dispatchEvent('drop', { dataTransfer: transfer });
}

/** What a program that writes says of itself: the address that it writes to. */
export const OURS = { origin: new URL(process.env.CALQUE_URL ?? 'http://127.0.0.1:4400').origin };

export const allSaved = (page: Page) => expect(page.getByTestId('saved')).toHaveText('All saved');

/** From now on the server takes no steps. Chromium may let a request pass right after it was told to hold them back: it is asked until it does. */
export async function serverAway(page: Page): Promise<void> {
  await page.route('**/changes', (route) =>
    route.request().method() === 'POST' ? route.abort() : route.continue(),
  );
  await expect
    .poll(() =>
      page.evaluate(() =>
        fetch('/api/projects/none/changes', { method: 'POST' }).then(
          () => 'passed',
          () => 'held back',
        ),
      ),
    )
    .toBe('held back');
}

/** Entities of a type as the page has them. */
export async function entities<T>(page: Page, type: string): Promise<T[]> {
  return page.evaluate(
    (t) =>
      [...(window as unknown as { calque: Exposed }).calque.session.state.model.values()].filter(
        (e) => e.type === t,
      ),
    type,
  ) as Promise<T[]>;
}

/** Waits until the current underlay can be snapped to. */
export async function snapReady(page: Page): Promise<void> {
  await page.waitForFunction(() => {
    // A page that is still opening shows nothing yet.
    const { calque } = window as unknown as { calque?: Exposed };
    if (!calque) return false;
    const { table, session } = calque;
    const u = session.state.model.get(table.state.getState().underlayId ?? '');
    return u ? table.sheets.get(u.fileId as string, u.page as number) !== null : false;
  });
}

/** Where a point of the current underlay's sheet stands on the screen. */
export async function onScreen(page: Page, sheet: Pair): Promise<Pair> {
  return page.evaluate(([x, y]) => {
    const { table, session } = (window as unknown as { calque: Exposed }).calque;
    const { view, underlayId } = table.state.getState();
    const p = session.state.model.get(underlayId!)!.placement as number[];
    const px = p[0] * x + p[2] * y + p[4],
      py = p[1] * x + p[3] * y + p[5];
    return [view.x + view.scale * px, view.y - view.scale * py] as Pair;
  }, sheet);
}

export async function planeOnScreen(page: Page, plane: Pair): Promise<Pair> {
  return page.evaluate(([x, y]) => {
    const { view } = (window as unknown as { calque: Exposed }).calque.table.state.getState();
    return [view.x + view.scale * x, view.y - view.scale * y] as Pair;
  }, plane);
}

/** Clicks a point of the current sheet, a little beside it so that the snap has something to do. */
export async function clickSheet(page: Page, sheet: Pair, beside: Pair = [0.7, -0.7]): Promise<void> {
  const [x, y] = await onScreen(page, sheet);
  await page.mouse.move(x + beside[0], y + beside[1]);
  await page.mouse.click(x + beside[0], y + beside[1]);
}

/** Attaches a file in the Sheets stage and waits until it is read. */
export async function attach(page: Page, path: string): Promise<void> {
  await page.getByTestId('file-input').setInputFiles(path);
  await expect(page.getByRole('button', { name: 'Lay at the origin' })).toBeVisible({ timeout: 40000 });
}

/** What is seen of a picture in space between the cards beside it: pixels as dark as ink, and how far what is drawn there reaches, page pixels. */
export async function seenIn(
  page: Page,
  canvas: Locator,
): Promise<{ dark: number; left: number; right: number; bottom: number }> {
  const box = (await canvas.boundingBox())!,
    clip = { x: box.x + 240, y: box.y + 110, width: box.width - 560, height: box.height - 150 };
  const png = (await page.screenshot({ clip })).toString('base64');
  const seen = await page.evaluate(async (base64) => {
    const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0)),
      picture = await createImageBitmap(new Blob([bytes])),
      context = new OffscreenCanvas(picture.width, picture.height).getContext('2d')!;
    context.drawImage(picture, 0, 0);
    const { data } = context.getImageData(0, 0, picture.width, picture.height),
      [r, g, b] = data,
      found = { dark: 0, left: Infinity, right: -Infinity, bottom: -Infinity };
    for (let i = 0; i < data.length; i += 4) {
      if (data[i] + data[i + 1] + data[i + 2] < 480) found.dark++;
      // The table itself is what lies in the corner.
      if (Math.abs(data[i] - r) + Math.abs(data[i + 1] - g) + Math.abs(data[i + 2] - b) < 24) continue;
      const [x, y] = [(i / 4) % picture.width, Math.floor(i / 4 / picture.width)];
      found.left = Math.min(found.left, x);
      found.right = Math.max(found.right, x);
      found.bottom = Math.max(found.bottom, y);
    }
    return found;
  }, png);
  return {
    dark: seen.dark,
    left: clip.x + seen.left,
    right: clip.x + seen.right,
    bottom: clip.y + seen.bottom,
  };
}

/** The card of the stage, at the right. */
export const card = (page: Page) => page.getByRole('complementary', { name: 'Stage' });

/** Runs a command by its words. */
export async function command(page: Page, words: string): Promise<void> {
  await page.keyboard.press('Control+k');
  await page.getByLabel('Find a command').fill(words);
  await page.keyboard.press('Enter');
}

/** Chooses a section of members by what is typed: the first that answers. */
export async function chooseSection(page: Page, typed: string, name: string): Promise<void> {
  await card(page).getByRole('combobox', { name: 'Section' }).fill(typed);
  await page.getByRole('option', { name }).first().click();
}
