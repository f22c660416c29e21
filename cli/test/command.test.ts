import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from 'vitest';
import { convertRegion } from '@calque/core/conversion';
import { boxRing, makeRegion } from '@calque/core/geometry';
import { decodeLinework, NO_SWITCHES, type Linework } from '@calque/core/linework';
import { DEFAULT_MEMORY_MB } from '@calque/reader';
import { readFile } from '../../reader/src/read-file.ts';
import { indexFromBytes, sheetSnapper } from '@calque/core/snapping';

const root = fileURLToPath(new URL('../../', import.meta.url));
const photo = (name: string) => join(root, 'reader/test/hands/photos', name);
const sheet = (name: string) => join(root, 'reader/test/sheets', name);
const folder = mkdtempSync(join(tmpdir(), 'calque-cli-'));

function calque(...args: string[]): { status: number; out: string; err: string } {
  const done = spawnSync(join(root, 'calque'), args, { cwd: folder, encoding: 'utf8', maxBuffer: 64 << 20 });
  return { status: done.status ?? -1, out: done.stdout, err: done.stderr };
}

describe('calque compare', () => {
  it('lays one page onto the other and lists what differs, in points of the new page', () => {
    const { status, out } = calque(
      'compare',
      sheet('01_cairo_plan_100.pdf'),
      sheet('06g_rotate270_crop_userunit15.pdf'),
      '--json',
    );
    expect(status).toBe(0);
    const fit = JSON.parse(out) as {
      transform: number[];
      scale: number;
      radians: number;
      residual: number;
      added: number;
      gone: number;
      addedSegments: number[][];
      goneSegments: number[][];
    };
    expect(fit.scale).toBeCloseTo(1.5, 5);
    expect(fit.radians).toBeCloseTo(Math.PI / 2, 5);
    expect(fit.residual).toBeLessThan(0.01);
    expect(fit.transform).toHaveLength(6);
    expect([fit.addedSegments.length, fit.goneSegments.length]).toEqual([fit.added, fit.gone]);
    expect(fit.added + fit.gone).toBeLessThan(20);
    expect(calque('compare', sheet('01_cairo_plan_100.pdf'), sheet('13d_xref_damaged.pdf')).out).toContain(
      '0 lines added, 0 gone',
    );
  });
  it('refuses what cannot be compared, in words', () => {
    expect(
      calque('compare', sheet('01_cairo_plan_100.pdf'), sheet('05_rsvg_nested_forms_clips.pdf')),
    ).toMatchObject({ status: 3, err: expect.stringContaining('too little in common') });
    expect(calque('compare', sheet('01_cairo_plan_100.pdf'), sheet('08a_scan_200dpi.pdf'))).toMatchObject({
      status: 3,
      err: expect.stringContaining('it is a scan'),
    });
    expect(calque('compare', sheet('01_cairo_plan_100.pdf')).status).toBe(2);
    expect(
      calque('compare', sheet('01_cairo_plan_100.pdf'), sheet('09_tikz_set_3_pages.pdf'), '--new-page', '9')
        .status,
    ).toBe(3);
  });
});

describe('calque scale', () => {
  interface Page {
    page: number;
    why?: string;
    views: Record<string, unknown>[];
    dimensions: {
      text: string;
      kind: string;
      millimetres: number;
      from: number[];
      to: number[];
      points: number;
      factor: number;
      view: number;
      agrees: boolean;
    }[];
    notes: { text: string; factor: number; view: number | null }[];
  }
  it('prints the views, the dimensions and the notes of a page, as JSON of the agreed shape', () => {
    const { status, out } = calque(
      'scale',
      sheet('04_chromium_fit973_wrong_dim.pdf'),
      '--page',
      '1',
      '--json',
    );
    expect(status).toBe(0);
    const page = JSON.parse(out) as Page;
    expect(page.page).toBe(1);
    expect(page.views).toHaveLength(1);
    const [view] = page.views;
    expect(Object.keys(view).sort()).toEqual([
      'agreeing',
      'confidence',
      'factor',
      'from',
      'outliers',
      'region',
      'stretched',
      'uncertainty',
      'unit',
      'x',
      'y',
    ]);
    expect(view).toMatchObject({
      agreeing: 19,
      outliers: 1,
      stretched: false,
      unit: 'mm',
      from: 'dimensions',
    });
    expect(page.dimensions.every((d) => d.kind === 'linear')).toBe(true);
    expect(view.factor).toBeCloseTo(102.7749, 3);
    const wrong = page.dimensions.filter((d) => !d.agrees);
    expect(wrong.map((d) => d.text)).toEqual(['4560']);
    for (const d of page.dimensions) {
      expect(Math.hypot(d.to[0] - d.from[0], d.to[1] - d.from[1])).toBeCloseTo(d.points, 6);
      expect(d.factor).toBeCloseTo((d.millimetres / d.points) * (72 / 25.4), 6);
    }
    expect(page.notes).toEqual([{ text: 'Scale 1:100 @ A3', factor: 100, view: 0 }]);
  });
  it('recognises figures drawn as outlines and those of a scan: none wrong, at least 95 of 100 with their ends, the scale within 0.05 %', () => {
    type Truth = [string, number, number, number, number, number];
    const truth = JSON.parse(readFileSync(sheet('recognised.json'), 'utf8')) as Record<string, Truth[]>;
    for (const [file, dimensions] of Object.entries(truth)) {
      const page = JSON.parse(calque('scale', sheet(file), '--page', '1', '--json').out) as Omit<
        Page,
        'dimensions'
      > & { dimensions: (Page['dimensions'][number] & { recognised?: boolean })[] };
      // A scan's ends are good to a pixel or two.
      const near = (p: number[], x: number, y: number) => Math.hypot(p[0] - x, p[1] - y) < 1;
      const right = page.dimensions.filter((d) =>
        dimensions.some(
          ([text, mm, x0, y0, x1, y1]) =>
            d.text === text &&
            d.millimetres === mm &&
            d.agrees &&
            d.recognised &&
            ((near(d.from, x0, y0) && near(d.to, x1, y1)) || (near(d.from, x1, y1) && near(d.to, x0, y0))),
        ),
      );
      expect(page.dimensions.length).toBe(right.length);
      expect(right.length).toBeGreaterThanOrEqual(Math.floor(0.97 * dimensions.length));
      expect(Math.abs((page.views[0].factor as number) / 100 - 1)).toBeLessThan(5e-4);
    }
    const plain = JSON.parse(
      calque('scale', sheet('08a_scan_200dpi.pdf'), '--page', '1', '--no-recognise', '--json').out,
    ) as Page;
    expect([plain.views, plain.dimensions]).toEqual([[], []]);
  }, 240000);
  it('straightens a photo by itself, on a table or close by, and tells where its dimensions lie on it', () => {
    const truth = JSON.parse(readFileSync(photo('truth.json'), 'utf8')) as Record<
      string,
      { dimensions: { value: number; from: number[]; to: number[] }[] }
    >;
    for (const [name, least, wrong] of [
      ['boat-store-on-a-table', 15, 2],
      ['plan-close-by', 31, 0],
    ] as const) {
      const page = JSON.parse(calque('scale', photo(`${name}.jpg`), '--page', '1', '--json').out) as Page & {
        photo: { millimetresFromPage: number[] };
      };
      const { dimensions } = truth[name],
        near = (a: number[], b: number[]) => Math.hypot(a[0] - b[0], a[1] - b[1]) < 4;
      const right = page.dimensions.filter(
        (d) =>
          d.agrees &&
          dimensions.some(
            (t) =>
              Math.abs(t.value - d.millimetres) <= 1e-3 * t.value &&
              ((near(t.from, d.from) && near(t.to, d.to)) || (near(t.from, d.to) && near(t.to, d.from))),
          ),
      );
      expect(right.length, name).toBeGreaterThanOrEqual(least);
      expect(page.dimensions.length - right.length, name).toBeLessThanOrEqual(wrong);
      // The map from the page to millimetres holds for every dimension that is printed, found or not.
      const h = page.photo.millimetresFromPage,
        mm = ([x, y]: number[]) => {
          const w = h[6] * x + h[7] * y + h[8];
          return [(h[0] * x + h[1] * y + h[2]) / w, (h[3] * x + h[4] * y + h[5]) / w];
        };
      const off = dimensions.map((t) => {
        const [a, b] = [mm(t.from), mm(t.to)];
        return Math.abs(Math.hypot(b[0] - a[0], b[1] - a[1]) - t.value);
      });
      expect(Math.max(...off), name).toBeLessThan(name === 'plan-close-by' ? 12 : 8);
    }
    expect(calque('scale', photo('boat-store-on-a-table.jpg')).out).toContain('a photo at a slant');
  }, 240000);
  it('goes through all pages, says why where there is nothing to tell, and takes the unit of bare figures', () => {
    const { pages } = JSON.parse(calque('scale', sheet('09_tikz_set_3_pages.pdf'), '--json').out) as {
      pages: Page[];
    };
    expect(pages.map((p) => p.views.map((v) => Math.round(v.factor as number)))).toEqual([
      [],
      [100],
      [50, 5],
    ]);
    expect(pages[0].why).toContain('No text of the page is a figure');
    const centimetres = JSON.parse(
      calque('scale', sheet('01_cairo_plan_100.pdf'), '--units', 'cm', '--page', '1', '--json').out,
    ) as Page;
    expect(centimetres.views[0].factor).toBeCloseTo(1000, 2);
    expect(calque('scale', sheet('01_cairo_plan_100.pdf'), '--units', 'miles').status).toBe(2);
  });
  it('speaks plainly without --json', () => {
    const { out } = calque('scale', sheet('08b_stretched_y1012.pdf'));
    expect(out).toContain('39 of 39 dimensions agree');
    expect(out).toContain('stretched: 100.0001 along the width, 98.8145 along the height');
    expect(calque('scale', sheet('04_chromium_fit973_wrong_dim.pdf')).out).toMatch(
      /prints 4560, measures 5460 mm[\s\S]*not what its dimensions say/,
    );
  });
});

describe('calque read', () => {
  it('prints what the file and its pages hold, as JSON of the agreed shape', () => {
    const { status, out } = calque('read', sheet('01_cairo_plan_100.pdf'), '--linework', '--json');
    expect(status).toBe(0);
    const {
      file,
      pages: [page],
    } = JSON.parse(out) as { file: object; pages: Record<string, unknown>[] };
    expect(file).toMatchObject({ pages: 1, kind: 'pdf', encrypted: false });
    expect(Object.keys(page)).toEqual(
      expect.arrayContaining([
        'page',
        'size',
        'content',
        'counts',
        'leftOut',
        'layers',
        'scaleNotes',
        'milliseconds',
        'segments',
        'arcs',
        'circles',
        'fillEdges',
        'texts',
      ]),
    );
    expect(page).toMatchObject({
      page: 1,
      content: 'vector',
      counts: { segments: 894, arcs: 22, circles: 68, texts: 101 },
      scaleNotes: [{ text: 'Scale 1:100 @ A3', factor: 100 }],
    });
    const segments = page.segments as number[][];
    expect(segments.every((s) => s.length === 5 && s.every(Number.isFinite))).toBe(true);
  });
  it('speaks plainly without --json, and reads one page of a set when asked', () => {
    const { out } = calque('read', sheet('09_tikz_set_3_pages.pdf'), '--page', '2');
    expect(out).toContain('PDF, 3 pages');
    expect(out).toContain('Page 2: 420.0 x 297.0 mm, lines to snap to');
    expect(out).not.toContain('Page 3');
  });
  it('lists a layer that is off only with --all-layers', () => {
    const count = (...more: string[]) =>
      (
        JSON.parse(
          calque('read', sheet('02_reportlab_imperial_ocg.pdf'), '--linework', '--json', ...more).out,
        ) as { pages: { segments: unknown[] }[] }
      ).pages[0].segments.length;
    expect(count('--all-layers')).toBe(count() + 2);
  });
  it('stores arrays with their index, ready to snap', () => {
    const file = join(folder, 'a.cqlw');
    expect(calque('read', sheet('01_cairo_plan_100.pdf'), '--arrays', file).status).toBe(0);
    const bytes = readFileSync(file);
    const { linework, index } = decodeLinework(
      bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length),
    );
    expect(sheetSnapper(linework, indexFromBytes(index)).query(175.9, 841.89 - 181.3, 2)[0]).toMatchObject({
      kind: 'end',
      x: expect.closeTo(175.748, 2),
    });
  });
  it('tells pens, hatches, dimensions and mark-ups; lines of mark-ups are not the drawing', () => {
    const [page] = (
      JSON.parse(calque('read', sheet('12_mupdf_annotations.pdf'), '--linework', '--json').out) as {
        pages: {
          counts: Record<string, number>;
          pens: { width: number; colour: string; length: number }[];
          hatches: number;
          markups: { kind: string; lines: number[][] }[];
          segments: number[][];
        }[];
      }
    ).pages;
    expect(page.counts).toMatchObject({ pens: page.pens.length, hatches: 0, dimensions: 20, markups: 7 });
    expect(page.segments).toHaveLength(page.counts.segments);
    expect(page.markups.find((m) => m.kind === 'Line')!.lines).toHaveLength(1);
    expect(page.pens[0]).toMatchObject({ colour: '#000000' });
    expect(calque('read', sheet('01_cairo_plan_100.pdf')).out).toMatch(
      /\d+ pens, 1[5-9] hatched areas, 39 dimensions/,
    );
  });
  it('reads drawings and pictures by their bytes', () => {
    const dxf = join(root, 'reader/test/drawings/boathouse-metres.dxf');
    const {
      file,
      pages: [page],
    } = JSON.parse(calque('read', dxf, '--linework', '--json').out) as {
      file: { kind: string };
      pages: { origin: number[]; millimetresPerPoint: number; unknown: object; segments: number[][] }[];
    };
    expect(file.kind).toBe('dxf');
    expect(page.unknown).toEqual({ RAY: 2 });
    const wall = page.segments[0]
      .slice(0, 4)
      .map((v, i) => Math.round(v * page.millimetresPerPoint + page.origin[i % 2]));
    expect(wall).toEqual([0, 0, 24000, 0]);
    const bare = join(root, 'reader/test/drawings/no-units.dxf');
    expect(calque('read', bare)).toMatchObject({
      status: 3,
      err: expect.stringContaining('does not say in which units'),
    });
    expect(calque('read', bare, '--units', 'ft').out).toContain('31089.6 x 15849.6 mm');
    const svg = join(folder, 'a.svg');
    writeFileSync(
      svg,
      '<svg xmlns="http://www.w3.org/2000/svg" width="72pt" height="36pt"><line x1="0" y1="0" x2="96" y2="48" stroke="#000"/></svg>',
    );
    expect(
      (
        JSON.parse(calque('read', svg, '--linework', '--json').out) as { pages: { segments: number[][] }[] }
      ).pages[0].segments[0]
        .slice(0, 4)
        .map((v) => Math.round(v * 1e6) / 1e6),
    ).toEqual([0, 36, 72, 0]);
  });
  it('ends with 2 for usage, 3 for what cannot be read, 4 for a password, words on standard error', () => {
    const cases: [number, string[]][] = [
      [2, ['read']],
      [2, ['read', 'x.pdf', '--page', '0']],
      [2, ['reed', 'x.pdf']],
      [3, ['read', join(folder, 'none.pdf')]],
      [3, ['read', sheet('13a_truncated.pdf')]],
      [3, ['read', sheet('01_cairo_plan_100.pdf'), '--page', '9']],
      [4, ['read', sheet('13e_password.pdf')]],
      [4, ['read', sheet('13e_password.pdf'), '--password', 'no']],
    ];
    for (const [status, args] of cases) {
      const done = calque(...args);
      expect([args.join(' '), done.status, done.out]).toEqual([args.join(' '), status, '']);
      expect(done.err).not.toBe('');
    }
    expect(calque('read', sheet('13e_password.pdf'), '--password', 'letmein-13').status).toBe(0);
  });
  it('stops a page that never ends', () => {
    const endless = join(folder, 'endless.pdf');
    // A form that draws itself ten times ten times … as deep as the engine goes.
    const form = (n: number) =>
      `${n} 0 obj\n<</Type/XObject/Subtype/Form/BBox[0 0 9 9]/Resources<</XObject<</F ${n + 1} 0 R>>>>/Length 60>>stream\n${'/F Do '.repeat(10)}\nendstream\nendobj\n`;
    const forms = Array.from({ length: 24 }, (_, i) => form(5 + i)).join('');
    writeFileSync(
      endless,
      `%PDF-1.5\n1 0 obj\n<</Type/Catalog/Pages 2 0 R>>\nendobj\n2 0 obj\n<</Type/Pages/Kids[3 0 R]/Count 1>>\nendobj\n3 0 obj\n<</Type/Page/Parent 2 0 R/MediaBox[0 0 99 99]/Contents 4 0 R/Resources<</XObject<</F 5 0 R>>>>>>\nendobj\n4 0 obj\n<</Length 5>>stream\n/F Do\nendstream\nendobj\n${forms}trailer<</Size 40/Root 1 0 R>>\n%%EOF`,
    );
    const began = Date.now();
    const { status } = calque('read', endless, '--seconds', '4');
    expect([0, 3]).toContain(status);
    expect(Date.now() - began).toBeLessThan(20000);
  });
});

describe('calque convert', () => {
  const lengths = (file: string) =>
    JSON.parse(
      execFileSync(
        '/usr/bin/python3',
        [
          '-c',
          `
import ezdxf, json, sys
doc = ezdxf.readfile(sys.argv[1]); a = doc.audit()
print(json.dumps({'errors': len(a.errors), 'units': doc.header['$INSUNITS'], 'longest': max((l.dxf.end - l.dxf.start).magnitude for l in doc.modelspace().query('LINE')), 'layers': [l.dxf.name for l in doc.layers], 'types': sorted({e.dxftype() for e in doc.modelspace()})}))`,
          file,
        ],
        { encoding: 'utf8' },
      ),
    ) as { errors: number; units: number; longest: number; layers: string[]; types: string[] };

  it('makes true-size DXF at a stated scale and by a known dimension alike', () => {
    const a = join(folder, 'a.dxf'),
      b = join(folder, 'b.dxf');
    expect(
      calque(
        'convert',
        sheet('01_cairo_plan_100.pdf'),
        '--page',
        '1',
        '--scale',
        '1:100',
        '--to',
        'dxf',
        '-o',
        a,
      ).status,
    ).toBe(0);
    expect(
      calque(
        'convert',
        sheet('01_cairo_plan_100.pdf'),
        '--page',
        '1',
        '--known',
        '175.748,660.473 873.071,660.473 24.6m',
        '--units',
        'm',
        '--to',
        'dxf',
        '-o',
        b,
      ).status,
    ).toBe(0);
    const [mm, m] = [lengths(a), lengths(b)];
    expect([mm.errors, m.errors, mm.units, m.units]).toEqual([0, 0, 4, 6]);
    expect(m.longest * 1000).toBeCloseTo(mm.longest, -1);
  });
  it("keeps the file's own layers, crops, and takes only the parts asked for", () => {
    const file = join(folder, 'c.dxf');
    expect(
      calque(
        'convert',
        sheet('12_mupdf_annotations.pdf'),
        '--page',
        '1',
        '--scale',
        '100',
        '--crop',
        '200,200,700,600',
        '--only',
        'lines',
        '--to',
        'dxf',
        '-o',
        file,
      ).status,
    ).toBe(0);
    const read = lengths(file);
    expect(read.layers).toEqual(expect.arrayContaining(['Walls', 'Openings']));
    expect(read.types).toEqual(['LINE', 'LWPOLYLINE']);
    expect(read.longest).toBeLessThanOrEqual(Math.hypot(500, 400) * (25.4 / 72) * 100 + 1);
  });
  it('gives the same lines in line and chains joined as the application does of the same sheet', async () => {
    const file = join(folder, 'same.dxf');
    expect(
      calque(
        'convert',
        sheet('01_cairo_plan_100.pdf'),
        '--page',
        '1',
        '--scale',
        '1:100',
        '--only',
        'lines,curves,texts',
        '--to',
        'dxf',
        '-o',
        file,
      ).status,
    ).toBe(0);
    const counts = JSON.parse(
      execFileSync(
        '/usr/bin/python3',
        [
          '-c',
          `
import ezdxf, json, sys, collections
print(json.dumps(dict(collections.Counter(e.dxftype() for e in ezdxf.readfile(sys.argv[1]).modelspace()))))`,
          file,
        ],
        { encoding: 'utf8' },
      ),
    ) as Record<string, number>;
    let linework: Linework | null = null;
    await readFile(
      new Uint8Array(readFileSync(sheet('01_cairo_plan_100.pdf'))),
      { maxMegabytes: DEFAULT_MEMORY_MB, page: 1 },
      () => {},
      (p) => {
        linework = p.linework;
      },
    );
    const l = linework! as Linework;
    // As the application asks, with hatches on and edges of fills off.
    const { elements, from } = convertRegion(l, {
      region: makeRegion([boxRing([0, 0, l.width, l.height])], 'nonzero'),
      switches: { ...NO_SWITCHES, kinds: ['fill', 'picture', 'markup'] },
      placement: [35, 0, 0, 35, 0, 0],
      layering: 'file',
      planeId: 'g',
      source: { underlayId: 'u', ends: 'snapped', thickness: 'typed' },
    });
    const want: Record<string, number> = {};
    const add = (type: string, n = 1) => {
      want[type] = (want[type] ?? 0) + n;
    };
    for (const e of elements) {
      if (e.type === 'line') add('LINE');
      else if (e.type === 'path') add('LWPOLYLINE');
      else if (e.type === 'arc') add(e.sweep > 6.28318 ? 'CIRCLE' : 'ARC');
      else if (e.type === 'spline') add('SPLINE', (e.controls.length - 1) / 3);
      else if (e.type === 'text') add('TEXT');
    }
    expect(counts).toEqual(want);
    expect(elements.length).toBeLessThan(0.8 * from);
  });
  it('writes SVG on paper at its scale', () => {
    const file = join(folder, 'd.svg');
    expect(
      calque(
        'convert',
        sheet('01_cairo_plan_100.pdf'),
        '--page',
        '1',
        '--scale',
        '1:100',
        '--to',
        'svg',
        '-o',
        file,
      ).status,
    ).toBe(0);
    expect(readFileSync(file, 'utf8')).toContain('Scale 1:100');
  });
  it('refuses neither or both of scale and known dimension, and nonsense, as usage', () => {
    const base = [
      'convert',
      sheet('01_cairo_plan_100.pdf'),
      '--page',
      '1',
      '--to',
      'dxf',
      '-o',
      join(folder, 'x.dxf'),
    ];
    for (const more of [
      [],
      ['--scale', '1:100', '--known', '0,0 1,1 5m'],
      ['--scale', 'big'],
      ['--known', '0,0 0,0 5m'],
      ['--known', 'here there 5m'],
      ['--scale', '100', '--crop', '1,2,3'],
      ['--scale', '100', '--only', 'walls'],
    ]) {
      expect([more.join(' '), calque(...base, ...more).status]).toEqual([more.join(' '), 2]);
    }
  });
});
