import { maintenanceSchema, trendChoiceSchema, type TrendsMessage } from '@rouse/core/contract';
import { MAINTENANCE_WORDS } from '@rouse/core/trends';
import { Router } from 'express';
import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { audit } from '../db/audit.ts';
import { insertMaintenance } from '../db/maintenance.ts';
import { getRun } from '../db/runs.ts';
import { insertTrendChoice, listTrendChoices } from '../db/trend-record.ts';
import { Refusal } from '../errors.ts';
import { deskOf, type Services } from '../services.ts';
import { asks } from './asks.ts';
import { parse } from './parse.ts';
import { runIdOf } from './run-detail.ts';

const idSchema = z.uuid({ message: 'is not the id of an aircraft' });

/** Where the figures of a tail go, and what an engineer did that lets them begin anew. */
export function trendRoutes(services: Services): Router {
  const router = Router();

  router.get('/aircraft/:aircraft/trends', async (req, res) => {
    const { fleet, inTx } = deskOf(services, res);
    const { aircraft, type } = fleet.of(parse(idSchema, req.params['aircraft']));
    const { asked, choices } = await inTx(async (tx) => ({
      asked: await services.trends.of(tx, aircraft.aircraftId, type),
      choices: await listTrendChoices(tx, aircraft.aircraftId),
    }));
    const message: TrendsMessage = {
      aircraft: aircraft.aircraftId,
      tail: aircraft.tail,
      pad: aircraft.pad,
      type: { id: type.id, version: type.version, name: type.name },
      trends: await asked.trends,
      leftOut: choices.filter((c) => c.leftOut).map(({ run, reason, by, at }) => ({ run, reason, by, at })),
    };
    res.json(message);
  });

  router.post('/aircraft/:aircraft/maintenance', asks(maintenanceSchema), async (req, res) => {
    const { kind, words, at } = req.body;
    const { who, fleet, inTx, now } = deskOf(services, res);
    const { aircraft } = fleet.of(parse(idSchema, req.params['aircraft']));
    if (Date.parse(at) > now().getTime())
      throw new Refusal('bad-request', 'at: What is booked has been done; this lies ahead.', { path: 'at' });
    const eventId = uuidv7();
    await inTx(async (tx) => {
      const { aircraftId, tail } = aircraft;
      await insertMaintenance(tx, { eventId, aircraftId, at: new Date(at), kind, words, by: who.name });
      await audit(tx, now(), who.name, 'maintenance', `${tail}, ${MAINTENANCE_WORDS[kind]}: ${words}`);
    });
    res.status(201).json({ id: eventId });
  });

  router.post('/runs/:run/trend-choice', asks(trendChoiceSchema), async (req, res) => {
    const { leftOut, reason } = req.body;
    const runId = runIdOf(req);
    const { who, inTx, now } = deskOf(services, res);
    await inTx(async (tx) => {
      const { tail, openedAt } = await getRun(tx, runId);
      await insertTrendChoice(tx, runId, { leftOut, reason, by: who.name }, now());
      const words = `${tail}, run of ${openedAt.toISOString().slice(0, 16)}: ${reason}`;
      await audit(tx, now(), who.name, leftOut ? 'left-out' : 'counted-again', words);
    });
    res.status(201).json({ leftOut });
  });

  return router;
}
