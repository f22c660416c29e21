/** Why a file cannot be read. The code decides what the caller offers next; the message is for people. */
export type FailureCode = 'empty' | 'unknown-kind' | 'damaged' | 'password' | 'too-large' | 'too-long' | 'no-such-page' | 'engine' | 'nothing-common' | 'units';

export class ReadFailure extends Error {
  constructor(readonly code: FailureCode, message: string) {
    super(message);
    this.name = 'ReadFailure';
  }
}
