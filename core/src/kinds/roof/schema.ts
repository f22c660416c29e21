import * as yup from 'yup';
import { finite, isFigure, measures, points, positive } from '../fields.ts';
import { DRAWN_FIELDS, sure, type FieldsOf } from '../schema.ts';
import { ROOF_MEASURES, type Roof } from './roof.ts';

/** More sides than a roof has: each is held against every other. */
const MOST_SIDES = 200;

const FIELDS = {
  ...DRAWN_FIELDS,
  points: points(3).test(
    'sides',
    `a roof has at most ${MOST_SIDES} sides`,
    (v) => (v?.length ?? 0) <= MOST_SIDES,
  ),
  pitches: yup
    .mixed<number[]>()
    .required()
    .test(
      'pitches',
      '${path} must lie between level and upright',
      (v) =>
        Array.isArray(v) &&
        v.length <= MOST_SIDES &&
        v.every((p) => isFigure(p) && p >= 0 && p <= Math.PI / 2),
    ),
  eaves: finite(),
  overhang: finite().min(0),
  thickness: positive(),
  assumed: measures(ROOF_MEASURES),
} satisfies FieldsOf<Roof>;
export const ROOF_SCHEMA = yup.object(FIELDS).test(
  'each',
  'a roof needs a pitch for each of its sides',
  sure((e) => e.pitches.length === e.points.length),
);
