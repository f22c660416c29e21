import { describe, expect, it } from 'vitest';
import { kindOf } from '../src/kinds.ts';
import { readDrawing } from '../src/drawing/read-drawing.ts';
import { ReadFailure } from '../src/failure.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
const dxf = (pairs: readonly (string | number)[]) => bytes(pairs.join('\n'));
const entities = (...parts: readonly (string | number)[][]) =>
  dxf(
    [
      0,
      'SECTION',
      2,
      'HEADER',
      9,
      '$INSUNITS',
      70,
      4,
      0,
      'ENDSEC',
      0,
      'SECTION',
      2,
      'ENTITIES',
      0,
      'LINE',
      10,
      0,
      20,
      0,
      11,
      100,
      21,
      50,
    ].concat(...(parts as never[]), [0, 'ENDSEC', 0, 'EOF'] as never),
  );
/** What comes of reading: lines, or the code of a failure. Everything else is a fault; what took minutes, gigabytes or for ever before runs into the time of the test. */
function outcome(read: () => { linework: { segments: ArrayLike<number> } }): number | string {
  try {
    return read().linework.segments.length / 4;
  } catch (error) {
    if (error instanceof ReadFailure) return error.code;
    throw error;
  }
}
const read = (b: Uint8Array, kind: 'dxf' | 'svg') => outcome(() => readDrawing(b, kind, 1));

describe('what a file is', () => {
  it.each([
    ['comments again and again', '<!---->'.repeat(1100)],
    ['declarations without end', '<?xml '.repeat(1300)],
    ['document types within', '<!DOCTYPE a ['.repeat(600)],
    ['spaces alone', ' '.repeat(8000)],
  ])('is told at once of %s', (_, text) => {
    expect(kindOf(bytes(text))).toBeNull();
  });
  it('an svg is found behind comments, declarations and a document type with parts', () => {
    expect(
      kindOf(
        bytes(
          '<?xml version="1.0"?>\n<!-- a --><!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "svg11.dtd" [<!ENTITY a "b">]>\n<!----><svg:svg >',
        ),
      ),
    ).toBe('svg');
    expect(kindOf(bytes('<!DOCTYPE svg PUBLIC "x">\n<SVG>'))).toBe('svg');
    expect(kindOf(bytes('<html><svg></svg></html>'))).toBeNull();
  });
});

describe('a DXF made to break readers', () => {
  const block = (name: string, inserts: readonly string[]) => [
    0,
    'BLOCK',
    2,
    name,
    10,
    0,
    20,
    0,
    ...inserts.flatMap((of) => [0, 'INSERT', 2, of, 10, 1, 20, 1]),
    0,
    'LINE',
    10,
    0,
    20,
    0,
    11,
    1,
    21,
    1,
    0,
    'ENDBLK',
  ];
  const blocks = (all: (string | number)[], of: string) =>
    dxf([
      0,
      'SECTION',
      2,
      'BLOCKS',
      ...all,
      0,
      'ENDSEC',
      0,
      'SECTION',
      2,
      'ENTITIES',
      0,
      'INSERT',
      2,
      of,
      10,
      0,
      20,
      0,
      0,
      'ENDSEC',
      0,
      'EOF',
    ]);

  it('a block that inserts itself is drawn once and counted', () => {
    const { linework, unknown } = readDrawing(blocks(block('A', ['A', 'A']), 'A'), 'dxf', 1);
    expect([linework.segments.length / 4, unknown['INSERT (of itself)']]).toEqual([1, 2]);
  });
  it('blocks within blocks that would be billions are refused in words', () => {
    const all = Array.from({ length: 22 }, (_, k) =>
      block(`B${k}`, k === 0 ? [] : Array.from({ length: 4 }, () => `B${k - 1}`)),
    ).flat();
    expect(read(blocks(all, 'B21'), 'dxf')).toBe('too-large');
  });
  it.each([
    ['an arc to minus 1e300', [0, 'ARC', 10, 0, 20, 0, 40, 5, 50, 0, 51, -1e300]],
    ['an arc from 1e300', [0, 'ARC', 10, 0, 20, 0, 40, 5, 50, 1e300, 51, 3]],
    ['an ellipse of 1e300 turns', [0, 'ELLIPSE', 10, 0, 20, 0, 11, 5, 21, 0, 40, 0.5, 41, 0, 42, 1e300]],
    ['a line to the end of numbers', [0, 'LINE', 10, 0, 20, 0, 11, 1e308, 21, 1e308]],
    ['a circle of 1e200', [0, 'CIRCLE', 10, 0, 20, 0, 40, 1e200]],
    ['a bulge of 1e300', [0, 'LWPOLYLINE', 90, 2, 10, 0, 20, 0, 42, 1e300, 10, 5, 20, 5]],
    [
      'a spline of degree 1e9',
      [0, 'SPLINE', 71, 1e9, 40, 0, 40, 1, 10, 0, 20, 0, 10, 5, 20, 5, 10, 9, 20, 0],
    ],
    [
      'a spline of half a degree',
      [0, 'SPLINE', 71, 0.5, 40, 0, 40, 0, 40, 1, 40, 1, 10, 0, 20, 0, 10, 5, 20, 5],
    ],
    [
      'a hatch of 1e300 edges',
      [0, 'HATCH', 91, 1e300, 92, 1, 93, 1e300, 72, 2, 10, 0, 20, 0, 40, 5, 50, 0, 51, 1e300, 73, 1],
    ],
    ['copies by the billion', [0, 'INSERT', 2, 'X', 70, 30000, 71, 30000]],
  ])('%s is read to an end, and the good line with it', (_, pairs) => {
    expect(read(entities(pairs as (string | number)[]), 'dxf')).toBeGreaterThanOrEqual(1);
  });
  it('a spline of two hundred thousand knots, a hatch of as many corners, a text of formatting without end, as many layers', () => {
    const n = 200000;
    const knots = Array.from({ length: n + 4 }, (_, i) => [40, i]).flat(),
      controls = Array.from({ length: n }, (_, i) => [10, i, 20, i % 7]).flat();
    expect(read(entities([0, 'SPLINE', 71, 3], knots, controls), 'dxf')).toEqual(expect.anything());
    expect(read(entities([0, 'HATCH', 91, 1, 92, 2, 72, 0, 73, 1, 93, n], controls), 'dxf')).toEqual(
      expect.anything(),
    );
    expect(
      read(
        entities(
          [0, 'MTEXT', 10, 0, 20, 0, 40, 2],
          Array.from({ length: 4000 }, () => [3, '\\A\\S\\f'.repeat(40)]).flat(),
        ),
        'dxf',
      ),
    ).toEqual(expect.anything());
    expect(
      read(
        entities(
          Array.from({ length: 15000 }, (_, i) => [0, 'LINE', 8, `L${i}`, 10, i, 20, 0, 11, i, 21, 9]).flat(),
        ),
        'dxf',
      ),
    ).toEqual(expect.anything());
  });
});

describe('an SVG made to break readers', () => {
  const svg = (inside: string) =>
    bytes(
      `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="80mm" viewBox="0 0 100 80"><line x1="0" y1="0" x2="9" y2="9" stroke="#000"/>${inside}</svg>`,
    );
  it.each([
    [
      'a transform of a million letters',
      `<g transform="${'a'.repeat(1e6)}"><line x2="5" stroke="#000"/></g>`,
    ],
    ['transforms that never open', `<g transform="${'rotate '.repeat(5e5)}"/>`],
    ['a style sheet without a brace', `<style>${'.a '.repeat(4e5)}</style>`],
    ['comments never closed', `<style>${'/*'.repeat(5e5)}</style>`],
    ['braces never closed', `<style>${'a{'.repeat(5e5)}</style>`],
    ['a length of a million digits', `<rect width="${'1'.repeat(1e6)}!" height="5" stroke="#000"/>`],
    ['numbers beyond numbers', '<path d="M0 0L1e400 5L1e308 1e308" stroke="#000"/>'],
    ['a scale of 1e300', '<g transform="scale(1e300)"><line x2="5e9" stroke="#000"/></g>'],
    [
      'dashes by the hundred thousand',
      `<g stroke-dasharray="${'1,'.repeat(1e5)}1">${'<line x2="5" stroke="#000"/>'.repeat(3000)}</g>`,
    ],
    ['an ellipse of 1e300', '<ellipse cx="5" cy="5" rx="1e300" ry="1" stroke="#000"/>'],
  ])('%s is read to an end, and the good line with it', (_, inside) => {
    expect(read(svg(inside), 'svg')).toBeGreaterThanOrEqual(1);
  });
  it('uses of uses that would be billions, and nesting without end, are refused in words', () => {
    const defs = Array.from(
      { length: 15 },
      (_, k) =>
        `<g id="g${k}">${k === 0 ? '<line x2="5" stroke="#000"/>' : `<use href="#g${k - 1}"/>`.repeat(6)}</g>`,
    ).join('');
    expect(read(svg(`<defs>${defs}</defs><use href="#g14"/>`), 'svg')).toBe('too-large');
    expect(read(svg('<g>'.repeat(2e5)), 'svg')).toBe('damaged');
    expect(read(svg('<g>'.repeat(2e5) + '</g>'.repeat(2e5)), 'svg')).toBe('damaged');
  });
});
