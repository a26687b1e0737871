import { briefOf } from '@rouse/core/brief';
import { openRunSchema } from '@rouse/core/contract';
import { Router } from 'express';
import { z } from 'zod';
import { getType } from '../db/aircraft.ts';
import { getRun } from '../db/runs.ts';
import { Refusal } from '../errors.ts';
import { deskOf, type Services } from '../services.ts';
import { briefContext } from './brief-context.ts';
import { corridorsBefore, debriefOf } from './debrief.ts';
import { asks } from './asks.ts';
import { parse } from './parse.ts';
import { detailOf, detailOfOpen, runIdOf } from './run-detail.ts';

/** Runs: opened, read, and read back. */
export function runRoutes(services: Services): Router {
  const { standIn } = services;
  const router = Router();

  router.post('/runs', asks(openRunSchema), async (req, res) => {
    const { aircraft: aircraftId, brief: entered, byHand } = req.body;
    const { who, fleet, inTx, now } = deskOf(services, res);
    const aircraft = fleet.of(aircraftId);
    const { type } = aircraft;
    // what the run before has passed may hold this one: it is judged when the database knows it, and not before
    if (aircraft.isClosing)
      throw new Refusal('database-away', `The run before of ${aircraft.aircraft.tail} is still being stored.`);
    const context = await inTx((tx) => briefContext(tx, aircraft.aircraft, type, now()));
    const brief = briefOf(entered, context);
    const held = brief.objections.find((h) => h.severity === 'no-go' || !(entered.accepted[h.id] ?? '').trim());
    if (held) throw new Refusal('brief-held', `${held.title}. ${held.words}`, { path: `brief.accepted.${held.id}` });
    const simulated =
      aircraft.wired && !byHand ? await standIn.send({ cmd: 'state', type: type.id }).catch(() => null) : null;
    const preset = type.standIn.find((p) => p.id === simulated?.preset);
    const source = preset ? 'stand-in' : aircraft.connected && !byHand ? 'device' : 'by-hand';
    const run = await aircraft.openRun(who.personId, preset?.label ?? brief.record.words, source, brief.record);
    res.status(201).json({ run });
  });

  router.get('/runs/:run', async (req, res) => {
    const runId = runIdOf(req);
    const { fleet, inTx } = deskOf(services, res);
    const open = fleet.ofRun(runId);
    res.json(open ? detailOfOpen(open.run) : await inTx(async (tx) => detailOf(tx, await getRun(tx, runId))));
  });

  router.get('/runs/:run/corridors', async (req, res) => {
    const runId = runIdOf(req);
    const { fleet, inTx } = deskOf(services, res);
    const open = fleet.ofRun(runId);
    res.json(open?.run.session.corridors ?? (await inTx(async (tx) => corridorsBefore(tx, await getRun(tx, runId)))));
  });

  router.get('/runs/:run/debrief', async (req, res) => {
    const runId = runIdOf(req);
    const { fleet, inTx } = deskOf(services, res);
    const open = fleet.ofRun(runId);
    res.json(
      await inTx(async (tx) => {
        const run = await getRun(tx, runId);
        return debriefOf(tx, run, open ? detailOfOpen(open.run) : await detailOf(tx, run));
      }),
    );
  });

  router.get('/types/:type/:version', async (req, res) => {
    const version = parse(z.coerce.number().int().min(1).max(1_000_000), req.params['version']);
    const id = String(req.params['type']);
    const { fleet, inTx } = deskOf(services, res);
    const flying = fleet.typeAtHand(id, version);
    const type = flying ?? (await inTx((tx) => getType(tx, id, version)));
    res.setHeader('Cache-Control', 'private, max-age=31536000, immutable');
    // the same name is another type in another operator
    res.vary('Cookie');
    res.json(type);
  });

  return router;
}
