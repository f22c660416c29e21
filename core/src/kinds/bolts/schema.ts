import * as yup from 'yup';
import { finite, flag, pair, positive } from '../fields.ts';
import { DRAWN_FIELDS, memberId, sure, type FieldsOf } from '../schema.ts';
import { BOLT_GRADES, MOST_BOLTS, MOST_IN_PATTERN, type BoltPattern, type Bolts } from './bolts.ts';

const some = () => yup.number().strict().integer().min(1).max(MOST_BOLTS);

const pattern = yup
  .object({
    form: yup.string().oneOf(['rows', 'circle']).required(),
    rows: some().optional(),
    columns: some().optional(),
    pitch: finite().min(0).optional(),
    gauge: finite().min(0).optional(),
    count: some().optional(),
    diameter: positive().optional(),
  })
  .noUnknown()
  .strict()
  .test(
    'pattern',
    'bolts that stand in a pattern need its sizes, and may not stand on one another',
    sure((p: BoltPattern) =>
      p.form === 'circle'
        ? p.count >= 1 && p.diameter > 0
        : p.rows * p.columns <= MOST_IN_PATTERN &&
          p.rows >= 1 &&
          p.columns >= 1 &&
          (p.rows === 1 ? p.pitch >= 0 : p.pitch > 0) &&
          (p.columns === 1 ? p.gauge >= 0 : p.gauge > 0),
    ) as (p: unknown) => boolean,
  )
  .default(undefined)
  .required();

/** No bolt is thicker, millimetres. */
const THICKEST = 200;

const FIELDS = {
  ...DRAWN_FIELDS,
  at: pair(),
  turn: finite(),
  pattern,
  d: positive().max(THICKEST),
  grade: yup
    .string()
    .oneOf([...BOLT_GRADES])
    .nullable()
    .optional()
    .default(undefined),
  of: memberId().nullable().defined() as yup.StringSchema<string | null>,
  rise: finite(),
  reversed: flag(),
} satisfies FieldsOf<Bolts>;
export const BOLTS_SCHEMA = yup.object(FIELDS);
