import type {
  Entity,
  Feature,
  FeatureForm,
  Line,
  Pair,
  Rule,
  TracedArc,
  WorkPlane,
} from '@calque/core/model';
import { foundRules, type Ruled } from '@calque/core/part';

/** The rigging bracket as sheet P-401 draws it at full size: where it draws the part's lower left corner, sheet points. */
const PT = 72 / 25.4;
export const BRACKET_FOOT: [number, number] = [60 * PT, 70 * PT];
export const BRACKET_PLANE = 'bracket-front';
const SHEET = 'u-bracket-front';

const source = { underlayId: SHEET, ends: 'snapped', thickness: 'typed' } as const;
const line = (id: string, from: Pair, to: Pair): Line => ({
  type: 'line',
  id: `bracket-${id}`,
  planeId: BRACKET_PLANE,
  from,
  to,
  source,
});
const arc = (id: string, centre: Pair, radius: number, start = 0, sweep = 2 * Math.PI): TracedArc => ({
  type: 'arc',
  id: `bracket-${id}`,
  planeId: BRACKET_PLANE,
  centre,
  radius,
  start,
  sweep,
  source,
});

const R = 12,
  QUARTER = Math.PI / 2;
const OUTLINE: Ruled[] = [
  line('foot', [R, 0], [150 - R, 0]),
  arc('right-round', [150 - R, R], R, -QUARTER, QUARTER),
  line('right', [150, R], [150, 60]),
  line('slant', [150, 60], [120, 90]),
  line('head', [120, 90], [R, 90]),
  arc('head-round', [R, 90 - R], R, QUARTER, QUARTER),
  line('left', [0, 90 - R], [0, R]),
  arc('foot-round', [R, R], R, 2 * QUARTER, QUARTER),
];
const HOLES: Ruled[] = [
  arc('hole-a', [20, 20], 5.5),
  arc('hole-b', [130, 20], 5.5),
  arc('hole-c', [20, 70], 5.5),
];
const BORE = arc('bore', [75, 45], 16);

const whole = (id: string) => ({ id: `bracket-${id}`, grip: null });
const grip = (id: string, n: number) => ({ id: `bracket-${id}`, grip: n });
/** Printed figures that drive, with where they stand on the sheet, millimetres of the part. */
const FIGURES: [Rule['kind'], Rule['of'], number, string, Pair][] = [
  ['gap', [grip('right', 0), whole('left')], 150, '150', [75, -26]],
  ['gap', [grip('hole-a', 4), whole('left')], 20, '20', [10, -14]],
  ['across', [grip('hole-a', 4), grip('bore', 4)], 55, '55', [47, -14]],
  ['across', [grip('bore', 4), grip('hole-b', 4)], 55, '55', [102, -14]],
  ['up', [grip('hole-a', 4), grip('hole-c', 4)], 50, '50', [-14, 45]],
  ['gap', [grip('hole-a', 4), whole('foot')], 20, '20', [-14, 10]],
  ['up', [grip('foot', 0), grip('right', 1)], 60, '60', [164, 30]],
  ['diameter', [whole('bore')], 32, 'bore dia 32', [170, 88]],
];

const feature = (id: string, order: number, form: FeatureForm, name = ''): Feature => ({
  type: 'feature',
  id: `bracket-f-${id}`,
  partId: 'bracket',
  order,
  name,
  off: false,
  form,
});
const drilled = (
  id: string,
  order: number,
  of: readonly Ruled[],
  diameter: number,
  said: string,
  name: string,
): Feature =>
  feature(
    id,
    order,
    {
      kind: 'hole',
      planeId: BRACKET_PLANE,
      at: [],
      centres: of.map((e) => e.id),
      diameter,
      depth: null,
      tip: null,
      head: null,
      thread: null,
      back: false,
      said,
    },
    name,
  );

/** The bracket, made from its sheet: planes, linework with its rules and figures, features. */
export function bracketPart(): Entity[] {
  const planes = [
    { id: BRACKET_PLANE, name: 'front', across: [1, 0, 0], up: [0, 0, 1] },
    { id: 'bracket-top', name: 'top', across: [1, 0, 0], up: [0, 1, 0] },
    { id: 'bracket-side', name: 'side', across: [0, 1, 0], up: [0, 0, 1] },
  ].map(({ id, name, across, up }): WorkPlane => ({
    type: 'plane',
    id,
    name: `Rigging bracket: ${name}`,
    role: 'face',
    origin: [0, 0, 0],
    across: across as WorkPlane['across'],
    up: up as WorkPlane['up'],
    width: 200,
    height: 200,
    partId: 'bracket',
  }));
  const drawn = [...OUTLINE, ...HOLES, BORE],
    found = foundRules(drawn, [], new Set(drawn.map((e) => e.id)));
  return [
    {
      type: 'part',
      id: 'bracket',
      name: 'Rigging bracket',
      material: 'Stainless steel 1.4404',
      density: 8000,
      way: 'cutting',
      pieces: 12,
    },
    ...planes,
    ...drawn,
    ...found.map((r, i): Rule => ({
      type: 'rule',
      id: `bracket-r${i}`,
      planeId: BRACKET_PLANE,
      value: null,
      ...r,
    })),
    ...FIGURES.map(([kind, of, value, text, [x, y]], i): Rule => ({
      type: 'rule',
      id: `bracket-d${i}`,
      planeId: BRACKET_PLANE,
      kind,
      of,
      value,
      printed: { underlayId: SHEET, text, at: [BRACKET_FOOT[0] + x * PT, BRACKET_FOOT[1] + y * PT] },
    })),
    feature(
      'plate',
      1,
      {
        kind: 'extrude',
        profile: { planeId: BRACKET_PLANE, curves: OUTLINE.map((e) => e.id) },
        does: 'add',
        reach: { kind: 'depth', depth: 6, both: false },
        back: false,
        draft: 0,
      },
      'Plate',
    ),
    drilled('holes', 2, HOLES, 11, '3 holes dia 11', 'Holes for bolts'),
    drilled('bore', 3, [BORE], 32, 'bore dia 32', 'Bore'),
    feature('slot', 4, {
      kind: 'slot',
      planeId: BRACKET_PLANE,
      at: [[110, 61]],
      length: 24,
      width: 10,
      angle: 0,
      depth: null,
      back: false,
    }),
  ];
}
