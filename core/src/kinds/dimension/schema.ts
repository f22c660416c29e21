import * as yup from 'yup';
import { count, id, pair, points, positive } from '../fields.ts';
import { DRAWN_FIELDS, sure, type FieldsOf } from '../schema.ts';
import type { Dimension } from './dimension.ts';

const anchor = yup
  .object({ id: id(), grip: count(0) })
  .noUnknown()
  .strict()
  .nullable()
  .defined();
/** Points that each way of measuring needs. */
const POINTS_OF = { aligned: 2, horizontal: 2, vertical: 2, radius: 2, angle: 3 } as const satisfies Record<
  Dimension['measures'],
  number
>;

const FIELDS = {
  ...DRAWN_FIELDS,
  measures: yup
    .string()
    .oneOf(Object.keys(POINTS_OF) as Dimension['measures'][])
    .required(),
  points: points(2),
  on: yup.array().of(anchor).required().max(3),
  at: pair(),
  height: positive(),
} satisfies FieldsOf<Dimension>;
export const DIMENSION_SCHEMA = yup.object(FIELDS).test(
  'points',
  'the dimension has not the points that it measures between',
  sure((v) => v.points.length === POINTS_OF[v.measures] && v.on.length === v.points.length),
);
