import * as yup from 'yup';
import { pair } from '../fields.ts';
import { apart, DASHED_FIELDS, DRAWN_FIELDS, type FieldsOf } from '../schema.ts';
import type { Line } from './line.ts';

const FIELDS = { ...DRAWN_FIELDS, ...DASHED_FIELDS, from: pair(), to: pair() } satisfies FieldsOf<Line>;
export const LINE_SCHEMA = yup.object(FIELDS).test('length', 'the line has no length', apart);
