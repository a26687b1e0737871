import { type Need, ROUTES } from '@rouse/core/people';
import { type RequestHandler, type Response, Router } from 'express';
import type { Limit } from './limits.ts';
import { Refusal } from '../errors.ts';
import { type Member, needRight, type Session, type Sessions } from './sessions.ts';

/** Lets a request through that the table of routes allows to whoever sends it. What is not in the table is not there. */
export function admission(sessions: Sessions, requests: Limit): Router {
  const router = Router();
  for (const { method, path, need, unlimited } of ROUTES) {
    const verb = method.toLowerCase() as 'get' | 'post' | 'put' | 'delete';
    router[verb](path, admit(sessions, unlimited ? null : requests, need));
  }
  router.use((req, res, next) => {
    if (res.locals['admitted'] !== true) throw new Refusal('not-found', `There is nothing at ${req.originalUrl}.`);
    next();
  });
  return router;
}

function admit(sessions: Sessions, requests: Limit | null, need: Need): RequestHandler {
  return async (req, res, next) => {
    if (res.locals['admitted'] === true) return next();
    const session = await sessions.of(req.headers);
    await requests?.count(session?.sessionId ?? req.ip ?? '');
    if (need !== 'public') {
      if (!session) throw new Refusal('signed-out', 'Nobody is signed in on this browser.');
      if (need !== 'signed-in') {
        const { member } = session;
        if (!member) throw new Refusal('no-right', 'Choose the operator that you work in.');
        if (need !== 'member') needRight(member, need);
      }
    }
    res.locals['session'] = session;
    res.locals['admitted'] = true;
    next();
  };
}

/** Who asks, where the table says that somebody does. */
export function sessionOf(res: Response): Session {
  const session = res.locals['session'] as Session | null | undefined;
  if (!session) throw new Refusal('signed-out', 'Nobody is signed in on this browser.');
  return session;
}

/** The person who asks, in the operator that they work in. */
export function memberOf(res: Response): Member {
  const { member } = sessionOf(res);
  if (!member) throw new Refusal('no-right', 'Choose the operator that you work in.');
  return member;
}
