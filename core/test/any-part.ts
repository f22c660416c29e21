import fc from 'fast-check';

const number = fc.double({ min: -1e6, max: 1e6, noNaN: true }).map((v) => v + 0);
const length = fc.double({ min: 0.01, max: 1e6, noNaN: true });
const angle = fc.double({ min: 0.01, max: 3, noNaN: true });
const pair = fc.tuple(number, number);
const id = fc.stringMatching(/^[A-Za-z0-9_-]{1,20}$/).filter((s) => s !== 'settings');
const text = fc
  .string({ minLength: 1, maxLength: 30, unit: 'grapheme' })
  .map((s) => s.replace(/\p{C}/gu, '').trim() || 'A');
const note = fc.oneof(fc.constant(''), text);
const flag = fc.boolean();
const ids = fc.array(id, { minLength: 1, maxLength: 4 });
const profile = fc.record({ planeId: id, curves: ids });
const face = fc.tuple(id, fc.constantFrom('end', 'start', 'side:e1.2')).map(([a, b]) => `${a}/${b}`);
const edges = fc.array(
  fc.record({
    between: fc.tuple(face, face),
    near: fc.oneof(fc.constant(null), fc.tuple(number, number, number)),
  }),
  { minLength: 1, maxLength: 3 },
);
const orNone = <T>(a: fc.Arbitrary<T>) => fc.oneof(fc.constant(null), a);
const places = fc.array(pair, { maxLength: 4 });

/** Any sound form of a feature. */
export const anyForm = fc.oneof(
  fc.record({ kind: fc.constant('given'), does: fc.constantFrom('add', 'cut', 'common') }),
  fc.record({
    kind: fc.constant('extrude'),
    profile,
    does: fc.constantFrom('add', 'cut', 'common'),
    reach: fc.oneof(
      fc.record({ kind: fc.constant('depth'), depth: length, both: flag }),
      fc.record({ kind: fc.constant('through') }),
      fc.record({ kind: fc.constant('face'), face }),
    ),
    back: flag,
    draft: fc.constantFrom(0, 0.1, -0.1),
  }),
  fc.record({ kind: fc.constant('revolve'), profile, does: fc.constantFrom('add', 'cut'), axis: id, angle }),
  fc.record({
    kind: fc.constant('hole'),
    planeId: id,
    at: places,
    centres: fc.array(id, { maxLength: 3 }),
    diameter: length,
    depth: orNone(length),
    tip: orNone(angle),
    head: orNone(
      fc.oneof(
        fc.record({ kind: fc.constant('counterbore'), diameter: length, depth: length }),
        fc.record({ kind: fc.constant('countersink'), diameter: length, angle }),
      ),
    ),
    thread: orNone(fc.record({ name: text, depth: orNone(length) })),
    back: flag,
    said: note,
  }),
  fc.record({
    kind: fc.constant('slot'),
    planeId: id,
    at: places,
    length,
    width: length,
    angle: number,
    depth: orNone(length),
    back: flag,
  }),
  fc.record({
    kind: fc.constant('pattern'),
    of: ids,
    form: fc.oneof(
      fc.record({
        kind: fc.constant('row'),
        planeId: id,
        step: pair,
        count: fc.integer({ min: 1, max: 50 }),
        second: orNone(fc.record({ step: pair, count: fc.integer({ min: 1, max: 50 }) })),
      }),
      fc.record({
        kind: fc.constant('circle'),
        planeId: id,
        centre: pair,
        count: fc.integer({ min: 1, max: 50 }),
        angle: number,
      }),
      fc.record({ kind: fc.constant('points'), planeId: id, from: pair, at: places }),
    ),
  }),
  fc.record({
    kind: fc.constant('mirror'),
    of: ids,
    planeId: id,
    line: orNone(fc.record({ from: pair, to: pair })),
  }),
  fc.record({ kind: fc.constant('round'), edges, radius: length }),
  fc.record({ kind: fc.constant('chamfer'), edges, distance: length }),
  fc.record({ kind: fc.constant('shell'), open: fc.array(face, { maxLength: 3 }), thickness: length }),
  fc.record({ kind: fc.constant('rib'), profile, thickness: length, right: flag }),
);

const places2 = fc.tuple(
  fc.record({ id, grip: orNone(fc.nat(4)) }),
  fc.record({ id, grip: orNone(fc.nat(4)) }),
);

/** Any sound part, feature or rule. */
export const anyOfPart = fc.oneof(
  fc.record({
    type: fc.constant('part'),
    id,
    name: text,
    material: text,
    density: length,
    colour: fc.constantFrom(undefined, null, 0x123456),
    way: fc.constantFrom('milling', 'turning', 'drilling', 'cutting', 'bending'),
    pieces: fc.integer({ min: 1, max: 1000 }),
    limits: fc.constantFrom(undefined, null, { toolRadius: 3 }),
    rates: fc.constantFrom(undefined, null, { hour: 80 }),
  }),
  fc.record({
    type: fc.constant('feature'),
    id,
    partId: id,
    order: number,
    name: note,
    off: flag,
    fileId: fc.constantFrom(undefined, null),
    form: anyForm,
  }),
  fc.record({
    type: fc.constant('rule'),
    id,
    planeId: fc.constant('ground'),
    kind: fc.constantFrom('together', 'parallel', 'square', 'touching', 'equal'),
    of: places2,
    value: fc.constant(null),
  }),
  fc.record({
    type: fc.constant('rule'),
    id,
    planeId: fc.constant('ground'),
    kind: fc.constantFrom('across', 'up', 'gap'),
    of: places2,
    value: number,
    tolerance: fc.constantFrom(undefined, null, { plus: 0.1, minus: 0.2 }),
    figureAt: fc.oneof(fc.constant(null), pair),
    printed: orNone(fc.record({ underlayId: id, text: note, at: pair })),
  }),
);
