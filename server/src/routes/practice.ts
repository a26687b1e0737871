import { practiceSchema } from '@rouse/core/contract';
import { Router } from 'express';
import { v7 as uuidv7 } from 'uuid';
import { asOperator } from '../db/pool.ts';
import { insertPractice, listPractice } from '../db/practice.ts';
import type { Services } from '../services.ts';
import { parse } from './parse.ts';

const LISTED = 20;

/** Practice flights of the person at the screen. */
export function practiceRoutes({ pool, operatorId, personId, clock }: Services): Router {
  const router = Router();

  router.get('/practice', async (_req, res) => {
    res.json(await asOperator(pool, operatorId, (tx) => listPractice(tx, personId, LISTED)));
  });

  router.post('/practice', async (req, res) => {
    const practice = parse(practiceSchema, req.body);
    const id = uuidv7();
    await asOperator(pool, operatorId, (tx) => insertPractice(tx, id, personId, new Date(clock.now()), practice));
    res.status(201).json({ id });
  });

  return router;
}
