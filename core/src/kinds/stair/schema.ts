import * as yup from 'yup';
import { finite, flag, pair, positive } from '../fields.ts';
import { apart, DRAWN_FIELDS, type FieldsOf } from '../schema.ts';
import type { Stair } from './stair.ts';

/** More risers than a flight has. */
const MOST_RISERS = 200;
const risers = () => yup.number().strict().integer().min(2).max(MOST_RISERS).required();

const FIELDS = {
  ...DRAWN_FIELDS,
  from: pair(),
  to: pair(),
  width: positive(),
  risers: risers(),
  back: yup
    .object({
      risers: risers(),
      side: yup.string().oneOf(['left', 'right']).required(),
      gap: finite().min(0),
      landing: positive(),
    })
    .noUnknown()
    .strict()
    .nullable()
    .optional()
    .default(undefined),
  rise: positive(),
  riseAssumed: flag(),
  thickness: positive(),
} satisfies FieldsOf<Stair>;
export const STAIR_SCHEMA = yup.object(FIELDS).test('length', 'the stair has no length', apart);
