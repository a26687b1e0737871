import { type KeptMapping, keptMappingSchema, mappingKeySchema } from '@rouse/core/contract';
import { digestOf } from '@rouse/core/procedure';
import { Router } from 'express';
import { findMapping, putMapping } from '../db/mappings.ts';
import { deskOf, type Services } from '../services.ts';
import { asks, asksQuery } from './asks.ts';

/** Files are read in the browser; what is kept here is how. */
export function replayRoutes(services: Services): Router {
  const router = Router();

  router.get('/mappings/:type', asksQuery(mappingKeySchema), async (req, res) => {
    const { header } = res.locals.query;
    const { inTx } = deskOf(services, res);
    const mapping = await inTx((tx) => findMapping(tx, String(req.params['type']), digestOf(header)));
    res.json({ mapping } satisfies KeptMapping);
  });

  router.put('/mappings/:type', asks(keptMappingSchema), async (req, res) => {
    const { header, mapping } = req.body;
    const { who, inTx, now } = deskOf(services, res);
    await inTx((tx) => putMapping(tx, String(req.params['type']), digestOf(header), mapping, who.personId, now()));
    res.json({ mapping } satisfies KeptMapping);
  });

  return router;
}
