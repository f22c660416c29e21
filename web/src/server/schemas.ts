import 'server-only';
import * as yup from 'yup';
import { isSoundText } from '@calque/core/texts';
import { UNIT_SYSTEMS } from '@calque/core/units';

export const newProject = yup
  .object({
    name: yup
      .string()
      .trim()
      .required('Give the project a name.')
      .max(200, 'The name may have up to 200 characters.'),
    units: yup
      .string()
      .oneOf([...UNIT_SYSTEMS])
      .required(),
    precision: yup.number().integer().min(0).max(64).required(),
  })
  .noUnknown();

export const fileAction = yup
  .object({
    action: yup.string().oneOf(['cancel', 'read']).required(),
    password: yup
      .string()
      .max(500)
      .nullable()
      .default(null)
      .test('sound', 'The password holds characters that cannot be kept.', (v) => !v || isSoundText(v)),
    millimetresPerUnit: yup.number().positive().max(1e7).nullable().default(null),
  })
  .noUnknown();

const MOST_LAST = 10000;
/** Sequences are whole numbers of the database. */
const seq = (name: string) =>
  yup
    .number()
    .typeError(`"${name}" is a whole number.`)
    .integer(`"${name}" is a whole number.`)
    .min(0, `"${name}" is not below 0.`)
    .max(2 ** 31 - 1, `"${name}" is larger than any sequence.`);

/** What may be asked of steps: those after a sequence, before another, the last so many. */
export const stepsQuery = yup.object({
  after: seq('after').default(0),
  before: seq('before').optional(),
  last: yup
    .number()
    .typeError('"last" is a whole number.')
    .integer('"last" is a whole number.')
    .min(1, '"last" is at least 1.')
    .max(MOST_LAST, `"last" is ${MOST_LAST} at most.`)
    .optional(),
});
