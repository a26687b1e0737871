import { createHash } from 'node:crypto';
import { type Brief, briefInputSchema, briefOf } from '@rouse/core/brief';
import type { LoggedRun, RunFilter } from '@rouse/core/contract';
import { brokenHabits } from '@rouse/core/health';
import { canonicalJson, digestOf, hashOf, sayClock } from '@rouse/core/procedure';
import { type RoundDirection, roundStep } from '@rouse/core/quantity';
import { type Response, Router } from 'express';
import { z } from 'zod';
import { getType } from '../db/aircraft.ts';
import { listEntries } from '../db/entries.ts';
import { listLoggedRuns, RUNS_ON_A_PAGE } from '../db/log.ts';
import { getOperator } from '../db/operators.ts';
import type { Tx } from '../db/pool.ts';
import { getRun } from '../db/runs.ts';
import { getTrace } from '../db/trace.ts';
import { Refusal } from '../errors.ts';
import type { BriefForReport } from '../reports/brief.ts';
import { deskOf, type Services } from '../services.ts';
import { booksOf } from './books.ts';
import { briefContext } from './brief-context.ts';
import { debriefOf } from './debrief.ts';
import { exceedanceMessage, exceedancesOf } from './exceedances.ts';
import { asks, asksQuery } from './asks.ts';
import { parse } from './parse.ts';
import { detailOf, runIdOf } from './run-detail.ts';

const idSchema = z.uuid({ message: 'is not the id of an aircraft' });
const keySchema = z.object({ run: z.uuid(), seq: z.coerce.number().int().min(1) });
const monthSchema = z.strictObject({ month: z.string().regex(/^\d{4}-(0[1-9]|1[0-2])$/, 'is a month, as 2026-11') });

const SOURCE_WORDS = {
  'stand-in': 'a simulated aircraft',
  simulated: 'a simulated aircraft',
  device: 'a data unit',
  'by-hand': 'by hand, nothing sensed',
  recording: 'a recording brought along',
} as const;

const send = (res: Response, name: string, pdf: Uint8Array): void => {
  res.attachment(`${name}.pdf`).type('application/pdf').send(Buffer.from(pdf));
};

/** PDF of what has happened: runs, exceedances, a tail's month. */
export function reportRoutes(services: Services): Router {
  const router = Router();

  router.get('/runs/:run/report.pdf', async (req, res) => {
    const asked = await deskOf(services, res).inTx(async (tx) => {
      const run = await getRun(tx, runIdOf(req));
      const detail = await detailOf(tx, run);
      const debrief = await debriefOf(tx, run, detail);
      const type = await getType(tx, run.typeId, run.typeVersion);
      const { name: operator } = await getOperator(tx);
      return {
        operator,
        type,
        tail: run.tail,
        pad: run.pad,
        pilot: run.pilot,
        openedAt: detail.openedAt,
        conditions: run.conditions,
        source: SOURCE_WORDS[run.source],
        entries: detail.entries,
        trace: await getTrace(tx, run, type.channels),
        starts: debrief.starts,
        habits: brokenHabits(debrief.starts.at(-1)?.compared ?? []),
        booking: debrief.booking,
        digest: sealOf(detail.entries),
      };
    });
    send(res, `${asked.tail}-${asked.openedAt.slice(0, 10)}`, await services.reckoner.report({ of: 'run', run: asked }));
  }); // oxfmt-ignore

  router.get('/exceedances/:run/:seq/report.pdf', async (req, res) => {
    const { run: runId, seq } = parse(keySchema, req.params);
    const asked = await deskOf(services, res).inTx(async (tx) => {
      const exceedance = await exceedanceMessage(tx, runId, seq);
      const run = await getRun(tx, runId);
      const type = await getType(tx, run.typeId, run.typeVersion);
      const { name: operator } = await getOperator(tx);
      const entries = await listEntries(tx, run);
      return { operator, exceedance, type, trace: await getTrace(tx, run, type.channels), digest: sealOf(entries) };
    });
    const name = `${asked.exceedance.tail}-exceedance-${asked.exceedance.record.at.slice(0, 10)}`;
    send(res, name, await services.reckoner.report({ of: 'exceedance', exceedance: asked }));
  });

  router.get('/aircraft/:aircraft/month.pdf', asksQuery(monthSchema), async (req, res) => {
    const { month } = res.locals.query;
    const { fleet, inTx, now } = deskOf(services, res);
    const { aircraft, type } = fleet.of(parse(idSchema, req.params['aircraft']));
    const { tail, aircraftId } = aircraft;
    const { reckoned, ...asked } = await inTx(async (tx) => ({
      operator: (await getOperator(tx)).name,
      runs: await everyRun(tx, { tail, from: `${month}-01`, to: lastDayOf(month) }),
      books: await booksOf(tx, aircraftId, type, now()),
      exceedances: (await exceedancesOf(tx, aircraftId)).filter((e) => e.record.at.startsWith(month)),
      reckoned: await services.trends.of(tx, aircraftId, type),
    }));
    const content = { ...asked, tail, type, month, trends: await reckoned.trends };
    const digest = digestOf(canonicalJson({ ...content, type: type.id }));
    send(res, `${tail}-${month}`, await services.reckoner.report({ of: 'month', month: { ...content, digest } }));
  });

  return router;
}

/** PDF to carry along: a brief, and a type as a booklet. */
export function carriedRoutes(services: Services): Router {
  const router = Router();

  router.post('/aircraft/:aircraft/brief.pdf', asks(briefInputSchema), async (req, res) => {
    const entered = req.body;
    const { who, fleet, inTx, now } = deskOf(services, res);
    const live = fleet.of(parse(idSchema, req.params['aircraft']));
    const { context, operator } = await inTx(async (tx) => ({
      context: await briefContext(tx, live.aircraft, live.type, now()),
      operator: (await getOperator(tx)).name,
    }));
    const brief = briefOf(entered, context);
    const { tail, pad, now: at, type, site } = context;
    const asked: BriefForReport = {
      operator,
      pilot: who.name,
      context: { tail, pad, now: at, type: { name: type.name }, site: { name: site.name } },
      brief,
      figures: figuresOf(brief, type.performance.chart.unit),
      plan: brief.schedule.planned.map(
        (p) => [p.item.challenge, `${sayClock(p.from_s)} to ${sayClock(p.to_s)}`] as const,
      ),
      digest: digestOf(canonicalJson(brief.record)),
    };
    send(res, `${tail}-brief-${at.slice(0, 10)}`, await services.reckoner.report({ of: 'brief', brief: asked }));
  });

  router.get('/types/:type/:version/booklet.pdf', async (req, res) => {
    const version = parse(z.coerce.number().int().min(1).max(1_000_000), req.params['version']);
    const { inTx } = deskOf(services, res);
    const type = await inTx((tx) => getType(tx, String(req.params['type']), version));
    const digest = createHash('sha256').update(canonicalJson(type)).digest('hex');
    send(res, `${type.id}-${version}`, await services.reckoner.report({ of: 'booklet', type, digest }));
  });

  return router;
}

/** All runs that a filter leaves, page by page. */
async function everyRun(tx: Tx, filter: RunFilter): Promise<LoggedRun[]> {
  const runs: LoggedRun[] = [];
  for (let after: string | undefined; ; after = runs.at(-1)!.run) {
    const page = await listLoggedRuns(tx, { ...filter, after });
    runs.push(...page.slice(0, RUNS_ON_A_PAGE));
    if (page.length <= RUNS_ON_A_PAGE) return runs;
  }
}

/** What the chain of a journal ends with. */
function sealOf(entries: Parameters<typeof hashOf>[0][]): string {
  const last = entries.at(-1);
  if (!last) throw new Refusal('not-found', 'Nothing was written in this run.');
  return hashOf(last);
}

function lastDayOf(month: string): string {
  const [year, m] = month.split('-').map(Number) as [number, number];
  return new Date(Date.UTC(year, m, 0)).toISOString().slice(0, 10);
}

/** Figures of a brief in words, rounded the safe way; what is not known is a dash. @param chartUnit of the type's chart */
function figuresOf(brief: Brief, chartUnit: string): [string, string][] {
  const say = (f: Brief['topLimit'], unit: string, way?: RoundDirection): string =>
    f.state === 'known' ? `${way ? roundStep(f.value, 1, way) : f.value} ${unit}` : '–';
  const hover = (f: Brief['hoverIge']): string =>
    f.state === 'known' ? `${f.value.margin} ${chartUnit} left of ${f.value.available}` : '–';
  return [
    ['Pressure altitude', say(brief.pressureAltitude_ft, 'ft')],
    ['Density altitude', say(brief.densityAltitude_ft, 'ft')],
    ['Weight at lift', say(brief.liftMass_kg, 'kg', 'ceil')],
    ['Fuel at landing', say(brief.landingFuel_kg, 'kg', 'floor')],
    ['Hover in ground effect', hover(brief.hoverIge)],
    ['Hover out of ground effect', hover(brief.hoverOge)],
    ['Take-off limit of the day', say(brief.topLimit, chartUnit)],
    ['Continuous limit of the day', say(brief.mcpLimit, chartUnit)],
    ['Ready after', sayClock(brief.schedule.ready_s)],
  ];
} // oxfmt-ignore
