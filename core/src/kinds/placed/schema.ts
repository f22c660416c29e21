import * as yup from 'yup';
import { id, placement } from '../fields.ts';
import { DRAWN_FIELDS, type FieldsOf } from '../schema.ts';
import type { Placed } from './placed.ts';

const FIELDS = { ...DRAWN_FIELDS, assemblyId: id(), placement: placement() } satisfies FieldsOf<Placed>;
export const PLACED_SCHEMA = yup.object(FIELDS);
