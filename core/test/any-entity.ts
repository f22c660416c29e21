import fc from 'fast-check';
import { anyOfPart } from './any-part.ts';
import {
  circleRing,
  LAYER_PURPOSES,
  MEMBER_ROLES,
  PLACING_POINTS,
  slotRing,
  type Entity,
  type Loose,
  type Wall,
} from '@calque/core/model';

export const wall = (id: string, thickness = 100): Wall => ({
  type: 'wall',
  id,
  planeId: 'ground',
  from: [0, 0],
  to: [1000, 0],
  thickness,
  alignment: 'centre',
  height: 2700,
  heightAssumed: true,
  source: { underlayId: null, ends: 'typed', thickness: 'typed' },
});

// Nobody tells a zero below nothing from one above.
const number = fc.double({ min: -1e6, max: 1e6, noNaN: true }).map((v) => v + 0);
const length = fc.double({ min: 0.01, max: 1e6, noNaN: true });
const pair = fc.tuple(number, number).map(([x, y]): [number, number] => [x, y]);
const id = fc.stringMatching(/^[A-Za-z0-9_-]{1,20}$/).filter((s) => s !== 'settings');
const text = fc
  .string({ minLength: 1, maxLength: 30, unit: 'grapheme' })
  .map((s) => s.replace(/\p{C}/gu, '').trim() || 'A');
const note = fc.oneof(fc.constant(''), text);
const flag = fc.boolean();
const placement = fc
  .tuple(length, pair)
  .map(([s, [x, y]]): [number, number, number, number, number, number] => [s, 0, 0, s, x, y]);
const page = fc.integer({ min: 1, max: 500 });

const drawn = {
  id,
  planeId: fc.constant('ground'),
  layerId: fc.constantFrom(undefined, null),
  phase: fc.oneof(fc.constantFrom(undefined, null), note),
  source: fc.record({
    underlayId: fc.oneof(fc.constant(null), id),
    ends: fc.constantFrom('snapped', 'free', 'typed', 'mixed'),
    thickness: fc.constantFrom('typed', 'measured'),
    sheet: fc.oneof(fc.constant(null), text),
  }),
};
const ends = { from: pair, to: pair.map(([x, y]): [number, number] => [x + 3e6, y]) };
const ring = fc.array(pair, { minLength: 3, maxLength: 8 });
const dash = fc.oneof(fc.constant(null), fc.array(length, { minLength: 2, maxLength: 6 }));

const openings = fc
  .array(
    fc.record({
      kind: fc.constantFrom('door', 'window', 'gap', 'niche'),
      from: pair,
      to: pair,
      sill: fc.constantFrom(0, 450, 900),
      head: length,
      leaves: fc.constantFrom(0, 1, 2),
      folds: fc.constantFrom(undefined, null, true, false),
      hung: fc.constantFrom('from', 'to'),
      opens: fc.constantFrom('left', 'right'),
      depth: fc.oneof(fc.constantFrom(undefined, null), length),
      tag: fc.constantFrom('', 'D04', 'W 1'),
      type: fc.constantFrom(undefined, null, 'Flush, glazed'),
      material: fc.constantFrom(undefined, null, 'Oak'),
      assumed: fc.subarray(['kind', 'sill', 'head', 'swing', 'depth']),
    }),
    { maxLength: 3 },
  )
  .map((list) => list.map((o, i) => ({ id: `o${i + 1}`, ...o })));

const atLevel = fc.record({ storeyId: fc.option(id), offset: fc.constantFrom(0, -300, 1200.5) });

const joints = fc
  .record({
    form: fc.constantFrom('face', 'cope', 'endPlate', 'gusset'),
    to: id,
    sizes: fc.option(
      fc.record({ gap: fc.constantFrom(0, 10), bolt: fc.constantFrom(16, 19.05, 24) }, { requiredKeys: [] }),
    ),
  })
  .map((j) => [
    { ...j, end: 'start' },
    { end: 'end', form: 'basePlate', to: null },
  ]);

const loose = fc.oneof(
  fc.record({
    type: fc.constant('wall'),
    ...drawn,
    ...ends,
    thickness: length,
    alignment: fc.constantFrom('centre', 'left', 'right'),
    height: length,
    heightAssumed: flag,
    base: fc.oneof(fc.constantFrom(undefined, null), atLevel),
    top: fc.oneof(fc.constantFrom(undefined, null), atLevel),
    runsThrough: fc.oneof(fc.constantFrom(undefined, null), fc.subarray(['from', 'to'])),
    openings: fc.option(openings),
    wallType: fc.option(id),
    firstLayer: fc.option(fc.constantFrom('left', 'right')),
    inset: fc.option(fc.constant(0)),
    curve: fc.option(fc.constant(0)),
  }),
  fc.record({ type: fc.constant('openBoundary'), ...drawn, ...ends }),
  fc.record({
    type: fc.constant('space'),
    ...drawn,
    at: pair,
    name: fc.constantFrom('', 'Boat bay'),
    number: fc.constantFrom('', 'G.04'),
    letters: length,
    printed: fc.option(length),
    unheated: fc.option(flag),
  }),
  fc.record({
    type: fc.constant('slab'),
    ...drawn,
    rings: fc.array(
      ring.map((points) => ({ points, bulges: points.map(() => 0) })),
      { minLength: 1, maxLength: 2 },
    ),
    thickness: length,
    top: number,
    assumed: fc.subarray(['thickness', 'top']),
  }),
  fc.record({
    type: fc.constant('column'),
    ...drawn,
    at: pair,
    angle: number,
    section: fc.oneof(
      fc.record({ form: fc.constant('round'), diameter: length }),
      fc.record({ form: fc.constant('rectangle'), width: length, depth: length }),
      ring.map((points) => ({ form: 'outline', points, bulges: points.map(() => 0) })),
    ),
    foot: number,
    height: length,
    heightAssumed: flag,
  }),
  fc.record({
    type: fc.constant('member'),
    ...drawn,
    ...ends,
    rise: pair,
    joints: fc.option(joints),
    levels: fc.option(
      fc
        .record({ end: fc.constantFrom('start', 'end'), level: number, text: note, drawn: number })
        .map((l) => [l]),
    ),
    cleats: fc.option(
      fc.uniqueArray(fc.record({ to: id, sizes: fc.constantFrom(undefined, null, { rows: 2, bolt: 16 }) }), {
        maxLength: 2,
        selector: (c) => c.to,
      }),
    ),
    section: fc.oneof(
      fc.record({ form: fc.constant('table'), name: text }),
      fc.record({
        form: fc.constant('sizes'),
        shape: fc.constantFrom('I', 'channel', 'rectangle', 'tee'),
        h: fc.constantFrom(200, 300.5),
        b: fc.constant(150),
        tw: fc.constant(6),
        tf: fc.constantFrom(8, 12.5),
        r: fc.constantFrom(0, 9),
        slope: fc.constantFrom(undefined, 0, 0.08),
      }),
      fc
        .record({
          form: fc.constant('outline'),
          name: text,
          points: fc.constantFrom(
            [
              [0, 0],
              [80, 0],
              [40, 60],
            ],
            [
              [-50, 0],
              [50, 0],
            ],
          ),
          bulges: fc.constant([1, 1]),
        })
        .map((o) => ({ ...o, bulges: o.points.length === 2 ? [1, 1] : [0, 0, 0] })),
    ),
    point: fc.constantFrom(...PLACING_POINTS),
    turn: fc.double({ min: -7, max: 7, noNaN: true }).map((v) => v + 0),
    mirrored: flag,
    back: fc.constantFrom<[number, number][]>([0, 0], [10, 12.5]),
    role: fc.constantFrom(...MEMBER_ROLES),
    material: text,
    density: length,
    mark: note,
  }),
  fc.record({ type: fc.constant('constructionLine'), ...drawn, ...ends }),
  fc.record({
    type: fc.constant('plate'),
    ...drawn,
    rings: fc.array(
      fc.oneof(
        ring.map((points) => ({ points, bulges: points.map(() => 0) })),
        fc.constantFrom(circleRing([100, 50], 22), slotRing([100, 50], 40, 18, 0.3)),
      ),
      { minLength: 1, maxLength: 3 },
    ),
    rise: number,
    thickness: length,
    name: note,
    material: text,
    density: length,
    weldedTo: fc.option(id),
  }),
  fc.record({
    type: fc.constant('bolts'),
    ...drawn,
    at: pair,
    turn: number,
    pattern: fc.oneof(
      fc.record({
        form: fc.constant('rows'),
        rows: fc.constantFrom(1, 2, 5),
        columns: fc.constantFrom(1, 2),
        pitch: fc.constantFrom(70, 82.5),
        gauge: fc.constantFrom(60, 90),
      }),
      fc.record({ form: fc.constant('circle'), count: fc.constantFrom(1, 4, 7), diameter: length }),
    ),
    d: fc.constantFrom(16, 19.05, 24),
    grade: fc.constantFrom(undefined, null, '10.9', 'A490'),
    of: fc.option(id),
    rise: number,
    reversed: flag,
  }),
  ring.chain((points) =>
    fc.record({
      type: fc.constant('roof'),
      ...drawn,
      points: fc.constant(points),
      pitches: fc.array(fc.constantFrom(0.4, 0.7, Math.PI / 2), {
        minLength: points.length,
        maxLength: points.length,
      }),
      eaves: number,
      overhang: fc.constantFrom(0, 300),
      thickness: length,
      assumed: fc.subarray(['pitch', 'eaves', 'overhang', 'thickness']),
    }),
  ),
  fc.record({
    type: fc.constant('stair'),
    ...drawn,
    ...ends,
    width: length,
    risers: fc.integer({ min: 2, max: 20 }),
    back: fc.option(
      fc.record({
        risers: fc.integer({ min: 2, max: 20 }),
        side: fc.constantFrom('left', 'right'),
        gap: fc.constantFrom(0, 120),
        landing: length,
      }),
    ),
    rise: length,
    riseAssumed: flag,
    thickness: length,
  }),
  fc.record({ type: fc.constant('line'), ...drawn, ...ends, dash }),
  fc.record({ type: fc.constant('gridLine'), ...drawn, ...ends, name: text }),
  fc.record({
    type: fc.constant('arc'),
    ...drawn,
    dash,
    centre: pair,
    radius: length,
    start: number,
    sweep: fc.double({ min: 0.01, max: 6.28, noNaN: true }),
  }),
  ring.chain((points) =>
    fc.record({
      type: fc.constant('path'),
      ...drawn,
      dash,
      points: fc.constant(points),
      bulges: fc.array(fc.double({ min: -1, max: 1, noNaN: true }), {
        minLength: points.length,
        maxLength: points.length,
      }),
      closed: fc.constant(true),
    }),
  ),
  fc.record({
    type: fc.constant('spline'),
    ...drawn,
    dash,
    controls: fc.array(pair, { minLength: 7, maxLength: 7 }),
  }),
  fc.record({ type: fc.constant('text'), ...drawn, at: pair, angle: number, height: length, text }),
  fc.record({
    type: fc.constant('dimension'),
    ...drawn,
    measures: fc.constantFrom('aligned', 'horizontal', 'vertical', 'radius'),
    points: fc.tuple(pair, pair),
    on: fc.tuple(fc.constant(null), fc.record({ id, grip: fc.nat(5) })),
    at: pair,
    height: length,
  }),
  fc.record({
    type: fc.constant('area'),
    ...drawn,
    name: note,
    figure: flag,
    rings: fc.array(
      ring.map((points) => ({ points, bulges: points.map(() => 0) })),
      { minLength: 1, maxLength: 2 },
    ),
    fill: fc.oneof(
      fc.constant({ kind: 'none' }),
      fc.record({ kind: fc.constant('hatch'), angle: number, spacing: length, crossed: flag }),
    ),
  }),
  fc.record({
    type: fc.constant('symbol'),
    ...drawn,
    mark: fc.constantFrom('north', 'level', 'section'),
    at: pair,
    angle: number,
    size: length,
    text: note,
  }),
) as unknown as fc.Arbitrary<Loose>;

const known = {
  id,
  from: pair,
  to: pair,
  printed: length,
  typed: note,
  use: fc.constantFrom('fit', 'check'),
  sigma: fc.tuple(length, length),
  spread: length,
  origin: fc.constantFrom('picked', 'read', 'recognised', 'assumed'),
};
const scaleState = fc.constantFrom('paper', 'stated', 'own', 'calibrated');
const calibration = fc.oneof(
  fc.constant(null),
  fc.record({
    from: pair,
    to: pair,
    trueLength: length,
    oldLength: length,
    factor: length,
    typed: note,
    fit: fc.oneof(
      fc.constant(null),
      fc.record({
        model: fc.constantFrom('uniform', 'affine'),
        wanted: fc.constantFrom('auto', 'directional'),
        fitted: page,
        tenMetres: length,
        across: length,
      }),
    ),
  }),
);
const switches = fc.record({
  layers: fc.dictionary(text, flag, { maxKeys: 4 }),
  kinds: fc.subarray(['line', 'curve', 'text']),
  pens: fc.array(text, { maxLength: 3 }),
  authors: fc.array(text, { maxLength: 3 }),
  markupKinds: fc.array(text, { maxLength: 3 }),
});

/** Any sound entity of any type but settings and storey, of which a project has its own; storeys are 'ground'. */
export const anyEntity = fc.oneof(
  loose,
  loose,
  fc.record({ type: fc.constant('placed'), ...drawn, assemblyId: id, placement }),
  fc.record({
    type: fc.constant('assembly'),
    id,
    name: text,
    elements: fc.array(loose, { minLength: 1, maxLength: 3 }),
  }),
  fc
    .tuple(fc.double({ min: 0, max: 6.28, noNaN: true }), id, text, pair, length, length)
    .map(([angle, key, name, [x, y], width, height]) => ({
      type: 'plane',
      id: key,
      name,
      role: 'elevation',
      origin: [x, y, 0],
      across: [Math.cos(angle), Math.sin(angle), 0],
      up: [0, 0, 1],
      width,
      height,
      ...(width > 1000 && { depth: { before: 0, behind: height } }),
    })),
  fc.record({
    type: fc.constant('layer'),
    id,
    name: text,
    colour: fc.nat(0xffffff),
    lineType: fc.constantFrom('solid', 'dashed'),
    weight: fc.double({ min: 0.1, max: 2, noNaN: true }),
    visible: flag,
    locked: flag,
    fade: fc.constantFrom(0, 0.5, 1),
  }),
  fc.record({
    type: fc.constant('underlay'),
    id,
    name: text,
    fileId: id,
    page,
    planeId: fc.constant('ground'),
    crop: fc.constant([0, 0, 100, 100]),
    placement,
    scaleState,
    calibration,
    visible: flag,
    fade: fc.constantFrom(0, 1),
    locked: flag,
    snap: flag,
    order: fc.nat(9),
    look: fc.oneof(
      fc.constant(null),
      fc.record({
        paper: flag,
        tint: fc.oneof(fc.constant(null), fc.nat(0xffffff)),
        linesOnly: flag,
        frame: flag,
        inFront: flag,
        switches,
      }),
    ),
    former: fc.oneof(fc.constant(null), fc.record({ fileId: id, page })),
    straightened: fc.oneof(fc.constant(null), fc.record({ across: length })),
  }),
  fc.record({ type: fc.constant('check'), ...known, underlayId: id }),
  fc.record({
    type: fc.constant('calibration'),
    id,
    underlayId: id,
    number: page,
    at: fc.constant('2026-11-28T12:00:00Z'),
    by: note,
    label: text,
    placement,
    scaleState,
    calibration,
    known: fc.array(fc.record(known), { maxLength: 3 }),
  }),
  fc.record({ type: fc.constant('look'), id, name: text, switches }),
  fc.record({ type: fc.constant('usualSize'), id, name: text, millimetres: length, spread: length }),
  fc.record({
    type: fc.constant('wallType'),
    id,
    name: text,
    layers: fc.array(
      fc.record({ material: text, purpose: fc.constantFrom(...LAYER_PURPOSES), thickness: length }),
      { minLength: 1, maxLength: 3 },
    ),
    shelfId: fc.option(id),
  }),
  fc.record({
    type: fc.constant('paperDrawing'),
    id,
    name: text,
    number: note,
    revision: note,
    drawnBy: note,
    paper: fc.constantFrom('A4', 'A1', 'letter'),
    standing: flag,
    views: fc.array(
      fc.oneof(
        fc.record({
          id,
          planeId: id,
          window: fc.option(fc.constant([0, 0, 1000, 500])),
          scale: length,
          at: pair,
          beneath: flag,
          building: fc.option(flag),
          caption: note,
        }),
        fc.record({
          id,
          sheet: fc.record({ fileId: id, page }),
          window: fc.constant([0, 0, 100, 50]),
          scale: length,
          at: pair,
          beneath: flag,
          caption: note,
        }),
      ),
      { maxLength: 3 },
    ),
  }),
  fc.record({ type: fc.constant('sheetName'), id, fileId: id, page, number: note, title: note }),
  fc.record({ type: fc.constant('tick'), id, fileId: id, page, annotation: fc.nat(100) }),
  anyOfPart,
) as unknown as fc.Arbitrary<Entity>;
