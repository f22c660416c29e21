import * as yup from 'yup';
import { finite, note, pair, positive } from '../fields.ts';
import { DRAWN_FIELDS, type FieldsOf } from '../schema.ts';
import { MARKS, type SymbolMark } from './symbol.ts';

const FIELDS = {
  ...DRAWN_FIELDS,
  mark: yup
    .string()
    .oneOf([...MARKS])
    .required(),
  at: pair(),
  angle: finite(),
  size: positive(),
  text: note(),
} satisfies FieldsOf<SymbolMark>;
export const SYMBOL_SCHEMA = yup.object(FIELDS);
