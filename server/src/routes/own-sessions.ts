import type { SessionRow } from '@rouse/core/contract';
import { Router } from 'express';
import { z } from 'zod';
import { sessionOf } from '../accounts/admission.ts';
import { Refusal } from '../errors.ts';
import type { Services } from '../services.ts';
import { parse } from './parse.ts';

const sessionIdSchema = z.uuid({ message: 'is not the id of a session' });

/** Where somebody is signed in, each to be ended. */
export function ownSessionRoutes({ accounts: { sessions } }: Services): Router {
  const router = Router();

  router.get('/account/sessions', async (_req, res) => {
    const here = sessionOf(res);
    const rows = await sessions.list(here.accountId);
    res.json(
      // people of the demo are shared: nobody sees where the others are
      rows
        .filter((s) => here.way !== 'demo' || s.sessionId === here.sessionId)
        .map((s): SessionRow => ({
          id: s.sessionId,
          way: s.way,
          device: s.device,
          address: s.address,
          madeAt: s.madeAt.toISOString(),
          seenAt: s.seenAt.toISOString(),
          here: s.sessionId === here.sessionId,
        })),
    );
  });

  router.delete('/account/sessions/:session', async (req, res) => {
    const id = parse(sessionIdSchema, req.params['session']);
    const here = sessionOf(res);
    if (here.way === 'demo' && id !== here.sessionId) throw new Refusal('not-found', 'There is no such session.');
    if (!(await sessions.end(here.accountId, id))) throw new Refusal('not-found', 'There is no such session.');
    res.json({ ended: true });
  });

  return router;
}
