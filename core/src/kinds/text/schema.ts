import * as yup from 'yup';
import { body, finite, pair, positive } from '../fields.ts';
import { DRAWN_FIELDS, type FieldsOf } from '../schema.ts';
import type { Note } from './text.ts';

const FIELDS = {
  ...DRAWN_FIELDS,
  at: pair(),
  angle: finite(),
  height: positive(),
  text: body(),
} satisfies FieldsOf<Note>;
export const TEXT_SCHEMA = yup.object(FIELDS);
