/** What to do about a file of which nothing is wrong but its size. */
export const TOO_LARGE_HINT =
  'Nothing is wrong with the file but its size: split it, or take out what is not needed.';

/** Where in a file or scene something is wrong. */
export interface Place {
  readonly file?: string;
  readonly line?: number;
  readonly byte?: number;
  readonly bone?: string;
  readonly frame?: number;
  /** Id of the clip that is meant. */
  readonly clip?: string;
  /** Path inside a document, such as `characters[0].cues[2].seam.fit`. */
  readonly path?: string;
}

/**
 * Something given to the program is wrong: a file, a sheet, a request. `code` is stable for programs, the
 * message and hint are for people.
 */
export class InputError extends Error {
  override readonly name = 'InputError';
  readonly place: Place;
  readonly hint: string;

  constructor(
    readonly code: string,
    message: string,
    options: { place?: Place; hint?: string; cause?: unknown } = {},
  ) {
    super(message, options.cause === undefined ? undefined : { cause: options.cause });
    this.place = options.place ?? {};
    this.hint = options.hint ?? '';
  }

  /** The same error with more of its place known, such as the file that a reader was given. */
  at(place: Place): InputError {
    return new InputError(this.code, this.message, {
      place: { ...place, ...this.place },
      hint: this.hint,
      cause: this.cause,
    });
  }
}
