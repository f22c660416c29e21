import 'server-only';
import * as yup from 'yup';
import { isSoundText } from '@calque/core/texts';
import { UNIT_SYSTEMS } from '@calque/core/units';

export const newProject = yup.object({
  name: yup.string().trim().required('Give the project a name.').max(200, 'The name may have up to 200 characters.'),
  units: yup.string().oneOf([...UNIT_SYSTEMS]).required(),
  precision: yup.number().integer().min(0).max(64).required(),
}).noUnknown();

export const fileAction = yup.object({
  action: yup.string().oneOf(['cancel', 'read']).required(),
  password: yup.string().max(500).nullable().default(null).test('sound', 'The password holds characters that cannot be kept.', (v) => !v || isSoundText(v)),
  millimetresPerUnit: yup.number().positive().max(1e7).nullable().default(null),
}).noUnknown();
