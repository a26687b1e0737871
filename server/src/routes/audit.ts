import type { AuditMessage } from '@rouse/core/contract';
import { Router } from 'express';
import { brokenAudit, listAudit } from '../db/audit.ts';
import { deskOf, type Services } from '../services.ts';

/** What was done, for administrators. */
export function auditRoutes(services: Services): Router {
  const router = Router();

  router.get('/audit', async (_req, res) => {
    const entries = await deskOf(services, res).inTx(listAudit);
    res.json({
      broken: brokenAudit(entries),
      entries: entries
        .map(({ seq, at, by, act, words }) => ({ seq, at: at.toISOString(), by, act, words }))
        .toReversed(),
    } satisfies AuditMessage);
  });

  return router;
}
