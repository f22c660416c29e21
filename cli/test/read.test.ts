import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { decodeLinework } from '@calque/core/linework';
import { indexFromBytes, sheetSnapper } from '@calque/core/snapping';
import { calque, folder, root, sheet } from './calque.ts';

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
