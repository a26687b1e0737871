import type { BriefContextMessage } from '@rouse/core/contract';
import { houseWaySchema, releaseSchema } from '@rouse/core/contract';
import { Router } from 'express';
import { z } from 'zod';
import { listTypes, getType } from '../db/aircraft.ts';
import { releaseExceedance } from '../db/exceedances.ts';
import { asOperator } from '../db/pool.ts';
import { listWays, putWay } from '../db/ways.ts';
import { Refusal } from '../errors.ts';
import type { Services } from '../services.ts';
import { briefContext } from './brief-context.ts';
import { parse } from './parse.ts';
import { standInState } from './stand-in.ts';

const idSchema = z.uuid({ message: 'is not the id of an aircraft' });
const exceedanceSchema = z.object({ run: z.uuid(), seq: z.coerce.number().int().min(1) });

export function briefRoutes(services: Services): Router {
  const { pool, operatorId, personId, fleet, clock } = services;
  const router = Router();

  router.get('/aircraft/:aircraft/brief', async (req, res) => {
    const live = fleet.of(parse(idSchema, req.params['aircraft']));
    const { type, ...rest } = await asOperator(pool, operatorId, (tx) =>
      briefContext(tx, live.aircraft, live.type, new Date(clock.now())),
    );
    const message: BriefContextMessage = {
      ...rest,
      starts: [...rest.starts],
      type: { id: type.id, version: type.version },
      openRun: live.openRunId,
      simulated: live.wired ? (await standInState(services, live)).preset : null,
    };
    res.json(message);
  });

  router.post('/exceedances/:run/:seq/release', async (req, res) => {
    const release = parse(releaseSchema, req.body);
    const { run, seq } = parse(exceedanceSchema, req.params);
    const released = await asOperator(pool, operatorId, (tx) =>
      releaseExceedance(tx, run, seq, release, new Date(clock.now())),
    );
    if (!released) throw new Refusal('not-found', 'No exceedance is open there; somebody may have released it.');
    res.json({ released: true });
  });

  router.get('/types', async (_req, res) => {
    res.json(await asOperator(pool, operatorId, (tx) => listTypes(tx)));
  });

  router.get('/types/:type/ways', async (req, res) => {
    res.json(await asOperator(pool, operatorId, (tx) => listWays(tx, String(req.params['type']))));
  });

  router.put('/types/:type/ways', async (req, res) => {
    const { version, choice, to } = parse(houseWaySchema, req.body);
    const typeId = String(req.params['type']);
    const ways = await asOperator(pool, operatorId, async (tx) => {
      const type = await getType(tx, typeId, version);
      const asked = type.choices.find((c) => c.id === choice && !c.derived);
      if (!asked?.alternatives.some((a) => a.id === to))
        throw new Refusal('bad-request', `${to} is not an answer to ${asked?.question ?? choice}.`, { path: 'to' });
      await putWay(tx, typeId, choice, to, personId, new Date(clock.now()));
      return listWays(tx, typeId);
    });
    res.json(ways);
  });

  return router;
}
