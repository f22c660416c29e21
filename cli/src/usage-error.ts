/** A mistake in how the command was called that is found only after its words were parsed. */
export class UsageError extends Error {}
