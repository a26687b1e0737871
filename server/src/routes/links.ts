import { type InvitationMessage, invitationSchema, type LinkMade } from '@rouse/core/contract';
import { Router } from 'express';
import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { newOperatorToken } from '../accounts/links.ts';
import { listMemberships } from '../db/accounts.ts';
import { audit } from '../db/audit.ts';
import { endInvitation, insertInvitation, type InvitationRow, listInvitations } from '../db/invitations.ts';
import { getPerson } from '../db/people.ts';
import { Refusal } from '../errors.ts';
import { type Desk, deskOf, type Services } from '../services.ts';
import { asks } from './asks.ts';
import { parse } from './parse.ts';

const DAY_MS = 86_400_000;
/** a link is handed over, not sent around: it lasts as long as somebody needs to come by */
const JOIN_WITHIN_MS = 7 * DAY_MS;
const RESET_WITHIN_MS = DAY_MS;

const idSchema = z.uuid({ message: 'is not an id' });

/** One-time links that an administrator hands over: to join, and to choose another password. */
export function linkRoutes(services: Services): Router {
  const router = Router();

  router.post('/people/:person/reset', async (req, res) => {
    const personId = parse(idSchema, req.params['person']);
    const desk = deskOf(services, res);
    const { name, roles } = await desk.inTx((tx) => getPerson(tx, personId));
    if ((await listMemberships(services.pool, personId)).length > 1)
      throw new Refusal('no-right', `${name} works for several operators; no one of them resets the password.`);
    const made = await makeLink(services, desk, { kind: 'reset', name, roles, personId }, RESET_WITHIN_MS);
    res.status(201).json(made);
  });

  router.get('/invitations', async (_req, res) => {
    const { inTx, now } = deskOf(services, res);
    const rows = await inTx((tx) => listInvitations(tx, now()));
    res.json(
      rows.map((i): InvitationMessage => ({
        id: i.invitationId,
        kind: i.kind,
        name: i.name,
        roles: i.roles,
        madeBy: i.madeBy,
        until: i.until.toISOString(),
        usedAt: null,
      })),
    );
  });

  router.post('/invitations', asks(invitationSchema), async (req, res) => {
    const { name, roles } = req.body;
    const invited = { kind: 'join' as const, name, roles, personId: null };
    res.status(201).json(await makeLink(services, deskOf(services, res), invited, JOIN_WITHIN_MS));
  });

  router.delete('/invitations/:invitation', async (req, res) => {
    const id = parse(idSchema, req.params['invitation']);
    const { who, inTx, now } = deskOf(services, res);
    await inTx(async (tx) => {
      if (!(await endInvitation(tx, id, now()))) throw new Refusal('not-found', 'This link is over already.');
      await audit(tx, now(), who.name, 'link-taken-back', 'A link was taken back');
    });
    res.json({ ended: true });
  });

  return router;
}

/** A link to hand over; only its digest is kept. */
async function makeLink(
  { accounts }: Services,
  { who, inTx, now }: Desk,
  invited: Pick<InvitationRow, 'kind' | 'name' | 'roles' | 'personId'>,
  within_ms: number,
): Promise<LinkMade> {
  const { token, digest } = newOperatorToken(who.operatorId);
  const madeAt = now();
  const until = new Date(madeAt.getTime() + within_ms);
  await inTx(async (tx) => {
    await insertInvitation(tx, { ...invited, invitationId: uuidv7(), madeBy: who.name, madeAt, until }, digest);
    const what = invited.kind === 'join' ? `${invited.name} was invited as ${invited.roles.join(', ')}` : `A link for another password of ${invited.name} was made`; // oxfmt-ignore
    await audit(tx, madeAt, who.name, invited.kind === 'join' ? 'invited' : 'reset-link', what);
  });
  return { link: new URL(`/join/${token}`, accounts.origin).href, until: until.toISOString() };
}
