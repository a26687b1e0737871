import type { IncomingHttpHeaders } from 'node:http';
import type { RequestHandler } from 'express';
import { Refusal } from './errors.ts';

const LOOPBACK = new Set(['127.0.0.1', 'localhost', '[::1]']);

/** A page of ours on this machine, and not another site that found the port. */
export function isOwnOrigin(headers: IncomingHttpHeaders): boolean {
  const host = headers.host ?? '';
  if (!LOOPBACK.has(host.replace(/:\d+$/, ''))) return false;
  return headers.origin === undefined || headers.origin === `http://${host}`;
}

export const ownOriginOnly: RequestHandler = (req, _res, next) => {
  if (isOwnOrigin(req.headers)) next();
  else next(new Refusal('bad-origin', 'This request does not come from a Rouse page on this machine.'));
};
