// Takes the pictures of docs/screenshots/ from the demo data: start Calque, then `node ops/screenshots.mjs [URL]`.
import { chromium } from '@playwright/test';
import { PDFDocument, rgb } from '@cantoo/pdf-lib';

const url = process.argv[2] ?? 'http://127.0.0.1:4400';
const out = (name) => `docs/screenshots/${name}.png`;
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, colorScheme: 'light' });
// Nobody's first minutes: what people see from then on.
await page.addInitScript(() =>
  localStorage.setItem('calque-first-minutes', JSON.stringify({ off: true, done: [] })),
);
const settled = async () => {
  await page.waitForFunction(() => window.calque && window.calque.table.tiles.waiting === 0);
  await page.waitForTimeout(500);
};
const onPlane = (x, y) =>
  page.evaluate(
    ([px, py]) => {
      const { view } = window.calque.table.state.getState();
      return [view.x + view.scale * px, view.y - view.scale * py];
    },
    [x, y],
  );
const clickPlane = async (x, y) => page.mouse.click(...(await onPlane(x, y)));

/** A paper with the ground floor over its sheet, and the river side as it is seen. */
async function readyDrawing() {
  await page.getByRole('button', { name: 'New drawing' }).click();
  const desk = page.getByRole('dialog', { name: /Ready drawing/ });
  for (const [label, words] of [
    ['Drawing', 'Ground floor and river side'],
    ['Number', 'A-101'],
    ['Revision', 'B'],
    ['Drawn by', 'M. Okafor'],
  ]) {
    await desk.getByLabel(label, { exact: true }).fill(words);
    await desk.getByLabel(label, { exact: true }).press('Enter');
  }
  await desk.getByLabel('Paper').click();
  await page.getByRole('option', { name: 'A2' }).click();
  await desk.getByLabel('Scale').fill('1:100');
  await desk.getByLabel('Scale').press('Enter');
  await desk.getByLabel('with the sheets beneath').check();
  await desk.getByLabel('Shows').click();
  await page.getByRole('option', { name: 'the sheets whole' }).click();
  const ground = desk.getByRole('button', { name: /^Ground floor at/ });
  await ground.focus();
  for (let i = 0; i < 4; i++) await page.keyboard.press('Shift+ArrowLeft');
  await desk.getByLabel('Add a storey or plane').click();
  await page.getByRole('option', { name: 'River side' }).click();
  await page.waitForTimeout(5000);
  await page.screenshot({ path: out('deliver') });
  await desk.getByRole('button', { name: 'Close' }).click();
}

/** Goes to a storey or a plane. */
async function planes(name) {
  await page.getByRole('button', { name: /top first/ }).click();
  await page.getByRole('menuitem', { name }).click();
}

/** Everything in its place in space, and the elevation on its plane. */
async function space() {
  await planes('See them in space');
  await page.waitForTimeout(4500);
  await page.screenshot({ path: out('space') });
  await page.getByRole('button', { name: 'Back to the plan' }).click();
  await planes(/River side/);
  await page.keyboard.press('3');
  await settled();
  await page.screenshot({ path: out('elevation') });
  await planes(/Ground floor/);
}

/** The rigging bracket in space, made from its sheet. */
async function part() {
  await planes(/Rigging bracket: front/);
  await page.keyboard.press('3');
  await settled();
  await page.getByRole('button', { name: 'See it in space' }).click();
  await page.getByTestId('part-mass').last().waitFor({ timeout: 60000 });
  await page.waitForTimeout(1500);
  await page.screenshot({ path: out('part') });
  await page.getByRole('button', { name: 'Back to the plane' }).click();
  await planes(/Ground floor/);
}

/** A portal over its sheet, a rafter of it selected with its section and how it lies. */
async function frame() {
  await planes(/Frame, grid B/);
  await page.keyboard.press('3');
  await page.evaluate(() => {
    window.calque.table.setSelection(['frame-b-left']);
    window.calque.table.show([-2600, -1800, 17600, 8200]);
  });
  await settled();
  await page.waitForTimeout(1500);
  await page.mouse.move(620, 740);
  await page.waitForTimeout(400);
  await page.screenshot({ path: out('frame') });
  await page.keyboard.press('Escape');
  await planes(/Ground floor/);
}

/** A later issue of the ground floor, on larger paper and with one room more, laid on the old one. */
async function issue() {
  const [project, id] = await page.evaluate(() => [
    window.calque.session.projectId,
    [...window.calque.session.state.model.values()].find(
      (e) => e.id === window.calque.table.state.getState().underlayId,
    ).fileId,
  ]);
  const pdf = await PDFDocument.load(
    await (await page.request.get(`${url}/api/projects/${project}/files/${id}/bytes`)).body(),
  );
  while (pdf.getPageCount() > 1) pdf.removePage(1);
  const [sheet] = pdf.getPages();
  const { width, height } = sheet.getSize();
  sheet.setSize(width + 60, height + 40);
  sheet.translateContent(40, 25);
  const line = (x0, y0, x1, y1) =>
    sheet.drawLine({ start: { x: x0, y: y0 }, end: { x: x1, y: y1 }, thickness: 1.2, color: rgb(0, 0, 0) });
  line(330, 250, 330, 330);
  line(330, 330, 420, 330);
  await page.request.post(`${url}/api/projects/${project}/files?name=ground-floor-issue-b.pdf`, {
    data: Buffer.from(await pdf.save()),
    headers: { origin: new URL(url).origin, 'content-type': 'application/octet-stream' },
  });
  await page.getByText('PDF, 1 page').first().waitFor({ timeout: 30000 });
  await page.getByRole('button', { name: 'New issue' }).click();
  await page.getByLabel('Newer page').click();
  await page.getByRole('option', { name: /issue-b/ }).click();
  await page.getByRole('button', { name: 'Compare' }).click();
  await page.getByTestId('issue-outcome').waitFor({ timeout: 30000 });
  await settled();
  await page
    .getByRole('button', { name: 'New issue', exact: true })
    .evaluate((e) => e.closest('aside').firstElementChild.scrollTo({ top: 0 }));
  await page.waitForTimeout(300);
  await page.screenshot({ path: out('issue') });
  await page.getByRole('button', { name: 'Leave the old one' }).click();
}

/** Two picks and a figure that the sheet contradicts: the question in place. Nothing is taken. */
async function doubt() {
  await page.keyboard.press('0');
  await settled();
  await page.keyboard.press('c');
  await clickPlane(150, 150);
  await clickPlane(24150, 150);
  await page.getByLabel('true length').fill('23.4 m');
  await page.keyboard.press('Enter');
  await page.waitForTimeout(500);
  await page.screenshot({ path: out('doubt') });
  await page.getByRole('button', { name: 'Pick again' }).click();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
}

/** A printed figure pointed at: its whole dimension is offered. Nothing is taken. */
async function pointed() {
  await page.keyboard.press('c');
  const at = await page.evaluate(() => {
    const { table, session } = window.calque,
      u = session.state.model.get(table.state.getState().underlayId);
    const { texts } = table.sheets.get(u.fileId, u.page).linework,
      [a, b, c, d, e, f] = u.placement;
    const t = texts
      .filter(
        (x) => /^\d{4,}$/.test(x.text.replace(/\s/g, '')) && Math.abs(x.radians) < 0.01 && x.x > 0.3 * 1190,
      )
      .sort((p, q) => q.y - p.y)[0];
    const x = t.x + t.width / 2,
      y = t.y + 0.3 * t.height;
    return [a * x + c * y + e, b * x + d * y + f];
  });
  await page.mouse.move(...(await onPlane(at[0] - 300, at[1] + 300)));
  await page.mouse.move(...(await onPlane(...at)));
  await page.waitForTimeout(500);
  await page.screenshot({ path: out('pointed') });
  await page.keyboard.press('Escape');
}

/** A wall taken from the plan, an area and dimensions beside it; then the card of a conversion. Everything is taken back. */
async function draw() {
  const steps = await page.evaluate(() => window.calque.session.state.history.done.length);
  await page.keyboard.press('Shift+H');
  for (const [x, y] of [
    [14350, 300],
    [18650, 300],
    [18650, 5050],
    [14350, 5050],
  ])
    await clickPlane(x, y);
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Shift+D');
  for (const [x, y] of [
    [14350, 300],
    [18650, 300],
    [16500, 1200],
  ])
    await clickPlane(x, y);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Shift+L');
  await page.mouse.move(...(await onPlane(18690, 2450)), { steps: 3 });
  await page.waitForTimeout(900);
  await page.mouse.move(...(await onPlane(18695, 2500)), { steps: 3 });
  await page.waitForTimeout(300);
  await page.screenshot({ path: out('draw') });
  await page.keyboard.press('Escape');
  await page.evaluate((before) => {
    while (window.calque.session.state.history.done.length > before) window.calque.session.undo();
  }, steps);
  await page.evaluate(() => window.calque.table.show([13000, -400, 25200, 6200]));
  await settled();
}

/** Grid lines along the axes of the plan, and a rack made a group and being placed again, turned. Everything is taken back. */
async function arrange() {
  const steps = await page.evaluate(() => window.calque.session.state.history.done.length);
  await page.evaluate(() => window.calque.table.show([-2600, -1800, 17500, 15600]));
  await settled();
  await page.keyboard.press('Shift+X');
  for (const [from, to] of [
    [
      [150, 14700],
      [150, -900],
    ],
    [
      [7200, 14700],
      [7200, -900],
    ],
    [
      [14250, 14700],
      [14250, -900],
    ],
    [
      [-1700, 150],
      [15700, 150],
    ],
  ]) {
    await clickPlane(...from);
    // Shift holds the axis.
    await page.keyboard.down('Shift');
    await clickPlane(...to);
    await page.keyboard.up('Shift');
  }
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  const source = { underlayId: null, ends: 'typed', thickness: 'typed' },
    at = (x, y) => [1500 + x, 700 + y];
  await page.evaluate(
    ([frame, post, src]) => {
      const { session, table } = window.calque,
        base = { planeId: 'ground', source: src };
      session.do(
        {
          type: 'group',
          changes: [
            {
              type: 'add',
              entity: {
                ...base,
                type: 'path',
                id: 'rack',
                points: frame,
                bulges: frame.map(() => 0),
                closed: true,
              },
            },
            ...post.map((centre, i) => ({
              type: 'add',
              entity: {
                ...base,
                type: 'arc',
                id: `post${i}`,
                centre,
                radius: 120,
                start: 0,
                sweep: 2 * Math.PI,
              },
            })),
          ],
        },
        'Draw a rack',
      );
      table.setSelection(['rack', ...post.map((_, i) => `post${i}`)]);
    },
    [
      [at(0, 0), at(3200, 0), at(3200, 900), at(0, 900)],
      [at(250, 450), at(1600, 450), at(2950, 450)],
      source,
    ],
  );
  await page.keyboard.press('Shift+F');
  await clickPlane(1500, 700);
  await page.keyboard.type('Boat rack');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Shift+Y');
  await page.mouse.move(...(await onPlane(8300, 900)), { steps: 3 });
  await page.keyboard.type('90');
  await page.keyboard.press('Enter');
  await clickPlane(9500, 1000);
  await page.mouse.move(...(await onPlane(11500, 1000)), { steps: 3 });
  await page.mouse.move(...(await onPlane(11500, 1000)), { steps: 3 });
  await page.waitForTimeout(300);
  await page.screenshot({ path: out('arrange') });
  await page.keyboard.press('Escape');
  await page.evaluate((before) => {
    while (window.calque.session.state.history.done.length > before) window.calque.session.undo();
  }, steps);
  await page.evaluate(() => window.calque.table.show([13000, -400, 25200, 6200]));
  await settled();
}

await page.goto(url);
await page.waitForSelector('article img');
await page.waitForTimeout(1200);
await page.screenshot({ path: out('projects') });
await page.locator('article', { hasText: 'Riverside' }).locator('a').first().click();
await page.waitForSelector('[data-testid=drawing] canvas');
await page.waitForTimeout(1500);
await settled();
await page.screenshot({ path: out('calibrate') });
await pointed();
await doubt();
await page.keyboard.press('1');
await page.waitForTimeout(800);
await page.screenshot({ path: out('sheets') });
await page.mouse.move(620, 740);
await issue();
// The upper floor is begun: its inner walls wait.
await planes(/Upper floor/);
await page.keyboard.press('w');
await page.evaluate(() => window.calque.table.show([12000, 5200, 25200, 13800]));
await settled();
await clickPlane(14250, 8350);
await page.mouse.move(...(await onPlane(17200, 8350)), { steps: 4 });
await page.waitForTimeout(300);
await page.screenshot({ path: out('trace') });
await page.keyboard.press('Escape');
await page.keyboard.press('Escape');
await page.keyboard.press(',');
await page.keyboard.press('h');
await page.waitForSelector('[data-testid=seen-words]');
await page.waitForTimeout(600);
await page.screenshot({ path: out('see') });
await page.keyboard.press('Escape');
await page.keyboard.press('Escape');
await planes(/Ground floor/);
await page.keyboard.press('4');
await page.keyboard.press(',');
await page.keyboard.press('y');
await page.waitForSelector('[data-testid=grade-words]');
await page.keyboard.press('Home');
await settled();
await page.waitForTimeout(600);
await page.screenshot({ path: out('grade') });
await page.keyboard.press('Escape');
await page.keyboard.press('3');
await draw();
await arrange();
await page.keyboard.press('m');
await clickPlane(14350, 5100);
await clickPlane(18650, 300);
await page.waitForTimeout(300);
await page.screenshot({ path: out('check') });
await page.keyboard.press('Escape');
await page.getByRole('button', { name: /Tables of the takeoff/ }).click();
await page.waitForTimeout(2500);
await page.screenshot({ path: out('takeoff') });
await page.getByRole('button', { name: 'Close' }).click();
await page.keyboard.press('0');
await page.keyboard.press('5');
await settled();
await readyDrawing();
await space();
await part();
await frame();
await page.getByRole('button', { name: 'Dark' }).click();
await page.keyboard.press('3');
await settled();
await page.screenshot({ path: out('dark') });
await browser.close();
