import * as yup from 'yup';
import { pair } from '../fields.ts';
import { apart, DRAWN_FIELDS, type FieldsOf } from '../schema.ts';
import type { ConstructionLine } from './construction-line.ts';

const FIELDS = { ...DRAWN_FIELDS, from: pair(), to: pair() } satisfies FieldsOf<ConstructionLine>;
export const CONSTRUCTION_LINE_SCHEMA = yup
  .object(FIELDS)
  .test('length', 'the construction line has no length', apart);
