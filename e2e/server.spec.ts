import { request as httpRequest } from 'node:http';
import { expect, test } from '@playwright/test';
import pg from 'pg';
import {
  allSaved,
  clickSheet,
  entities,
  newProject,
  attach,
  planeOnScreen,
  OURS,
  sheetFile,
  SHEET_01,
  snapReady,
} from './bench.ts';

const base = process.env.CALQUE_URL ?? 'http://127.0.0.1:4400';

/** Starts an upload of a stated length, sends some of it, and breaks off when `sent` bytes are out. */
function brokenUpload(project: string, stated: number, sent: number): Promise<number | 'broken'> {
  return new Promise((resolve) => {
    const req = httpRequest(
      `${base}/api/projects/${project}/files?name=${encodeURIComponent('../../etc/evil.pdf')}`,
      {
        method: 'POST',
        headers: { ...OURS, 'content-length': stated, 'content-type': 'application/octet-stream' },
      },
      (res) => {
        res.resume();
        resolve(res.statusCode ?? 0);
      },
    );
    req.on('error', () => resolve('broken'));
    req.write(Buffer.alloc(sent, 37), () => setTimeout(() => req.destroy(), 300));
  });
}

test('an upload of 2 GB is refused at once, one that breaks off leaves nothing, and work goes on', async ({
  page,
}) => {
  await newProject(page, 'Uploads');
  const id = page.url().split('/').pop()!;
  expect(await brokenUpload(id, 2e9, 1000)).toBe(413);
  expect(await brokenUpload(id, 5e6, 3e6)).toBe('broken');
  await expect
    .poll(
      async () => ((await (await page.request.get(`/api/projects/${id}/files`)).json()) as unknown[]).length,
    )
    .toBe(0);
  if (process.env.DATABASE_URL) {
    const client = new pg.Client(process.env.DATABASE_URL);
    await client.connect();
    const leftover = async () =>
      Number(
        (await client.query<{ n: string }>('select count(*) as n from blobs where sha256 is null')).rows[0].n,
      );
    await expect.poll(leftover, { timeout: 20000 }).toBe(0);
    await client.end();
  }
  await attach(page, sheetFile('13g_nested_q_5000.pdf'));
});

test('reading can be stopped, and begun again', async ({ page }) => {
  await newProject(page, 'Stopping');
  await page.getByTestId('file-input').setInputFiles(sheetFile('13h_zip_bomb_500mb.pdf'));
  // Not the sending is stopped, which has such a button too. It may have failed by itself before it can be.
  await expect(page.getByText(/^sending/)).toHaveCount(0);
  await page
    .getByRole('button', { name: 'Stop', exact: true })
    .click({ timeout: 3000 })
    .catch(() => {});
  await expect(
    page.getByText('Reading was stopped.').or(page.getByText('unpacks to more than reading may use')),
  ).toBeVisible({ timeout: 30000 });
  await expect(page.getByRole('button', { name: 'Read it again' })).toBeVisible();
});

test('a file name is never a path', async ({ page }) => {
  await newProject(page, 'Names');
  const id = page.url().split('/').pop()!;
  await page.request.post(`/api/projects/${id}/files?name=${encodeURIComponent('../../../etc/passwd')}`, {
    data: Buffer.from('%PDF-1.4 nothing'),
    headers: { ...OURS, 'content-type': 'application/octet-stream' },
  });
  const files = (await (await page.request.get(`/api/projects/${id}/files`)).json()) as { name: string }[];
  expect(files[0].name).toBe('passwd');
});

test('a change against another state is refused with its reason, and nothing is half done', async ({
  page,
}) => {
  await newProject(page, 'Refusals');
  const id = page.url().split('/').pop()!;
  const send = (change: object) =>
    page.request.post(`/api/projects/${id}/changes`, {
      headers: OURS,
      data: { clientId: 't', steps: [{ id: crypto.randomUUID(), label: 'x', kind: 'do', of: null, change }] },
    });
  const wall = {
    type: 'wall',
    id: 'w',
    planeId: 'ground',
    from: [0, 0],
    to: [1000, 0],
    thickness: 100,
    alignment: 'centre',
    height: 2700,
    heightAssumed: true,
    source: { underlayId: null, ends: 'typed', thickness: 'typed' },
  };
  expect(
    (
      await send({
        type: 'group',
        changes: [
          { type: 'add', entity: wall },
          { type: 'set', id: 'none', before: {}, after: { x: 1 } },
        ],
      })
    ).status(),
  ).toBe(409);
  await expect.poll(async () => (await entities(page, 'wall')).length).toBe(0);
  expect((await send({ type: 'add', entity: { ...wall, thickness: -1 } })).status()).toBe(409);
  expect((await send({ type: 'add', entity: wall })).status()).toBe(200);
  // Another tab hears of it by itself.
  await expect.poll(async () => (await entities(page, 'wall')).length).toBe(1);
  expect(
    (await send({ type: 'set', id: 'w', before: { thickness: 90 }, after: { thickness: 50 } })).status(),
  ).toBe(409);
  expect(
    (await send({ type: 'set', id: 'w', before: { thickness: 100 }, after: { thickness: -50 } })).status(),
  ).toBe(409);
});

test('thickness is measured by two picks; traced walls go along with the sheet when asked', async ({
  page,
}) => {
  await newProject(page, 'Carrying');
  await attach(page, sheetFile(SHEET_01.file));
  await page.getByLabel(/at a stated scale/).check();
  await page.getByRole('button', { name: 'Lay at the origin' }).click();
  await snapReady(page);
  // Close to the lower left corner of the building: outer face at 572.6, inner face 8.504 points (300 mm) in.
  const outer: [number, number] = [175.748, SHEET_01.height - 572.599],
    inner: [number, number] = [184.252, SHEET_01.height - 564.095];
  await page.evaluate(() =>
    (window as unknown as { calque: { table: { show(b: number[]): void } } }).calque.table.show([
      5500, 8800, 9500, 11500,
    ]),
  );
  await page.keyboard.press('t');
  await clickSheet(page, [outer[0], outer[1]]);
  await page.keyboard.down('Shift');
  await clickSheet(page, inner, [0.4, -0.4]);
  await page.keyboard.up('Shift');
  await page.mouse.click(...(await planeOnScreen(page, [7000, 9200])));
  await page.mouse.click(...(await planeOnScreen(page, [9000, 9200])));
  await page.keyboard.press('Escape');
  await allSaved(page);
  const walls = () =>
    entities<{ from: number[]; to: number[]; thickness: number; source: { thickness: string } }>(
      page,
      'wall',
    );
  const [before] = await walls();
  expect(before.thickness).toBeCloseTo(300, 0);
  expect(before.source.thickness).toBe('measured');
  await page.keyboard.press('2');
  await page.getByLabel(/they go along/).check();
  await page.getByRole('button', { name: 'Quarter left' }).click();
  await allSaved(page);
  const [after] = await walls();
  const length = (w: { from: number[]; to: number[] }) =>
    Math.hypot(w.to[0] - w.from[0], w.to[1] - w.from[1]);
  expect(length(after)).toBeCloseTo(length(before), 6);
  expect(Math.abs(after.to[0] - after.from[0])).toBeLessThan(Math.abs(after.to[1] - after.from[1]));
});
