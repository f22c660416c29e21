import * as yup from 'yup';
import { points } from '../fields.ts';
import { DASHED_FIELDS, DRAWN_FIELDS, sure, type FieldsOf } from '../schema.ts';
import type { Spline } from './spline.ts';

const FIELDS = { ...DRAWN_FIELDS, ...DASHED_FIELDS, controls: points(4) } satisfies FieldsOf<Spline>;
export const SPLINE_SCHEMA = yup.object(FIELDS).test(
  'controls',
  'a curve needs three control points for each piece and one more',
  sure((v) => v.controls.length % 3 === 1),
);
