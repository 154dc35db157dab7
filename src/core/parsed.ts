import * as z from 'zod';

/**
 * The one way in which something from outside is checked: a file, a frame, a row of the store, a message. Whatever it is,
 * there is an answer and nothing is thrown: an object with a `length` or a `toString` of its own, which a check would
 * stumble over, is refused like any other that does not fit.
 */
export function parsed<S extends z.ZodType>(schema: S, value: unknown): z.ZodSafeParseResult<z.output<S>> {
  try {
    return schema.safeParse(value);
  } catch {
    const message = 'it holds something that cannot be read as what it should be';
    const error = new z.ZodError([{ code: 'custom', path: [], message, input: undefined }]);
    return { success: false, error: error as z.ZodError<z.output<S>> };
  }
}
