import * as yup from 'yup';
import {
  bounded,
  colour,
  count,
  finite,
  flag,
  id,
  name,
  note,
  numbersOrNull,
  pair,
  points,
  positive,
} from '../../kinds/fields.ts';
import { DOINGS, DRIVING, RELATIONS, WAYS_OF_MAKING, type FeatureForm, type FeatureKind } from './part.ts';

/** More than a part could have. */
const MOST_CURVES = 5000,
  MOST_PLACES = 5000,
  MOST_EDGES = 5000,
  MOST_FEATURES = 2000,
  MOST_COPIES = 5000,
  MOST_FIGURES = 100;

const object = <S extends yup.ObjectShape>(shape: S) => yup.object(shape).noUnknown().strict();
const oneOf = (words: readonly string[]) =>
  yup
    .string()
    .oneOf([...words])
    .required();
const ids = (least: number, most: number) => yup.array().of(id()).required().min(least).max(most);
const places = () =>
  points(0).test(
    'most',
    `\${path} must be ${MOST_PLACES} places at most`,
    (v) => !v || v.length <= MOST_PLACES,
  );

/** Named by the feature that made it and what it is of that. */
const LONGEST_FACE = 400;
/** The name of a face. */
export const faceName = () =>
  yup
    .string()
    .strict()
    .required()
    .max(LONGEST_FACE)
    .matches(/^[A-Za-z0-9_/:.-]+$/, '${path} names no face');
const edges = () =>
  yup
    .array()
    .of(
      object({
        between: yup.array().of(faceName()).length(2).required(),
        near: numbersOrNull(3).defined(),
      }),
    )
    .required()
    .min(1)
    .max(MOST_EDGES);
const profile = () =>
  object({ planeId: id(), curves: ids(1, MOST_CURVES) })
    .default(undefined)
    .required();
const reach = () =>
  either('reach', {
    depth: object({ kind: oneOf(['depth']), depth: positive(), both: flag() }),
    through: object({ kind: oneOf(['through']) }),
    face: object({ kind: oneOf(['face']), face: faceName() }),
  });
const depth = () => bounded().moreThan(0).nullable().defined();
const angle = () => bounded().moreThan(0).lessThan(Math.PI).required();

/** An object of one of several shapes, told apart by its field "kind". */
function either(
  what: string,
  shapes: Readonly<Record<string, yup.ObjectSchema<yup.AnyObject>>>,
  orNull = false,
) {
  return yup
    .mixed<{ kind: string }>()
    .required()
    .meta({ oneOfKinds: shapes })
    .test('kind', `\${path} is no ${what}`, function (value) {
      if (value === null && orNull) return true;
      const kind = (value as { kind?: unknown } | null | undefined)?.kind,
        shape = typeof kind === 'string' && Object.hasOwn(shapes, kind) ? shapes[kind] : null;
      if (!shape) return false;
      try {
        shape.validateSync(value, { strict: true });
        return true;
      } catch (e) {
        return this.createError({ message: `${this.path}: ${(e as Error).message}` });
      }
    });
}

const FORMS: Readonly<Record<FeatureKind, yup.ObjectSchema<yup.AnyObject>>> = {
  extrude: object({
    kind: oneOf(['extrude']),
    profile: profile(),
    does: oneOf(DOINGS),
    reach: reach(),
    back: flag(),
    draft: finite().min(-1.4).max(1.4),
  }),
  revolve: object({
    kind: oneOf(['revolve']),
    profile: profile(),
    does: oneOf(DOINGS),
    axis: id(),
    angle: positive().max(2 * Math.PI),
  }),
  hole: object({
    kind: oneOf(['hole']),
    planeId: id(),
    at: places(),
    centres: ids(0, MOST_PLACES),
    diameter: positive(),
    depth: depth(),
    tip: bounded().moreThan(0).lessThan(Math.PI).nullable().defined(),
    head: either(
      'head of a hole',
      {
        counterbore: object({ kind: oneOf(['counterbore']), diameter: positive(), depth: positive() }),
        countersink: object({ kind: oneOf(['countersink']), diameter: positive(), angle: angle() }),
      },
      true,
    ).nullable(),
    thread: object({ name: name(), depth: depth() }).nullable().defined(),
    back: flag(),
    said: note(),
  }),
  slot: object({
    kind: oneOf(['slot']),
    planeId: id(),
    at: places(),
    length: positive(),
    width: positive(),
    angle: finite(),
    depth: depth(),
    back: flag(),
  }),
  pattern: object({
    kind: oneOf(['pattern']),
    of: ids(1, MOST_FEATURES),
    form: either('pattern', {
      row: object({
        kind: oneOf(['row']),
        planeId: id(),
        step: pair(),
        count: count(1).max(MOST_COPIES),
        second: object({ step: pair(), count: count(1).max(MOST_COPIES) })
          .nullable()
          .defined(),
      }),
      circle: object({
        kind: oneOf(['circle']),
        planeId: id(),
        centre: pair(),
        count: count(1).max(MOST_COPIES),
        angle: finite(),
      }),
      points: object({ kind: oneOf(['points']), planeId: id(), from: pair(), at: places() }),
    }),
  }),
  mirror: object({
    kind: oneOf(['mirror']),
    of: ids(0, MOST_FEATURES),
    planeId: id(),
    line: object({ from: pair(), to: pair() }).nullable().defined(),
  }),
  round: object({ kind: oneOf(['round']), edges: edges(), radius: positive() }),
  chamfer: object({ kind: oneOf(['chamfer']), edges: edges(), distance: positive() }),
  shell: object({
    kind: oneOf(['shell']),
    open: yup.array().of(faceName()).required().max(MOST_EDGES),
    thickness: positive(),
  }),
  given: object({ kind: oneOf(['given']), does: oneOf(DOINGS) }),
  rib: object({ kind: oneOf(['rib']), profile: profile(), thickness: positive(), right: flag() }),
} satisfies Record<FeatureForm['kind'], unknown>;

/** Figures by their names. */
const figures = () =>
  yup
    .mixed<Record<string, number>>()
    .nullable()
    .optional()
    .default(undefined)
    .test(
      'figures',
      `\${path} must hold up to ${MOST_FIGURES} figures, each by its name`,
      (v) =>
        v === undefined ||
        v === null ||
        (typeof v === 'object' &&
          !Array.isArray(v) &&
          Object.keys(v).length <= MOST_FIGURES &&
          Object.entries(v).every(
            ([key, n]) =>
              /^[A-Za-z]{1,40}$/.test(key) &&
              typeof n === 'number' &&
              Number.isFinite(n) &&
              n >= 0 &&
              n <= 1e9,
          )),
    );

const PLACES_OF: Readonly<Record<string, readonly number[]>> = {
  ...Object.fromEntries([...RELATIONS, ...DRIVING].map((k) => [k, [2]])),
  level: [1, 2],
  upright: [1, 2],
  length: [1, 2],
  fixed: [1],
  radius: [1],
  diameter: [1],
  symmetric: [3],
};

/** The schemas of a part, its features, and what holds on its planes. */
export const PART_SCHEMAS = {
  part: yup.object({
    id: id(),
    name: name(),
    material: name(),
    density: positive(),
    colour: colour().nullable().optional().default(undefined),
    way: oneOf(WAYS_OF_MAKING),
    pieces: count(1),
    limits: figures(),
    rates: figures(),
  }),
  feature: yup.object({
    id: id(),
    partId: id(),
    order: finite(),
    name: note(),
    off: flag(),
    fileId: id().nullable().optional().default(undefined),
    form: either('feature', FORMS),
  }),
  rule: yup
    .object({
      id: id(),
      planeId: id(),
      kind: oneOf([...RELATIONS, ...DRIVING]),
      of: yup
        .array()
        .of(object({ id: id(), grip: count(0).nullable().defined() as unknown as yup.NumberSchema }))
        .required()
        .max(3),
      value: bounded().nullable().defined(),
      tolerance: object({ plus: bounded().required(), minus: bounded().required() })
        .nullable()
        .optional()
        .default(undefined),
      figureAt: numbersOrNull(2).optional().default(undefined),
      printed: object({ underlayId: id(), text: note(), at: pair() })
        .nullable()
        .optional()
        .default(undefined),
    })
    .test(
      'places',
      'a rule does not have as many places as its kind',
      (v) =>
        v?.kind === undefined || !Array.isArray(v.of) || PLACES_OF[v.kind]?.includes(v.of.length) !== false,
    )
    .test(
      'value',
      'a figure must drive, and nothing else has one',
      (v) =>
        v?.kind === undefined ||
        (DRIVING as readonly string[]).includes(v.kind) === (typeof v.value === 'number'),
    ),
};
