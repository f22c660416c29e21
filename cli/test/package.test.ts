import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { PACKAGE_FORMAT, PACKAGE_VERSION, readDxf } from '@calque/core/exchange';
import { FORM } from '@calque/core/formats';
import { groundStorey } from '@calque/core/model';
import type { Takeoff } from '@calque/core/takeoff';

const root = fileURLToPath(new URL('../../', import.meta.url));
const kept = (name: string) => join(root, 'store/test/kept', name);
const folder = mkdtempSync(join(tmpdir(), 'calque-packages-'));

function calque(...args: string[]): { status: number; out: string; err: string } {
  const done = spawnSync(join(root, 'calque'), args, { cwd: folder, encoding: 'utf8', maxBuffer: 64 << 20 });
  return { status: done.status ?? -1, out: done.stdout, err: done.stderr };
}

describe('calque takeoff', () => {
  it('counts walls and openings of a package, also one of a former form, without a database', () => {
    const { status, out, err } = calque('takeoff', kept('form-2.calque'), '--json');
    expect(err).toBe('');
    expect(status).toBe(0);
    const counted = JSON.parse(out) as Takeoff & { units: string };
    expect(counted.units).toBe('mm');
    expect(counted.storeys.map((s) => [s.name, s.level])).toContainEqual(['Ground floor', 0]);
    const wall = counted.walls.find((w) => w.id === 'w-open')!;
    // Its last step left one opening, 1,000 wide, of usual height: what it is nobody had said.
    expect(wall.area).toBeCloseTo(8 * 2.7, 9);
    expect(wall.net).toBeCloseTo(8 * 2.7 - 2.1, 9);
    expect(wall.volume).toBeCloseTo(0.2 * (8 * 2.7 - 2.1), 9);
    expect(counted.openings.find((o) => o.wall === 'w-open')).toMatchObject({
      kind: 'gap',
      width: 1000,
      assumed: ['kind', 'sill', 'head'],
    });
  });

  it('is read by people too, and says what is assumed', () => {
    const { status, out } = calque('takeoff', kept('form-1.calque'));
    expect(status).toBe(0);
    expect(out).toMatch(/\d+ walls: .* m²/);
    expect(out).toContain('assumed: height');
  });

  it('refuses what is no package, or a newer one, in words', () => {
    const none = join(folder, 'none.calque');
    writeFileSync(none, 'not a zip at all');
    expect(calque('takeoff', none)).toMatchObject({ status: 3, out: '' });
    expect(calque('takeoff', none).err).toMatch(/not a \.calque package/);
    expect(calque('takeoff', join(folder, 'missing.calque')).status).toBe(3);
  });
});

describe('calque deliver', () => {
  const deliver = (...args: string[]) => calque('deliver', kept('form-2.calque'), ...args);

  it('writes drawings and tables; a drawing has the wall in parts beside its opening', () => {
    const dxf = join(folder, 'out.dxf'),
      json = join(folder, 'out.json'),
      csv = join(folder, 'out.csv'),
      svg = join(folder, 'out.svg');
    expect(deliver('--to', 'dxf', '-o', dxf).status).toBe(0);
    expect(readDxf(readFileSync(dxf, 'utf8')).items.length).toBeGreaterThan(10);
    expect(deliver('--to', 'json', '--storey', 'Ground floor', '-o', json).status).toBe(0);
    const counted = JSON.parse(readFileSync(json, 'utf8')) as Takeoff;
    expect(new Set(counted.walls.map((w) => w.storey))).toEqual(new Set(['Ground floor']));
    expect(deliver('--to', 'csv', '-o', csv).out).toContain('written to');
    expect(readFileSync(csv, 'utf8').split('\n')[0]).toContain('thickness');
    expect(deliver('--to', 'svg', '--scale', '1:50', '-o', svg).status).toBe(0);
    expect(readFileSync(svg, 'utf8')).toContain('<svg');
  });

  it('writes a model to be edited or looked at, a scene, and a workbook', () => {
    const ifc = join(folder, 'out.ifc'),
      looked = join(folder, 'looked.ifc'),
      glb = join(folder, 'out.glb'),
      xlsx = join(folder, 'out.xlsx');
    expect(deliver('--to', 'ifc', '-o', ifc).status).toBe(0);
    expect(deliver('--to', 'ifc', '--view', 'reference', '-o', looked).status).toBe(0);
    expect(readFileSync(ifc, 'latin1')).toMatch(/^ISO-10303-21;[^]*DesignTransferView[^]*IFCRELVOIDSELEMENT/);
    expect(readFileSync(looked, 'latin1')).not.toContain('IFCRELVOIDSELEMENT');
    expect(deliver('--to', 'glb', '-o', glb).status).toBe(0);
    expect(readFileSync(glb).subarray(0, 4).toString()).toBe('glTF');
    expect(deliver('--to', 'xlsx', '-o', xlsx).status).toBe(0);
    expect(readFileSync(xlsx).subarray(0, 2).toString()).toBe('PK');
    const pdf = join(folder, 'out.pdf');
    expect(deliver('--to', 'pdf', '--scale', '1:20000', '-o', pdf).status).toBe(0);
    expect(readFileSync(pdf).subarray(0, 5).toString()).toBe('%PDF-');
    expect(deliver('--to', 'pdf', '--scale', '1:1', '-o', pdf)).toMatchObject({ status: 2 });
    expect(deliver('--to', 'pdf', '--scale', '1:1', '-o', pdf).err).toContain('does not fit');
    expect(deliver('--to', 'pdf', '--paper', 'napkin', '-o', pdf).err).toContain('is no paper');
  });

  it('refuses a storey that is not there, a scale that is none, and a format that it does not write', () => {
    const out = join(folder, 'no.dxf');
    expect(deliver('--to', 'dxf', '--storey', 'Cellar', '-o', out)).toMatchObject({ status: 2 });
    expect(deliver('--to', 'dxf', '--storey', 'Cellar', '-o', out).err).toContain('"Ground floor"');
    expect(deliver('--to', 'svg', '--scale', 'large', '-o', out).status).toBe(2);
    expect(deliver('--to', 'doc', '-o', out).status).toBe(2);
  });
});

describe('calque sections', () => {
  it('lists the tables, finds by name and by wishes, as JSON or to be read', () => {
    const { status, out } = calque('sections', '--find', 'IPE 200', '--json');
    expect(status).toBe(0);
    const [first] = JSON.parse(out) as { name: string; h: number; area: number; mass: number; iy: number }[];
    expect(first).toMatchObject({ name: 'IPE 200', h: 200 });
    expect(first.area).toBeCloseTo(28.5, 1);
    expect(first.mass).toBeCloseTo(22.4, 1);
    expect(first.iy / 1943).toBeCloseTo(1, 2);
    expect((JSON.parse(calque('sections', '--json').out) as unknown[]).length).toBeGreaterThan(900);
    expect(calque('sections', '--find', 'hea nearest to 180 high, under 36 kg/m').out.split('\n')[1]).toMatch(
      /^HEA 180 {2}EN 10365/,
    );
    expect(calque('sections', '--find', 'no such thing').out).toContain(
      'No section answers "no such thing".',
    );
  });
});

describe('calque deliver --to nc', () => {
  it('says so where there is no member of steel', () => {
    expect(calque('deliver', kept('form-2.calque'), '--to', 'nc', '-o', join(folder, 'nc'))).toMatchObject({
      status: 2,
      err: expect.stringContaining('no member of steel'),
    });
  });
});

describe('calque with a frame', () => {
  /** A column on its base plate and a beam with an end plate on it, as a package. */
  const frame = (() => {
    const drawn = {
      planeId: 'ground',
      source: { underlayId: null, ends: 'typed', thickness: 'typed' },
      point: 5,
      turn: 0,
      mirrored: false,
      back: [0, 0],
      material: 'S355',
      density: 7850,
    };
    const entities = [
      { type: 'settings', id: 'settings', name: 'Boathouse', units: 'mm', precision: 0 },
      groundStorey('ground'),
      {
        ...drawn,
        type: 'member',
        id: 'column',
        from: [0, 0],
        to: [0, 0],
        rise: [0, 4000],
        section: { form: 'table', name: 'HEB 200' },
        role: 'column',
        mark: 'C1',
        joints: [{ end: 'start', form: 'basePlate', to: null }],
      },
      {
        ...drawn,
        type: 'member',
        id: 'beam',
        from: [-4000, 0],
        to: [0, 0],
        rise: [2000, 2000],
        section: { form: 'table', name: 'IPE 200' },
        role: 'beam',
        mark: 'B1',
        joints: [{ end: 'end', form: 'endPlate', to: 'column' }],
      },
    ];
    const path = join(folder, 'frame.calque'),
      manifest = {
        format: PACKAGE_FORMAT,
        version: PACKAGE_VERSION,
        form: FORM,
        written: '2026-11-30T12:00:00.000Z',
        files: [],
      };
    writeFileSync(
      path,
      zipSync({
        'manifest.json': strToU8(JSON.stringify(manifest)),
        'entities.jsonl': strToU8(entities.map((e) => JSON.stringify(e)).join('\n')),
        'log.jsonl': strToU8(''),
      }),
    );
    return path;
  })();

  it('counts members as they are cut, plates, bolts and assemblies', () => {
    const { status, out } = calque('takeoff', frame, '--json'),
      counted = JSON.parse(out) as Takeoff;
    expect(status).toBe(0);
    expect(counted.members.map((m) => [m.mark, Math.round(m.length * 1e6) / 1e6])).toEqual([
      ['C1', 4000 - 23],
      ['B1', 3900 - 16],
    ]);
    expect(counted.plates.map((p) => [p.mark, p.name, p.count])).toEqual([
      ['p1', 'base plate', 1],
      ['p2', 'end plate', 1],
    ]);
    expect(counted.bolts.map((b) => [b.name, b.count])).toEqual([
      ['M20 anchor, 400 mm in', 4],
      ['M20 x 60', 4],
    ]);
    expect(counted.assemblies).toHaveLength(2);
    expect(counted.stock).toHaveLength(2);
    expect(calque('takeoff', frame).out).toMatch(/Plate p1: 1 of 320 x 320 x 23 mm, 4 holes/);
  });

  it('is drawn for the shop on paper; where no frame stands upright none is drawn', () => {
    const shop = join(folder, 'shop.pdf');
    expect(calque('deliver', frame, '--to', 'shop', '-o', shop).status).toBe(0);
    const read = spawnSync('pdftotext', ['-layout', shop, '-'], { encoding: 'utf8' })
      .stdout.split('\f')
      .slice(0, -1);
    // Two pieces and two plates.
    expect(read).toHaveLength(4);
    expect(read.join().replace(/\s+/g, ' ')).toMatch(/C1, A1.*3 977.*B1, A2.*3 884/);
    expect(calque('deliver', frame, '--to', 'frames', '-o', join(folder, 'frames'))).toMatchObject({
      status: 2,
      err: expect.stringContaining('no frame on an upright plane'),
    });
  });

  it('is written as STEP, as a DXF for each plate, and as an NC file for each mark', () => {
    const step = join(folder, 'frame.step'),
      plates = join(folder, 'plates'),
      nc = join(folder, 'pieces');
    expect(calque('deliver', frame, '--to', 'step', '-o', step).status).toBe(0);
    expect(readFileSync(step, 'latin1')).toMatch(
      /^ISO-10303-21;[^]*AUTOMOTIVE_DESIGN[^]*MANIFOLD_SOLID_BREP/,
    );
    expect(calque('deliver', frame, '--to', 'plates', '-o', plates).out).toContain('2 DXF files');
    const { items } = readDxf(readFileSync(join(plates, 'p1.dxf'), 'utf8'));
    expect(items.length).toBeGreaterThanOrEqual(5);
    // A reader that knows nothing of ours: a closed outline of 320 by 320, four circles of 22, and the words.
    const read = spawnSync(
      '/usr/bin/python3',
      [
        '-c',
        `import ezdxf, json, sys
m = ezdxf.readfile(sys.argv[1]).modelspace()
p = [e for e in m if e.dxftype() == 'LWPOLYLINE'][0]
xs = [v[0] for v in p]; ys = [v[1] for v in p]
print(json.dumps([p.closed, max(xs) - min(xs), max(ys) - min(ys), sorted(round(e.dxf.radius, 6) for e in m if e.dxftype() == 'CIRCLE'), [e.dxf.text for e in m if e.dxftype() == 'TEXT']]))`,
        join(plates, 'p1.dxf'),
      ],
      { encoding: 'utf8' },
    );
    expect(JSON.parse(read.stdout)).toEqual([
      true,
      expect.closeTo(320, 6),
      expect.closeTo(320, 6),
      [11, 11, 11, 11],
      ['p1, 23 thick, S355, 1 off'],
    ]);
    expect(calque('deliver', frame, '--to', 'nc', '-o', nc).out).toContain('4 NC files');
    expect(readFileSync(join(nc, 'C1.nc1'), 'latin1')).toContain('BO');
    for (const to of ['step', 'plates'])
      expect(
        calque('deliver', kept('form-2.calque'), '--to', to, '-o', join(folder, `no-${to}`)),
      ).toMatchObject({
        status: 2,
        err: expect.stringContaining('in this package'),
      });
  });
});
