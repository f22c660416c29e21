import { describe, expect, it } from 'vitest';
import { makeRegion, type Point } from '@calque/core/geometry';
import {
  decodeLinework,
  encodeLinework,
  kindCode,
  PageInterpreter,
  penKey,
  penUses,
  Verb,
  type Linework,
  type PathObject,
} from '@calque/core/linework';
import { readFigure } from '@calque/core/units';

const BLACK = { r: 0, g: 0, b: 0, a: 255 };
type Stroke = readonly [number, number, number, number];
const stroke = ([x0, y0, x1, y1]: Stroke, more: Partial<PathObject> = {}): PathObject => ({
  coords: new Float64Array([x0, y0, x1, y1]),
  verbs: Uint8Array.of(Verb.move, Verb.line),
  count: 2,
  matrix: [1, 0, 0, 1, 0, 0],
  clips: [],
  layer: -1,
  hidden: false,
  fill: 'none',
  fillColour: null,
  opaque: false,
  stroke: BLACK,
  strokeWidth: 0.25,
  dash: [],
  ...more,
});
function page(
  strokes: readonly Stroke[],
  texts: readonly { text: string; x: number; y: number; height?: number; turn?: number }[] = [],
  more: Partial<PathObject> = {},
): Linework {
  const interpreter = new PageInterpreter({ width: 842, height: 595, layers: [] });
  for (const s of strokes) interpreter.path(stroke(s, more));
  for (const { text, x, y, height = 6, turn = 0 } of texts) {
    const c = Math.cos(turn),
      s = Math.sin(turn);
    interpreter.text({
      matrix: [c, s, -s, c, x, y],
      clips: [],
      layer: -1,
      hidden: false,
      text,
      size: height,
      width: 0.5 * height * text.length,
      colour: BLACK,
      invisible: false,
    });
  }
  return interpreter.finish();
}
const kinds = (l: Linework) => [...l.segmentKind];
const HATCH = kindCode('hatch'),
  LINE = kindCode('line'),
  DIMENSION = kindCode('dimension'),
  TEXT = kindCode('text');
const rows = (n: number, make: (i: number) => Stroke) => Array.from({ length: n }, (_, i) => make(i));

describe('hatches', () => {
  it('are families of parallel, evenly spaced strokes, clipped to any outline', () => {
    const triangle = makeRegion(
      [
        [
          [100, 100],
          [220, 100],
          [160, 190],
        ],
      ] as Point[][],
      'nonzero',
    );
    const l = page(
      rows(60, (i) => [20 + 4 * i, 90, 140 + 4 * i, 210]),
      [],
      { clips: [triangle] },
    );
    expect(l.segments.length / 4).toBeGreaterThan(20);
    expect(kinds(l).every((k) => k === HATCH)).toBe(true);
    expect(l.hatches).toBe(1);
  });
  it.each([0, 17, 24, 45, 90, 135])('at %d degrees', (degrees) => {
    const a = (degrees * Math.PI) / 180,
      c = Math.cos(a),
      s = Math.sin(a);
    const at = (x: number, y: number): Point => [400 + c * x - s * y, 300 + s * x + c * y];
    const l = page(rows(12, (i) => [...at(-40 + i, 3 * i), ...at(40 + i, 3 * i)] as unknown as Stroke));
    expect(kinds(l)).toEqual(Array(12).fill(HATCH));
  });
  it('crossed families are two; a gap in the strokes, as over a pipe, keeps them one', () => {
    const cross = [
      ...rows(20, (i): Stroke => [100 + 4 * i, 100, 160 + 4 * i, 160]),
      ...rows(20, (i): Stroke => [100 + 4 * i, 160, 160 + 4 * i, 100]),
    ];
    expect(page(cross).hatches).toBe(2);
    const broken = Array.from({ length: 20 }, (_, i) => i).flatMap((i): Stroke[] => [
      [100, 100 + 3 * i, 150, 100 + 3 * i],
      [156, 100 + 3 * i, 200, 100 + 3 * i],
    ]);
    expect(kinds(page(broken)).every((k) => k === HATCH)).toBe(true);
  });
  it('walls, panes, treads and uneven lines are none', () => {
    const none = (strokes: Stroke[]) => expect(kinds(page(strokes))).toEqual(strokes.map(() => LINE));
    none([
      [0, 100, 300, 100],
      [0, 108, 300, 108],
    ]);
    none(rows(4, (i) => [100, 100 + 1.5 * i, 150, 100 + 1.5 * i]));
    none(rows(15, (i) => [100 + 7.9 * i, 100, 100 + 7.9 * i, 130]));
    none(rows(12, (i) => [100, 100 + i * i, 180, 100 + i * i]));
    none(rows(8, (i) => [50 + 90 * i, 100 + 3 * i, 60 + 90 * i, 100 + 3 * i]));
  });
  it('a fill by a tiling pattern is one as well', () => {
    const l = page([], []);
    expect(l.hatches).toBe(0);
    const interpreter = new PageInterpreter({ width: 100, height: 100, layers: [] });
    interpreter.path({
      ...stroke([0, 0, 50, 0]),
      coords: new Float64Array([0, 0, 50, 0, 50, 50]),
      verbs: Uint8Array.of(Verb.move, Verb.line, Verb.line),
      count: 3,
      stroke: null,
      fill: 'nonzero',
      pattern: 'tiling',
    });
    expect(interpreter.finish().hatches).toBe(1);
  });
});

describe('dimensions', () => {
  const ticked = (y: number): Stroke[] => [
    [100, y, 250, y],
    [97, y - 3, 103, y + 3],
    [247, y - 3, 253, y + 3],
    [100, y - 20, 100, y + 4],
    [250, y - 20, 250, y + 4],
  ];
  it('a figure over a line with a tick at both ends, with its witness lines', () => {
    const l = page(ticked(400), [{ text: '5 250', x: 166, y: 403 }]);
    expect(kinds(l)).toEqual(Array(5).fill(DIMENSION));
    expect(l.texts[0].kind).toBe(DIMENSION);
  });
  it('stands upright, turned, in a gap of its line, with arrows', () => {
    const upright = ticked(0).map(([a, b, c, d]): Stroke => [300 - b, a, 300 - d, c]);
    expect(page(upright, [{ text: '11\'-4"', x: 297, y: 166, turn: Math.PI / 2 }]).texts[0].kind).toBe(
      DIMENSION,
    );
    const arrows: Stroke[] = [
      [100, 50, 160, 50],
      [190, 50, 250, 50],
      [100, 50, 106, 52],
      [100, 50, 106, 48],
      [250, 50, 244, 52],
      [250, 50, 244, 48],
    ];
    expect(kinds(page(arrows, [{ text: '4300', x: 166, y: 48 }]))).toEqual(Array(6).fill(DIMENSION));
  });
  it('a chain of figures on one line takes the line once and each tick', () => {
    const chain: Stroke[] = [
      [100, 400, 400, 400],
      ...[100, 200, 320, 400].map((x): Stroke => [x - 3, 397, x + 3, 403]),
    ];
    const l = page(chain, [
      { text: '1200', x: 144, y: 403 },
      { text: '1450', x: 252, y: 403 },
      { text: '980', x: 352, y: 403 },
    ]);
    expect(l.texts.map((t) => t.kind)).toEqual([DIMENSION, DIMENSION, DIMENSION]);
    expect(kinds(l)).toEqual(Array(5).fill(DIMENSION));
  });
  it('a room number among walls, a figure by itself and words are none', () => {
    const room: Stroke[] = [
      [100, 100, 200, 100],
      [200, 100, 200, 180],
      [200, 180, 100, 180],
      [100, 180, 100, 100],
    ];
    const l = page(room, [
      { text: '12', x: 146, y: 104 },
      { text: '2400', x: 400, y: 400 },
      { text: 'Crew room', x: 130, y: 140 },
    ]);
    expect(l.texts.map((t) => t.kind)).toEqual([TEXT, TEXT, TEXT]);
    expect(kinds(l)).toEqual(Array(4).fill(LINE));
  });
  it.each([
    '5250',
    '5.25',
    '5,25',
    '3 650',
    '4,300',
    '12.5 m',
    '11\'-4"',
    '11\' 4 1/2"',
    '11′-4½″',
    '3\'-6"',
    '136"',
    '7 1/2"',
    'Ø 125',
    'R45',
    "20'",
  ])('%s may be a figure', (text) => expect(readFigure(text)).not.toBeNull());
  it.each(['A', 'Hall', 'Level 2', '17.3 m2', 'D-12', '1:100', 'see 4', '', '2024-11-23'])(
    '%s may not',
    (text) => expect(readFigure(text)).toBeNull(),
  );
});

describe('pens', () => {
  it('are listed by the length that they draw', () => {
    const interpreter = new PageInterpreter({ width: 842, height: 595, layers: [] });
    interpreter.path(stroke([0, 0, 30, 40], { strokeWidth: 1.4 }));
    interpreter.path(stroke([0, 0, 300, 0], { stroke: { r: 255, g: 0, b: 16, a: 255 }, dash: [6, 3] }));
    interpreter.path(stroke([0, 9, 10, 9], { strokeWidth: 1.4 }));
    const l = interpreter.finish();
    expect(penUses(l).map(({ pen, items, length }) => [penKey(l.pens[pen]), items, length])).toEqual([
      ['0.25|ff0010|6 3', 1, 300],
      ['1.4|000000', 2, 60],
    ]);
  });
});

describe('layers that are off', () => {
  const layered = (options: { keepHidden?: boolean; allLayers?: boolean }) => {
    const interpreter = new PageInterpreter({
      width: 100,
      height: 100,
      layers: [
        { name: 'on', on: true },
        { name: 'off', on: false },
      ],
      ...options,
    });
    interpreter.path(stroke([0, 1, 50, 1], { layer: 0 }));
    interpreter.path(stroke([0, 2, 50, 2], { layer: 1, hidden: true }));
    // Hidden by something round it although its own layer is on.
    interpreter.path(stroke([0, 3, 50, 3], { layer: 0, hidden: true }));
    return interpreter.finish();
  };
  it('are kept for later without being counted, and only where their own layer hides them', () => {
    const l = layered({ keepHidden: true });
    expect([...l.segmentObject]).toEqual([0, 1]);
    expect(l.counts.segments).toBe(1);
    expect(layered({}).segmentObject).toHaveLength(1);
    expect(layered({ allLayers: true }).counts.segments).toBe(3);
  });
});

describe('the stored form', () => {
  it('keeps objects, kinds and mark-ups, and reads the version before it', () => {
    const interpreter = new PageInterpreter({ width: 100, height: 100, layers: [] });
    interpreter.path(stroke([0, 0, 9, 9]));
    interpreter.markup({
      kind: 'Line',
      author: 'Cox',
      comment: 'move this wall?',
      date: '2026-11-23',
      box: [1, 1, 5, 5],
      index: 0,
      colour: 0xff0000,
      width: 1,
      lines: [[1, 1, 5, 5]],
      circle: { cx: 3, cy: 3, r: 2 },
    });
    const l = interpreter.finish();
    expect(l.segmentObject[1]).toBe(-1);
    expect(l.segmentKind[1]).toBe(kindCode('markup'));
    expect(l.circleKind[0]).toBe(kindCode('markup'));
    const bytes = encodeLinework(l, new ArrayBuffer(0));
    expect(decodeLinework(bytes.buffer).linework).toEqual(l);
  });
  it('the version before, without objects and kinds, is read as well', () => {
    const names = [
      ['segments', 'f64', 4],
      ['segmentStyle', 'i32', 2],
      ['arcs', 'f64', 0],
      ['arcStyle', 'i32', 0],
      ['circles', 'f64', 0],
      ['circleStyle', 'i32', 0],
      ['curves', 'f64', 0],
      ['curveStyle', 'i32', 0],
      ['fillEdges', 'f64', 0],
      ['fillEdgeStyle', 'i32', 0],
      ['index', 'u8', 0],
    ] as const;
    const start = 2048;
    let at = start;
    const arrays = names.map(([name, type, length]) => ({
      name,
      type,
      length,
      offset: (at += length * 8) - length * 8,
    }));
    const json = new TextEncoder().encode(
      JSON.stringify({
        arrays,
        rest: {
          width: 9,
          height: 9,
          texts: [{ text: '12', x: 1, y: 1, height: 2, radians: 0, layer: -1, width: 3 }],
          pictures: [],
          pens: [],
          layers: [],
        },
      }),
    );
    const bytes = new Uint8Array(at);
    const view = new DataView(bytes.buffer);
    [0x574c5143, 1, json.length].forEach((v, i) => view.setUint32(4 * i, v, true));
    bytes.set(json, 16);
    [1, 2, 3, 4].forEach((v, i) => view.setFloat64(start + 8 * i, v, true));
    const read = decodeLinework(bytes.buffer).linework;
    expect([...read.segments]).toEqual([1, 2, 3, 4]);
    expect([...read.segmentKind]).toEqual([LINE]);
    expect(read.texts[0].kind).toBe(TEXT);
    expect(read.markups).toEqual([]);
  });
});
