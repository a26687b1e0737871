import { Router } from 'express';
import { z } from 'zod';
import { findOutsideIdentity } from '../db/accounts.ts';
import { findIdentityProvider } from '../db/identity-providers.ts';
import { asOperator } from '../db/pool.ts';
import { Refusal } from '../errors.ts';
import type { Services } from '../services.ts';
import { joinBySignOn } from './join.ts';
import { asksQuery } from './asks.ts';
import { parse } from './parse.ts';

const idSchema = z.uuid({ message: 'is not the id of an operator' });
const invitationSchema = z.object({ invitation: z.string().max(200).optional() });

/** The sign-on of an organisation: away to its identity provider, and back. */
export function signOnRoutes(services: Services): Router {
  const { pool, accounts } = services;
  const { flows, limits, sessions, signOn } = accounts;
  const router = Router();

  const providerOf = async (operatorId: string): ReturnType<typeof findIdentityProvider> =>
    asOperator(pool, operatorId, findIdentityProvider);

  router.get('/session/sign-on/:operator', asksQuery(invitationSchema), async (req, res) => {
    const operatorId = parse(idSchema, req.params['operator']);
    const { invitation = null } = res.locals.query;
    await limits.signInByAddress.count(req.ip ?? '');
    const provider = await providerOf(operatorId);
    if (!provider) throw new Refusal('not-found', 'This operator has no sign-on of its own.');
    const { to, ...flow } = await signOn.begin(provider).catch(() => {
      throw new Refusal('sign-on-away', `${provider.label} does not answer.`);
    });
    await flows.begin(res, { kind: 'sign-on', operatorId, invitation, ...flow });
    res.redirect(to.href);
  });

  router.get('/session/sign-on-back', async (req, res) => {
    const flow = await flows.end(req, res, 'sign-on');
    const provider = flow && (await providerOf(flow.operatorId));
    if (!flow || !provider) return res.redirect('/sign-in?sign-on=again');
    const identity = await signOn.end(provider, req.originalUrl, flow).catch(() => null);
    if (!identity) return res.redirect('/sign-in?sign-on=again');
    const known = await findOutsideIdentity(pool, identity.issuer, identity.subject);
    const accountId = flow.invitation === null ? known : await joinBySignOn(services, flow.invitation, identity, known);
    if (accountId === null) return res.redirect('/sign-in?sign-on=unknown');
    await sessions.begin(req, res, accountId, 'sign-on', { operatorId: flow.operatorId });
    res.redirect('/');
  });

  return router;
}
