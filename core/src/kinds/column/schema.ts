import * as yup from 'yup';
import { bulges, finite, flag, pair, points, positive } from '../fields.ts';
import { closes, DRAWN_FIELDS, stretches, sure, type FieldsOf } from '../schema.ts';
import type { Column, ColumnSection } from './column.ts';

const isSection = sure((s: ColumnSection) => {
  if (s.form === 'round') return s.diameter > 0;
  if (s.form === 'rectangle') return s.width > 0 && s.depth > 0;
  return closes(s) && stretches(s);
});

/** What only a drawn outline has. */
const perhaps = (schema: yup.Schema) =>
  yup.mixed().test('perhaps', '${path} are no points', (v) => v === undefined || schema.isValidSync(v));

const section = yup
  .object({
    form: yup.string().oneOf(['round', 'rectangle', 'outline']).required(),
    diameter: positive().optional(),
    width: positive().optional(),
    depth: positive().optional(),
    points: perhaps(points(2)),
    bulges: perhaps(bulges()),
  })
  .noUnknown()
  .strict()
  .test('section', 'a section needs its sizes', (s) => isSection(s as ColumnSection))
  .default(undefined)
  .required();

const FIELDS = {
  ...DRAWN_FIELDS,
  at: pair(),
  angle: finite(),
  section,
  foot: finite(),
  height: positive(),
  heightAssumed: flag(),
} satisfies FieldsOf<Column>;
export const COLUMN_SCHEMA = yup.object(FIELDS);
