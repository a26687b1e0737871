import type { TypeFile } from '@rouse/core/aircraft';
import type { Debrief, RunDetail } from '@rouse/core/contract';
import { brokenHabits, compareStart } from '@rouse/core/health';
import { storyOf, verdictOfRun } from '@rouse/core/debrief';
import { checkChain } from '@rouse/core/procedure';
import { type Corridor, learnCorridor } from '@rouse/core/watch';
import { getType } from '../db/aircraft.ts';
import { findBooking } from '../db/bookings.ts';
import { listFeaturesOfRun, listGoodStarts } from '../db/features.ts';
import type { Tx } from '../db/pool.ts';
import { listRuns, type RunRow } from '../db/runs.ts';
import { CORRIDOR_STARTS } from '@rouse/core/session';

/** The usual range of each engine's starts of this tail as it was when the run was opened. */
export async function corridorsBefore(tx: Tx, run: RunRow): Promise<Record<string, Corridor | null>> {
  const type = await getType(tx, run.typeId, run.typeVersion);
  const corridors: Record<string, Corridor | null> = {};
  for (const watch of type.startWatches)
    corridors[watch.id] =
      watch.kind === 'turbine' ? learnCorridor((await earlierStarts(tx, run, watch.id)).map((e) => e.learned)) : null;
  return corridors;
}

function earlierStarts(tx: Tx, run: RunRow, watch: string): ReturnType<typeof listGoodStarts> {
  return listGoodStarts(tx, run.aircraftId, watch, run.openedAt, CORRIDOR_STARTS);
}

/** so many runs can be laid beside one */
const OTHERS = 60;

/** Reads a run back: what it was, against what this tail usually does. */
export async function debriefOf(tx: Tx, run: RunRow, detail: RunDetail): Promise<Debrief> {
  const type = await getType(tx, run.typeId, run.typeVersion);
  const own = await listFeaturesOfRun(tx, run.runId);
  const starts: Debrief['starts'] = [];
  for (const { watch, attempt, features } of own) {
    const earlier = await earlierStarts(tx, run, watch);
    starts.push({
      watch,
      attempt,
      features,
      compared: compareStart(
        features,
        earlier.map((e) => e.features),
      ),
      bands: timeInBands(type, detail, watch, features),
    });
  }
  starts.sort((a, b) => (a.features['starterAt_s'] ?? 0) - (b.features['starterAt_s'] ?? 0));
  const fault = checkChain(detail.entries);
  return {
    run: detail,
    ...verdictOfRun(type, detail.entries, brokenHabits(starts[starts.length - 1]?.compared ?? [])),
    starts,
    corridors: await corridorsBefore(tx, run),
    chain: { entries: detail.entries.length, intact: fault === null },
    story: storyOf(type, detail.entries, starts),
    others: (await listRuns(tx, run.aircraftId, OTHERS)).flatMap((r) =>
      r.runId === run.runId || r.closedAt === null
        ? []
        : [{ run: r.runId, openedAt: r.openedAt.toISOString(), outcome: r.outcome }],
    ),
    booking: await findBooking(tx, run.runId),
  };
}

/** Seconds that one start spent in each band of its temperature limit. */
function timeInBands(
  type: TypeFile,
  detail: RunDetail,
  watch: string,
  features: Record<string, number | null>,
): Debrief['starts'][number]['bands'] {
  const spec = type.startWatches.find((w) => w.id === watch);
  const channel = spec?.kind === 'turbine' ? spec.channels.temperature : undefined;
  const limit = type.limits.find((l) => l.channel === channel && l.phases.includes('start'));
  const from = features['starterAt_s'] ?? 0;
  return (limit?.bands ?? []).map((band) => {
    const stays = detail.entries.flatMap((e) =>
      e.kind === 'exceedance' && e.limit === limit!.id && e.band === band.id && e.start_s >= from ? [e] : [],
    );
    return {
      band: band.id,
      edge: 'above' in band ? band.above : band.below,
      allowed_s: band.forSeconds,
      seconds: stays.reduce((sum, e) => sum + e.duration_s, 0),
    };
  });
}
