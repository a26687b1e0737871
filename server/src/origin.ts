import type { IncomingHttpHeaders } from 'node:http';
import type { Request, RequestHandler } from 'express';
import { Refusal } from './errors.ts';

const LOOPBACK = new Set(['127.0.0.1', 'localhost', '[::1]']);

/**
 * A page of ours, and not another site that found the port.
 * @param origin the one address that browsers open, null for a server that only this machine reaches
 */
export function isOwnOrigin(headers: IncomingHttpHeaders, origin: URL | null): boolean {
  const host = headers.host ?? '';
  if (origin) return host === origin.host && (headers.origin === undefined || headers.origin === origin.origin);
  if (!LOOPBACK.has(host.replace(/:\d+$/, ''))) return false;
  return headers.origin === undefined || headers.origin === `http://${host}`;
}

export const ownOriginOnly =
  (origin: URL | null): RequestHandler =>
  (req, _res, next) => {
    // what changes something comes from a page of ours, which says so, or from a program, which has no cookie of a browser
    if (isOwnOrigin(req.headers, origin)) next();
    else next(new Refusal('bad-origin', 'This request does not come from a Rouse page of this address.'));
  };

/** Whether a request comes from this machine itself, and not through a proxy. */
export function isLoopback(req: Request): boolean {
  const from = req.socket.remoteAddress ?? '';
  const proxied = req.headers['x-forwarded-for'] !== undefined || req.headers.forwarded !== undefined;
  return !proxied && (from === '::1' || from.replace('::ffff:', '').startsWith('127.'));
}
