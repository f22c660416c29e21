import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dxfOfModel, lineworkOfScene, readDxf, writeDxf } from '@calque/core/exchange';
import { applyTransform, type Point } from '@calque/core/geometry';
import {
  groundStorey,
  looseElements,
  modelOf,
  PLAIN_LOOK,
  type Entity,
  type Loose,
  type Placed,
  type Source,
  type Underlay,
} from '@calque/core/model';

const source: Source = { underlayId: null, ends: 'typed', thickness: 'typed' };
const own = { planeId: 'ground', source };
const line = (id: string, from: [number, number], to: [number, number]): Loose => ({
  type: 'line',
  id,
  ...own,
  from,
  to,
});
const rack: Loose[] = [
  line('r1', [0, 0], [2400, 0]),
  { type: 'arc', id: 'r2', ...own, centre: [600, 0], radius: 300, start: 0, sweep: 2 },
];
const bay: Loose[] = [
  ...rack,
  { type: 'text', id: 'r3', ...own, at: [0, 100], angle: 0, height: 200, text: 'Rack' },
  {
    type: 'wall',
    id: 'r4',
    ...own,
    from: [0, 0],
    to: [0, 3000],
    thickness: 100,
    alignment: 'left',
    height: 2700,
    heightAssumed: true,
  },
];
const placed = (id: string, assemblyId: string, placement: Placed['placement']): Placed => ({
  type: 'placed',
  id,
  ...own,
  assemblyId,
  placement,
});
const base: Entity[] = [
  { type: 'settings', id: 'settings', name: 'Boathouse', units: 'mm', precision: 0 },
  groundStorey('ground'),
  { type: 'assembly', id: 'A', name: 'Rack / long', elements: rack },
  { type: 'assembly', id: 'B', name: 'Bay', elements: bay },
];
const turn = (radians: number, k: number, side: 1 | -1, x: number, y: number): Placed['placement'] => [
  k * Math.cos(radians),
  k * Math.sin(radians),
  -side * k * Math.sin(radians),
  side * k * Math.cos(radians),
  x,
  y,
];

const SCRIPT = `
import ezdxf, json, sys
from ezdxf.lldxf.encoding import decode_dxf_unicode
doc = ezdxf.readfile(sys.argv[1]); a = doc.audit(); m = doc.modelspace()
def flat(e):
    return [list(e.dxf.start)[:2] + list(e.dxf.end)[:2]] if e.dxftype() == 'LINE' else []
print(json.dumps({'errors': [e.message for e in a.errors], 'fixes': [f.message for f in a.fixes], 'version': doc.dxfversion, 'blocks': sorted(b.name for b in doc.blocks if not b.name.startswith('*')),
 'inserts': [[e.dxf.name, e.dxf.layer, *list(e.dxf.insert)[:2], e.dxf.rotation, e.dxf.xscale, e.dxf.yscale] for e in m.query('INSERT')],
 'lines': [r for e in m.query('INSERT') for v in e.virtual_entities() for r in flat(v)], 'texts': sum(1 for e in m.query('INSERT') for v in e.virtual_entities() if v.dxftype() == 'TEXT'),
 'sheets': [[decode_dxf_unicode(u.get_underlay_def().dxf.filename), u.get_underlay_def().dxf.name, *list(u.dxf.insert)[:2], u.dxf.scale_x, u.dxf.scale_y, u.dxf.rotation, u.clipping, u.on, u.dxf.fade, [list(p)[:2] for p in u.boundary_path]] for u in m.query('PDFUNDERLAY')]}))`;
interface Read {
  errors: string[];
  fixes: string[];
  version: string;
  blocks: string[];
  inserts: [string, string, number, number, number, number, number][];
  lines: number[][];
  texts: number;
  sheets: [string, string, number, number, number, number, number, boolean, boolean, number, number[][]][];
}
function audit(dxf: string): Read {
  const file = join(mkdtempSync(join(tmpdir(), 'calque-dxf-')), 'x.dxf');
  writeFileSync(file, dxf);
  return JSON.parse(execFileSync('/usr/bin/python3', ['-c', SCRIPT, file], { encoding: 'utf8' })) as Read;
}
const NO_FILE = () => null;

describe('groups in DXF, read by an independent reader', () => {
  it('are blocks with their placings; a group placed twice is one block', () => {
    const model = modelOf([
      ...base,
      placed('p1', 'A', turn(0, 1, 1, 1000, 500)),
      placed('p2', 'A', turn(Math.PI / 6, 1, 1, -300, 0)),
      placed('p3', 'A', turn(0.3, 2, -1, 0, 9000)),
      placed('p4', 'B', turn(0, 1, 1, 0, 0)),
      placed('p5', 'B', turn(1, 1, -1, 0, 0)),
    ]);
    const drawing = dxfOfModel(model, undefined, NO_FILE),
      read = audit(writeDxf(drawing, 'mm'));
    expect([read.errors, read.fixes, read.version]).toEqual([[], [], 'AC1015']);
    expect(read.blocks).toEqual(['Bay', 'Bay mirrored', 'Rack _ long']);
    expect(read.inserts.map((i) => i[0])).toEqual([
      'Rack _ long',
      'Rack _ long',
      'Rack _ long',
      'Bay',
      'Bay mirrored',
    ]);
    expect(read.inserts[1].slice(2)).toEqual([-300, 0, expect.closeTo(30, 9), 1, 1]);
    expect(read.inserts[2].slice(4)).toEqual([
      expect.closeTo((0.3 * 180) / Math.PI, 9),
      expect.closeTo(2, 9),
      expect.closeTo(-2, 9),
    ]);
    expect(read.texts).toBe(2);
    // What is drawn is where the application shows it.
    const lines = looseElements(model)
      .filter((e) => e.type === 'line')
      .map((e) => (e.type === 'line' ? [...e.from, ...e.to] : []));
    for (const [i, want] of lines.entries())
      expect(
        read.lines.filter((l) => l.every((v, k) => Math.abs(v - want[k]) < 1e-6)),
        `${i}`,
      ).not.toHaveLength(0);
    expect(drawing.shapes).toEqual([]);
  });

  it('read back they are the same lines, however they were placed', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.double({ min: 0, max: 6.28, noNaN: true }),
            fc.double({ min: 0.2, max: 5, noNaN: true }),
            fc.constantFrom<1 | -1>(1, -1),
            fc.integer({ min: -50000, max: 50000 }),
            fc.constantFrom('A', 'B'),
          ),
          { minLength: 1, maxLength: 6 },
        ),
        (all) => {
          const model = modelOf([
            ...base,
            ...all.map(([angle, k, side, x, id], i) =>
              placed(`p${i}`, id, turn(angle, k, side, x, 2 * x + i)),
            ),
          ]);
          const want = looseElements(model)
            .filter((e) => e.type === 'line')
            .map((e) => (e.type === 'line' ? [e.from, e.to].flat() : []));
          const scene = readDxf(writeDxf(dxfOfModel(model, undefined, NO_FILE), 'mm'));
          const drawn = scene.items.flatMap((i) =>
            i.type === 'path' && i.points.length === 2 ? [i.points.flat()] : [],
          );
          for (const w of want)
            expect(drawn.some((d) => d.every((v, k) => Math.abs(v - w[k]) < 1e-5))).toBe(true);
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('sheets in DXF', () => {
  const sheet = (id: string, placement: Underlay['placement'], more: Partial<Underlay> = {}): Underlay => ({
    type: 'underlay',
    id,
    name: id,
    fileId: 'f',
    page: 2,
    planeId: 'ground',
    crop: [10, 20, 500, 700],
    placement,
    scaleState: 'calibrated',
    calibration: null,
    visible: true,
    fade: 0.5,
    locked: false,
    snap: true,
    order: 1,
    look: PLAIN_LOOK,
    ...more,
  });
  const k = (100 * 25.4) / 72;

  it('are PDF underlays with page, scale, turn, clip and file name, by an independent reader', () => {
    const at = turn(Math.PI / 2, k, 1, 12000, -500),
      model = modelOf([
        ...base,
        sheet('u', at),
        sheet('hidden', turn(0, k, 1, 0, 0), {
          visible: false,
          page: 1,
          fade: 0,
          outline: [
            [10, 20],
            [400, 20],
            [10, 600],
          ],
        }),
      ]);
    const read = audit(
      writeDxf(
        dxfOfModel(model, undefined, () => 'Größe plan.pdf'),
        'm',
      ),
    );
    expect([read.errors, read.fixes, read.version]).toEqual([[], [], 'AC1021']);
    // A metre to the drawing unit, an inch of paper at 1:100.
    expect(read.sheets[0]).toEqual([
      'Größe plan.pdf',
      '2',
      12,
      -0.5,
      expect.closeTo(2.54, 9),
      expect.closeTo(2.54, 9),
      expect.closeTo(90, 9),
      true,
      true,
      40,
      [
        [10 / 72, 20 / 72],
        [500 / 72, 20 / 72],
        [500 / 72, 700 / 72],
        [10 / 72, 700 / 72],
      ].map((p) => p.map((v) => expect.closeTo(v, 8) as number)),
    ]);
    expect(read.sheets[1].slice(7, 10)).toEqual([true, false, 0]);
    expect(read.sheets[1][10]).toHaveLength(3);
  });

  it('read back lie where they lay, to the last bit, a stretched one as well; a moved one lies where it was moved', () => {
    const similar = fc.tuple(
      fc.double({ min: -3, max: 3, noNaN: true }),
      fc.double({ min: 0.3, max: 400, noNaN: true }),
      fc.integer({ min: -1e6, max: 1e6 }),
      fc.integer({ min: -1e6, max: 1e6 }),
      fc.double({ min: 0.98, max: 1.02, noNaN: true }),
    );
    fc.assert(
      fc.property(
        similar,
        fc.constantFrom('mm' as const, 'm' as const, 'in' as const, 'ft' as const),
        ([angle, size, x, y, stretch], units) => {
          const c = Math.cos(angle),
            s = Math.sin(angle),
            placement: Underlay['placement'] = [
              size * c,
              size * s,
              -size * stretch * s,
              size * stretch * c,
              x,
              y,
            ];
          const dxf = writeDxf(
              dxfOfModel(modelOf([...base, sheet('u', placement)]), undefined, () => 'Größe, Plan é.pdf'),
              units,
            ),
            scene = readDxf(dxf);
          const [found] = lineworkOfScene(scene, scene.millimetresPerUnit!).reference!.sheets!;
          expect([found.file, found.page, found.on]).toEqual(['Größe, Plan é.pdf', 2, true]);
          for (const p of [
            [0, 0],
            [842, 595],
            [10, 700],
          ] as Point[]) {
            const a = applyTransform(placement, p),
              b = applyTransform(found.placement, p);
            expect(Math.hypot(a[0] - b[0], a[1] - b[1])).toBeLessThan(1e-6);
          }
          found.ring!.forEach((p, i) => {
            const want = [
              [10, 20],
              [500, 20],
              [500, 700],
              [10, 700],
            ][i];
            expect(Math.hypot(p[0] - want[0], p[1] - want[1])).toBeLessThan(1e-6);
          });
        },
      ),
      { numRuns: 80 },
    );
    // Another program moves it by a metre: what was written beside it holds no more.
    const dxf = writeDxf(
      dxfOfModel(modelOf([...base, sheet('u', turn(0, k, 1, 5000, 0))]), undefined, () => 'plan.pdf'),
      'mm',
    ).replace(/(AcDbUnderlayReference[\s\S]*?\r\n 10\r\n)5000\.0/, '$16000.0');
    const scene = readDxf(dxf);
    expect(lineworkOfScene(scene, 1).reference!.sheets![0].placement[4]).toBeCloseTo(6000, 6);
  });

  it('by another program are found by the names of their files, whatever folders they had; nonsense is left out', () => {
    const file = (name: string, more = '') =>
      [
        '0',
        'SECTION',
        '2',
        'HEADER',
        '9',
        '$INSUNITS',
        '70',
        '4',
        '0',
        'ENDSEC',
        '0',
        'SECTION',
        '2',
        'ENTITIES',
        '0',
        'PDFUNDERLAY',
        '5',
        'A1',
        '8',
        '0',
        '340',
        'B2',
        '10',
        '100.0',
        '20',
        '50.0',
        '41',
        '25.4',
        '42',
        '25.4',
        '43',
        '25.4',
        '50',
        '0.0',
        '280',
        '2',
        ...more.split(' ').filter(Boolean),
        '0',
        'ENDSEC',
        '0',
        'SECTION',
        '2',
        'OBJECTS',
        '0',
        'PDFDEFINITION',
        '5',
        'B2',
        '1',
        name,
        '2',
        '3',
        '0',
        'ENDSEC',
        '0',
        'EOF',
        '',
      ].join('\n');
    const sheets = (dxf: string) => readDxf(dxf).sheets ?? [];
    expect(sheets(file('C:\\plans\\level 1.pdf'))).toEqual([
      { file: 'level 1.pdf', page: 3, placing: expect.anything() as never, ring: null, on: true },
    ]);
    expect(sheets(file('../plans/level 1.pdf'))[0].placing.map((v) => Math.round(v * 1e6) / 1e6)).toEqual([
      0.352778, 0, 0, 0.352778, 100, 50,
    ]);
    expect(sheets(file('a.pdf', '11 1 21 1 11 3 21 2'))[0].ring).toEqual([
      [72, 72],
      [216, 72],
      [216, 144],
      [72, 144],
    ]);
    expect(sheets(file('a.pdf', '41 0'))).toHaveLength(1);
    expect(
      sheets(file('')).length +
        sheets(file('a.pdf').replace('340\nB2', '340\nZZ')).length +
        sheets(file('a.pdf').replace('41\n25.4', '41\n-3')).length,
    ).toBe(0);
  });
});
