import * as yup from 'yup';
import { bounded, flag, note } from '../fields.ts';
import { DRAWN_FIELDS, rings, sure, type FieldsOf } from '../schema.ts';
import type { Area } from './area.ts';

// An angle of null was written for an infinite one once; such areas still open.
const fill = yup
  .object({
    kind: yup.string().oneOf(['none', 'solid', 'hatch']).required(),
    angle: bounded().nullable().optional(),
    spacing: bounded().moreThan(0).optional(),
    crossed: yup.boolean().strict().optional(),
  })
  .noUnknown()
  .strict()
  .test(
    'hatch',
    'a hatch needs its angle and spacing',
    sure(
      (f) =>
        f.kind !== 'hatch' || (f.angle !== undefined && f.spacing !== undefined && f.crossed !== undefined),
    ),
  )
  .default(undefined)
  .required();

const FIELDS = {
  ...DRAWN_FIELDS,
  rings: rings(),
  fill,
  name: note(),
  figure: flag(),
} satisfies FieldsOf<Area>;
export const AREA_SCHEMA = yup.object(FIELDS);
