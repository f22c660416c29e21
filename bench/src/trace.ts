import { build } from 'esbuild';
import { chromium, type Page } from '@playwright/test';
import type { TogetherTimes, togetherTimes } from './snapping.ts';
import { quantile } from './measure.ts';
import { ours } from './ours.ts';

interface Exposed {
  calque: {
    table: {
      moveTo(screen: [number, number], shift: boolean, alt: boolean): void;
      setSelection(ids: string[]): void;
      showAll(): void;
      traces: { of(model: unknown, storey: string): unknown };
      state: { getState(): { view: { scale: number; x: number; y: number } } };
    };
    session: {
      state: {
        model: Map<string, { type: string; id: string }>;
        history: { done: unknown[] };
        saved: string;
      };
      do(change: object, label: string): boolean;
      undo(): boolean;
    };
  };
}

export interface TraceFigures {
  open: number;
  seen: number;
  seenWorst: number;
  dragMedian: number;
  drag99: number;
  undo: number;
  undoCount: number;
  pick: number;
  pick99: number;
}

const COUNT = 50000,
  CHANGED = 20000,
  DRAGGED = 10000,
  CHANGES = 60,
  FRAMES = 120;

/** A project with many traced elements: how soon it is there, how soon a change is seen, dragging, and undo of a large step. */
export async function traceFigures(url: string): Promise<TraceFigures> {
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
  });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const many = await project(page, url, COUNT),
      some = await project(page, url, CHANGED);
    const open = await opened(page, url, many, COUNT);
    await opened(page, url, some, CHANGED);
    const picks = await pickTimes(page),
      changes = await changeTimes(page),
      drags = await dragTimes(page),
      undone = await undoTime(page);
    return {
      open,
      seen: quantile(changes, 0.5),
      seenWorst: quantile(changes, 0.95),
      dragMedian: quantile(drags, 0.5),
      drag99: quantile(drags, 0.99),
      undo: undone.ms,
      undoCount: undone.count,
      pick: quantile(picks, 0.5),
      pick99: quantile(picks, 0.99),
    };
  } finally {
    await browser.close();
  }
}

/** Snap queries over a large sheet and a trace together (see togetherTimes), in the browser and in one run. */
export async function togetherInBrowser(
  root: string,
  segments: number,
  elements: number,
): Promise<TogetherTimes> {
  const {
    outputFiles: [bundle],
  } = await build({
    stdin: {
      contents: "export { togetherTimes } from './bench/src/snapping.ts';",
      resolveDir: root,
      loader: 'ts',
    },
    bundle: true,
    write: false,
    format: 'iife',
    globalName: 'snapBench',
    target: 'es2022',
    logLevel: 'error',
  });
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
  });
  try {
    const page = await browser.newPage(),
      address = 'http://127.0.0.1/bench';
    // A page of its own that is isolated: only such a one has a clock of microseconds.
    await page.route(address, (route) =>
      route.fulfill({
        contentType: 'text/html',
        body: '<!doctype html>',
        headers: {
          'Cross-Origin-Opener-Policy': 'same-origin',
          'Cross-Origin-Embedder-Policy': 'require-corp',
        },
      }),
    );
    await page.goto(address);
    await page.addScriptTag({ content: bundle.text });
    return await page.evaluate(
      ([s, e]) =>
        (window as unknown as { snapBench: { togetherTimes: typeof togetherTimes } }).snapBench.togetherTimes(
          s,
          e,
        ),
      [segments, elements] as const,
    );
  } finally {
    await browser.close();
  }
}

/** Lines, arcs and paths over a hundred metres, a few thousand to a step as people's clients send them. */
async function project(page: Page, url: string, count: number): Promise<string> {
  const { id } = (await (
    await page.request.post(`${url}/api/projects`, {
      headers: ours(url),
      data: { name: `Trace ${count}`, units: 'mm', precision: 0 },
    })
  ).json()) as { id: string };
  const source = { underlayId: null, ends: 'typed', thickness: 'typed' };
  const element = (i: number) => {
    const x = (i % 250) * 400,
      y = Math.floor(i / 250) * 400,
      base = { id: `e${i}`, planeId: 'ground', source };
    if (i % 3 === 0) return { ...base, type: 'line', from: [x, y], to: [x + 300, y + (i % 7) * 40] };
    return i % 3 === 1
      ? { ...base, type: 'arc', centre: [x + 150, y + 150], radius: 120, start: 1, sweep: 3 }
      : {
          ...base,
          type: 'path',
          points: [
            [x, y],
            [x + 250, y],
            [x + 250, y + 200],
            [x, y + 200],
          ],
          bulges: [0, 0.3, 0, 0],
          closed: true,
        };
  };
  for (let at = 0; at < count; at += 5000) {
    const changes = Array.from({ length: Math.min(5000, count - at) }, (_, i) => ({
      type: 'add',
      entity: element(at + i),
    }));
    await page.request.post(`${url}/api/projects/${id}/changes`, {
      headers: ours(url),
      data: {
        clientId: 'bench',
        steps: [
          {
            id: crypto.randomUUID(),
            label: 'elements',
            kind: 'do',
            of: null,
            change: { type: 'group', changes },
          },
        ],
      },
    });
  }
  return id;
}

/** From the start of navigation until all elements are on the drawing, milliseconds; the second time, with the code in the cache. */
async function opened(page: Page, url: string, id: string, count: number): Promise<number> {
  let ms = 0;
  for (let i = 0; i < 2; i++) {
    await page.goto(`${url}/project/${id}`);
    ms = await page.evaluate(async (n) => {
      for (;;) {
        const { calque } = window as unknown as Partial<Exposed>;
        if (calque && calque.session.state.model.size > n) {
          await new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve)));
          return performance.now();
        }
        await new Promise((resolve) => setTimeout(resolve, 5));
      }
    }, count);
  }
  await page.waitForTimeout(1500);
  await page.evaluate(() => (window as unknown as Exposed).calque.table.showAll());
  await page.waitForTimeout(500);
  return ms;
}

/** A move of the pointer with snapping on among all that was traced, our own part of it. */
async function pickTimes(page: Page): Promise<number[]> {
  await page.keyboard.press('i');
  return page.evaluate(() => {
    const { table } = (window as unknown as Exposed).calque,
      times: number[] = [];
    for (let i = 0; i < 2000; i++) {
      const began = performance.now();
      table.moveTo([300 + ((i * 37) % 600), 100 + ((i * 53) % 600)], false, false);
      if (i > 200) times.push(performance.now() - began);
    }
    return times;
  });
}

/** From an edit of one element until the trace has followed it. */
async function changeTimes(page: Page): Promise<number[]> {
  return page.evaluate(async (count) => {
    const { session, table } = (window as unknown as Exposed).calque,
      times: number[] = [];
    for (let i = 0; i < count; i++) {
      const began = performance.now();
      session.do(
        {
          type: 'set',
          id: 'e300',
          before: {
            to:
              i === 0
                ? (session.state.model.get('e300') as unknown as { to: number[] }).to
                : [5000 + i - 1, 700],
          },
          after: { to: [5000 + i, 700] },
        },
        'Drag an end',
      );
      table.traces.of(session.state.model, 'ground');
      times.push(performance.now() - began);
      await new Promise((resolve) => requestAnimationFrame(resolve));
    }
    return times;
  }, CHANGES);
}

/** Frame times while thousands of elements are dragged, after a short start. */
async function dragTimes(page: Page): Promise<number[]> {
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.evaluate(
    (count) =>
      (window as unknown as Exposed).calque.table.setSelection(
        Array.from({ length: count }, (_, i) => `e${i}`),
      ),
    DRAGGED,
  );
  const at = await page.evaluate(() => {
    const { view } = (window as unknown as Exposed).calque.table.state.getState();
    return [view.x + view.scale * 20100, view.y - view.scale * 0] as [number, number];
  });
  await page.mouse.move(at[0], at[1]);
  await page.mouse.down();
  await page.mouse.move(at[0] + 8, at[1] - 8, { steps: 3 });
  const times = await page.evaluate(
    async ({ frames, from }) => {
      const target = document.querySelector('[data-testid=drawing]')!,
        found: number[] = [];
      let last = 0;
      for (let i = 0; i < frames; i++) {
        await new Promise<void>((resolve) =>
          requestAnimationFrame((now) => {
            if (last && i > 5) found.push(now - last);
            last = now;
            resolve();
          }),
        );
        target.dispatchEvent(
          new PointerEvent('pointermove', {
            clientX: from[0] + (i % 60),
            clientY: from[1] - (i % 40),
            bubbles: true,
            pointerId: 1,
          }),
        );
      }
      return found;
    },
    { frames: FRAMES, from: at },
  );
  await page.mouse.up();
  await page.waitForTimeout(1000);
  return times;
}

/** A step over all elements, taken back: until the model and the trace are what they were. */
async function undoTime(page: Page): Promise<{ ms: number; count: number }> {
  await page.waitForFunction(
    () => (window as unknown as Exposed).calque.session.state.saved === 'saved',
    null,
    { timeout: 120000 },
  );
  return page.evaluate(() => {
    const { session, table } = (window as unknown as Exposed).calque;
    const all = [...session.state.model.values()].filter((e) => e.id.startsWith('e'));
    session.do({ type: 'group', changes: all.map((entity) => ({ type: 'remove', entity })) }, 'Delete all');
    const began = performance.now();
    session.undo();
    table.traces.of(session.state.model, 'ground');
    return { ms: performance.now() - began, count: all.length };
  });
}
