import type { z } from 'zod';

/** Something in the input is wrong: exit 2 with the place and the remedy. */
export class BadInput extends Error {
  readonly code: string;
  readonly path: string;

  constructor(code: string, message: string, path = '') {
    super(message);
    this.code = code;
    this.path = path;
  }
}

/** @throws BadInput that names the first field that is wrong */
export function check<T>(schema: z.ZodType<T>, value: unknown, place = ''): T {
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  const issue = result.error.issues[0]!;
  throw new BadInput('BAD_FIELD', issue.message, [place, ...issue.path].filter((p) => p !== '').join('.'));
}
