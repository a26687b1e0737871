import { type LoggedTail, type PersonLog, runFilterSchema, type RunsPage } from '@rouse/core/contract';
import { Router } from 'express';
import { z } from 'zod';
import { listLoggedRuns, listLoggedTails, listTailsOf, recencyOf, RUNS_ON_A_PAGE } from '../db/log.ts';
import { listPeople } from '../db/people.ts';
import type { Tx } from '../db/pool.ts';
import { listPractice } from '../db/practice.ts';
import { trendStamps } from '../db/trend-record.ts';
import { Refusal } from '../errors.ts';
import { deskOf, type Services } from '../services.ts';
import { asksQuery } from './asks.ts';
import { parse } from './parse.ts';

const idSchema = z.uuid({ message: 'is not the id of a person' });
const RECENT_DAYS = 90;
const DAY_MS = 86_400_000;

/** What happened: tails, runs by a filter, and what people flew. */
export function logRoutes(services: Services): Router {
  const router = Router();

  router.get('/log/tails', async (_req, res) => {
    const { fleet, inTx } = deskOf(services, res);
    const tails = await inTx(async (tx): Promise<LoggedTail[]> => {
      const stamps = await trendStamps(tx);
      const out: LoggedTail[] = [];
      for (const tail of await listLoggedTails(tx)) {
        const { type } = fleet.of(tail.aircraft);
        const trends = await services.trends.atHand(tx, tail.aircraft, type, stamps.get(tail.aircraft) ?? '');
        out.push({ ...tail, findings: trends && trends.findings.map((f) => f.cause.words) });
      }
      return out;
    });
    res.json(tails);
  });

  router.get('/log/runs', asksQuery(runFilterSchema), async (_req, res) => {
    const filter = res.locals.query;
    const runs = await deskOf(services, res).inTx((tx) => listLoggedRuns(tx, filter));
    const page: RunsPage = { runs: runs.slice(0, RUNS_ON_A_PAGE), more: runs.length > RUNS_ON_A_PAGE };
    res.json(page);
  });

  router.get('/log/people', async (_req, res) => {
    const people = await deskOf(services, res).inTx(listPeople);
    res.json(people.map(({ personId, name, roles }) => ({ person: personId, name, roles })));
  });

  router.get('/log/me', async (_req, res) => {
    const { who, inTx, now } = deskOf(services, res);
    res.json(await inTx((tx) => logOf(tx, who.personId, now())));
  });

  router.get('/log/people/:person', async (req, res) => {
    const person = parse(idSchema, req.params['person']);
    const { inTx, now } = deskOf(services, res);
    res.json(await inTx((tx) => logOf(tx, person, now())));
  });

  return router;
}

async function logOf(tx: Tx, person: string, now: Date): Promise<PersonLog> {
  const found = (await listPeople(tx)).find((p) => p.personId === person);
  if (!found) throw new Refusal('not-found', 'There is no such person here.');
  const since = new Date(now.getTime() - RECENT_DAYS * DAY_MS);
  return {
    person,
    name: found.name,
    roles: [...found.roles],
    tails: await listTailsOf(tx, person),
    recent: (await listLoggedRuns(tx, { pilot: person })).slice(0, RUNS_ON_A_PAGE),
    drills: (await listPractice(tx, person, RUNS_ON_A_PAGE)).map(({ at, type, exercise, result }) => ({
      at,
      type,
      exercise,
      ended: result.ended,
    })),
    recency: await recencyOf(tx, person, since),
  };
}
