import fc from 'fast-check';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { frameDrawings, pieceViews, plateViews, shopViews, writeDxf, type View } from '@calque/core/exchange';
import { markingChanges } from '@calque/core/framing';
import { applyOrThrow, group, type Member, type Model } from '@calque/core/model';
import { writePdf } from '@calque/core/paper';
import { uprightPlane } from '@calque/core/planes';
import { takeoff } from '@calque/core/takeoff';
import { brokenLength } from '../src/exchange/shop/broken.ts';
import { beam, column, joint, model, rowOf, table } from './given-joints.ts';
import { member } from './given-members.ts';
import { bolts, plate } from './given-plates.ts';

const texts = ({ drawing }: View, layer: string) =>
  drawing.shapes.flatMap((s) => (s.kind === 'text' && s.layer === layer ? [s.text.replace(/\s/g, ' ')] : []));
const figures = (v: View) => texts(v, 'Dimensions');
const marked = (m: Model) => applyOrThrow(m, group(markingChanges(m))!);
const circles = ({ drawing }: View) =>
  drawing.shapes.filter((s) => s.kind === 'circle' && s.layer === 'Holes');

const side = uprightPlane('side', {
  from: [0, 20000],
  to: [12000, 20000],
  height: 6000,
  name: 'Frame A',
  role: 'section',
})!;
const upright = (more: Partial<Member>) =>
  member({ planeId: 'side', turn: Math.PI / 2, section: table('IPE 300'), ...more });
const portal = () =>
  marked(
    model(
      side,
      upright({
        id: 'w',
        from: [0, 0],
        to: [0, 4000],
        role: 'column',
        joints: [joint('start', 'basePlate', null)],
      }),
      upright({
        id: 'e',
        from: [6000, 0],
        to: [6000, 4000],
        role: 'column',
        joints: [joint('start', 'basePlate', null)],
      }),
      upright({
        id: 'r',
        from: [0, 4000],
        to: [6000, 4000],
        joints: [joint('start', 'mitre', 'w'), joint('end', 'mitre', 'e')],
      }),
    ),
  );

describe('drawings of pieces', () => {
  it('each equal piece once, as long as it is counted, with its number, its mass and what is welded to it', () => {
    const m = portal(),
      views = pieceViews(m),
      { cuts, assemblies } = takeoff(m);
    expect(views.map((v) => v.name)).toHaveLength(cuts.length);
    const columns = views.find((v) => v.name.startsWith('C1'))!,
      row = rowOf(m, 'w');
    expect(texts(columns, 'Words')).toContainEqual(
      expect.stringContaining(
        `IPE 300, S355, ${row.length
          .toFixed(1)
          .replace(/\.0$/, '')
          .replace(/^(\d)(\d{3})/, '$1 $2')} long, 2 off, ${assemblies[0].mass.toFixed(1)} kg each`,
      ),
    );
    expect(texts(columns, 'Words').join()).toMatch(/Welded to it: 1 p1 base plate, \d+ thick/);
    expect(texts(columns, 'Words').join()).toContain('the cut runs');
    // The anchors of its foot, seen from its start.
    expect(circles(columns)).toHaveLength(4);
  });

  it('the dimensions of a chain add up to the length, however much of it is drawn broken', () => {
    const m = marked(model(member({ id: 'beam', to: [9000, 0] }), plate(), bolts())),
      [view] = pieceViews(m),
      numbers = figures(view).map((t) => Number(t.replace(/ /g, '')));
    expect(numbers).toContain(9000);
    // 1040, 120 and the rest, along the flange.
    for (const v of [1040, 120, 7840]) expect(numbers).toContain(v);
    expect(numbers).toEqual(expect.arrayContaining([22, 56]));
    expect(circles(view)).toHaveLength(4);
    const width = Math.max(
      ...view.drawing.shapes.flatMap((s) => (s.kind === 'line' ? [s.from[0], s.to[0]] : [])),
    );
    expect(width).toBeLessThan(9000);
    expect(texts(view, 'Words').join()).toContain('Not as long as drawn where two strokes cross it');
  });

  it('holes of the web are seen from its side, those of the upper flange from above', () => {
    const m = marked(model(column(), beam({ joints: [joint('end', 'cleat', 'column')] }))),
      own = pieceViews(m).find((v) => texts(v, 'Words').join().includes('IPE 200'))!;
    expect(circles(own).every((c) => c.kind === 'circle' && !c.dash)).toBe(true);
    const flange = pieceViews(m).find((v) => texts(v, 'Words').join().includes('HEB 200'))!;
    expect(circles(flange).every((c) => c.kind === 'circle' && c.dash)).toBe(true);
    expect(texts(flange, 'Words').join()).toContain('lower flange are dashed');
  });

  it('a broken length keeps its order, and what happens on it true to scale', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 10000, noNaN: true }), { maxLength: 8 }),
        fc.double({ min: 10, max: 400, noNaN: true }),
        (at, longest) => {
          const b = brokenLength(0, 10000, at, { longest, room: 60 }),
            all = [0, ...at, 10000].sort((p, q) => p - q);
          all.slice(1).forEach((z, i) => {
            expect(b.at(z)).toBeGreaterThanOrEqual(b.at(all[i]) - 1e-9);
            expect(b.at(z) - b.at(all[i])).toBeLessThanOrEqual(z - all[i] + 1e-6);
          });
          for (const z of at)
            expect(b.at(Math.min(z + 50, 10000)) - b.at(z)).toBeCloseTo(Math.min(z + 50, 10000) - z, 6);
          expect(b.length).toBeCloseTo(b.at(10000), 6);
        },
      ),
    );
  });
});

describe('drawings of frames and plates', () => {
  it('a frame has its marks, its columns along its foot, and its levels in the building', () => {
    const [view] = shopViews(portal());
    expect(view.name).toBe('Frame A');
    expect(texts(view, 'Words')).toEqual(['C1', 'C1', 'B1']);
    expect(figures(view)).toEqual(expect.arrayContaining(['6 000', '4 000', '±0', '+4 000']));
  });

  it('a plate has its size, its holes and where they lie', () => {
    const m = model(member({ id: 'beam' }), plate(), bolts()),
      [view] = plateViews(m);
    expect(figures(view)).toEqual(expect.arrayContaining(['200', '100', '40', '120', '22', '56']));
    expect(circles(view)).toHaveLength(4);
    expect(texts(view, 'Words')).toEqual(['p1', 'plate, 10 thick, S355, 1 off', '4 round holes ⌀ 13']);
  });

  it('on paper each page tells its own scale, and an independent reader finds the figures', async () => {
    const m = portal(),
      views = shopViews(m),
      { bytes, papers } = await writePdf(views, {
        scale: 999,
        paper: 'A3',
        title: { project: 'Boathouse', date: '2026-11-30' },
      }),
      file = join(mkdtempSync(join(tmpdir(), 'shop-')), 'shop.pdf');
    writeFileSync(file, bytes);
    expect(papers).toHaveLength(views.length);
    const text = execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' }),
      pages = text.split('\f').slice(0, -1);
    expect(pages).toHaveLength(views.length);
    views.forEach((v, i) => {
      expect(pages[i]).toContain(`1:${v.scale} on A3`);
      expect(pages[i]).not.toContain('1:999');
    });
    expect(pages[0].replace(/\s+/g, ' ')).toContain('6 000');
  });

  it('as DXF under names that files can have', () => {
    const m = marked(
      model(
        { ...side, name: 'A/B: "west"' },
        { ...side, id: 'again', name: 'A/B: "west"' },
        upright({ id: 'w', from: [0, 0], to: [0, 4000], role: 'column' }),
        upright({ id: 'x', planeId: 'again', from: [0, 0], to: [0, 4000], role: 'column' }),
      ),
    );
    const files = frameDrawings(m);
    expect(files.map((f) => f.name)).toEqual(['A_B_ _west_', 'A_B_ _west_ (2)']);
    expect(writeDxf(files[0].drawing, 'mm')).toContain('C1');
    expect(shopViews(model())).toEqual([]);
  });
});
