import { type KeptMapping, keptMappingSchema, mappingKeySchema } from '@rouse/core/contract';
import { digestOf } from '@rouse/core/procedure';
import { Router } from 'express';
import { findMapping, putMapping } from '../db/mappings.ts';
import { deskOf, type Services } from '../services.ts';
import { parse } from './parse.ts';

/** Files are read in the browser; what is kept here is how. */
export function replayRoutes(services: Services): Router {
  const router = Router();

  router.get('/mappings/:type', async (req, res) => {
    const { header } = parse(mappingKeySchema, req.query);
    const { inTx } = deskOf(services, res);
    const mapping = await inTx((tx) => findMapping(tx, req.params.type, digestOf(header)));
    res.json({ mapping } satisfies KeptMapping);
  });

  router.put('/mappings/:type', async (req, res) => {
    const { header, mapping } = parse(keptMappingSchema, req.body);
    const { who, inTx, now } = deskOf(services, res);
    await inTx((tx) => putMapping(tx, req.params.type, digestOf(header), mapping, who.personId, now()));
    res.json({ mapping } satisfies KeptMapping);
  });

  return router;
}
