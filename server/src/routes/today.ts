import { type AircraftToday, type SiteToday, siteReportSchema, type StandInState, type StartsToday, type Today } from '@rouse/core/contract'; // oxfmt-ignore
import { readReport } from '@rouse/core/brief';
import { type HeldEntry, passage, sayEntry } from '@rouse/core/procedure';
import { CORRIDOR_STARTS } from '@rouse/core/session';
import { forecastResidual } from '@rouse/core/shutdown';
import { type SignTrend, SPEAKS_FROM, type TailTrends } from '@rouse/core/trends';
import { quantile } from '@rouse/core/watch';
import { Router } from 'express';
import { type AircraftRow, listAircraft } from '../db/aircraft.ts';
import { audit } from '../db/audit.ts';
import { listAllOpen } from '../db/exceedances.ts';
import { getOperator } from '../db/operators.ts';
import { listPads, listSites } from '../db/pads.ts';
import type { Tx } from '../db/pool.ts';
import { insertSiteReport, listSiteReports } from '../db/site-reports.ts';
import { fleetSums, lastRuns } from '../db/today.ts';
import { trendStamps } from '../db/trend-record.ts';
import { Refusal } from '../errors.ts';
import type { LiveAircraft } from '../live/live-aircraft.ts';
import { type Desk, deskOf, type Services } from '../services.ts';
import { asks } from './asks.ts';
import { standInState } from './stand-in.ts';
import { summaryOf } from './summary.ts';

const RECENT_RUNS = 4;
const LAST_STARTS = 12;

/** The fleet at a glance, and the weather of each site. */
export function todayRoutes(services: Services): Router {
  const router = Router();

  router.get('/today', async (_req, res) => {
    const desk = deskOf(services, res);
    const wired = [...desk.fleet.all()].filter((aircraft) => aircraft.wired);
    const states = new Map(
      await Promise.all(wired.map(async (a) => [a.aircraft.aircraftId, await standInState(services, a)] as const)),
    );
    res.json(await desk.inTx((tx) => todayOf(services, desk, tx, states)));
  });

  router.put('/sites/:site/report', asks(siteReportSchema), async (req, res) => {
    const { report } = req.body;
    const { who, inTx, now } = deskOf(services, res);
    const site = String(req.params['site']);
    const read = readReport(report, now().toISOString());
    if (!read.report || Object.keys(read.fields).length === 0)
      throw new Refusal('bad-request', 'report: This is not a report of the present weather.', { path: 'report' });
    await inTx(async (tx) => {
      if (!(await listSites(tx)).some((s) => s.site === site)) throw new Refusal('not-found', `There is no site ${site}.`);
      await insertSiteReport(tx, { site, report, by: who.name, at: now() });
      await audit(tx, now(), who.name, 'report', `${site}: ${report}`);
    });
    res.json({ site });
  });

  return router;
} // oxfmt-ignore

async function todayOf(services: Services, desk: Desk, tx: Tx, states: ReadonlyMap<string, StandInState>): Promise<Today> {
  const { who, fleet } = desk;
  const { name, place } = await getOperator(tx);
  const sites = await sitesOf(tx);
  const siteOf = new Map(sites.flatMap((s) => s.pads.map((p) => [p.pad, s] as const)));
  const sums = await fleetSums(tx, CORRIDOR_STARTS);
  const runs = await lastRuns(tx, RECENT_RUNS);
  const open = await listAllOpen(tx);
  const stamps = await trendStamps(tx);
  const aircraft: AircraftToday[] = [];
  for (const row of await listAircraft(tx)) {
    const { aircraftId } = row;
    const stamp = stamps.get(aircraftId) ?? '';
    const held = open.filter((o) => o.aircraftId === aircraftId).map((o) => o.record);
    const site = siteOf.get(row.pad);
    const live = fleet.of(aircraftId);
    const report = site?.report?.text ?? null;
    const sum = sums.get(aircraftId)!;
    const state = `${stamp}/${held.length}/${sum.defects}/${sum.due}`;
    const day = services.days.atHand(tx.operatorId, row, live.type, report, state, desk.now());
    const trends = await services.trends.atHand(tx, aircraftId, live.type, stamp);
    aircraft.push({
      ...standing(row, live),
      site: site?.site ?? '',
      wired: states.has(aircraftId),
      standIn: states.get(aircraftId) ?? null,
      residual: residualOf(live, day?.allows.oat_C ?? null),
      openExceedances: held.length,
      exceedance: oldestOf(live, held),
      defects: sum.defects,
      due: day?.due ?? [],
      allows: day?.allows ?? null,
      starts: trends && startsOf(trends),
      findings: trends && trends.findings.map((f) => f.cause.words),
      goodStarts: live.type.startWatches.length > 0 ? sum.goodStarts : null,
      booked: sum.booked,
      recent: (runs.get(aircraftId) ?? []).map(summaryOf),
    });
  }
  return {
    operator: { name, place },
    person: { name: who.name, role: who.roles.join(', ') },
    now: desk.now().toISOString(),
    sites,
    aircraft,
  };
} // oxfmt-ignore

/** What an aircraft is, and what it does now. */
function standing(row: AircraftRow, live: LiveAircraft): Pick<AircraftToday, 'aircraft' | 'tail' | 'pad' | 'type' | 'connected' | 'openRun' | 'running' | 'setAside'> {
  const { type, setAside } = live;
  return {
    aircraft: row.aircraftId,
    tail: row.tail,
    pad: row.pad,
    type: { id: row.typeId, version: row.typeVersion, name: type.name, role: type.role },
    connected: live.source() === 'live',
    openRun: live.openRunId,
    running: runningOf(live),
    setAside: setAside && { run: setAside.runId, reason: setAside.reason },
  };
} // oxfmt-ignore

function oldestOf({ type }: LiveAircraft, held: readonly HeldEntry[]): AircraftToday['exceedance'] {
  const [oldest] = held;
  if (!oldest) return null;
  return { run: oldest.run, seq: oldest.seq, at: oldest.at, title: sayEntry(type, oldest)?.title ?? 'A limit passed' };
}

async function sitesOf(tx: Tx): Promise<SiteToday[]> {
  const reports = new Map((await listSiteReports(tx)).map((r) => [r.site, r]));
  const pads = await listPads(tx);
  return (await listSites(tx)).map(({ site, elev_ft, variation_E_deg }) => {
    const report = reports.get(site);
    return {
      site,
      elev_ft,
      variation_E_deg,
      report: report ? { text: report.report, by: report.by, at: report.at.toISOString() } : null,
      pads: pads.filter((p) => p.site === site).map(({ pad, x_m, y_m }) => ({ pad, x_m, y_m })),
    };
  });
}

function runningOf(live: LiveAircraft): AircraftToday['running'] {
  const open = live.openNow;
  if (!open) return null;
  const { session, row, type } = open;
  return {
    pilot: row.pilot,
    legs: passage(type, session.state).map(({ label, status }) => ({ label, status })),
    openedAt: row.openedAt.toISOString(),
  };
}

/** Heat that is left in an engine that stands, by what the line says now. */
function residualOf(live: LiveAircraft, oat_C: number | null): AircraftToday['residual'] {
  const { type } = live;
  if (live.openNow) return null;
  for (const watch of type.startWatches) {
    if (watch.kind !== 'turbine' || watch.engine === 0) continue;
    const tot_C = live.reading(watch.channels.temperature);
    const speed = live.reading(watch.channels.speed);
    const limit_C = watch.gates.flatMap(({ condition: c }) => ('atMost' in c && 'channel' in c && c.channel === watch.channels.temperature ? [c.atMost] : []))[0];
    if (tot_C === null || speed === null || speed > watch.stoppedBelow_pct || limit_C === undefined) continue;
    const forecast = forecastResidual(type, limit_C, { tot_C, oat_C: oat_C ?? NaN, oil_C: NaN });
    const label = type.channels.find((c) => c.id === watch.channels.temperature)?.short ?? '';
    return { label, value_C: tot_C, limit_C, startIn_min: forecast?.startIn_min ?? null, curve: forecast?.curve ?? [] };
  }
  return null;
} // oxfmt-ignore

/** Nine of ten of its last values as they were read; null while they are too few. */
function usualRange(raw: readonly number[]): [number, number] | null {
  if (raw.length < SPEAKS_FROM) return null;
  const sorted = raw.slice(-CORRIDOR_STARTS).toSorted((a, b) => a - b);
  return [quantile(sorted, 0.05), quantile(sorted, 0.95)];
}

/** The figure that says most of a start: its peak where there is one, else how long it took to fire. */
function startsOf({ signs }: TailTrends): StartsToday | null {
  const first = (match: (s: SignTrend) => boolean): SignTrend | undefined => signs.find((s) => s.sign.engine > 0 && s.points.length > 0 && match(s)); // oxfmt-ignore
  const found = first((s) => s.sign.id.endsWith('/peak_C')) ?? first((s) => s.sign.source.of === 'start');
  if (!found) return null;
  const { sign, points } = found;
  const limit = sign.limits[0];
  const raw = points.flatMap((p) => (p.leftOut ? [] : [p.raw]));
  return {
    label: sign.label,
    unit: sign.unit,
    decimals: sign.decimals,
    worse: sign.worse,
    values: raw.slice(-LAST_STARTS),
    usual: usualRange(raw),
    limit: limit ? { at: limit.at, words: limit.words } : null,
  };
}
