import { practiceSchema } from '@rouse/core/contract';
import { Router } from 'express';
import { v7 as uuidv7 } from 'uuid';
import { insertPractice, listPractice } from '../db/practice.ts';
import { deskOf, type Services } from '../services.ts';
import { asks } from './asks.ts';

const LISTED = 20;

/** Practice flights of the person at the screen. */
export function practiceRoutes(services: Services): Router {
  const router = Router();

  router.get('/practice', async (_req, res) => {
    const { who, inTx } = deskOf(services, res);
    res.json(await inTx((tx) => listPractice(tx, who.personId, LISTED)));
  });

  router.post('/practice', asks(practiceSchema), async (req, res) => {
    const practice = req.body;
    const id = uuidv7();
    const { who, inTx, now } = deskOf(services, res);
    await inTx((tx) => insertPractice(tx, id, who.personId, now(), practice));
    res.status(201).json({ id });
  });

  return router;
}
