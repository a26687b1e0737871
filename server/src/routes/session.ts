import { acknowledgeSchema, chooseOperatorSchema } from '@rouse/core/contract';
import { ACKNOWLEDGEMENT } from '@rouse/core/people';
import { Router } from 'express';
import { sessionOf } from '../accounts/admission.ts';
import { insertAcknowledgement } from '../db/people.ts';
import { Refusal } from '../errors.ts';
import { deskOf, type Services } from '../services.ts';
import { asks } from './asks.ts';
import { saySignInWays, saySession } from './session-message.ts';

/** Who is signed in on a browser, where they work, and out again. */
export function sessionRoutes(services: Services): Router {
  const { accounts } = services;
  const { sessions } = accounts;
  const router = Router();

  router.get('/session', async (req, res) => {
    const session = await sessions.of(req.headers);
    res.json(session ? await saySession(services, req, session) : await saySignInWays(services, req));
  });

  router.put('/session/operator', asks(chooseOperatorSchema), async (req, res) => {
    const { operator } = req.body;
    await sessions.choose(req.headers, sessionOf(res), operator);
    res.json(await saySession(services, req, (await sessions.of(req.headers))!));
  });

  router.delete('/session', async (req, res) => {
    await sessions.endOf(req.headers);
    accounts.cookies.clear(res, 'session');
    res.json(await saySignInWays(services, req));
  });

  router.post('/acknowledgements', asks(acknowledgeSchema), async (req, res) => {
    const { version } = req.body;
    if (version !== ACKNOWLEDGEMENT.version)
      throw new Refusal('changed-meanwhile', 'The words have changed; read them again.', { path: 'version' });
    const { who, inTx, now } = deskOf(services, res);
    const words = ACKNOWLEDGEMENT.words.join('\n');
    await inTx((tx) => insertAcknowledgement(tx, who.personId, { version, words, at: now() }));
    res.status(201).json({ version });
  });

  return router;
}
