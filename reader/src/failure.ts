/** Why a file cannot be read. The code decides what the caller offers next; the message is for people. */
export type FailureCode =
  | 'empty'
  | 'unknown-kind'
  | 'damaged'
  | 'password'
  | 'too-large'
  | 'too-long'
  | 'no-such-page'
  | 'engine'
  | 'nothing-common'
  | 'units'
  | 'no-room';

export class ReadFailure extends Error {
  /** `cause`: what an engine had to say, as text, for whoever looks into it. */
  constructor(
    readonly code: FailureCode,
    message: string,
    options?: { cause?: string },
  ) {
    super(message, options);
    this.name = 'ReadFailure';
  }
}

const MEMORY =
  /out of memory|allocation failed|bad_alloc|Array buffer allocation|Invalid typed array length|Invalid array length|Invalid string length|Cannot create a string longer|memory access out of bounds|ENOMEM/i;

/** Anything that went wrong while reading, as a failure with words. */
export function asFailure(error: unknown): ReadFailure {
  if (error instanceof ReadFailure) return error;
  const { code } = error as { code?: unknown };
  if (code === 'ENOSPC' || code === 'EDQUOT')
    return new ReadFailure(
      'no-room',
      'There is no room left in the temporary folder of the machine that reads. Make room there, then have the file read again.',
    );
  const text = error instanceof Error ? error.message : String(error);
  if (MEMORY.test(text))
    return new ReadFailure(
      'too-large',
      'This file unpacks to more than reading may use and was stopped. Export the sheet again with fewer objects, or split it.',
    );
  if (error instanceof RangeError && /call stack/i.test(text))
    return new ReadFailure(
      'damaged',
      'This file is nested deeper than any drawing is, and cannot be read. Export it again.',
    );
  return new ReadFailure('engine', text.slice(0, 300));
}
