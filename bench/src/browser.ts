import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { quantile } from './measure.ts';
import { ours } from './ours.ts';

interface Exposed {
  table: {
    state: { getState(): { view: { scale: number; x: number; y: number } } };
    setView(v: object): void;
    show(box: number[]): void;
    sheets: { get(f: string, p: number): unknown };
    take(tool: unknown): void;
    tiles: { waiting: number };
  };
  session: {
    state: { model: Map<string, { type: string; id: string; fileId?: string; page?: number }> };
    do(change: object, label: string): boolean;
  };
}
export type W = Window & { calque: Exposed };

export interface FrameFigures {
  frameMedian: number;
  frame99: number;
  frameWorst: number;
  ownMedian: number;
  ownWorst: number;
}
export interface BrowserFigures extends FrameFigures {
  firstSnap: number;
}

const FRAMES = 240;

/** Opens a project with a dense calibrated sheet and 2,000 walls, to the first snap, then pans and zooms it. */
export async function browserFigures(url: string, pdf: Buffer): Promise<BrowserFigures> {
  // A profile of its own, as a person has one: what the server calls immutable is kept on disk between openings.
  const profile = mkdtempSync(join(tmpdir(), 'calque-profile-'));
  const browser = await chromium.launchPersistentContext(profile, {
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
    viewport: { width: 1280, height: 800 },
  });
  try {
    const page = await browser.newPage();
    const id = await makeProject(page, url, pdf);
    await page.goto(`${url}/project/${id}`);
    const firstSnap = quantile(await openings(page), 0.5);
    return { firstSnap, ...(await framesWhilePanning(page)) };
  } finally {
    await browser.close();
    rmSync(profile, { recursive: true, force: true });
  }
}

async function makeProject(page: Page, url: string, pdf: Buffer): Promise<string> {
  const { id } = (await (
    await page.request.post(`${url}/api/projects`, {
      headers: ours(url),
      data: { name: 'Bench', units: 'mm', precision: 0 },
    })
  ).json()) as { id: string };
  const sent = (await (
    await page.request.post(`${url}/api/projects/${id}/files?name=dense.pdf`, {
      data: pdf,
      headers: { ...ours(url), 'content-type': 'application/octet-stream' },
    })
  ).json()) as { id: string };
  for (;;) {
    const files = (await (await page.request.get(`${url}/api/projects/${id}/files`)).json()) as {
      status: string;
      sheets: { width: number; height: number }[];
    }[];
    if (files[0].status === 'ready') break;
    if (files[0].status === 'failed') throw new Error('The bench sheet could not be read.');
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  const s = (100 * 25.4) / 72;
  const source = { underlayId: 'u', ends: 'typed', thickness: 'typed' };
  const walls = Array.from({ length: 2000 }, (_, i) => {
    const x = (i % 50) * 2300,
      y = Math.floor(i / 50) * 2000;
    return {
      type: 'wall',
      id: `w${i}`,
      planeId: 'ground',
      from: [x, y],
      to: i % 2 ? [x + 2300, y] : [x, y + 2000],
      thickness: 150,
      alignment: 'centre',
      height: 2700,
      heightAssumed: true,
      source,
    };
  });
  const underlay = {
    type: 'underlay',
    id: 'u',
    name: 'Dense',
    fileId: sent.id,
    page: 1,
    planeId: 'ground',
    crop: [0, 0, 3370, 2383],
    placement: [s, 0, 0, s, 0, 0],
    scaleState: 'calibrated',
    calibration: {
      from: [0, 0],
      to: [1000, 0],
      trueLength: s * 1000,
      oldLength: s * 10,
      factor: 100,
      typed: '',
    },
    visible: true,
    fade: 0,
    locked: false,
    snap: true,
    order: 1,
  };
  const change = { type: 'group', changes: [underlay, ...walls].map((entity) => ({ type: 'add', entity })) };
  const answer = await page.request.post(`${url}/api/projects/${id}/changes`, {
    headers: ours(url),
    data: {
      clientId: 'bench',
      steps: [{ id: crypto.randomUUID(), label: 'Bench', kind: 'do', of: null, change }],
    },
  });
  if (!answer.ok()) throw new Error(await answer.text());
  return id;
}

const OPENINGS = 7;

/** From the start of navigation of later openings to linework that answers a snap, milliseconds. */
async function openings(page: Page): Promise<number[]> {
  await page.waitForFunction(() => (window as unknown as W).calque?.table.sheets);
  await page.waitForTimeout(2000);
  const times: number[] = [];
  for (let i = 0; i < OPENINGS; i++) {
    await page.reload();
    times.push(
      await page.evaluate(async () => {
        for (;;) {
          const { calque } = window as unknown as W;
          if (calque) {
            const u = [...calque.session.state.model.values()].find((e) => e.type === 'underlay');
            if (u && calque.table.sheets.get(u.fileId!, u.page!)) return performance.now();
          }
          await new Promise((resolve) => setTimeout(resolve, 5));
        }
      }),
    );
    await page.waitForTimeout(1500);
  }
  return times;
}

/** Frame times while the pointer moves with snapping on and the view pans and zooms. */
export async function framesWhilePanning(page: Page): Promise<FrameFigures> {
  await page.keyboard.press('w');
  await page.waitForTimeout(1500);
  const measured = await page.evaluate(async (count) => {
    const { table } = (window as unknown as W).calque;
    const target = document.querySelector('[data-testid=drawing]')!;
    const times: number[] = [],
      own: number[] = [];
    let last = 0;
    for (let i = 0; i < count; i++) {
      await new Promise<void>((resolve) =>
        requestAnimationFrame((now) => {
          if (last) times.push(now - last);
          last = now;
          resolve();
        }),
      );
      const began = performance.now();
      const v = table.state.getState().view;
      const k = 1 + 0.02 * Math.sin(i / 12);
      table.setView({
        scale: v.scale * k,
        x: 640 - k * (640 - v.x) + 6 * Math.cos(i / 9),
        y: 400 - k * (400 - v.y) + 4 * Math.sin(i / 7),
      });
      target.dispatchEvent(
        new PointerEvent('pointermove', {
          clientX: 500 + (i % 200),
          clientY: 300 + (i % 150),
          bubbles: true,
        }),
      );
      own.push(performance.now() - began);
    }
    return { times, own };
  }, FRAMES);
  return {
    frameMedian: quantile(measured.times, 0.5),
    frame99: quantile(measured.times, 0.99),
    frameWorst: Math.max(...measured.times),
    ownMedian: quantile(measured.own, 0.5),
    ownWorst: Math.max(...measured.own),
  };
}
