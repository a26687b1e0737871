import { tabletSchema, type TabletMessage } from '@rouse/core/contract';
import { Router } from 'express';
import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { newOperatorToken } from '../accounts/links.ts';
import { audit } from '../db/audit.ts';
import { endTablet, insertTablet, listTablets } from '../db/tablets.ts';
import { Refusal } from '../errors.ts';
import { deskOf, type Services } from '../services.ts';
import { asks } from './asks.ts';
import { parse } from './parse.ts';

const idSchema = z.uuid({ message: 'is not the id of a tablet' });

/** Tablets of the crew room: for administrators. */
export function tabletRoutes(services: Services): Router {
  const { accounts } = services;
  const router = Router();

  router.get('/tablets', async (_req, res) => {
    const rows = await deskOf(services, res).inTx(listTablets);
    res.json(
      rows.map((t): TabletMessage => ({
        id: t.tabletId,
        label: t.label,
        enrolledBy: t.enrolledBy,
        enrolledAt: t.enrolledAt.toISOString(),
      })),
    );
  });

  // the browser that asks becomes the tablet
  router.post('/tablets', asks(tabletSchema), async (req, res) => {
    const { label } = req.body;
    const { who, inTx, now } = deskOf(services, res);
    const { token, digest } = newOperatorToken(who.operatorId);
    const tablet = { tabletId: uuidv7(), label, enrolledBy: who.name, enrolledAt: now() };
    await inTx(async (tx) => {
      await insertTablet(tx, tablet, digest);
      await audit(tx, now(), who.name, 'tablet-enrolled', `${label} was enrolled`);
    });
    accounts.cookies.set(res, 'tablet', token);
    res.status(201).json({ id: tablet.tabletId });
  });

  router.delete('/tablets/:tablet', async (req, res) => {
    const id = parse(idSchema, req.params['tablet']);
    const { who, inTx, now } = deskOf(services, res);
    await inTx(async (tx) => {
      if (!(await endTablet(tx, id, now()))) throw new Refusal('not-found', 'There is no such tablet.');
      await audit(tx, now(), who.name, 'tablet-ended', 'A tablet of the crew room was ended');
    });
    await accounts.sessions.endTablet(id);
    res.json({ ended: true });
  });

  return router;
}
