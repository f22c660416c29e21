import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyTransform, type Point } from '@calque/core/geometry';
import {
  bulgeArc,
  DxfError,
  lineworkOfScene,
  parsePathData,
  readDxf,
  readSvg,
  SvgError,
  writeDxf,
  type Drawing,
  type Scene,
} from '@calque/core/exchange';
import { CLOSE, ITEM_KINDS_OF_SHEET, Verb } from '@calque/core/linework';
import { readColour, readLength, readTransform, stylesheet } from '../src/exchange/svg/style.ts';
import { dxfColour } from '../src/exchange/dxf/colours.ts';

/** A DXF of entities given as group codes and values. */
const dxf = (
  entities: (string | number)[][],
  {
    header = [9, '$INSUNITS', 70, 4] as (string | number)[],
    tables = [] as (string | number)[],
    blocks = [] as (string | number)[],
  } = {},
) =>
  [
    0,
    'SECTION',
    2,
    'HEADER',
    ...header,
    0,
    'ENDSEC',
    0,
    'SECTION',
    2,
    'TABLES',
    ...tables,
    0,
    'ENDSEC',
    0,
    'SECTION',
    2,
    'BLOCKS',
    ...blocks,
    0,
    'ENDSEC',
    0,
    'SECTION',
    2,
    'ENTITIES',
    ...entities.flat(),
    0,
    'ENDSEC',
    0,
    'EOF',
  ].join('\r\n');
const rounded = (v: number) => Math.round(v * 1e6) / 1e6;
const points = (s: Scene, i = 0) => {
  const item = s.items[i];
  return item.type === 'path' ? item.points.map((p) => p.map(rounded)) : null;
};
const rounds = (s: Scene) =>
  s.items.flatMap((i) => (i.type === 'round' ? [[i.cx, i.cy, i.r, i.start, i.end].map(rounded)] : []));
const LINE = (x0: number, y0: number, x1: number, y1: number, more: (string | number)[] = []) => [
  0,
  'LINE',
  8,
  '0',
  10,
  x0,
  20,
  y0,
  11,
  x1,
  21,
  y1,
  ...more,
];

describe('reading DXF', () => {
  it('units are what the file says, in millimetres; silence is told', () => {
    const unit = (code: number) =>
      readDxf(dxf([LINE(0, 0, 1, 0)], { header: [9, '$INSUNITS', 70, code] })).millimetresPerUnit;
    expect([1, 2, 4, 5, 6].map(unit)).toEqual([25.4, 304.8, 1, 10, 1000]);
    expect(unit(0)).toBeNull();
    expect(readDxf(dxf([LINE(0, 0, 1, 0)], { header: [] })).millimetresPerUnit).toBeNull();
  });
  it('layers have their state; what is on paper, invisible or unknown is not drawn, and unknown is counted', () => {
    const tables = [
      0,
      'LAYER',
      2,
      'Walls',
      70,
      0,
      62,
      1,
      0,
      'LAYER',
      2,
      'Off',
      70,
      0,
      62,
      -3,
      0,
      'LAYER',
      2,
      'Frozen',
      70,
      1,
      62,
      2,
    ];
    const s = readDxf(
      dxf(
        [
          [0, 'LINE', 8, 'Walls', 10, 0, 20, 0, 11, 5, 21, 0],
          [0, 'LINE', 8, 'Off', 10, 0, 20, 1, 11, 5, 21, 1],
          LINE(0, 2, 5, 2, [67, 1]),
          LINE(0, 3, 5, 3, [60, 1]),
          [0, 'MAGIC', 8, '0'],
          [0, 'MAGIC', 8, '0'],
          [0, 'XLINE', 8, '0'],
        ],
        { tables },
      ),
    );
    expect(s.layers.map((l) => [l.name, l.on])).toEqual([
      ['Walls', true],
      ['Off', false],
      ['Frozen', false],
      ['0', true],
    ]);
    expect(s.items).toHaveLength(2);
    expect(s.unknown).toEqual({ MAGIC: 2, XLINE: 1 });
    expect(s.items[0].style.colour).toBe(0xff0000);
  });
  it('colours are by layer, by number or exact', () => {
    const tables = [0, 'LAYER', 2, 'A', 70, 0, 62, 5];
    const of = (...more: (string | number)[]) =>
      readDxf(dxf([[0, 'LINE', 8, 'A', ...more, 10, 0, 20, 0, 11, 1, 21, 0]], { tables })).items[0].style
        .colour;
    expect(of()).toBe(0x0000ff);
    expect(of(62, 256)).toBe(0x0000ff);
    expect(of(62, 3)).toBe(0x00ff00);
    expect(of(420, 0x123456)).toBe(0x123456);
    expect([dxfColour(10), dxfColour(50), dxfColour(90), dxfColour(250)].map((c) => c.toString(16))).toEqual([
      'ff0000',
      'ffff00',
      'ff00',
      '333333',
    ]);
  });
  it('a bulge is the arc whose quarter angle it is the tangent of', () => {
    expect(bulgeArc([0, 0], [2, 0], 1)).toMatchObject({ r: 1 });
    expect(bulgeArc([0, 0], [2, 0], 1)!.centre.map(rounded)).toEqual([1, 0]);
    expect(bulgeArc([0, 0], [0, 0], 1)).toBeNull();
    fc.assert(
      fc.property(
        fc.double({ min: 0.05, max: 4, noNaN: true }),
        fc.boolean(),
        fc.double({ min: -3, max: 3, noNaN: true }),
        (size, left, turn) => {
          const a: Point = [3, -2],
            b: Point = [3 + 5 * Math.cos(turn), -2 + 5 * Math.sin(turn)];
          const arc = bulgeArc(a, b, left ? size : -size)!;
          for (const [p, angle] of [
            [left ? a : b, arc.start],
            [left ? b : a, arc.end],
          ] as const) {
            expect(arc.centre[0] + arc.r * Math.cos(angle)).toBeCloseTo(p[0], 8);
            expect(arc.centre[1] + arc.r * Math.sin(angle)).toBeCloseTo(p[1], 8);
          }
          // The arc's middle lies off the chord by the bulge times half of it, to the right of the way for a positive one.
          const m = (arc.start + arc.end) / 2;
          const off =
            -(arc.centre[0] + arc.r * Math.cos(m) - a[0]) * Math.sin(turn) +
            (arc.centre[1] + arc.r * Math.sin(m) - a[1]) * Math.cos(turn);
          expect(off).toBeCloseTo((left ? -1 : 1) * size * 2.5, 6);
        },
      ),
    );
  });
  it('polylines are closed where they say so, straight pieces stay straight', () => {
    const s = readDxf(
      dxf([
        [0, 'LWPOLYLINE', 8, '0', 90, 3, 70, 1, 10, 0, 20, 0, 10, 4, 20, 0, 10, 4, 20, 3],
        [0, 'LWPOLYLINE', 8, '0', 90, 2, 70, 0, 10, 0, 20, 9, 42, 1, 10, 2, 20, 9],
      ]),
    );
    expect(points(s)).toEqual([
      [0, 0],
      [4, 0],
      [4, 3],
    ]);
    expect(s.items[0].type === 'path' && s.items[0].verbs).toEqual([Verb.move, Verb.line, Verb.line | CLOSE]);
    expect(rounds(s)).toEqual([[1, 9, 1, 3.141593, 6.283185]]);
  });
  it('blocks are placed, scaled, turned, mirrored and repeated, with what is in them; layer 0 takes the layer of the reference', () => {
    const blocks = [
      0,
      'BLOCK',
      2,
      'OAR',
      10,
      1,
      20,
      0,
      ...LINE(1, 0, 3, 0),
      0,
      'CIRCLE',
      8,
      '0',
      10,
      1,
      20,
      0,
      40,
      0.5,
      0,
      'ENDBLK',
    ];
    const insert = (...more: (string | number)[]) =>
      readDxf(dxf([[0, 'INSERT', 8, 'Rack', 2, 'OAR', ...more]], { blocks }));
    const turned = insert(10, 10, 20, 20, 41, 2, 42, 2, 50, 90);
    expect(points(turned)).toEqual([
      [10, 20],
      [10, 24],
    ]);
    expect(rounds(turned)[0].slice(0, 3)).toEqual([10, 20, 1]);
    expect(turned.layers[turned.items[0].style.layer].name).toBe('Rack');
    expect(insert(10, 0, 20, 0, 70, 3, 71, 2, 44, 5, 45, 7).items).toHaveLength(12);
    expect(points(insert(10, 0, 20, 0, 41, -1))).toEqual([
      [0, 0],
      [-2, 0],
    ]);
    // Uneven scale makes an ellipse of a circle: it is drawn by curves.
    const squashed = insert(10, 0, 20, 0, 41, 1, 42, 3);
    expect(squashed.items[1]).toMatchObject({ type: 'path' });
    expect(insert(10, 0, 20, 0, 70, 5000, 71, 5000)).toMatchObject({
      items: [],
      unknown: { 'INSERT (too many copies)': 1 },
    });
  });
  it('texts are placed by their justification, formatting codes are taken out', () => {
    const text = (...more: (string | number)[]) => {
      const [item] = readDxf(dxf([[...more]])).items;
      return item.type === 'text' ? [item.text, rounded(item.x), rounded(item.y), item.height] : null;
    };
    expect(text(0, 'TEXT', 8, '0', 10, 5, 20, 6, 40, 2, 1, '%%c50 %%p1')).toEqual(['Ø50 ±1', 5, 6, 2]);
    expect(text(0, 'TEXT', 8, '0', 10, 0, 20, 0, 11, 30, 21, 40, 72, 2, 40, 2, 1, 'ab')).toEqual([
      'ab',
      27.6,
      40,
      2,
    ]);
    expect(
      text(0, 'MTEXT', 8, '0', 10, 5, 20, 6, 40, 2, 71, 1, 1, '{\\fArial|b0;Crew} \\C1;room\\S1/2;'),
    ).toEqual(['Crew room1/2', 5, 4, 2]);
    expect(
      readDxf(dxf([[0, 'MTEXT', 8, '0', 10, 0, 20, 0, 40, 1, 71, 7, 1, 'one\\Ptwo']])).items.map(
        (i) => i.type === 'text' && [i.text, rounded(i.y)],
      ),
    ).toEqual([
      ['one', 1.66],
      ['two', 0],
    ]);
  });
  it('what our own writer writes is read back at its place', () => {
    const drawing: Drawing = {
      layers: [{ name: 'Walls', colour: 0, index: 7 }],
      shapes: [
        { kind: 'line', layer: 'Walls', from: [0, 0], to: [4000, 0] },
        {
          kind: 'polyline',
          layer: 'Walls',
          points: [
            [0, 0],
            [0, 3000],
            [500, 3000],
          ],
          closed: false,
        },
        { kind: 'circle', layer: 'Walls', cx: 700, cy: 800, r: 90 },
        { kind: 'arc', layer: 'Walls', cx: 10, cy: 20, r: 30, start: 0.5, end: 2 },
      ],
    };
    for (const units of ['mm', 'm', 'in', 'ft'] as const) {
      const s = readDxf(writeDxf(drawing, units));
      const k = s.millimetresPerUnit!;
      expect(
        points(s, 0)!
          .flat()
          .map((v) => Math.round(v * k)),
      ).toEqual([0, 0, 4000, 0]);
      expect(rounds(s).map(([cx, cy, r]) => [cx, cy, r].map((v) => Math.round(v * k)))).toEqual([
        [700, 800, 90],
        [10, 20, 30],
      ]);
    }
  });
  it('never throws anything but its own refusal, whatever it is given', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.oneof(
            fc.constantFrom(
              '0',
              'LINE',
              '10',
              '20',
              '11',
              'SECTION',
              'ENTITIES',
              '2',
              'INSERT',
              'HATCH',
              '91',
              '92',
              '93',
              '72',
              'SPLINE',
              '40',
              '71',
            ),
            fc.string({ maxLength: 6 }),
            fc.integer().map(String),
          ),
          { maxLength: 60 },
        ),
        (lines) => {
          try {
            readDxf(`0\nSECTION\n2\nENTITIES\n${lines.join('\n')}\n0\nENDSEC`);
          } catch (error) {
            expect(error).toBeInstanceOf(DxfError);
          }
        },
      ),
    ));
});

describe('a scene as a sheet', () => {
  it('is at true size, its corner known, its kinds taken as named', () => {
    const s = readDxf(
      dxf(
        [
          LINE(1, 2, 11, 2),
          [0, 'HATCH', 8, '0', 91, 1, 92, 2, 72, 0, 73, 1, 93, 3, 10, 1, 20, 2, 10, 5, 20, 2, 10, 5, 20, 6],
        ],
        { header: [9, '$INSUNITS', 70, 6] },
      ),
    );
    const l = lineworkOfScene(s, 1000);
    const corner: [number, number] = [...l.reference!.origin];
    const at = applyTransform([25.4 / 72, 0, 0, 25.4 / 72, ...corner], [l.segments[0], l.segments[1]]);
    expect(at.map(rounded)).toEqual([1000, 2000]);
    expect([...l.fillEdgeKind].map((k) => ITEM_KINDS_OF_SHEET[k])).toEqual(['hatch', 'hatch', 'hatch']);
    expect(l.hatches).toBe(1);
  });
});

describe('SVG path data', () => {
  const read = (d: string) => parsePathData(d).points.map((p) => p.map(rounded));
  it('absolute and relative commands, repeated and packed', () => {
    expect(read('M10 20L30 20')).toEqual(read('m10,20 20,0'));
    expect(read('M0 0h5v5h-5z')).toEqual([
      [0, 0],
      [5, 0],
      [5, 5],
      [0, 5],
    ]);
    expect(read('M1.5.5-3-.25')).toEqual([
      [1.5, 0.5],
      [-3, -0.25],
    ]);
    expect(read('M0 0L1e1 2E+1')).toEqual([
      [0, 0],
      [10, 20],
    ]);
    expect(parsePathData('M0 0L5 0ZM9 9L10 10').verbs).toEqual([
      Verb.move,
      Verb.line | CLOSE,
      Verb.move,
      Verb.line,
    ]);
  });
  it('smooth curves take the mirrored handle; quadratic ones are raised', () => {
    expect(read('M0 0C0 5 5 5 5 0S10 -5 10 0').slice(4)).toEqual([
      [5, -5],
      [10, -5],
      [10, 0],
    ]);
    expect(read('M0 0Q5 10 10 0').map((p) => p.map((v) => Math.round(v * 100) / 100))).toEqual([
      [0, 0],
      [3.33, 6.67],
      [6.67, 6.67],
      [10, 0],
    ]);
    expect(read('M0 0Q5 10 10 0T20 0').at(-1)).toEqual([20, 0]);
  });
  it('arcs end where they say and lie on their circle; flags may be packed', () => {
    for (const [large, sweep] of [
      [0, 0],
      [0, 1],
      [1, 0],
      [1, 1],
    ]) {
      const p = parsePathData(`M10 0A10 10 0 ${large}${sweep}0 10`).points;
      expect(p.at(-1)!.map(rounded)).toEqual([0, 10]);
      // Growing angles from the first point to the second, a quarter turn about the origin: the small arc with the sweep flag.
      const centre = large !== sweep ? [0, 0] : [10, 10];
      for (let i = 0; i < p.length; i += 3)
        expect(Math.hypot(p[i][0] - centre[0], p[i][1] - centre[1])).toBeCloseTo(10, 6);
      expect((p.length - 1) / 3).toBe(large ? 6 : 2);
    }
    expect(read('M0 0A1 1 0 0 1 10 0').at(-1)).toEqual([10, 0]);
    expect(read('M0 0A0 5 0 0 1 10 0').at(-1)).toEqual([10, 0]);
  });
  it('keeps what comes before an error', () => {
    expect(read('M0 0L5 5L7')).toEqual([
      [0, 0],
      [5, 5],
    ]);
    expect(read('M0 0 W 3')).toEqual([[0, 0]]);
    expect(read('')).toEqual([]);
  });
});

describe('SVG styles', () => {
  it('lengths in every unit are CSS pixels', () => {
    expect(
      ['10', '10px', '1in', '25.4mm', '72pt', '6pc', '2.54cm'].map((t) => rounded(readLength(t, null)!)),
    ).toEqual([10, 10, 96, 96, 96, 96, 96]);
    expect([
      readLength('2em', 8),
      readLength('2em', null),
      readLength('50%', 8),
      readLength('wide', 8),
      readLength(undefined, 8),
    ]).toEqual([16, null, null, null, null]);
  });
  it('colours by name, hash and function', () => {
    expect(
      ['#f00', '#00ff7f', 'rgb(1, 2, 3)', 'rgb(100%,0%,0%)', 'Black', 'currentColor'].map((c) =>
        readColour(c, 0x112233),
      ),
    ).toEqual([0xff0000, 0x00ff7f, 0x010203, 0xff0000, 0, 0x112233]);
    expect(readColour('url(#x)', 0)).toBeNull();
  });
  it('transforms are done from the right', () => {
    const at = (t: string, p: Point) => applyTransform(readTransform(t), p).map(rounded);
    expect(at('translate(10 20) scale(2)', [1, 1])).toEqual([12, 22]);
    expect(at('rotate(90)', [1, 0])).toEqual([0, 1]);
    expect(at('rotate(90, 5, 5)', [5, 0])).toEqual([10, 5]);
    expect(at('matrix(1 0 0 -1 3 4) skewX(45)', [0, 1])).toEqual([4, 3]);
    expect(at('nonsense(1) scale(x)', [7, 8])).toEqual([7, 8]);
  });
  it('rules of element, class and id, the more particular winning', () => {
    const of = stylesheet(
      'line{stroke:red} .w{stroke:blue;fill:none} #a{stroke:lime} g > line{stroke:pink} /* .w{stroke:gold} */',
    );
    expect([
      of('line', undefined, undefined).stroke,
      of('line', 'x w', undefined).stroke,
      of('line', 'w', 'a').stroke,
    ]).toEqual(['red', 'blue', 'lime']);
    expect(of('path', undefined, undefined).stroke).toBeUndefined();
  });
  it('the viewBox sets the size; nested groups need no layer of their own', () => {
    const s = readSvg(
      '<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="50mm" viewBox="10 20 1000 500"><g id="A"><g id="inner"><line x1="10" y1="20" x2="1010" y2="520" stroke="#000"/></g></g></svg>',
    );
    expect(s.layers).toEqual([{ name: 'A', on: true }]);
    const l = lineworkOfScene(s, s.millimetresPerUnit!);
    expect([...l.segments].map((v) => Math.round(v * (25.4 / 72) * 1000) / 1000)).toEqual([0, 50, 100, 0]);
    expect(() => readSvg('<html/>')).toThrow(SvgError);
  });
});
