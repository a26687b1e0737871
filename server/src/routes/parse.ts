import type { z } from 'zod';
import { Refusal } from '../errors.ts';

/** @throws Refusal bad-request that names the field */
export function parse<T>(schema: z.ZodType<T>, value: unknown): T {
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  const issue = result.error.issues[0]!;
  throw new Refusal('bad-request', `${issue.path.join('.') || 'The request'}: ${issue.message}`, {
    path: issue.path.join('.'),
  });
}
