import * as yup from 'yup';
import { bulges, flag, points } from '../fields.ts';
import { closes, DASHED_FIELDS, DRAWN_FIELDS, stretches, sure, type FieldsOf } from '../schema.ts';
import type { TracedPath } from './path.ts';

const FIELDS = {
  ...DRAWN_FIELDS,
  ...DASHED_FIELDS,
  points: points(2),
  bulges: bulges(),
  closed: flag(),
} satisfies FieldsOf<TracedPath>;
export const PATH_SCHEMA = yup
  .object(FIELDS)
  .test('stretches', 'a path needs one bulge to each stretch', sure(stretches))
  .test(
    'closed',
    'a closed path needs three corners',
    sure((v) => !v.closed || closes(v)),
  );
