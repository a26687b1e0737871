import {
  beginSchema,
  hurrySchema,
  moveSchema,
  presetSchema,
  standInLineSchema,
  type StandInState,
  type Today,
} from '@rouse/core/contract';
import { findItem, standInActions } from '@rouse/core/procedure';
import { Router } from 'express';
import { listAircraft } from '../db/aircraft.ts';
import { bookedTotals } from '../db/bookings.ts';
import { listOpenExceedances } from '../db/exceedances.ts';
import { countGoodStarts } from '../db/features.ts';
import { asOperator } from '../db/pool.ts';
import { listRuns } from '../db/runs.ts';
import { Refusal } from '../errors.ts';
import type { LiveAircraft } from '../live/live-aircraft.ts';
import { CORRIDOR_STARTS } from '../live/open-run.ts';
import type { Services } from '../services.ts';
import { getPerson } from '../db/people.ts';
import { parse } from './parse.ts';
import { summaryOf } from './summary.ts';

const RECENT_RUNS = 12;

export function todayRoutes(services: Services): Router {
  const { pool, operatorId, personId, fleet, standIn } = services;
  const router = Router();

  router.get('/today', async (_req, res) => {
    const states = new Map<string, StandInState>();
    for (const aircraft of fleet.all())
      if (aircraft.wired) states.set(aircraft.aircraft.aircraftId, await standInState(services, aircraft));
    const today = await asOperator(pool, operatorId, async (tx): Promise<Today> => {
      const { operator, person } = await getPerson(tx, personId);
      const aircraft: Today['aircraft'] = [];
      for (const a of await listAircraft(tx)) {
        const { type } = fleet.of(a.aircraftId);
        const [watch] = type.startWatches;
        const runs = await listRuns(tx, a.aircraftId, RECENT_RUNS);
        aircraft.push({
          aircraft: a.aircraftId,
          tail: a.tail,
          pad: a.pad,
          type: { id: a.typeId, version: a.typeVersion, name: type.name, role: type.role },
          wired: states.has(a.aircraftId),
          standIn: states.get(a.aircraftId) ?? null,
          openRun: runs.find((r) => r.closedAt === null)?.runId ?? null,
          openExceedances: (await listOpenExceedances(tx, a.aircraftId)).length,
          goodStarts: watch ? await countGoodStarts(tx, a.aircraftId, watch.id, CORRIDOR_STARTS) : null,
          booked: await bookedTotals(tx, a.aircraftId),
          recent: runs.filter((r) => r.closedAt !== null).map(summaryOf),
        });
      }
      return { operator, person, aircraft };
    });
    res.json(today);
  });

  router.post('/stand-in/conditions', async (req, res) => {
    const { aircraft: id, preset } = parse(presetSchema, req.body);
    const aircraft = fleet.of(id);
    if (aircraft.openRunId)
      throw new Refusal('run-is-open', 'The conditions of the stand-in cannot change during a run.', {
        run: aircraft.openRunId,
      });
    await standIn.send({ cmd: 'reset', type: aircraft.type.id, preset });
    res.json(await standInState(services, aircraft));
  });

  router.post('/stand-in/line', async (req, res) => {
    const { aircraft: id, line } = parse(standInLineSchema, req.body);
    const aircraft = fleet.of(id);
    await standIn.send({ cmd: 'line', type: aircraft.type.id, ...line });
    res.json(await standInState(services, aircraft));
  });

  router.post('/stand-in/move', async (req, res) => {
    const { run, item: id } = parse(moveSchema, req.body);
    const open = fleet.ofRun(run);
    if (!open) throw new Refusal('not-found', 'This run is not open.');
    const { type } = open.aircraft;
    const item = findItem(type, id);
    const actions = item ? standInActions(item, open.journal.state) : [];
    if (actions.length === 0) throw new Refusal('not-found', `Nothing is moved on the stand-in for ${id}.`);
    for (const action of actions) await standIn.send({ cmd: 'move', type: type.id, ...action });
    res.json({ moved: actions.length });
  });

  router.post('/stand-in/begin', async (req, res) => {
    const { run, leg: id } = parse(beginSchema, req.body);
    const open = fleet.ofRun(run);
    if (!open) throw new Refusal('not-found', 'This run is not open.');
    const { type } = open.aircraft;
    const leg = type.legs.find((l) => l.id === id);
    if (!leg?.standIn?.length) throw new Refusal('not-found', `Nothing is moved on the stand-in to begin ${id}.`);
    for (const action of leg.standIn) await standIn.send({ cmd: 'move', type: type.id, ...action });
    res.json({ moved: leg.standIn.length });
  });

  router.post('/stand-in/pace', async (req, res) => {
    const { run, times } = parse(hurrySchema, req.body);
    const open = fleet.ofRun(run);
    if (!open) throw new Refusal('not-found', 'This run is not open.');
    if (!open.aircraft.simulated) throw new Refusal('not-so', 'Only a simulated aircraft can be hurried.');
    await standIn.send({ cmd: 'pace', type: open.aircraft.type.id, times });
    open.aircraft.pace = times;
    res.json({ times });
  });

  return router;
}

async function standInState({ standIn }: Services, aircraft: LiveAircraft): Promise<StandInState> {
  const presets = aircraft.type.standIn.map(({ id, label, note }) => ({ id, label, note }));
  const answer = await standIn.send({ cmd: 'state', type: aircraft.type.id }).catch(() => null);
  return { connected: aircraft.connected, preset: answer?.preset ?? null, line: answer?.line ?? null, presets };
}
