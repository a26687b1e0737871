import type { RequestHandler } from 'express';
import { Refusal } from '../errors.ts';

/** A zero character, or half of a pair: no database and no file can keep it. */
function isUnkeepable(text: string): boolean {
  return text.includes('\0') || /\p{Surrogate}/u.test(text);
}

function findIn(value: unknown, path: string): string | null {
  if (typeof value === 'string') return isUnkeepable(value) ? path : null;
  if (typeof value !== 'object' || value === null) return null;
  for (const [key, inner] of Object.entries(value)) {
    const at = path ? `${path}.${key}` : key;
    const found = isUnkeepable(key) ? path || 'body' : findIn(inner, at);
    if (found !== null) return found;
  }
  return null;
}

/** Refuses texts that cannot be kept, by the name of their field, in the body, the query and the address. */
export const keepableTextOnly: RequestHandler = (req, _res, next) => {
  const found =
    findIn(req.body, '') ?? findIn({ ...req.query }, 'query') ?? (req.path.includes('%00') ? 'address' : null);
  if (found === null) next();
  else next(new Refusal('bad-request', `${found} holds characters that cannot be kept (a zero, or half a character).`, { path: found })); // oxfmt-ignore
};
