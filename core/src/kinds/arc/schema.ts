import * as yup from 'yup';
import { finite, pair, positive } from '../fields.ts';
import { DASHED_FIELDS, DRAWN_FIELDS, type FieldsOf } from '../schema.ts';
import type { TracedArc } from './arc.ts';

const TURN = 2 * Math.PI + 1e-9;

const FIELDS = {
  ...DRAWN_FIELDS,
  ...DASHED_FIELDS,
  centre: pair(),
  radius: positive(),
  start: finite(),
  sweep: positive().max(TURN),
} satisfies FieldsOf<TracedArc>;
export const ARC_SCHEMA = yup.object(FIELDS);
