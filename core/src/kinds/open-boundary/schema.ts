import * as yup from 'yup';
import { pair } from '../fields.ts';
import { apart, DRAWN_FIELDS, type FieldsOf } from '../schema.ts';
import type { OpenBoundary } from './open-boundary.ts';

const FIELDS = { ...DRAWN_FIELDS, from: pair(), to: pair() } satisfies FieldsOf<OpenBoundary>;
export const OPEN_BOUNDARY_SCHEMA = yup.object(FIELDS).test('length', 'the boundary has no length', apart);
