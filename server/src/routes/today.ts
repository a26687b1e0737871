import { moveSchema, presetSchema, type StandInState, type Today } from '@rouse/core/contract';
import { findItem } from '@rouse/core/procedure';
import { Router } from 'express';
import { listAircraft } from '../db/aircraft.ts';
import { listOpenExceedances } from '../db/exceedances.ts';
import { countGoodStarts } from '../db/features.ts';
import { asOperator } from '../db/pool.ts';
import { listRuns } from '../db/runs.ts';
import { Refusal } from '../errors.ts';
import { CORRIDOR_STARTS } from '../live/live-aircraft.ts';
import type { Services } from '../services.ts';
import { getPerson } from '../db/people.ts';
import { parse } from './parse.ts';
import { summaryOf } from './summary.ts';

const RECENT_RUNS = 12;

export function todayRoutes(services: Services): Router {
  const { pool, operatorId, personId, fleet, wired, standIn } = services;
  const router = Router();

  router.get('/today', async (_req, res) => {
    const state = await standInState(services);
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
          wired: a.aircraftId === wired.aircraft.aircraftId,
          openRun: runs.find((r) => r.closedAt === null)?.runId ?? null,
          openExceedances: (await listOpenExceedances(tx, a.aircraftId)).length,
          goodStarts: watch ? await countGoodStarts(tx, a.aircraftId, watch.id, CORRIDOR_STARTS) : null,
          recent: runs.filter((r) => r.closedAt !== null).map(summaryOf),
        });
      }
      return { operator, person, aircraft, standIn: state };
    });
    res.json(today);
  });

  router.post('/stand-in/conditions', async (req, res) => {
    const { preset } = parse(presetSchema, req.body);
    if (wired.openRunId)
      throw new Refusal('run-is-open', 'The conditions of the stand-in cannot change during a run.', {
        run: wired.openRunId,
      });
    await standIn.send({ cmd: 'reset', preset });
    res.json(await standInState(services));
  });

  router.post('/stand-in/move', async (req, res) => {
    const { item: id } = parse(moveSchema, req.body);
    const item = findItem(wired.type, id);
    if (!item?.standIn) throw new Refusal('not-found', `Nothing is moved on the stand-in for ${id}.`);
    for (const action of item.standIn) {
      const { control, to, release_s } = action;
      await standIn.send(
        release_s === undefined ? { cmd: 'move', control, to } : { cmd: 'move', control, to, release_s },
      );
    }
    res.json({ moved: item.standIn.length });
  });

  return router;
}

async function standInState({ standIn, wired }: Services): Promise<StandInState> {
  const presets = wired.type.standIn.map(({ id, label, note }) => ({ id, label, note }));
  const answer = await standIn.send({ cmd: 'state' }).catch(() => null);
  return { connected: wired.connected, preset: answer?.preset ?? null, presets };
}
