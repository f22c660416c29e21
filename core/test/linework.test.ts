import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { makeRegion, type Cubic, type Point, type Region, type Transform } from '@calque/core/geometry';
import {
  CLOSE,
  decodeLinework,
  encodeLinework,
  PageInterpreter,
  recogniseRun,
  Verb,
  type Colour,
  type Linework,
  type PathObject,
} from '@calque/core/linework';
import { buildSheetIndex, indexBytes, indexFromBytes, sheetSnapper } from '@calque/core/snapping';

const BLACK: Colour = { r: 0, g: 0, b: 0, a: 255 },
  WHITE: Colour = { r: 255, g: 255, b: 255, a: 255 },
  GREY: Colour = { r: 128, g: 128, b: 128, a: 255 };
const IDENTITY: Transform = [1, 0, 0, 1, 0, 0];

function path(points: Point[], more: Partial<PathObject> & { closed?: boolean } = {}): PathObject {
  const verbs = new Uint8Array(points.map((_, i) => (i === 0 ? Verb.move : Verb.line)));
  if (more.closed) verbs[verbs.length - 1] |= CLOSE;
  return {
    coords: new Float64Array(points.flat()),
    verbs,
    count: points.length,
    matrix: IDENTITY,
    clips: [],
    layer: -1,
    hidden: false,
    fill: 'none',
    fillColour: null,
    opaque: false,
    stroke: BLACK,
    strokeWidth: 1,
    dash: [],
    ...more,
  };
}
const line = (x0: number, y0: number, x1: number, y1: number, more: Partial<PathObject> = {}) =>
  path(
    [
      [x0, y0],
      [x1, y1],
    ],
    more,
  );
const box = (x0: number, y0: number, x1: number, y1: number): Point[] => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
];
const fillOf = (
  x0: number,
  y0: number,
  x1: number,
  y1: number,
  colour: Colour,
  more: Partial<PathObject> = {},
) =>
  path(box(x0, y0, x1, y1), {
    closed: true,
    stroke: null,
    fill: 'nonzero',
    fillColour: colour,
    opaque: true,
    ...more,
  });
const region = (...rings: Point[][]): Region => makeRegion(rings, 'nonzero');

function interpret(objects: PathObject[], options: { allLayers?: boolean } = {}): Linework {
  const interpreter = new PageInterpreter({
    width: 200,
    height: 100,
    layers: [{ name: 'off', on: false }],
    ...options,
  });
  for (const o of objects) interpreter.path(o);
  return interpreter.finish();
}
const segments = (l: Linework) =>
  Array.from({ length: l.segments.length / 4 }, (_, i) =>
    [...l.segments.subarray(4 * i, 4 * i + 4)].map((v) => Math.round(v * 1e6) / 1e6),
  );

describe('what a person can see', () => {
  it('a rectangle is four segments, a polyline its edges', () => {
    expect(
      interpret([
        path(box(10, 10, 50, 40), { closed: true }),
        path([
          [0, 0],
          [5, 5],
          [9, 5],
        ]),
      ]).counts.segments,
    ).toBe(6);
  });
  it('a subpath that closes onto its own start has no fifth edge', () => {
    expect(interpret([path([...box(10, 10, 50, 40), [10, 10]], { closed: true })]).counts).toMatchObject({
      segments: 4,
    });
  });
  it('cuts at a clip, at each hole, and counts the drawn line once', () => {
    const clips = [region(box(20, 20, 60, 80), box(100, 20, 140, 80))];
    const l = interpret([line(0, 50, 200, 50, { clips })]);
    expect(segments(l)).toEqual(
      [
        [20, 50, 60, 50],
        [100, 50, 140, 50],
      ].map((s) => s.map((v, i) => (i % 2 === 0 ? expect.closeTo(v, 1) : v))),
    );
    expect(l.counts.segments).toBe(1);
  });
  it('keeps a line that runs along the edge of its own clip', () => {
    expect(
      interpret([
        line(20, 20, 60, 20, { clips: [region(box(20, 20, 60, 80))] }),
        line(20, 20, 60, 20, {
          clips: [
            region([
              [20, 20],
              [60, 20],
              [40, 70],
            ]),
          ],
        }),
      ]).counts.segments,
    ).toBe(2);
  });
  it('leaves out what lies outside the clip, outside the page, without length or paint, and says so', () => {
    const l = interpret([
      line(0, 90, 10, 90, { clips: [region(box(20, 20, 60, 80))] }),
      line(300, 10, 400, 10),
      line(5, 5, 5, 5),
      line(0, 0, 10, 0, { stroke: null }),
      line(0, 0, 10, 0, { stroke: { ...BLACK, a: 0 } }),
    ]);
    expect(l.counts.segments).toBe(0);
    expect(l.leftOut).toEqual({
      clipped: 1,
      outside: 1,
      zeroLength: 1,
      unpainted: 2,
      paperColoured: 0,
      covered: 0,
    });
  });
  it('leaves out paper-coloured lines on paper and keeps them on a dark fill', () => {
    const white = { stroke: WHITE };
    expect(interpret([line(10, 10, 50, 10, white)]).leftOut.paperColoured).toBe(1);
    expect(interpret([fillOf(0, 0, 100, 50, GREY), line(10, 10, 50, 10, white)]).counts.segments).toBe(1);
    expect(
      interpret([fillOf(0, 0, 100, 50, GREY), fillOf(0, 0, 100, 50, WHITE), line(10, 10, 50, 10, white)])
        .leftOut.paperColoured,
    ).toBeGreaterThan(0);
  });
  it('leaves out what a later opaque fill covers wholly, also several together, and keeps what shows in part', () => {
    expect(interpret([line(10, 10, 50, 10), fillOf(0, 0, 100, 50, WHITE)]).leftOut.covered).toBe(1);
    expect(
      interpret([line(10, 10, 90, 10), fillOf(0, 0, 50, 50, GREY), fillOf(50, 0, 100, 50, GREY)]).counts
        .segments,
    ).toBe(0);
    expect(segments(interpret([line(10, 10, 150, 10), fillOf(0, 0, 100, 50, WHITE)]))).toEqual([
      [10, 10, 150, 10],
    ]);
    expect(interpret([fillOf(0, 0, 100, 50, WHITE), line(10, 10, 50, 10)]).counts.segments).toBe(1);
    expect(
      interpret([line(10, 10, 50, 10), fillOf(0, 0, 100, 50, WHITE, { opaque: false })]).counts.segments,
    ).toBe(1);
  });
  it('keeps the outline of a shape that is filled afterwards', () => {
    expect(
      interpret([path(box(10, 10, 50, 40), { closed: true }), fillOf(10, 10, 50, 40, GREY)]).counts.segments,
    ).toBe(4);
  });
  it('a fill with the same outline as a stroke offers each edge once', () => {
    const l = interpret([fillOf(10, 10, 50, 40, GREY), path(box(10, 10, 50, 40), { closed: true })]);
    expect([l.counts.segments, l.fillEdges.length]).toEqual([4, 0]);
    expect(interpret([fillOf(10, 10, 50, 40, GREY)]).fillEdges.length / 4).toBe(4);
  });
  it('hides layers that are off, unless asked', () => {
    const objects = [line(0, 0, 10, 0, { layer: 0, hidden: true })];
    expect(interpret(objects).counts.segments).toBe(0);
    expect(interpret(objects, { allLayers: true }).layers[0].segments).toBe(1);
  });
  it('refuses coordinates that are not finite', () => {
    expect(interpret([line(0, 0, NaN, 5), line(0, 0, Infinity, 5)]).counts.segments).toBe(0);
  });
});

/** The usual Bézier pieces of an arc. */
function arcPieces(
  cx: number,
  cy: number,
  r: number,
  start: number,
  sweep: number,
  n: number,
  round = 6,
): Cubic[] {
  const k = (v: number) => Math.round(v * 10 ** round) / 10 ** round;
  const step = sweep / n,
    h = (4 / 3) * Math.tan(step / 4) * r;
  return Array.from({ length: n }, (_, i) => {
    const a = start + i * step,
      b = a + step;
    const [ax, ay, bx, by] = [
      cx + r * Math.cos(a),
      cy + r * Math.sin(a),
      cx + r * Math.cos(b),
      cy + r * Math.sin(b),
    ];
    return [
      ax,
      ay,
      ax - h * Math.sin(a),
      ay + h * Math.cos(a),
      bx + h * Math.sin(b),
      by - h * Math.cos(b),
      bx,
      by,
    ].map(k) as unknown as Cubic;
  });
}

describe('arcs recognised from Béziers', () => {
  const radius = fc.double({ min: 1, max: 900, noNaN: true }),
    centre = fc.double({ min: -1000, max: 1000, noNaN: true });
  it('circles of two to sixteen pieces, with three decimals', () => {
    fc.assert(
      fc.property(
        centre,
        centre,
        radius,
        fc.constantFrom(2, 3, 4, 8, 16),
        fc.boolean(),
        (cx, cy, r, n, back) => {
          const found = recogniseRun(arcPieces(cx, cy, r, 0.3, back ? -2 * Math.PI : 2 * Math.PI, n, 3));
          expect(found).toHaveLength(1);
          if (found[0].kind !== 'circle') throw new Error(found[0].kind);
          expect(Math.hypot(found[0].circle.cx - cx, found[0].circle.cy - cy)).toBeLessThan(0.02);
          expect(Math.abs(found[0].circle.r - r)).toBeLessThan(0.02);
        },
      ),
    );
  });
  it('arcs of any sweep keep centre, radius and ends, counter-clockwise', () => {
    fc.assert(
      fc.property(
        centre,
        centre,
        radius,
        fc.double({ min: -Math.PI, max: Math.PI, noNaN: true }),
        fc.double({ min: 0.5, max: 5.5, noNaN: true }),
        fc.boolean(),
        (cx, cy, r, start, sweep, back) => {
          const found = recogniseRun(
            arcPieces(cx, cy, r, start, back ? -sweep : sweep, Math.ceil(sweep / (Math.PI / 2))),
          );
          expect(found).toHaveLength(1);
          if (found[0].kind !== 'arc') throw new Error(found[0].kind);
          const { arc } = found[0];
          expect(Math.hypot(arc.cx - cx, arc.cy - cy)).toBeLessThan(0.01 * r + 0.01);
          expect(arc.end - arc.start).toBeCloseTo(sweep, 1);
        },
      ),
    );
  });
  it('a straight Bézier is a line; an ellipse and a free curve stay curves', () => {
    expect(recogniseRun([[0, 0, 1, 1, 2, 2, 3, 3]])[0].kind).toBe('segment');
    const ellipse = arcPieces(0, 0, 100, 0, 2 * Math.PI, 4).map(
      (c) => c.map((v, i) => (i % 2 ? v * 1.3 : v)) as unknown as Cubic,
    );
    expect(recogniseRun(ellipse).every((f) => f.kind === 'curve')).toBe(true);
    expect(recogniseRun([[0, 0, 30, 60, 70, -60, 100, 0]])[0].kind).toBe('curve');
  });
});

describe('circles of files that round their coordinates', () => {
  /** Hundredths of a millimetre, as office programs write them. */
  const K = 72 / 2540;
  /** A circle of pieces, millimetres, its coordinates rounded to a step: one path, or each piece a path by itself. */
  function rounded(cx: number, cy: number, r: number, n: number, apart: boolean, step = 1): PathObject[] {
    const pieces = arcPieces(100 * cx, 100 * cy, 100 * r, 0.4, 2 * Math.PI, n).map((c) =>
      c.map((v) => Math.round(v / step) * step),
    );
    const curve = (cs: number[][]): PathObject => ({
      ...path([
        [cs[0][0], cs[0][1]],
        ...cs.flatMap((c): Point[] => [
          [c[2], c[3]],
          [c[4], c[5]],
          [c[6], c[7]],
        ]),
      ]),
      verbs: new Uint8Array([Verb.move, ...cs.flatMap(() => [Verb.curve, Verb.curve, Verb.curve])]),
      matrix: [K, 0, 0, K, 0, 0],
    });
    return apart ? pieces.map((c) => curve([c])) : [curve(pieces)];
  }
  const size = fc.double({ min: 1.2, max: 8, noNaN: true }),
    place = fc.double({ min: 15, max: 20, noNaN: true });
  it('are one circle each, drawn in three or four pieces, together or each by itself', () => {
    fc.assert(
      fc.property(size, place, place, fc.constantFrom(3, 4), fc.boolean(), (r, cx, cy, n, apart) => {
        const l = interpret(rounded(cx, cy, r, n, apart));
        expect([
          l.circles.length / 3,
          l.arcs.length,
          l.curves.length,
          l.counts.circles,
          l.counts.arcs,
        ]).toEqual([1, 0, 0, 1, 0]);
        // Within two steps of the rounding.
        expect(Math.hypot(l.circles[0] - 100 * cx * K, l.circles[1] - 100 * cy * K)).toBeLessThan(2 * K);
        expect(Math.abs(l.circles[2] - 100 * r * K)).toBeLessThan(2 * K);
        expect([...l.circleStyle, ...l.circleObject]).toHaveLength(3);
      }),
      { numRuns: 300 },
    );
  });
  it('pieces that do not go once round, have other pens, or lie round centres apart stay arcs', () => {
    const [a, b, c, d] = rounded(17, 17, 6, 4, true);
    expect(interpret([a, b, c]).counts).toMatchObject({ circles: 0, arcs: 3 });
    expect(interpret([a, b, c, { ...d, strokeWidth: 3 }]).counts).toMatchObject({ circles: 0, arcs: 4 });
    // The corners of a rounded rectangle.
    const corners = [
      [30, 20],
      [20, 20],
      [20, 15],
      [30, 15],
    ].map(([x, y], i) => rounded(x, y, 2, 4, true)[i]);
    expect(interpret(corners).counts).toMatchObject({ circles: 0, arcs: 4 });
    // An oval of four arcs that meet smoothly, hardly longer than wide.
    const half = (cx: number, cy: number, r: number, start: number) => ({
      ...path([]),
      ...rounded(cx, cy, r, 4, true)[0],
      coords: new Float64Array(
        arcPieces(100 * cx, 100 * cy, 100 * r, start, Math.PI / 2, 1)
          .flat()
          .map(Math.round),
      ),
      count: 4,
      verbs: new Uint8Array([Verb.move, Verb.curve, Verb.curve, Verb.curve]),
    });
    const oval = [
      half(17.1, 17, 4.9, -Math.PI / 4),
      half(17, 16.9, 5.041, Math.PI / 4),
      half(16.9, 17, 4.9, (3 * Math.PI) / 4),
      half(17, 17.1, 5.041, (5 * Math.PI) / 4),
    ];
    expect(interpret(oval).counts).toMatchObject({ circles: 0, arcs: 4 });
    // Two circles about one centre are two.
    expect(interpret([...rounded(17, 17, 6, 4, true), ...rounded(17, 17, 4, 3, true)]).counts).toMatchObject({
      circles: 2,
      arcs: 0,
    });
  });
  it('an ellipse that is nearly one stays what it is, and so does a curve on a coarse grid', () => {
    const ellipse = rounded(17, 17, 6, 4, false).map((o) => ({
      ...o,
      coords: o.coords.map((v, i) => (i % 2 ? Math.round(17 * 100 + (v - 1700) * 1.04) : v)),
    }));
    expect(interpret(ellipse).counts).toMatchObject({ circles: 0 });
    const coarse: PathObject = {
      ...path([
        [0, 0],
        [10, 20],
        [30, 25],
        [40, 0],
      ]),
      verbs: new Uint8Array([Verb.move, Verb.curve, Verb.curve, Verb.curve]),
    };
    expect(interpret([coarse]).counts).toMatchObject({ curves: 1, arcs: 0, circles: 0 });
  });
});

it('stored linework comes back the same, with its index; other bytes are refused', () => {
  const l = interpret([
    line(1, 2, 3, 4),
    fillOf(10, 10, 50, 40, GREY),
    path(box(60, 10, 90, 40), { closed: true, dash: [3, 1] }),
  ]);
  const bytes = encodeLinework(l, indexBytes(buildSheetIndex(l)));
  const back = decodeLinework(bytes.buffer);
  expect(back.linework).toEqual(l);
  expect(sheetSnapper(back.linework, indexFromBytes(back.index)).query(1.1, 2, 1)[0]).toMatchObject({
    kind: 'end',
    x: 1,
    y: 2,
  });
  expect(() => decodeLinework(new ArrayBuffer(4))).toThrow(/CQLW/);
  const newer = bytes.slice();
  newer[4] = 99;
  expect(() => decodeLinework(newer.buffer)).toThrow(/version 99/);
});
