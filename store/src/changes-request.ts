import * as yup from 'yup';
import { FIRST_FORM, formOf, NewerForm, upgradeChange } from '@calque/core/formats';
import { isSoundText } from '@calque/core/texts';
import type { Database } from './database.ts';
import { submitSteps, type BroughtStep, type Submitted } from './steps.ts';

const MOST_STEPS = 500;
export const LONGEST_LABEL = 200;

const request = yup
  .object({
    clientId: yup.string().required().max(64),
    /** The form that the steps are in; pages from before there were forms say none. */
    form: yup.number().strict().integer().min(FIRST_FORM).optional(),
    steps: yup
      .array()
      .of(
        yup
          .object({
            id: yup.string().uuid().required(),
            label: yup
              .string()
              .required()
              .max(LONGEST_LABEL)
              .test('sound', 'a label holds characters that cannot be kept', (v) => isSoundText(v ?? '')),
            kind: yup
              .string()
              .oneOf(['do', 'undo', 'redo'] as const)
              .required(),
            of: yup.string().uuid().nullable().defined(),
            // Checked step by step, so that the one at fault can be named.
            change: yup.mixed().nullable().defined(),
          })
          .noUnknown()
          .strict(),
      )
      .required()
      .min(1)
      .max(MOST_STEPS),
  })
  .noUnknown()
  .strict();

/** The request as a whole is none: which step is at fault cannot be told. */
export class NoRequest extends Error {
  override readonly name = 'NoRequest';
}

/**
 * Takes a page's steps as they came over the line, JSON text. The steps are checked one by one, so that a malformed one
 * is named and those before it are taken.
 */
export async function takeChanges(database: Database, projectId: string, text: string): Promise<Submitted> {
  let clientId: string, steps: BroughtStep[], form: number;
  try {
    const checked = request.validateSync(JSON.parse(text), { strict: true });
    form = formOf(checked.form, 'What this page sends');
    clientId = checked.clientId;
    steps = checked.steps.map((s) => ({ ...s, of: s.of ?? null, change: upgradeChange(s.change, form) }));
  } catch (error) {
    if (error instanceof NewerForm) throw error;
    throw new NoRequest(
      error instanceof yup.ValidationError ? error.errors.join(' ') : 'The request is not readable JSON.',
    );
  }
  return submitSteps(database, projectId, clientId, steps);
}
