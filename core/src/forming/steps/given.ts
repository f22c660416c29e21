import type { Body } from '../body.ts';
import { StepFault } from '../fault.ts';
import { bodyOfStep } from '../read-step.ts';
import type { Context } from './context.ts';

/** The solids of an attached STEP file where that has them. */
export function givenTool(file: string, { id, file: bytesOf }: Context): Body {
  const bytes = bytesOf(file);
  if (!bytes)
    throw new StepFault('Its file is not attached to the project any more: attach it again, and choose it.');
  return bodyOfStep(bytes, id);
}
