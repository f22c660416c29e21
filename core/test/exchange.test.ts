import { FIRST_FORM, FORM } from '@calque/core/formats';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { wallSchedule } from '@calque/core/building';
import {
  drawingOfModel,
  PackageError,
  parseManifest,
  plainNumber,
  writeDxf,
  writeSvg,
  writeWallsCsv,
  type Drawing,
} from '@calque/core/exchange';
import { groundStorey, modelOf, newLayer, type Entity, type Wall } from '@calque/core/model';

const wall = (id: string, from: [number, number], to: [number, number]): Wall => ({
  type: 'wall',
  id,
  planeId: 'ground',
  from,
  to,
  thickness: 200,
  alignment: 'centre',
  height: 2700,
  heightAssumed: true,
  source: { underlayId: null, ends: 'typed', thickness: 'typed' },
});
const entities: Entity[] = [
  { type: 'settings', id: 'settings', name: 'Slip & "way" <1>', units: 'mm', precision: 0 },
  groundStorey('ground'),
  wall('a', [0, 0], [6000, 0]),
  wall('b', [6000, 0], [6000, 4000]),
  {
    type: 'line',
    id: 'l',
    planeId: 'ground',
    from: [0, 0],
    to: [3000, 4000],
    source: { underlayId: null, ends: 'typed', thickness: 'typed' },
  },
];
const model = modelOf(entities);

const SCRIPT = `
import ezdxf, json, sys
from ezdxf.lldxf.encoding import decode_dxf_unicode
doc = ezdxf.readfile(sys.argv[1])
a = doc.audit()
print(json.dumps({'errors': [e.message for e in a.errors], 'fixes': [f.message for f in a.fixes], 'units': doc.header['$INSUNITS'], 'version': doc.dxfversion,
 'types': sorted(e.dxftype() for e in doc.modelspace()), 'layers': sorted(l.dxf.name for l in doc.layers),
 'lines': [[*e.dxf.start, *e.dxf.end] for e in doc.modelspace().query('LINE')],
 'arcs': [[*e.dxf.center, e.dxf.radius, e.dxf.start_angle, e.dxf.end_angle] for e in doc.modelspace().query('ARC')],
 'texts': [[decode_dxf_unicode(e.dxf.text), e.dxf.height, e.dxf.rotation] for e in doc.modelspace().query('TEXT')],
 'bulges': [[p[4] for p in e] for e in doc.modelspace().query('LWPOLYLINE')], 'off': [l.dxf.name for l in doc.layers if l.is_off()],
 'dashes': [[t.value for t in l.pattern_tags.tags if t.code == 49] for l in doc.linetypes],
 'closed': [e.closed for e in doc.modelspace().query('LWPOLYLINE')]}))`;

interface Audit {
  errors: string[];
  fixes: string[];
  units: number;
  version: string;
  types: string[];
  layers: string[];
  lines: number[][];
  arcs: number[][];
  texts: [string, number, number][];
  closed: boolean[];
  bulges: number[][];
  off: string[];
  dashes: number[][];
}
function audit(dxf: string): Audit {
  const file = join(mkdtempSync(join(tmpdir(), 'calque-dxf-')), 'x.dxf');
  writeFileSync(file, dxf);
  return JSON.parse(execFileSync('/usr/bin/python3', ['-c', SCRIPT, file], { encoding: 'utf8' })) as Audit;
}

describe('DXF, read by an independent reader', () => {
  it('opens without a complaint; walls are closed polylines; units and layers are set', () => {
    const read = audit(writeDxf(drawingOfModel(model), 'mm'));
    expect([read.errors, read.fixes, read.units, read.version]).toEqual([[], [], 4, 'AC1015']);
    expect(read.layers).toEqual(expect.arrayContaining(['Walls', 'Wall lines', 'Lines']));
    expect(read.closed.length).toBe(1);
    expect(read.closed.every(Boolean)).toBe(true);
    expect(read.lines).toContainEqual([0, 0, 0, 3000, 4000, 0]);
  });
  it('every kind of shape survives, in the units asked for', () => {
    const drawing: Drawing = {
      layers: [
        { name: 'Ö/d:d*', colour: 0, index: 3 },
        { name: 'O/d:d*', colour: 0, index: 3 },
      ],
      shapes: [
        { kind: 'line', layer: 'Ö/d:d*', from: [0, 0], to: [25.4, -254] },
        { kind: 'arc', layer: 'Ö/d:d*', cx: 25.4, cy: 0, r: 50.8, start: Math.PI / 2, end: Math.PI },
        { kind: 'circle', layer: 'Ö/d:d*', cx: 0, cy: 0, r: 1 },
        {
          kind: 'cubic',
          layer: 'Ö/d:d*',
          points: [
            [0, 0],
            [1, 2],
            [3, 2],
            [4, 0],
          ],
        },
        {
          kind: 'polyline',
          layer: 'Ö/d:d*',
          points: [
            [0, 0],
            [1, 1],
            [2, 0],
          ],
          closed: false,
        },
        { kind: 'text', layer: 'Ö/d:d*', x: 0, y: 0, height: 25.4, radians: Math.PI / 2, text: 'Größe 5′' },
      ],
    };
    const read = audit(writeDxf(drawing, 'in'));
    expect([read.errors, read.fixes, read.units]).toEqual([[], [], 1]);
    expect(read.types).toEqual(['ARC', 'CIRCLE', 'LINE', 'LWPOLYLINE', 'SPLINE', 'TEXT']);
    expect(read.layers).toEqual(expect.arrayContaining(['O_d_d_', 'O_d_d_ 2']));
    expect(read.lines[0]).toEqual([0, 0, 0, 1, -10, 0].map((v) => expect.closeTo(v, 9)));
    expect(read.arcs[0]).toEqual([1, 0, 0, 2, 90, 180].map((v) => expect.closeTo(v, 9)));
    expect(read.texts[0]).toEqual(['Größe 5′', 1, 90]);
  });
  it('all that can be traced arrives: bends, dashes, curves, texts, dimensions, hatches, on the layers of the trace', () => {
    const base = (id: string) => ({
      id,
      planeId: 'ground',
      source: { underlayId: null, ends: 'typed', thickness: 'typed' } as const,
    });
    const traced: Entity[] = [
      { ...newLayer('joinery', 'Joinery', 1), lineType: 'dashed', weight: 0.35 },
      { ...newLayer('off', 'Old', 2), visible: false },
      {
        type: 'path',
        ...base('p'),
        points: [
          [0, 0],
          [100, 0],
          [100, 50],
        ],
        bulges: [0, 1],
        closed: false,
        layerId: 'joinery',
      },
      { type: 'arc', ...base('c'), centre: [0, 0], radius: 40, start: 0, sweep: 2 * Math.PI, dash: [10, 5] },
      {
        type: 'spline',
        ...base('s'),
        controls: [
          [0, 0],
          [10, 10],
          [20, 10],
          [30, 0],
        ],
        layerId: 'off',
      },
      { type: 'text', ...base('t'), at: [5, 5], angle: 0, height: 20, text: 'Rack' },
      {
        type: 'dimension',
        ...base('d'),
        measures: 'aligned',
        points: [
          [0, 0],
          [100, 0],
        ],
        on: [null, null],
        at: [50, -40],
        height: 20,
      },
      {
        type: 'area',
        ...base('a'),
        rings: [
          {
            points: [
              [0, 0],
              [1000, 0],
              [1000, 1000],
            ],
            bulges: [0, 0, 0],
          },
        ],
        fill: { kind: 'hatch', angle: 0, spacing: 250, crossed: false },
        name: 'Bay',
        figure: true,
      },
    ];
    const drawing = drawingOfModel(modelOf([...entities, ...traced]));
    const read = audit(writeDxf(drawing, 'mm'));
    expect([read.errors, read.fixes]).toEqual([[], []]);
    expect(read.layers).toEqual(
      expect.arrayContaining(['Joinery', 'Old', 'Lines', 'Texts', 'Dimensions', 'Areas']),
    );
    expect(read.texts.map(([words]) => words).sort()).toEqual(['0.50\u2009m²', '100', 'Bay', 'Rack']);
    expect(read.bulges).toContainEqual([0, 1, 0]);
    expect(read.dashes).toEqual(
      expect.arrayContaining([
        [10, -5],
        [150, -75],
      ]),
    );
    expect(read.off).toEqual(['Old']);
    const svg = writeSvg(drawing, { scale: 50, title: 't' });
    expect(svg).toContain('stroke-dasharray="3 1.5"');
    expect(svg).toContain('display="none"');
    expect(svg).toMatch(/A0\.5 0\.5 0 \d 0 /);
  });
  it('an empty drawing is a valid file', () =>
    expect(audit(writeDxf({ layers: [], shapes: [] }, 'm')).errors).toEqual([]));
  it('refuses what is not finite', () => {
    expect(() =>
      writeDxf({ layers: [], shapes: [{ kind: 'circle', layer: '0', cx: NaN, cy: 0, r: 1 }] }, 'mm'),
    ).toThrow(/finite/);
    expect(plainNumber(-1e-12)).toBe('0');
    expect(plainNumber(1e-5)).toBe('0.00001');
  });
});

describe('SVG', () => {
  it('is true to its scale on paper and escapes what it must', () => {
    const svg = writeSvg(drawingOfModel(model), { scale: 50, title: 'Slip & "way" <1>' });
    const [, w] = /width="([\d.]+)mm"/.exec(svg)!;
    expect(Number(w)).toBeCloseTo(6100 / 50 + 20, 3);
    expect(svg).toContain('Slip &amp; &quot;way&quot; &lt;1&gt;');
    expect(svg).not.toContain('NaN');
    execFileSync(
      '/usr/bin/python3',
      ['-c', 'import sys, xml.dom.minidom; xml.dom.minidom.parseString(sys.stdin.buffer.read())'],
      { input: svg },
    );
  });
});

describe('CSV of walls', () => {
  it("gives length, thickness, height and area in the project's units", () => {
    const rows = writeWallsCsv(wallSchedule(model), 'm').trim().split('\r\n');
    expect(rows[1].split(',').slice(0, 7)).toEqual([
      '1',
      'Ground floor',
      '6',
      '0.2',
      '2.7',
      'assumed',
      '16.2',
    ]);
    expect(rows).toHaveLength(3);
  });
  it('quotes and disarms what a spreadsheet would run', () => {
    const evil = modelOf([
      ...entities.filter((e) => e.id !== 'ground'),
      { ...groundStorey('ground'), name: '=cmd(),"x"' },
    ]);
    expect(writeWallsCsv(wallSchedule(evil), 'mm')).toContain('"\'=cmd(),""x"""');
  });
});

describe('what a package says of itself', () => {
  const sha256 = 'ab'.repeat(32),
    file = { id: 'f1', name: 'plan.pdf', sha256, bytes: 3, path: `files/${sha256}` };
  const manifest = {
    format: 'calque',
    version: 3,
    form: FORM,
    written: '2026-11-23T00:00:00Z',
    files: [file],
  };
  const codeOf = (value: unknown) => {
    try {
      parseManifest(value);
      return 'read';
    } catch (e) {
      return e instanceof PackageError ? e.code : String(e);
    }
  };
  it('is read as it was written, in every version; names are made names', () => {
    expect(parseManifest(manifest)).toEqual(manifest);
    expect(parseManifest({ ...manifest, version: 1 }).version).toBe(1);
    expect(parseManifest({ ...manifest, version: 2, form: undefined }).form).toBe(FIRST_FORM);
    expect(parseManifest({ ...manifest, files: [{ ...file, name: ' half \ud800\n' }] }).files[0].name).toBe(
      'half \ufffd',
    );
  });
  it.each([
    ['nothing', null, 'not-a-package'],
    ['another format', { ...manifest, format: 'zip' }, 'not-a-package'],
    ['a newer version', { ...manifest, version: 99 }, 'newer-version'],
    ['a newer form', { ...manifest, form: FORM + 1 }, 'newer-version'],
    ['a form that is none', { ...manifest, form: 'x' }, 'damaged'],
    ['no version', { ...manifest, version: '2' }, 'damaged'],
    ['a path elsewhere', { ...manifest, files: [{ ...file, path: '../../etc/passwd' }] }, 'damaged'],
    ['no checksum', { ...manifest, files: [{ ...file, sha256: 'x', path: 'files/x' }] }, 'damaged'],
    ['two files of one id', { ...manifest, files: [file, file] }, 'damaged'],
    ['a size that is none', { ...manifest, files: [{ ...file, bytes: -1 }] }, 'damaged'],
    ['files that are no list', { ...manifest, files: 'all' }, 'damaged'],
  ])('refuses %s', (_, value, code) => expect(codeOf(value)).toBe(code));
});
