import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  chainRuns,
  convertRegion,
  countWithin,
  findDashes,
  joinInLine,
  type ConvertAsk,
} from '@calque/core/conversion';
import { arcPiece, makeRegion, segmentPiece, TAU, type Piece } from '@calque/core/geometry';
import { emptyLinework, kindCode, NO_SWITCHES, type Linework } from '@calque/core/linework';
import { parseEntity, type Traced } from '@calque/core/model';
import { farthest, strokesOf } from './coverage.ts';
import { chanceFrom } from './given-plan.ts';

const PAGE = 600;
const source = { underlayId: 'u', ends: 'snapped', thickness: 'typed' } as const;
const whole = makeRegion(
  [
    [
      [-5, -5],
      [PAGE + 5, -5],
      [PAGE + 5, PAGE + 5],
      [-5, PAGE + 5],
    ],
  ],
  'nonzero',
);
const ask = (more: Partial<ConvertAsk> = {}): ConvertAsk => ({
  region: whole,
  switches: NO_SWITCHES,
  placement: [10, 0, 0, 10, 0, 0],
  layering: 'file',
  planeId: 'ground',
  source,
  ...more,
});

/** A page with lines, arcs, circles and curves, drawn with one pen. */
function page(
  parts: { lines?: number[]; arcs?: number[]; circles?: number[]; curves?: number[] },
  more: Partial<Linework> = {},
): Linework {
  const l = emptyLinework(PAGE, PAGE);
  const items = (n: number, kind: 'line' | 'curve') => ({
    style: new Int32Array(2 * n).map((_, i) => (i % 2 === 0 ? -1 : 0)),
    object: new Int32Array(n),
    kind: new Uint8Array(n).fill(kindCode(kind)),
  });
  const { lines = [], arcs = [], circles = [], curves = [] } = parts;
  const a = items(lines.length / 4, 'line'),
    b = items(arcs.length / 5, 'curve'),
    c = items(circles.length / 3, 'curve'),
    d = items(curves.length / 8, 'curve');
  return {
    ...l,
    pens: [{ width: 0.5, colour: 0x203040, dash: [] }],
    segments: Float64Array.from(lines),
    segmentStyle: a.style,
    segmentObject: a.object,
    segmentKind: a.kind,
    arcs: Float64Array.from(arcs),
    arcStyle: b.style,
    arcObject: b.object,
    arcKind: b.kind,
    circles: Float64Array.from(circles),
    circleStyle: c.style,
    circleObject: c.object,
    circleKind: c.kind,
    curves: Float64Array.from(curves),
    curveStyle: d.style,
    curveObject: d.object,
    curveKind: d.kind,
    ...more,
  };
}
const kinds = (elements: readonly Traced[]) => elements.map((e) => e.type);

describe('lines in line', () => {
  it('that touch or overlap become one, doubles and what lies within another are gone', () => {
    expect([...joinInLine(Float64Array.from([0, 0, 10, 0, 10, 0, 25, 0]))]).toEqual([0, 0, 25, 0]);
    expect([...joinInLine(Float64Array.from([0, 0, 10, 0, 8, 0, 3, 0, 0, 0, 10, 0]))]).toEqual([0, 0, 10, 0]);
  });
  it('stay apart with a gap between, beside one another, or round a corner', () => {
    for (const lines of [
      [0, 0, 10, 0, 10.1, 0, 20, 0],
      [0, 0, 10, 0, 0, 0.02, 10, 0.02],
      [0, 0, 10, 0, 10, 0, 20, 0.2],
    ])
      expect(joinInLine(Float64Array.from(lines))).toHaveLength(8);
  });
  it('do not creep round a finely broken circle', () => {
    const ring = Array.from({ length: 720 }, (_, i) =>
      [
        Math.cos((i * TAU) / 720),
        Math.sin((i * TAU) / 720),
        Math.cos(((i + 1) * TAU) / 720),
        Math.sin(((i + 1) * TAU) / 720),
      ].map((v) => 10 * v),
    ).flat();
    const joined = joinInLine(Float64Array.from(ring));
    const asPieces = (a: ArrayLike<number>): Piece[] =>
      Array.from({ length: a.length / 4 }, (_, i) =>
        segmentPiece([a[4 * i], a[4 * i + 1]], [a[4 * i + 2], a[4 * i + 3]]),
      );
    expect(farthest(asPieces(ring), asPieces(joined))).toBeLessThan(0.0051);
    expect(farthest(asPieces(joined), asPieces(ring))).toBeLessThan(0.0051);
  });
});

describe('dashes', () => {
  it('of one length with equal gaps are one dashed line, at a slant too; a short end belongs to it', () => {
    const u = [Math.cos(0.4), Math.sin(0.4)],
      row = [0, 8, 16, 24, 32].flatMap((s, i) => [
        s * u[0],
        s * u[1],
        (s + (i === 4 ? 2 : 5)) * u[0],
        (s + (i === 4 ? 2 : 5)) * u[1],
      ]);
    const { dashed, left } = findDashes(Float64Array.from(row), new Uint8Array(5).fill(1));
    expect(left).toEqual([]);
    expect(dashed).toHaveLength(1);
    expect(dashed[0].dash.map((v) => Math.round(v * 1e6) / 1e6)).toEqual([5, 3]);
    expect(dashed[0].line[2]).toBeCloseTo(34 * u[0], 9);
  });
  it('are not made of strokes of other lengths, other gaps, or that meet something', () => {
    for (const row of [
      [0, 0, 5, 0, 8, 0, 15, 0, 18, 0, 20, 0, 24, 0, 33, 0],
      [0, 0, 5, 0, 8, 0, 13, 0, 20, 0, 25, 0, 26, 0, 31, 0],
    ])
      expect(findDashes(Float64Array.from(row), new Uint8Array(4).fill(1)).dashed).toEqual([]);
    expect(
      findDashes(Float64Array.from([0, 0, 5, 0, 8, 0, 13, 0, 16, 0, 21, 0, 24, 0, 29, 0]), new Uint8Array(4))
        .dashed,
    ).toEqual([]);
  });
});

describe('runs', () => {
  it('join what meets two by two, close rings, and end where three meet', () => {
    const s = (x0: number, y0: number, x1: number, y1: number) => segmentPiece([x0, y0], [x1, y1]);
    const square = chainRuns([s(0, 0, 10, 0), s(10, 10, 10, 0), s(10, 10, 0, 10), s(0, 10, 0, 0)], 0.01);
    expect(square.map((r) => [r.pieces.length, r.closed])).toEqual([[4, true]]);
    const tee = chainRuns([s(0, 0, 10, 0), s(10, 0, 20, 0), s(10, 0, 10, 8), s(20, 0, 20, 5)], 0.01);
    expect(tee.map((r) => r.pieces.length).sort()).toEqual([1, 1, 2]);
    expect(
      chainRuns(
        [s(0, 0, 10, 0), arcPiece({ cx: 10, cy: 5, r: 5, start: -Math.PI / 2, end: Math.PI / 2 })],
        0.01,
      ),
    ).toMatchObject([{ closed: false, pieces: [{ kind: 'segment' }, { kind: 'arc', clockwise: false }] }]);
  });
  it('hold every piece once, whatever is given', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(fc.nat(5), fc.nat(5), fc.nat(5), fc.nat(5)).filter(([a, b, c, d]) => a !== c || b !== d),
          { maxLength: 40 },
        ),
        (lines) => {
          const runs = chainRuns(
            lines.map(([a, b, c, d]) => segmentPiece([a, b], [c, d])),
            0.01,
          );
          expect(runs.reduce((n, r) => n + r.pieces.length, 0)).toBe(lines.length);
        },
      ),
    );
  });
});

describe('converting a region', () => {
  it('gives a broken rectangle as one closed path, a circle as a circle, a dashed row as one line, in true millimetres', () => {
    const rectangle = [
      100, 100, 150, 100, 150, 100, 200, 100, 200, 100, 200, 180, 200, 180, 100, 180, 100, 180, 100, 100,
    ];
    const dashes = [0, 8, 16, 24, 32].flatMap((x) => [300 + x, 300, 305 + x, 300]);
    const { elements, layers, from } = convertRegion(
      page({
        lines: [...rectangle, ...rectangle.slice(0, 4), ...dashes],
        circles: [400, 400, 20, 400, 400, 20],
        arcs: [50, 50, 10, 0, 1],
      }),
      ask(),
    );
    expect(kinds(elements).sort()).toEqual(['arc', 'arc', 'line', 'path']);
    expect(elements.find((e) => e.type === 'path')).toMatchObject({ closed: true, bulges: [0, 0, 0, 0] });
    expect(elements.find((e) => e.type === 'line')).toMatchObject({
      from: [3000, 3000],
      to: [3370, 3000],
      dash: [50, 30],
    });
    expect(elements.find((e) => e.type === 'arc' && e.sweep > 6)).toMatchObject({
      centre: [4000, 4000],
      radius: 200,
    });
    expect(layers).toMatchObject([{ name: 'Lines', colour: 0x203040 }, { name: 'Curves' }]);
    expect(from).toBe(14);
    for (const e of elements) expect(() => parseEntity({ ...e, id: 'x' })).not.toThrow();
  });
  it('takes what is on, within the region, cut at its edge, on the layers of the file', () => {
    const l = page(
      { lines: [0, 100, 400, 100, 0, 200, 400, 200] },
      {
        layers: [
          { name: 'A-WALL', on: true, segments: 1 },
          { name: 'A-DOOR', on: true, segments: 1 },
        ],
      },
    );
    l.segmentStyle.set([0, 0, 1, 0]);
    const box = makeRegion(
      [
        [
          [100, 0],
          [300, 0],
          [300, 500],
          [100, 500],
        ],
      ],
      'nonzero',
    );
    const both = convertRegion(l, ask({ region: box }));
    expect(both.layers.map((x) => x.name)).toEqual(['A-WALL', 'A-DOOR']);
    for (const e of both.elements)
      expect(e.type === 'line' && [Math.abs(e.from[0] - 1000) < 0.2, Math.abs(e.to[0] - 3000) < 0.2]).toEqual(
        [true, true],
      );
    const one = convertRegion(l, ask({ switches: { ...NO_SWITCHES, layers: { 'A-DOOR': false } } }));
    expect(one.elements).toHaveLength(1);
    expect(convertRegion(l, ask({ layering: 'kind' })).layers.map((x) => x.name)).toEqual(['Lines']);
    expect(countWithin(l, whole, { ...NO_SWITCHES, kinds: ['line'] })).toEqual({
      lines: 0,
      curves: 0,
      texts: 0,
    });
  });
  it('makes curves of arcs where the sheet is stretched more one way', () => {
    const { elements } = convertRegion(
      page({ circles: [300, 300, 100] }),
      ask({ placement: [10, 0, 0, 12, 0, 0] }),
    );
    expect(kinds(elements)).toEqual(['spline']);
    for (const [x, y] of (elements[0] as Extract<Traced, { type: 'spline' }>).controls.filter(
      (_, i) => i % 3 === 0,
    ))
      expect(Math.hypot((x - 3000) / 1000, (y - 3600) / 1200)).toBeCloseTo(1, 9);
  });
  it('keeps every stroke within a hundredth of a point and draws nothing that was not there', () => {
    fc.assert(
      fc.property(fc.nat(1e6), (seed) => {
        const chance = chanceFrom(seed),
          lines: number[] = [],
          arcs: number[] = [];
        // Lines on a coarse grid meet, overlap and lie in line often.
        const g = () => Math.round(chance() * 12) * 8 + 100;
        for (let i = 0; i < 120; i++) {
          const x = g(),
            y = g(),
            along = Math.round(chance() * 4) * 8;
          lines.push(
            x,
            y,
            ...(chance() < 0.4
              ? [x + along + 8, y]
              : chance() < 0.7
                ? [x, y + along + 8]
                : [g() + 3, g() + 1]),
          );
        }
        for (let i = 0; i < 12; i++) arcs.push(g(), g(), 8, chance() * 6, 0);
        for (let i = 4; i < arcs.length; i += 5) arcs[i] = arcs[i - 1] + 0.3 + chance() * 5;
        const placement = [7, 3, -3, 7, 20, 40] as const;
        const { elements } = convertRegion(page({ lines, arcs }), ask({ placement }));
        const before = [
          ...Array.from({ length: lines.length / 4 }, (_, i) =>
            segmentPiece([lines[4 * i], lines[4 * i + 1]], [lines[4 * i + 2], lines[4 * i + 3]]),
          ),
          ...Array.from({ length: arcs.length / 5 }, (_, i) =>
            arcPiece({
              cx: arcs[5 * i],
              cy: arcs[5 * i + 1],
              r: arcs[5 * i + 2],
              start: arcs[5 * i + 3],
              end: arcs[5 * i + 4],
            }),
          ),
        ];
        const after = strokesOf(elements, placement);
        expect(farthest(before, after)).toBeLessThan(0.01);
        expect(farthest(after, before)).toBeLessThan(0.01);
      }),
      { numRuns: 60 },
    );
  });
});
