import type { Request, RequestHandler } from 'express';
import type { z } from 'zod';
import { parse } from './parse.ts';

/** What a route asks of a request, as the document of the interface tells it. */
export interface Asked {
  body?: z.ZodType;
  query?: z.ZodType;
}

const askedBy = new WeakMap<object, Asked>();

/** Reads the body of a request. @throws Refusal bad-request that names the field */
export function asks<T>(body: z.ZodType<T>): RequestHandler<Request['params'], unknown, T> {
  const read: RequestHandler<Request['params'], unknown, T> = (req, _res, next) => {
    req.body = parse(body, req.body);
    next();
  };
  askedBy.set(read, { body });
  return read;
}

type QueryReader<T> = RequestHandler<Request['params'], unknown, unknown, Request['query'], { query: T }>;

/** Reads what stands behind the question mark of an address into `res.locals.query`. @throws Refusal bad-request that names the field */
export function asksQuery<T>(query: z.ZodType<T>): QueryReader<T> {
  const read: QueryReader<T> = (req, res, next) => {
    res.locals.query = parse(query, req.query);
    next();
  };
  askedBy.set(read, { query });
  return read;
}

/** What a handler of a route asks; nothing where it asks nothing. */
export function askedOf(handler: object): Asked {
  return askedBy.get(handler) ?? {};
}
