import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type BrowserContext, type Page } from '@playwright/test';
import sharp from 'sharp';
import { compareLines, register, type Lines } from '@calque/core/registration';
import { framesWhilePanning, type FrameFigures, type W } from './browser.ts';
import { denseSheet, largeSet } from './sheet.ts';
import { ours } from './ours.ts';

export interface DeskFigures {
  setMegabytes: number;
  firstPicture: number;
  allPages: number;
  scrollMegabytes: number;
  whileReading: FrameFigures;
  scanRead: number;
  scan: FrameFigures;
  tenSheets: FrameFigures;
  switched: number;
}

/** What the sheet desk does with large files, in the browser. Times in milliseconds. */
export async function deskFigures(url: string): Promise<DeskFigures> {
  const profile = mkdtempSync(join(tmpdir(), 'calque-profile-'));
  const context = await chromium.launchPersistentContext(profile, {
    executablePath: '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-background-networking',
      '--enable-precise-memory-info',
    ],
    viewport: { width: 1280, height: 800 },
  });
  try {
    return {
      ...(await longSet(context, url)),
      whileReading: await framesWhileReading(context, url),
      ...(await largeScan(context, url)),
      ...(await manySheets(context, url)),
    };
  } finally {
    await context.close();
    rmSync(profile, { recursive: true, force: true });
  }
}

async function projectWith(context: BrowserContext, url: string): Promise<{ page: Page; id: string }> {
  const page = await context.newPage();
  const { id } = (await (
    await page.request.post(`${url}/api/projects`, {
      headers: ours(url),
      data: { name: 'Bench', units: 'mm', precision: 0 },
    })
  ).json()) as { id: string };
  return { page, id };
}

interface FileAnswer {
  id: string;
  status: string;
  sheets: { page: number; width: number; height: number }[];
}

async function upload(page: Page, url: string, id: string, name: string, data: Buffer): Promise<string> {
  return (
    (await (
      await page.request.post(`${url}/api/projects/${id}/files?name=${name}`, {
        data,
        headers: { ...ours(url), 'content-type': 'application/octet-stream' },
        timeout: 120000,
      })
    ).json()) as { id: string }
  ).id;
}

/** The file, or the project's first, once it is as wanted. */
async function until(
  page: Page,
  url: string,
  id: string,
  done: (file: FileAnswer) => boolean,
  fileId?: string,
): Promise<FileAnswer> {
  for (;;) {
    const files = (await (await page.request.get(`${url}/api/projects/${id}/files`)).json()) as FileAnswer[];
    const file = files.find((f) => f.id === fileId) ?? files[0];
    if (file.status === 'failed') throw new Error('A bench file could not be read.');
    if (done(file)) return file;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

const ready = (f: FileAnswer) => f.status === 'ready';

async function longSet(
  context: BrowserContext,
  url: string,
): Promise<Pick<DeskFigures, 'setMegabytes' | 'firstPicture' | 'allPages' | 'scrollMegabytes'>> {
  const { page, id } = await projectWith(context, url);
  await page.goto(`${url}/project/${id}`);
  const pdf = largeSet(200);
  await page.getByTestId('saved').waitFor();
  const sent = upload(page, url, id, 'set.pdf', pdf);
  await sent;
  const began = Date.now();
  await page.locator('img[alt="Page 1"]').first().waitFor({ timeout: 120000 });
  const firstPicture = Date.now() - began;
  await until(page, url, id, ready);
  const allPages = Date.now() - began;
  await page.waitForTimeout(1000);
  const megabytes = () =>
    page.evaluate(
      () => (performance as unknown as { memory: { usedJSHeapSize: number } }).memory.usedJSHeapSize / 1e6,
    );
  const before = await megabytes();
  for (let i = 0; i < 40; i++) {
    await page
      .getByTestId('pages')
      .evaluate((e, k) => e.scrollTo({ top: (e.scrollHeight * k) / 20 }), i % 20);
    await page.waitForTimeout(60);
  }
  const figures = {
    setMegabytes: pdf.length / 1e6,
    firstPicture,
    allPages,
    scrollMegabytes: (await megabytes()) - before,
  };
  await page.close();
  return figures;
}

/** The drawing of a sheet of 50,000 segments while a set of 200 pages is read beside it. */
async function framesWhileReading(context: BrowserContext, url: string): Promise<FrameFigures> {
  const { page, id } = await projectWith(context, url);
  const fileId = await upload(page, url, id, 'sheet.pdf', denseSheet(50000, 1));
  await lay(page, url, id, (await until(page, url, id, ready)).sheets, fileId);
  const set = await upload(page, url, id, 'set.pdf', largeSet(200));
  await until(page, url, id, (f) => f.sheets.length > 0, set);
  const figures = await framesWhilePanning(page);
  await page.close();
  return figures;
}

async function lay(
  page: Page,
  url: string,
  id: string,
  sheets: FileAnswer['sheets'],
  fileId: string,
): Promise<void> {
  const changes = sheets.map((s, i) => ({
    type: 'add',
    entity: {
      type: 'underlay',
      id: `u${i}`,
      name: `Sheet ${i + 1}`,
      fileId,
      page: s.page,
      planeId: 'ground',
      crop: [0, 0, s.width, s.height],
      placement: [10, 0, 0, 10, 40 * i, 30 * i],
      scaleState: 'stated',
      calibration: null,
      visible: true,
      fade: 0,
      locked: false,
      snap: true,
      order: i + 1,
    },
  }));
  const answer = await page.request.post(`${url}/api/projects/${id}/changes`, {
    headers: ours(url),
    data: {
      clientId: 'bench',
      steps: [
        { id: crypto.randomUUID(), label: 'Bench', kind: 'do', of: null, change: { type: 'group', changes } },
      ],
    },
  });
  if (!answer.ok()) throw new Error(await answer.text());
  await page.goto(`${url}/project/${id}`);
  await page.getByTestId('saved').waitFor();
  await page.waitForFunction(
    (n) => {
      const { calque } = window as unknown as W;
      const laid = [...calque.session.state.model.values()].filter((e) => e.type === 'underlay');
      return (
        laid.length === n &&
        laid.every((u) => calque.table.sheets.get(u.fileId!, u.page!)) &&
        calque.table.tiles.waiting === 0
      );
    },
    sheets.length,
    { timeout: 120000 },
  );
}

async function largeScan(
  context: BrowserContext,
  url: string,
): Promise<Pick<DeskFigures, 'scanRead' | 'scan'>> {
  const { page, id } = await projectWith(context, url);
  const noise = await sharp({
    create: {
      width: 1250,
      height: 1000,
      channels: 3,
      background: '#fff',
      noise: { type: 'gaussian', mean: 200, sigma: 30 },
    },
  })
    .png()
    .toBuffer();
  const scan = await sharp(noise).resize(12500, 8000, { kernel: 'nearest' }).jpeg({ quality: 85 }).toBuffer();
  const began = Date.now();
  const fileId = await upload(page, url, id, 'scan.jpg', scan);
  const file = await until(page, url, id, ready);
  const scanRead = Date.now() - began;
  await lay(page, url, id, file.sheets, fileId);
  const figures = { scanRead, scan: await framesWhilePanning(page) };
  await page.close();
  return figures;
}

async function manySheets(
  context: BrowserContext,
  url: string,
): Promise<Pick<DeskFigures, 'tenSheets' | 'switched'>> {
  const { page, id } = await projectWith(context, url);
  const fileId = await upload(page, url, id, 'ten.pdf', denseSheet(100000, 10));
  const file = await until(page, url, id, ready);
  await lay(page, url, id, file.sheets, fileId);
  const tenSheets = await framesWhilePanning(page);
  // A kind switched on one of them, from the step to the last tile in sight.
  const switched = await page.evaluate(async () => {
    const { session, table } = (window as unknown as W).calque;
    const look = {
      paper: true,
      tint: null,
      linesOnly: false,
      frame: true,
      inFront: false,
      switches: { layers: {}, kinds: ['curve', 'hatch'], pens: [], authors: [], markupKinds: [] },
    };
    const began = performance.now();
    session.do({ type: 'set', id: 'u9', before: {}, after: { look } }, 'Bench');
    let seen = 0;
    // The coarse picture of the whole counts as seen; finer tiles follow.
    while (seen === 0 || table.tiles.waiting > 0) {
      await new Promise((resolve) => requestAnimationFrame(resolve));
      if (seen === 0 && table.tiles.waiting > 0) seen = performance.now();
    }
    return performance.now() - began;
  });
  await page.close();
  return { tenSheets, switched };
}

/** Laying a shifted and turned copy of a page on itself, with one line in twenty gone: seconds for finding it and for comparing. */
export function registrationTimes(count: number): { register: number; compare: number } {
  let seed = 5;
  const chance = () => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return seed / 2 ** 32;
  };
  const older: Lines = new Float64Array(4 * count);
  for (let i = 0; i < older.length; i += 4) {
    const [x, y] = [chance() * 3300, chance() * 2300];
    const long = i % 40 === 0 ? 300 : 24;
    older.set(i % 8 === 0 ? [x, y, x + long * chance(), y] : [x, y, x, y + long * chance()], i);
  }
  const newer = Float64Array.from(
    Array.from({ length: count }, (_, i) => i)
      .filter((i) => i % 20 !== 3)
      .flatMap((i) => {
        const [x0, y0, x1, y1] = older.subarray(4 * i, 4 * i + 4);
        return [-y0 + 2400, x0 + 31, -y1 + 2400, x1 + 31];
      }),
  );
  const began = performance.now();
  const fit = register(older, newer)!;
  const found = performance.now();
  compareLines(older, newer, fit.transform);
  return { register: (found - began) / 1000, compare: (performance.now() - found) / 1000 };
}
