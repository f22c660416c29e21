import * as yup from 'yup';
import { finite, measures, positive } from '../fields.ts';
import { DRAWN_FIELDS, rings, type FieldsOf } from '../schema.ts';
import { SLAB_MEASURES, type Slab } from './slab.ts';

const FIELDS = {
  ...DRAWN_FIELDS,
  rings: rings(),
  thickness: positive(),
  top: finite(),
  assumed: measures(SLAB_MEASURES),
} satisfies FieldsOf<Slab>;
export const SLAB_SCHEMA = yup.object(FIELDS);
