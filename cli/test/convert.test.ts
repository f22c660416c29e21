import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { convertRegion } from '@calque/core/conversion';
import { boxRing, makeRegion } from '@calque/core/geometry';
import { NO_SWITCHES, type Linework } from '@calque/core/linework';
import { DEFAULT_MEMORY_MB } from '@calque/reader';
import { readFile } from '../../reader/src/read-file.ts';
import { calque, folder, sheet } from './calque.ts';

/** The practice plan, converted at its scale. */
const PLAN = ['convert', sheet('01_cairo_plan_100.pdf'), '--page', '1', '--scale', '1:100'];

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
    expect(calque(...PLAN, '--to', 'dxf', '-o', a).status).toBe(0);
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
    expect(calque(...PLAN, '--only', 'lines,curves,texts', '--to', 'dxf', '-o', file).status).toBe(0);
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
    expect(calque(...PLAN, '--to', 'svg', '-o', file).status).toBe(0);
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
