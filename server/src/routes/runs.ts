import { briefOf } from '@rouse/core/brief';
import { openRunSchema } from '@rouse/core/contract';
import { Router } from 'express';
import { z } from 'zod';
import { getType, listAircraft } from '../db/aircraft.ts';
import { asOperator } from '../db/pool.ts';
import { getRun, listRuns } from '../db/runs.ts';
import { Refusal } from '../errors.ts';
import type { Services } from '../services.ts';
import { briefContext } from './brief-context.ts';
import { corridorsBefore, debriefOf } from './debrief.ts';
import { parse } from './parse.ts';
import { detailOf, detailOfOpen, runIdOf } from './run-detail.ts';
import { summaryOf } from './summary.ts';

const LISTED_RUNS = 200;

/** Runs: opened, listed, read, and read back. */
export function runRoutes(services: Services): Router {
  const { pool, operatorId, personId, clock, fleet, standIn } = services;
  const router = Router();

  router.post('/runs', async (req, res) => {
    const { aircraft: aircraftId, brief: entered, byHand } = parse(openRunSchema, req.body);
    const aircraft = fleet.of(aircraftId);
    const { type } = aircraft;
    // what the run before has passed may hold this one: it is judged when the database knows it, and not before
    if (aircraft.isClosing)
      throw new Refusal('database-away', `The run before of ${aircraft.aircraft.tail} is still being stored.`);
    const context = await asOperator(pool, operatorId, (tx) =>
      briefContext(tx, aircraft.aircraft, type, new Date(clock.now())),
    );
    const brief = briefOf(entered, context);
    const held = brief.holds.find((h) => h.severity === 'no-go' || !(entered.accepted[h.id] ?? '').trim());
    if (held) throw new Refusal('brief-held', `${held.title}. ${held.words}`, { path: `brief.accepted.${held.id}` });
    const simulated =
      aircraft.wired && !byHand ? await standIn.send({ cmd: 'state', type: type.id }).catch(() => null) : null;
    const preset = type.standIn.find((p) => p.id === simulated?.preset);
    const source = preset ? 'stand-in' : aircraft.connected && !byHand ? 'device' : 'by-hand';
    const run = await aircraft.openRun(personId, preset?.label ?? brief.record.words, source, brief.record);
    res.status(201).json({ run });
  });

  router.get('/runs', async (_req, res) => {
    res.json(
      await asOperator(pool, operatorId, async (tx) => {
        const listed = [];
        for (const a of await listAircraft(tx)) {
          listed.push({ tail: a.tail, runs: (await listRuns(tx, a.aircraftId, LISTED_RUNS)).map(summaryOf) });
        }
        return listed;
      }),
    );
  });

  router.get('/runs/:run', async (req, res) => {
    const runId = runIdOf(req);
    const open = fleet.ofRun(runId);
    res.json(
      open
        ? detailOfOpen(open.run)
        : await asOperator(pool, operatorId, async (tx) => detailOf(tx, await getRun(tx, runId))),
    );
  });

  router.get('/runs/:run/corridors', async (req, res) => {
    const runId = runIdOf(req);
    const open = fleet.ofRun(runId);
    res.json(
      open?.run.session.corridors ??
        (await asOperator(pool, operatorId, async (tx) => corridorsBefore(tx, await getRun(tx, runId)))),
    );
  });

  router.get('/runs/:run/debrief', async (req, res) => {
    const runId = runIdOf(req);
    const open = fleet.ofRun(runId);
    res.json(
      await asOperator(pool, operatorId, async (tx) => {
        const run = await getRun(tx, runId);
        return debriefOf(tx, run, open ? detailOfOpen(open.run) : await detailOf(tx, run));
      }),
    );
  });

  router.get('/types/:type/:version', async (req, res) => {
    const version = parse(z.coerce.number().int().min(1).max(1_000_000), req.params['version']);
    const id = String(req.params['type']);
    const flying = fleet.typeAtHand(id, version);
    const type = flying ?? (await asOperator(pool, operatorId, (tx) => getType(tx, id, version)));
    res.setHeader('Cache-Control', 'private, max-age=31536000, immutable');
    res.json(type);
  });

  return router;
}
