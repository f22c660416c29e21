import * as yup from 'yup';
import { name, pair } from '../fields.ts';
import { apart, DRAWN_FIELDS, type FieldsOf } from '../schema.ts';
import type { GridLine } from './grid-line.ts';

const FIELDS = { ...DRAWN_FIELDS, from: pair(), to: pair(), name: name() } satisfies FieldsOf<GridLine>;
export const GRID_LINE_SCHEMA = yup.object(FIELDS).test('length', 'the grid line has no length', apart);
