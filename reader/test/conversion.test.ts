import { expect, it } from 'vitest';
import { farthest, strokesOf } from '../../core/test/coverage.ts';
import { convertRegion } from '@calque/core/conversion';
import {
  arcPiece,
  boxRing,
  cubicPiece,
  makeRegion,
  segmentPiece,
  TAU,
  type Cubic,
  type Piece,
} from '@calque/core/geometry';
import { NO_SWITCHES, type Linework } from '@calque/core/linework';
import { parseEntity } from '@calque/core/model';
import { bytesOf, read } from './truth.ts';

function drawnOn(l: Linework): Piece[] {
  const rows = (a: Float64Array, n: number) =>
    Array.from({ length: a.length / n }, (_, i) => [...a.subarray(i * n, i * n + n)]);
  return [
    ...[l.segments, l.fillEdges].flatMap((a) =>
      rows(a, 4).map(([x0, y0, x1, y1]) => segmentPiece([x0, y0], [x1, y1])),
    ),
    ...rows(l.arcs, 5).map(([cx, cy, r, start, end]) => arcPiece({ cx, cy, r, start, end })),
    ...rows(l.circles, 3).map(([cx, cy, r]) => arcPiece({ cx, cy, r, start: 0, end: TAU })),
    ...rows(l.curves, 8).map((c) => cubicPiece(c as unknown as Cubic)),
  ];
}

it.each([
  '01_cairo_plan_100.pdf',
  '02_reportlab_imperial_ocg.pdf',
  '03_tikz_plan_50_rotated_wing.pdf',
  '04_chromium_fit973_wrong_dim.pdf',
  '05_rsvg_nested_forms_clips.pdf',
  '14_cairo_text_as_outlines.pdf',
])('%s converted whole keeps every stroke within a hundredth of a point and adds none', async (file) => {
  const {
    pages: [{ linework: l }],
  } = await read(bytesOf(file));
  const placement = [30, 10, -10, 30, 5, 7] as const;
  const { elements } = convertRegion(l, {
    region: makeRegion([boxRing([-50, -50, l.width + 50, l.height + 50])], 'nonzero'),
    switches: NO_SWITCHES,
    placement,
    layering: 'file',
    planeId: 'ground',
    source: { underlayId: 'u', ends: 'snapped', thickness: 'typed' },
  });
  const before = drawnOn(l),
    after = strokesOf(
      elements.filter((e) => e.type !== 'text'),
      placement,
      l.pens.map((p) => p.dash.map((d) => d * Math.hypot(30, 10))),
    );
  expect(farthest(before, after)).toBeLessThan(0.01);
  expect(farthest(after, before)).toBeLessThan(0.01);
  expect(elements.filter((e) => e.type === 'text')).toHaveLength(
    l.texts.filter((t) => t.text.trim() !== '').length,
  );
  expect(elements.length).toBeLessThan(before.length + l.texts.length);
  for (const e of elements) expect(() => parseEntity({ ...e, id: 'x' })).not.toThrow();
});
