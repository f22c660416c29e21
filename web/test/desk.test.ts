import { describe, expect, it, vi } from 'vitest';
import {
  applyTransform,
  compose,
  rotationAbout,
  scalingAbout,
  translation,
  type Transform,
} from '@calque/core/geometry';
import { emptyLinework, kindCode, type Linework } from '@calque/core/linework';
import { applyOrThrow, modelOf, PLAIN_LOOK, type Check, type Underlay, type Wall } from '@calque/core/model';
import type { Registration } from '@calque/core/registration';
import { dependentsOf, removalWords, removeUnderlays } from '../src/project/removal.ts';
import type { ProjectSession } from '../src/project/session.ts';
import type { FileInfo, SheetInfo } from '../src/project/wire.ts';
import { takeCropTool, takeOutlineTool } from '../src/stages/sheets/crop-tools.ts';
import { fitWords, leaningOn, withNewPage } from '../src/stages/sheets/desk/issue.ts';
import { layDown } from '../src/stages/sheets/lay.ts';
import { nameOfSheet } from '../src/project/sheet-names.ts';
import { setSheetName } from '../src/stages/sheets/names.ts';
import { LookCache, withinOutline } from '../src/table/look-cache.ts';
import { switchPage } from '../src/workers/page-switches.ts';
import type { Pdfium } from '../src/workers/pdfium-exports.ts';
import { key, pick, source, tableWith, underlay, wall } from './given-table.ts';

const fitOf = (transform: Transform, found = 1, residual = 0): Registration => ({
  transform,
  scale: Math.hypot(transform[0], transform[1]),
  radians: Math.atan2(transform[1], transform[0]),
  residual,
  found,
});
const sheet = (more: Partial<SheetInfo> = {}): SheetInfo => ({
  fileId: 'new',
  page: 2,
  width: 200,
  height: 150,
  content: 'vector',
  counts: emptyLinework(1, 1).counts,
  leftOut: emptyLinework(1, 1).leftOut,
  layers: [],
  scaleNotes: [],
  title: null,
  hatches: 0,
  dimensions: 0,
  markups: 0,
  whole: true,
  reference: null,
  unknown: null,
  pixels: null,
  ...more,
});
const file = (sheets: SheetInfo[], more: Partial<FileInfo> = {}): FileInfo => ({
  id: 'f',
  name: 'plan.pdf',
  kind: 'pdf',
  status: 'ready',
  message: null,
  pages: sheets.length,
  pagesRead: sheets.length,
  encrypted: false,
  repaired: false,
  opened: false,
  layered: false,
  sheets,
  ...more,
});

describe('a new issue in the place of the old page', () => {
  const placed = underlay('u', {
    placement: [10, 0, 0, 10, 100, 200],
    crop: [10, 10, 90, 60],
    scaleState: 'calibrated',
    calibration: { from: [10, 10], to: [60, 10], trueLength: 500, oldLength: 50, factor: 10, typed: '500' },
  });
  const onPlane = (u: Pick<Underlay, 'placement'>, x: number, y: number) =>
    applyTransform(u.placement, [x, y]).map((v) => Math.round(v * 1e6) / 1e6);

  it.each<[string, Transform]>([
    ['shifted', translation(30, 12)],
    ['larger paper', compose(translation(3, 4), scalingAbout(1.5, [0, 0]))],
    ['turned by a quarter', compose(translation(150, 0), rotationAbout(Math.PI / 2, [0, 0]))],
  ])('%s: every point stays where it lay, with crop and calibration', (_, t) => {
    const next = withNewPage(placed, sheet({ width: 400, height: 300 }), fitOf(t));
    for (const p of [
      [10, 10],
      [77, 33],
    ] as const)
      expect(onPlane(next as Underlay, applyTransform(t, p)[0], applyTransform(t, p)[1])).toEqual(
        onPlane(placed, p[0], p[1]),
      );
    expect(next).toMatchObject({ fileId: 'new', page: 2, former: { fileId: 'f', page: 1 }, outline: null });
    expect(next.calibration!.to).toEqual([...applyTransform(t, [60, 10])]);
    const [x0, y0] = applyTransform(t, [10, 10]),
      [x1, y1] = applyTransform(t, [90, 60]);
    expect(next.crop).toEqual([Math.min(x0, x1), Math.min(y0, y1), Math.max(x0, x1), Math.max(y0, y1)]);
  });
  it('askew, the crop becomes an outline; beyond the new page it ends', () => {
    const next = withNewPage(placed, sheet(), fitOf(rotationAbout(0.1, [0, 0])));
    expect(next.outline).toHaveLength(4);
    expect(withNewPage(placed, sheet({ width: 50, height: 40 }), fitOf(translation(0, 0))).crop).toEqual([
      10, 10, 50, 40,
    ]);
    expect(withNewPage(placed, sheet(), fitOf(translation(5000, 0))).crop).toEqual([0, 0, 200, 150]);
  });
  it('says in words how well it fits and how it lies', () => {
    const plane: Transform = [35, 0, 0, 35, 0, 0];
    expect(fitWords(fitOf([1, 0, 0, 1, 0, 0], 0.982, 0.01), plane)).toMatch(
      /^98\.2 % of the old lines lie on the new page, within 0\.4 mm\. It lies as the old one did\.$/,
    );
    expect(fitWords(fitOf(translation(72, 0)), plane)).toContain('shifted by 25.4 mm on paper');
    expect(fitWords(fitOf(scalingAbout(0.5, [0, 0])), plane)).toContain('drawn 50.00 % as large');
    expect(fitWords(fitOf(rotationAbout(Math.PI / 2, [0, 0])), plane)).toContain('turned by 90.00°');
  });
  it('lists the traced elements whose axis or face lay on what is gone', () => {
    const from = { ...source, underlayId: 'u' };
    const m = modelOf([
      placed,
      wall('axis', [100, 200], [600, 200], { source: from }),
      wall('face', [100, 450], [600, 450], { source: from, thickness: 100 }),
      wall('away', [100, 900], [600, 900], { source: from }),
      wall('other', [100, 200], [600, 200]),
    ]);
    // On the sheet the axis runs along y 0, the second wall's faces along y 20 and y 30.
    expect(
      leaningOn(m, placed, placed.placement, [
        [0, 0, 50, 0],
        [0, 30, 50, 30],
      ]).map((e) => e.id),
    ).toEqual(['axis', 'face']);
    expect(leaningOn(m, placed, placed.placement, [])).toEqual([]);
  });
});

describe('taking sheets away', () => {
  const u = underlay('u', { name: 'Ground floor' });
  const check: Check = {
    type: 'check',
    id: 'k',
    underlayId: 'u',
    from: [0, 0],
    to: [1, 0],
    printed: 5,
    typed: '5',
  };
  const m = modelOf([
    u,
    check,
    wall('a', [0, 0], [1, 0], { source: { ...source, underlayId: 'u' } }),
    wall('b', [0, 0], [1, 0]),
  ]);
  it('says what hangs on them', () => {
    expect(dependentsOf(m, [u])).toEqual({ checks: 1, traced: 1 });
    expect(removalWords({ checks: 1, traced: 1 })).toBe(
      'One known dimension goes with it. The one element traced on it stays, and remembers where it came from. ',
    );
    expect(removalWords({ checks: 0, traced: 0 })).toBe('Nothing has been traced on it. ');
  });
  it('keeps the trace with the name of its sheet, and comes back whole', () => {
    const change = removeUnderlays(m, [u])!;
    const after = applyOrThrow(m, change);
    expect([...after.keys()]).toEqual(['a', 'b']);
    expect((after.get('a') as Wall).source.sheet).toBe('Ground floor');
    expect((after.get('b') as Wall).source.sheet).toBeUndefined();
  });
});

describe('cropping on the drawing', () => {
  const given = (more: Partial<Underlay> = {}) => {
    const t = tableWith(underlay('u', { placement: [2, 0, 0, 2, 0, 0], ...more }));
    (t.table.session.state as unknown as { files: FileInfo[] }).files = [];
    Object.defineProperty(t.table.session, 'state', {
      get: () => ({
        model: modelOf([t.get<Underlay>('u')]),
        files: [file([sheet({ fileId: 'f', page: 1, width: 100, height: 100 })])],
      }),
    });
    return t;
  };
  const drag = (t: ReturnType<typeof given>, from: [number, number], to: [number, number]) => {
    const at = ([x, y]: [number, number]) => pick(x, y);
    t.tool().press(at(from));
    t.tool().drag!(at(to));
    t.tool().release!(at(to));
  };
  it('edges and corners are dragged, within the page', () => {
    const t = given();
    takeCropTool(t.table, 'u');
    drag(t, [200, 90], [150, 90]);
    expect(t.get<Underlay>('u').crop).toEqual([0, 0, 75, 100]);
    drag(t, [1, 1], [40, 30]);
    expect(t.get<Underlay>('u').crop).toEqual([20, 15, 75, 100]);
    drag(t, [150, 100], [999, 100]);
    expect(t.get<Underlay>('u').crop).toEqual([20, 15, 100, 100]);
    drag(t, [40, 100], [500, 100]);
    expect(t.get<Underlay>('u').crop[0]).toBe(99);
    drag(t, [100, 100], [10, 10]);
    expect(t.labels()).toHaveLength(4);
  });
  it('an outline is drawn by corners, closed on the first, and its corners are dragged', () => {
    const t = given();
    takeOutlineTool(t.table, 'u');
    for (const [x, y] of [
      [20, 20],
      [160, 20],
      [90, 300],
    ])
      t.tool().press(pick(x, y));
    expect(t.tool().words()).toContain('a click on the first');
    t.tool().press(pick(22, 21));
    expect(t.get<Underlay>('u')).toMatchObject({
      outline: [
        [10, 10],
        [80, 10],
        [45, 100],
      ],
      crop: [10, 10, 80, 100],
    });
    expect(withinOutline(t.get<Underlay>('u'))!(45, 50)).toBe(true);
    expect(withinOutline(t.get<Underlay>('u'))!(12, 90)).toBe(false);
    takeCropTool(t.table, 'u');
    drag(t, [160, 20], [180, 40]);
    expect(t.get<Underlay>('u').outline![1]).toEqual([90, 20]);
  });
  it('Backspace takes a corner back, two corners are no outline, Esc gives up', () => {
    const t = given();
    takeOutlineTool(t.table, 'u');
    t.tool().press(pick(20, 20));
    t.tool().press(pick(60, 20));
    t.tool().key!(key('Enter'));
    expect(t.told.at(-1)).toContain('no area');
    t.tool().key!(key('Backspace'));
    expect(t.tool().anchor!()).toEqual([20, 20]);
    expect(t.tool().cancel()).toBe(true);
    expect(t.get<Underlay>('u').outline).toBeUndefined();
  });
});

describe('names of pages', () => {
  const page = sheet({ fileId: 'f', page: 1, title: { number: 'B-101', title: 'Ground floor plan' } });
  it('are read, until a person corrects them', () => {
    const t = tableWith();
    expect(nameOfSheet(t.table.session.state.model, page)).toEqual({
      number: 'B-101',
      title: 'Ground floor plan',
    });
    setSheetName(t.table.session as unknown as ProjectSession, page, { number: 'B-1', title: 'Hall' });
    setSheetName(t.table.session as unknown as ProjectSession, page, { number: 'B-2', title: 'Hall' });
    expect(nameOfSheet(t.table.session.state.model, page)).toMatchObject({ number: 'B-2', title: 'Hall' });
    expect(t.all()).toHaveLength(1);
    expect(nameOfSheet(t.table.session.state.model, sheet({ page: 9 }))).toEqual({ number: '', title: '' });
  });
  it('name the sheets of a set; a single page is known by its file, a drawing lies at its own place', () => {
    const t = tableWith();
    const session = t.table.session as unknown as ProjectSession;
    layDown(
      session,
      t.table,
      file([page, sheet({ page: 2 })]),
      [{ sheet: page, crop: [0, 0, 200, 150] }],
      [0, 0],
      100,
    );
    layDown(session, t.table, file([page]), [{ sheet: page, crop: [0, 0, 200, 150] }], [0, 0], null);
    layDown(
      session,
      t.table,
      file([page], { name: 'survey.dxf', kind: 'dxf' }),
      [{ sheet: sheet({ reference: { origin: [-500, 300] } }), crop: [0, 0, 200, 150] }],
      [0, 0],
      1,
    );
    expect(t.all().map((e) => e.type === 'underlay' && [e.name, e.scaleState])).toEqual([
      ['B-101 Ground floor plan', 'stated'],
      ['plan', 'paper'],
      ['survey', 'own'],
    ]);
    expect((t.all()[2] as Underlay).placement.map((v) => Math.round(v * 1000) / 1000)).toEqual([
      0.353, 0, 0, 0.353, -500, 300,
    ]);
  });
});

describe('looks', () => {
  const linework = (): Linework => ({
    ...emptyLinework(9, 9),
    segments: Float64Array.of(0, 0, 5, 5),
    segmentStyle: Int32Array.of(-1, -1),
    segmentObject: Int32Array.of(0),
    segmentKind: Uint8Array.of(kindCode('hatch')),
    objects: Int32Array.of(-1, -1, kindCode('hatch')),
  });
  const with_ = (kinds: 'hatch'[]) =>
    underlay('u', { look: { ...PLAIN_LOOK, switches: { ...PLAIN_LOOK.switches, kinds } } });
  it('as printed need nothing; switched ones wait for the linework and are computed once', () => {
    const looks = new LookCache(),
      l = linework();
    expect(looks.of(underlay('u'), null, false)).toMatchObject({ key: '', visibility: null });
    expect(looks.of(with_(['hatch']), null, false)).toBeNull();
    const first = looks.of(with_(['hatch']), l, false)!;
    expect([...first.visibility!.objects]).toEqual([1]);
    expect(looks.of(with_(['hatch']), l, false)!.key).toBe(first.key);
    expect(looks.of(with_([]), l, true)!.key).not.toBe(first.key);
  });
});

describe('switching a loaded page', () => {
  /** A page of two paths and a form with two more; object numbers count the form itself. */
  function fakePage() {
    const active = new Map<number, number>(),
      flags = new Map<number, number>([
        [0, 4],
        [1, 0],
      ]);
    const inForm = [31, 32],
      onPage = [10, 30, 20];
    const pdfium = {
      FPDFPage_CountObjects: () => onPage.length,
      FPDFPage_GetObject: (_: number, i: number) => onPage[i],
      FPDFPageObj_GetType: (o: number) => (o === 30 ? 5 : 2),
      FPDFFormObj_CountObjects: () => inForm.length,
      FPDFFormObj_GetObject: (_: number, i: number) => inForm[i],
      FPDFPageObj_SetIsActive: vi.fn((o: number, on: number) => {
        active.set(o, on);
        return 1;
      }),
      FPDFPage_GetAnnot: (_: number, i: number) => 100 + i,
      FPDFPage_CloseAnnot: () => {},
      FPDFAnnot_GetFlags: (a: number) => flags.get(a - 100) ?? 0,
      FPDFAnnot_SetFlags: (a: number, f: number) => {
        flags.set(a - 100, f);
        return 1;
      },
    };
    return { pdfium: pdfium as unknown as Pdfium, active, flags, touched: pdfium.FPDFPageObj_SetIsActive };
  }
  const look = (objects: number[], annotations: number[] = []) => ({
    type: 'look' as const,
    key: 'f',
    page: 1,
    look: 'x',
    objects: Uint8Array.from(objects),
    annotations,
    items: null,
  });

  it('counts objects as the reader does, forms with what is in them, and puts back what was off', () => {
    const { pdfium, active, flags, touched } = fakePage();
    const first = switchPage(pdfium, 1, null, look([0, 0, 1, 0, 1], [0]));
    expect([...active]).toEqual([
      [31, 0],
      [20, 0],
    ]);
    expect(flags.get(0)).toBe(6);
    const second = switchPage(pdfium, 1, first, look([1, 0, 0, 0, 0]));
    expect(Object.fromEntries(active)).toEqual({ 31: 1, 20: 1, 10: 0 });
    expect(flags.get(0)).toBe(4);
    switchPage(pdfium, 1, second, null);
    expect([...active.values()].every((v) => v === 1)).toBe(true);
    expect(touched.mock.calls.length).toBeLessThan(10);
  });
});
