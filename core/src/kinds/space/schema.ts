import * as yup from 'yup';
import { note, pair, positive } from '../fields.ts';
import { DRAWN_FIELDS, type FieldsOf } from '../schema.ts';
import type { Space } from './space.ts';

/** Square millimetres of a square kilometre and more are a slip. */
const LARGEST = 1e12;

const FIELDS = {
  ...DRAWN_FIELDS,
  at: pair(),
  name: note(),
  number: note(),
  letters: positive(),
  printed: yup.number().strict().moreThan(0).max(LARGEST).nullable().defined(),
  unheated: yup.boolean().strict().nullable().optional().default(undefined),
} satisfies FieldsOf<Space>;
export const SPACE_SCHEMA = yup.object(FIELDS);
