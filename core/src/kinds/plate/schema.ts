import * as yup from 'yup';
import { finite, name, note, positive } from '../fields.ts';
import { DRAWN_FIELDS, memberId, rings, type FieldsOf } from '../schema.ts';
import type { Plate } from './plate.ts';

const FIELDS = {
  ...DRAWN_FIELDS,
  rings: rings(),
  rise: finite(),
  thickness: positive(),
  name: note(),
  material: name(),
  density: positive(),
  weldedTo: memberId().nullable().defined() as yup.StringSchema<string | null>,
} satisfies FieldsOf<Plate>;
export const PLATE_SCHEMA = yup.object(FIELDS);
