import * as yup from 'yup';
import { flag, pair, positive } from '../fields.ts';
import { apart, DRAWN_FIELDS, type FieldsOf } from '../schema.ts';
import type { Wall } from './wall.ts';

/** More doors and windows than a wall has. */
const MOST_OPENINGS = 1000;

const FIELDS = {
  ...DRAWN_FIELDS,
  from: pair(),
  to: pair(),
  thickness: positive(),
  alignment: yup.string().oneOf(['centre', 'left', 'right']).required(),
  height: positive(),
  heightAssumed: flag(),
  openings: yup
    .array()
    .of(yup.object({ from: pair(), to: pair() }).noUnknown().strict())
    .max(MOST_OPENINGS)
    .nullable()
    .optional()
    .default(undefined),
} satisfies FieldsOf<Wall>;
export const WALL_SCHEMA = yup.object(FIELDS).test('length', 'the wall has no length', apart);
