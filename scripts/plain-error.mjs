/** An error that is told in one line, without a stack. */
export class PlainError extends Error {}
