import type { StandInState, Today } from '@rouse/core/contract';
import { CORRIDOR_STARTS } from '@rouse/core/session';
import { Router } from 'express';
import { listAircraft } from '../db/aircraft.ts';
import { bookedTotals } from '../db/bookings.ts';
import { listOpenExceedances } from '../db/exceedances.ts';
import { countGoodStarts } from '../db/features.ts';
import { getPerson } from '../db/people.ts';
import { asOperator } from '../db/pool.ts';
import { listRuns } from '../db/runs.ts';
import type { Services } from '../services.ts';
import { standInState } from './stand-in.ts';
import { summaryOf } from './summary.ts';

const RECENT_RUNS = 12;

/** The fleet at a glance. */
export function todayRoutes(services: Services): Router {
  const { pool, operatorId, personId, fleet } = services;
  const router = Router();

  router.get('/today', async (_req, res) => {
    const states = new Map<string, StandInState>();
    for (const aircraft of fleet.all())
      if (aircraft.wired) states.set(aircraft.aircraft.aircraftId, await standInState(services, aircraft));
    const today = await asOperator(pool, operatorId, async (tx): Promise<Today> => {
      const { operator, person } = await getPerson(tx, personId);
      const aircraft: Today['aircraft'] = [];
      for (const a of await listAircraft(tx)) {
        const live = fleet.of(a.aircraftId);
        const { type, setAside } = live;
        const [watch] = type.startWatches;
        const runs = await listRuns(tx, a.aircraftId, RECENT_RUNS);
        aircraft.push({
          aircraft: a.aircraftId,
          tail: a.tail,
          pad: a.pad,
          type: { id: a.typeId, version: a.typeVersion, name: type.name, role: type.role },
          wired: states.has(a.aircraftId),
          standIn: states.get(a.aircraftId) ?? null,
          openRun: live.openRunId,
          setAside: setAside && { run: setAside.runId, reason: setAside.reason },
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

  return router;
}
