/** Where in the input something is wrong; every part is optional. Lines are counted from 1, frames from 0. */
export interface Place {
  readonly file?: string;
  readonly line?: number;
  readonly joint?: string;
  readonly frame?: number;
  readonly field?: string;
}

/** Bad input: a code for programs, a place, and one sentence for people. Never thrown for our own mistakes. */
export class InputError extends Error {
  override readonly name = 'InputError';
  constructor(
    readonly code: string,
    message: string,
    readonly place: Place = {},
  ) {
    super(message);
  }
}

export interface Warning {
  readonly code: string;
  readonly message: string;
  readonly line?: number;
}
