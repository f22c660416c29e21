import 'server-only';
import * as yup from 'yup';
import { parseChange } from '@calque/core/model';
import { UNIT_SYSTEMS } from '@calque/core/units';
import type { ChangesRequest } from '@/project/wire';

const MOST_STEPS = 500;

export const newProject = yup.object({
  name: yup.string().trim().required('Give the project a name.').max(200, 'The name may have up to 200 characters.'),
  units: yup.string().oneOf([...UNIT_SYSTEMS]).required(),
  precision: yup.number().integer().min(0).max(64).required(),
}).noUnknown();

export const fileAction = yup.object({
  action: yup.string().oneOf(['cancel', 'read']).required(),
  password: yup.string().max(500).nullable().default(null),
  millimetresPerUnit: yup.number().positive().max(1e7).nullable().default(null),
}).noUnknown();

const steps = yup.object({
  clientId: yup.string().required().max(64),
  steps: yup.array().of(yup.object({
    id: yup.string().uuid().required(),
    label: yup.string().required().max(200),
    kind: yup.string().oneOf(['do', 'undo', 'redo']).required(),
    of: yup.string().uuid().nullable().defined(),
    change: yup.mixed().required(),
  }).noUnknown().strict()).required().min(1).max(MOST_STEPS),
}).noUnknown().strict();

export function parseChangesRequest(value: unknown): ChangesRequest {
  const checked = steps.validateSync(value, { strict: true });
  return { clientId: checked.clientId, steps: checked.steps.map((s) => ({ ...s, kind: s.kind as 'do', of: s.of ?? null, change: parseChange(s.change) })) };
}
