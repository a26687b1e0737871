import { bookOf, dueState } from '@rouse/core/books';
import type { BriefContext, DueSoon } from '@rouse/core/brief';
import type { TypeFile } from '@rouse/core/aircraft';
import { latestMargin } from '@rouse/core/health';
import { getType } from '../db/aircraft.ts';
import { listBookedRuns, listBookEntries, listDue } from '../db/books.ts';
import { listReadChecks, PAST_CHECKS } from '../db/checks.ts';
import { listOpenDefects } from '../db/defects.ts';
import { listOpenExceedances } from '../db/exceedances.ts';
import { listGoodStarts } from '../db/features.ts';
import { getPad, listNeighbours } from '../db/pads.ts';
import type { Tx } from '../db/pool.ts';
import { listRuns } from '../db/runs.ts';
import { listWaits } from '../db/waits.ts';
import { listWays } from '../db/ways.ts';
import type { AircraftRow } from '../db/aircraft.ts';

const STARTS = 200;
const WAITS = 400;

/** What record and place know of the next start of one aircraft. */
export async function briefContext(tx: Tx, aircraft: AircraftRow, type: TypeFile, now: Date): Promise<BriefContext> {
  const { aircraftId, tail, pad } = aircraft;
  const place = await getPad(tx, pad);
  const [last] = (await listRuns(tx, aircraftId, 2)).filter((r) => r.closedAt !== null);
  const byEngine: Record<string, number | null>[][] = [];
  for (const watch of type.startWatches)
    byEngine.push((await listGoodStarts(tx, aircraftId, watch.id, now, STARTS)).map((s) => s.features));
  const neighbours: BriefContext['neighbours'][number][] = [];
  // a site may be full of aircraft of one type
  const types = new Map<string, TypeFile>();
  for (const n of await listNeighbours(tx, aircraftId, place.site)) {
    const key = `${n.typeId}/${n.typeVersion}`;
    const its = types.get(key) ?? (await getType(tx, n.typeId, n.typeVersion));
    types.set(key, its);
    const rotor = its.performance.hover?.main;
    neighbours.push({
      name: n.pad.split(',')[0]!,
      tail: n.tail,
      distance_m: Math.hypot(n.x_m - place.x_m, n.y_m - place.y_m),
      typeName: its.name,
      rotor: rotor ? { R_m: rotor.R_m, hub_above_skid_m: rotor.hub_above_skid_m } : null,
      blade_sail: its.wind.blade_sail,
    });
  }
  return {
    type,
    tail,
    pad,
    site: {
      name: place.site,
      elev_ft: place.elev_ft,
      variation_E_deg: place.variation_E_deg,
      hours: place.opens !== null && place.closes !== null ? { opens: place.opens, closes: place.closes } : null,
    },
    basic: aircraft.basic,
    defects: await listOpenDefects(tx, aircraftId),
    due: await dueSoon(tx, aircraftId, type, now),
    now: now.toISOString(),
    operatorWays: await listWays(tx, type.id),
    openExceedances: await listOpenExceedances(tx, aircraftId),
    starts: byEngine[0] ?? [],
    past: await listWaits(tx, aircraftId, WAITS),
    startsByEngine: byEngine.map((s) => s.length),
    engineMargin: latestMargin(type, await listReadChecks(tx, aircraftId, now, PAST_CHECKS)),
    lastRunEndedAt: last?.closedAt?.toISOString() ?? null,
    neighbours,
  };
}

async function dueSoon(tx: Tx, aircraftId: string, type: TypeFile, now: Date): Promise<DueSoon[]> {
  const items = await listDue(tx, aircraftId);
  if (items.length === 0) return [];
  const book = bookOf(type, await listBookedRuns(tx, aircraftId), await listBookEntries(tx, aircraftId));
  return items.flatMap((item) => {
    const { state, words } = dueState(item, book, now.toISOString());
    return state === 'ahead' ? [] : [{ title: item.title, words, state, holds: item.holds }];
  });
}
