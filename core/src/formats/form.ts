/**
 * The form in which entities and steps are stored: counted up whenever a stored field gets another name or meaning. It stands beside
 * what is stored: with a project in the database, in a package's manifest, with pending steps in the browser and on its clipboard.
 * What says nothing of its form is of the first.
 */
export const FORM = 3;
export const FIRST_FORM = 1;

export type Stored = Record<string, unknown>;

/** What leads from one form to the next. Pure; what it does not know it leaves as it is, for whoever checks it afterwards. */
export interface Upgrade {
  to: number;
  /** Fields of an entity, or the fields that a `set` names before or after: never more is known of them. */
  fields(fields: Stored): Stored;
}

/** Something was stored by a newer Calque than this one. */
export class NewerForm extends Error {
  override readonly name = 'NewerForm';
  constructor(
    what: string,
    readonly form: number,
  ) {
    super(
      `${what} was saved by a newer Calque (form ${form}; this one knows forms up to ${FORM}). Update Calque, or reload the page if it has just been updated.`,
    );
  }
}

/** A form that was given from outside, or the first where none is; throws NewerForm, or an Error for what is none. */
export function formOf(given: unknown, what: string): number {
  if (given === undefined || given === null) return FIRST_FORM;
  if (typeof given !== 'number' || !Number.isSafeInteger(given) || given < FIRST_FORM)
    throw new Error(`${what} does not say its form as a whole number from ${FIRST_FORM} on`);
  if (given > FORM) throw new NewerForm(what, given);
  return given;
}
