import fc from 'fast-check';
import { describe, expect, it, vi } from 'vitest';
import { emptyLinework, encodeLinework, type Linework } from '@calque/core/linework';
import { modelOf, type Entity } from '@calque/core/model';
import { buildSheetIndex, indexBytes } from '@calque/core/snapping';
import { InkCache } from '../src/table/ink-cache.ts';
import { LookCache } from '../src/table/look-cache.ts';
import { LineworkCache } from '../src/table/linework-cache.ts';
import { LOUPE_SCALE, paintLoupe, placesAreClose } from '../src/table/painters/loupe.ts';
import { findSnaps, foundWords, type Found, type SnapScope } from '../src/table/snapping.ts';
import { TraceCache } from '../src/table/trace-cache.ts';
import { fitBox, LARGEST_SCALE, toPlane, toScreen, zoomAbout } from '../src/table/viewport.ts';
import { line, underlay, wall } from './given-table.ts';

const linework = (segments: number[]): Linework => ({
  ...emptyLinework(100, 100),
  segments: new Float64Array(segments),
  segmentStyle: new Int32Array(segments.length / 2).fill(-1),
  segmentObject: new Int32Array(segments.length / 4),
  segmentKind: new Uint8Array(segments.length / 4),
});
const bytes = (segments: number[]) =>
  encodeLinework(linework(segments), indexBytes(buildSheetIndex(linework(segments))));

async function sheetsWith(segments: number[]): Promise<LineworkCache> {
  vi.stubGlobal('fetch', async () => new Response(bytes(segments)));
  const sheets = new LineworkCache('p');
  await new Promise<void>((resolve) => {
    sheets.onLoaded = resolve;
    sheets.prefetch([{ fileId: 'f', page: 1 }]);
  });
  return sheets;
}

describe('the view', () => {
  const coordinate = fc.double({ min: -1e6, max: 1e6, noNaN: true });
  const view = fc.record({
    scale: fc.double({ min: 1e-4, max: 100, noNaN: true }),
    x: coordinate,
    y: coordinate,
  });
  it('goes from plane to screen and back, y turned over once', () =>
    fc.assert(
      fc.property(view, coordinate, coordinate, (v, x, y) => {
        const [bx, by] = toPlane(v, toScreen(v, [x, y]));
        expect(Math.abs(bx - x) + Math.abs(by - y)).toBeLessThan(
          1e-5 * (1 + Math.abs(v.x) / v.scale + Math.abs(v.y) / v.scale + Math.abs(x) + Math.abs(y)),
        );
        expect(toScreen(v, [x, y + 1000])[1]).toBeLessThan(toScreen(v, [x, y])[1]);
      }),
    ));
  it('keeps the place under the cursor while zooming, within its bounds', () => {
    const v = { scale: 0.5, x: 100, y: 300 };
    const before = toPlane(v, [220, 180]);
    const after = zoomAbout(v, 3, [220, 180]);
    expect(toPlane(after, [220, 180])[0]).toBeCloseTo(before[0]);
    expect(zoomAbout(v, 1e12, [0, 0]).scale).toBe(LARGEST_SCALE);
  });
  it('fits a box into the space that the panels leave, also one without height', () => {
    const v = fitBox([0, 0, 1000, 500], 1280, 800, { left: 250, top: 50, right: 300, bottom: 30 });
    for (const corner of [
      [0, 0],
      [1000, 500],
    ] as [number, number][]) {
      const [x, y] = toScreen(v, corner);
      expect(x).toBeGreaterThan(250);
      expect(x).toBeLessThan(980);
      expect(y).toBeGreaterThan(50);
      expect(y).toBeLessThan(770);
    }
    expect(
      Number.isFinite(fitBox([0, 5, 10, 5], 800, 600, { left: 0, top: 0, right: 0, bottom: 0 }).scale),
    ).toBe(true);
  });
});

describe('linework of sheets', () => {
  it('is fetched once', async () => {
    const sheets = await sheetsWith([0, 0, 50, 0]);
    const again = vi.fn();
    vi.stubGlobal('fetch', again);
    expect(sheets.get('f', 1)?.linework.segments).toEqual(new Float64Array([0, 0, 50, 0]));
    expect(again).not.toHaveBeenCalled();
  });
  it('one that failed is tried again only when asked for', async () => {
    const fetching = vi.fn(async () => new Response('', { status: 404 }));
    vi.stubGlobal('fetch', fetching);
    const sheets = new LineworkCache('p');
    sheets.get('f', 2);
    await vi.waitFor(() => expect(fetching).toHaveBeenCalledTimes(1));
    await new Promise((resolve) => setTimeout(resolve));
    sheets.get('f', 2);
    expect(fetching).toHaveBeenCalledTimes(1);
    sheets.readOn();
    sheets.get('f', 2);
    expect(fetching).toHaveBeenCalledTimes(2);
  });
  it('one of which the lines came first is used at once, and comes once more when its kinds are told', async () => {
    const first = emptyLinework(100, 100),
      all = { ...emptyLinework(100, 100), hatches: 3 };
    const answer = (linework: typeof first, whole: string) =>
      new Response(encodeLinework(linework, indexBytes(buildSheetIndex(linework))) as BodyInit, {
        headers: { 'Calque-Whole': whole },
      });
    const fetching = vi.fn(async () => answer(first, 'later'));
    vi.stubGlobal('fetch', fetching);
    const sheets = new LineworkCache('p');
    let whole = false;
    sheets.isWhole = () => whole;
    sheets.get('f', 2);
    await vi.waitFor(() => expect(sheets.get('f', 2)).toMatchObject({ whole: false }));
    sheets.readOn();
    expect(fetching).toHaveBeenCalledTimes(1);
    fetching.mockImplementation(async () => answer(all, 'yes'));
    whole = true;
    sheets.readOn();
    sheets.readOn();
    expect(sheets.get('f', 2)).toMatchObject({ whole: false });
    await vi.waitFor(() =>
      expect(sheets.get('f', 2)).toMatchObject({ whole: true, linework: { hatches: 3 } }),
    );
    sheets.readOn();
    expect(fetching).toHaveBeenCalledTimes(2);
  });

  it('a sheet that broke off on its way is asked for again though no file has changed; one that is not there is not', async () => {
    vi.useFakeTimers();
    const linework = emptyLinework(100, 100),
      body = encodeLinework(linework, indexBytes(buildSheetIndex(linework))) as BodyInit;
    const fetching = vi.fn(async (_: string) => new Response(body, { status: 500 }));
    vi.stubGlobal('fetch', fetching);
    const sheets = new LineworkCache('p');
    sheets.get('f', 1);
    await vi.advanceTimersByTimeAsync(100);
    expect(fetching).toHaveBeenCalledTimes(1);
    // Less and less often.
    await vi.advanceTimersByTimeAsync(60000);
    const tried = fetching.mock.calls.length;
    expect(tried).toBeGreaterThan(4);
    expect(tried).toBeLessThan(10);
    fetching.mockImplementation(async () => new Response(body));
    await vi.advanceTimersByTimeAsync(30000);
    expect(sheets.get('f', 1)).not.toBeNull();
    fetching.mockClear();
    fetching.mockImplementation(async () => new Response(null, { status: 404 }));
    sheets.get('f', 2);
    await vi.advanceTimersByTimeAsync(120000);
    expect(fetching).toHaveBeenCalledTimes(1);
    // What is closed asks no more.
    fetching.mockImplementation(async () => new Response(null, { status: 503 }));
    sheets.get('f', 3);
    await vi.advanceTimersByTimeAsync(100);
    sheets.close();
    await vi.advanceTimersByTimeAsync(120000);
    expect(fetching).toHaveBeenCalledTimes(2);
    vi.useRealTimers();
  });
});

describe('snapping over everything on the table', () => {
  const scope = { planeId: 'ground' };
  const at = async (
    underlays: Parameters<typeof underlay>[1][],
    x: number,
    y: number,
    limits: SnapScope = scope,
    ...more: Entity[]
  ) => {
    const sheets = await sheetsWith([0, 0, 50, 0]);
    const model = modelOf([
      ...underlays.map((more, i) => underlay(`u${i}`, more)),
      wall('w', [500, 500], [900, 500]),
      ...more,
    ]);
    return findSnaps(model, sheets, new LookCache(), new TraceCache(() => {}), inks, [x, y], 1, limits);
  };
  const inks = new InkCache(null as never, null as never, () => {});
  vi.stubGlobal(
    'Worker',
    class {
      postMessage(): void {}
    },
  );

  it('finds lines read from ink while they are shown, says how far the ink strays, and prefers the file where both are as near', async () => {
    const worker: { onmessage?: (event: { data: unknown }) => void } = {};
    vi.stubGlobal(
      'Worker',
      class {
        constructor() {
          return worker as never;
        }
      },
    );
    Object.assign(worker, { postMessage(): void {}, terminate(): void {} });
    const changes: number[] = [];
    const own = new InkCache({ pictureOf: async () => ({}) } as never, { get: () => null } as never, () =>
      changes.push(1),
    );
    const reading = own.read({ id: 'f' } as never, { page: 1, width: 100, height: 100 } as never);
    await vi.waitFor(() => expect(worker.onmessage).toBeDefined());
    worker.onmessage!({ data: { type: 'progress', share: 0.5 } });
    expect(own.of(underlay('u'))).toMatchObject({ state: 'reading', share: 0.5 });
    worker.onmessage!({
      data: {
        type: 'done',
        lines: new Float64Array([0, 40, 50, 40, 0, 0, 50, 0]),
        strays: new Float64Array([0.2, 0.1]),
      },
    });
    // Whoever waits for the lines has them now.
    await reading;
    const sheets = await sheetsWith([0, 0, 50, 0]);
    const find = (x: number, y: number) =>
      findSnaps(
        modelOf([underlay('u', { placement: [10, 0, 0, 10, 0, 0] })]),
        sheets,
        new LookCache(),
        new TraceCache(() => {}),
        own,
        [x, y],
        1,
        scope,
      );
    expect(find(501, 399)[0]).toMatchObject({ kind: 'end', plane: [500, 400], stray: 2, underlayId: 'u' });
    expect(foundWords(find(501, 399)[0])).toBe('end of line, from ink within 2.0 mm');
    expect(find(501, 1)[0].stray).toBeUndefined();
    own.show(underlay('u'), false);
    expect(find(501, 399)).toEqual([]);
    expect(changes.length).toBeGreaterThan(3);
    vi.stubGlobal(
      'Worker',
      class {
        postMessage(): void {}
      },
    );
  });
  it('finds the sheet through its placement, scaled and turned, and knows the point on the sheet', async () => {
    const [best] = await at([{ placement: [0, 10, -10, 0, 100, 200] }], 103, 702);
    expect(best).toMatchObject({ kind: 'end', plane: [100, 700], underlayId: 'u0', sheet: [50, 0] });
    expect(best.lit[0]).toEqual([
      [100, 200],
      [100, 700],
    ]);
  });
  it('finds what has been traced', async () => {
    expect((await at([], 902, 498))[0]).toMatchObject({ plane: [900, 500], underlayId: null, sheet: null });
  });
  it('never snaps to what is hidden, faded away, switched off, cropped or on another storey', async () => {
    for (const more of [
      { visible: false },
      { fade: 1 },
      { snap: false },
      { crop: [20, -5, 40, 5] },
      { planeId: 'upper' },
    ] as const) {
      expect(await at([more as never], 1, 1), JSON.stringify(more)).toEqual([]);
    }
    expect(await at([{}], 1, 1)).not.toEqual([]);
  });
  it('while one sheet is shown alone, finds that one and none of the others', async () => {
    const two = [
      { placement: [1, 0, 0, 1, 0, 0] },
      { placement: [1, 0, 0, 1, 300, 0], visible: false },
    ] as never[];
    expect(await at(two, 1, 1, { ...scope, aloneId: 'u1' })).toEqual([]);
    expect((await at(two, 301, 1, { ...scope, aloneId: 'u1' }))[0]).toMatchObject({
      underlayId: 'u1',
      plane: [300, 0],
    });
    expect(await at(two, 301, 1)).toEqual([]);
  });
  it('finds other storeys where they show through, and says which one it is', async () => {
    const upper: Entity[] = [
      { type: 'storey', id: 'up', name: 'Upper floor', elevation: 2700, height: 2700, heightAssumed: true },
      { ...line('l', [0, 900], [700, 900]), planeId: 'up' },
    ];
    expect(await at([], 701, 901, scope, ...upper)).toEqual([]);
    const [found] = await at([], 701, 901, { ...scope, ghosts: ['up'] }, ...upper);
    expect(found).toMatchObject({ kind: 'end', plane: [700, 900] });
    expect(foundWords(found)).toBe('end of line, Upper floor');
  });
  it('finds what is in line with what was touched, and the grid while its lines can be told apart', async () => {
    const touched = [{ at: [500, 500] as const, lines: [] }];
    expect((await at([], 503, 1800, { ...scope, touched }))[0]).toMatchObject({
      kind: 'inline',
      plane: [500, 1800],
    });
    expect(await at([], 503, 1800, { ...scope, touched, kinds: new Set(['end']) })).toEqual([]);
    const grid = (across: number) =>
      ({
        type: 'settings',
        id: 'settings',
        name: 'T',
        units: 'mm',
        precision: 0,
        grid: { origin: [0, 0], angle: 0, across, up: 250, shown: true },
      }) as Entity;
    expect((await at([], 2003, 1248, scope, grid(400)))[0]).toMatchObject({
      kind: 'grid',
      plane: [2000, 1250],
    });
    expect(await at([], 2003, 1248, scope, grid(4))).toEqual([]);
  });
  it('a tool may ask for one sheet alone, even where its snap is off', async () => {
    const only = { planeId: 'ground', onlyUnderlay: 'u1' };
    expect((await at([{}, { snap: false }], 1, 1, only)).every((f) => f.underlayId === 'u1')).toBe(true);
    expect(await at([{}, { snap: false }], 901, 500, only)).toEqual([]);
  });
});

describe('the loupe', () => {
  it('shows what lies beneath the pick, however much of the drawing the card covers, and keeps clear of the card', () => {
    for (const [free, ratio] of [
      [1280, 1],
      [900, 1],
      [900, 2],
    ]) {
      const drawn: number[][] = [],
        arcs: number[][] = [];
      const context = new Proxy(
        {},
        {
          get: (_, name) =>
            name === 'drawImage'
              ? (_canvas: unknown, ...at: number[]) => drawn.push(at)
              : name === 'arc'
                ? (...at: number[]) => arcs.push(at)
                : () => undefined,
          set: () => true,
        },
      );
      const brush = { context, palette: {}, at: (p: readonly number[]) => p } as unknown as Parameters<
        typeof paintLoupe
      >[0];
      paintLoupe(
        brush,
        [860, 300],
        [{ width: 1280 * ratio, height: 800 * ratio } as HTMLCanvasElement],
        [],
        null,
        { width: 1280, height: 800 },
        free,
      );
      const [x, y, w, h, , , across] = drawn[0];
      expect([(x + w / 2) / ratio, (y + h / 2) / ratio]).toEqual([860, 300]);
      expect(across / (w / ratio)).toBeCloseTo(LOUPE_SCALE, 9);
      expect(arcs[0][0] + arcs[0][2]).toBeLessThan(free);
    }
  });

  const place = (x: number, y: number, kind: Found['kind'] = 'end'): Found => ({
    kind,
    plane: [x, y],
    underlayId: null,
    sheet: null,
    lit: [],
  });
  it('comes by itself where two places lie closer than can be told apart, and not for one place or a place along a line', () => {
    expect(placesAreClose([place(0, 0), place(4, 0)], 1)).toBe(true);
    expect(placesAreClose([place(0, 0), place(9, 0)], 1)).toBe(false);
    expect(placesAreClose([place(0, 0), place(4, 0)], 2)).toBe(false);
    expect(placesAreClose([place(0, 0), place(0.1, 0)], 1)).toBe(false);
    expect(placesAreClose([place(0, 0), place(4, 0, 'along')], 1)).toBe(false);
    expect(placesAreClose([], 1)).toBe(false);
  });
});
