import * as yup from 'yup';
import { bounded, finite, flag, id, measures, note, pair, positive } from '../fields.ts';
import { apart, DRAWN_FIELDS, type FieldsOf } from '../schema.ts';
import { OPENING_KINDS, OPENING_MEASURES } from './opening.ts';
import { isRoundEnough, WALL_ENDS, type Wall } from './wall.ts';

/** More doors and windows than a wall has. */
const MOST_OPENINGS = 1000;

/** What is no opening is refused by its own check: this one asks whatever it is given. */
const idOf = (o: unknown): unknown => (typeof o === 'object' && o !== null ? (o as { id?: unknown }).id : o);
const differ = (ids: readonly unknown[]) => new Set(ids).size === ids.length;

/** Heights above the floor of its wall's storey, millimetres. */
const OPENING = {
  id: id(),
  kind: yup
    .string()
    .oneOf([...OPENING_KINDS])
    .required(),
  from: pair(),
  to: pair(),
  sill: finite().min(0),
  head: positive(),
  leaves: yup.number().strict().oneOf([0, 1, 2]).required(),
  folds: yup.boolean().strict().nullable().optional().default(undefined),
  hung: yup.string().oneOf(['from', 'to']).required(),
  opens: yup.string().oneOf(['left', 'right']).required(),
  depth: positive().nullable().optional().default(undefined),
  tag: note(),
  type: note().nullable().optional().default(undefined),
  material: note().nullable().optional().default(undefined),
  assumed: measures(OPENING_MEASURES),
};

/** What has no thickness is refused by its own check. */
const lineWithin = ({ inset, thickness }: { inset?: unknown; thickness?: unknown }) =>
  typeof inset !== 'number' || typeof thickness !== 'number' || inset <= thickness;

/** What is no wall is refused by the checks of its fields. */
const roundEnough = (w: unknown): boolean => {
  const { curve, from, to } = w as Partial<Wall>;
  return typeof curve !== 'number' || !Array.isArray(from) || !Array.isArray(to) || isRoundEnough(w as Wall);
};

const atLevel = () =>
  yup
    .object({ storeyId: id().nullable().defined(), offset: finite() })
    .noUnknown()
    .strict()
    .nullable()
    .optional()
    .default(undefined);

const FIELDS = {
  ...DRAWN_FIELDS,
  from: pair(),
  to: pair(),
  curve: bounded().nullable().optional().default(undefined),
  thickness: positive(),
  alignment: yup.string().oneOf(['centre', 'left', 'right']).required(),
  base: atLevel(),
  top: atLevel(),
  height: positive(),
  heightAssumed: flag(),
  underRoof: yup.boolean().strict().nullable().optional().default(undefined),
  wallType: id().nullable().optional().default(undefined),
  firstLayer: yup.string().oneOf(['left', 'right']).nullable().optional().default(undefined),
  inset: finite().min(0).nullable().optional().default(undefined),
  runsThrough: measures(WALL_ENDS).nullable().optional().default(undefined),
  openings: yup
    .array()
    .of(yup.object(OPENING).noUnknown().strict())
    .max(MOST_OPENINGS)
    .test(
      'ids',
      'two openings of the wall have one id',
      (list: unknown) => !Array.isArray(list) || differ(list.map(idOf)),
    )
    .nullable()
    .optional()
    .default(undefined),
} satisfies FieldsOf<Wall>;
export const WALL_SCHEMA = yup
  .object(FIELDS)
  .test('length', 'the wall has no length', apart)
  .test('curve', 'the wall bends by more than half a turn, or closer than it is thick', roundEnough)
  .test('inset', 'the line of the wall lies beyond its other face', lineWithin);
