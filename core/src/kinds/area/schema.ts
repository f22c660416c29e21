import * as yup from 'yup';
import { bounded, bulges, flag, note, points } from '../fields.ts';
import { closes, DRAWN_FIELDS, stretches, sure, type FieldsOf } from '../schema.ts';
import type { Area } from './area.ts';

/** More rings than an area has. */
const MOST_RINGS = 1000;

const ring = yup
  .object({ points: points(2), bulges: bulges() })
  .noUnknown()
  .strict()
  .test(
    'ring',
    'an outline needs three corners',
    sure((v) => closes(v) && stretches(v)),
  );
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
  rings: yup.array().of(ring).required().min(1).max(MOST_RINGS),
  fill,
  name: note(),
  figure: flag(),
} satisfies FieldsOf<Area>;
export const AREA_SCHEMA = yup.object(FIELDS);
