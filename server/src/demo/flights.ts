import { createHash } from 'node:crypto';
import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import { isPiston, type StandInPreset, type WatchedType } from '@rouse/core/aircraft';
import { FT_m } from '@rouse/core/atmosphere';
import { type BriefInput, briefOf, contextAlone, emptyBrief } from '@rouse/core/brief';
import { flyPractice, type PracticeRun } from '@rouse/core/drill';
import type { Conditions } from '@rouse/core/simulator';
import { v7 as uuidv7 } from 'uuid';
import { DEMO, SITES } from './identity.ts';
import { forPiston } from './year.ts';

/** One flight of the past, ready to be flown anywhere. */
export interface PlannedFlight {
  type: string;
  tail: string;
  pad: string;
  site: string;
  /** of the nose, magnetic */
  nose_deg: number;
  run: string;
  /** ms since 1970 */
  openedAt_ms: number;
  words: string;
  conditions: Conditions;
  faults: StandInPreset['faults'];
  seed: number;
  /** over hover and shut-down, or until it is ready */
  through: boolean;
  limit_s: number;
}

/** a flight that is not over by then is left as it stands */
export const FLIGHT_LIMIT_S = 2000;

/** Flies one planned flight: journal, trace and figures as if it had been live on that day. */
export function flyPlanned(type: WatchedType, flight: PlannedFlight): PracticeRun {
  const { conditions, faults, seed, run, tail, pad, words, openedAt_ms } = flight;
  const brief = briefFor(type, flight);
  const flown = isPiston(type.simulator)
    ? forPiston(conditions)
    : { ...conditions, mass_kg: brief.expected.mass ?? type.loading.mtow_kg };
  return flyPractice({
    type,
    conditions: flown,
    faults,
    corridors: {},
    seed,
    brief,
    through: flight.through ? 'shut-down' : undefined,
    limit_s: flight.limit_s,
    record: {
      run,
      tail,
      pad,
      conditions: words,
      by: DEMO.personId,
      stamp: (t_s) => {
        const at_ms = openedAt_ms + t_s * 1000;
        return { id: uuidv7({ msecs: at_ms }), at_ms };
      },
      digest: (bytes) => createHash('sha256').update(bytes).digest('hex'),
    },
  });
}

/** height that one hectopascal stands for near the ground */
const FT_PER_HPA = 27.3;
/** tanks of the past were this full */
const FUEL_SHARE = 0.6;

/** What the pilot of that day would have entered: the weather that was flown in, the usual load. */
function briefFor(
  type: WatchedType,
  { tail, pad, site: at, nose_deg, conditions: { env }, openedAt_ms }: PlannedFlight,
) {
  const now = new Date(openedAt_ms).toISOString();
  const headwind_kt = env?.headwind_kt ?? 0;
  const place = SITES.find((s) => s.site === at) ?? SITES[0];
  const elevation_m = place.elev_ft * FT_m;
  const shift_ft = ((env?.pa_m ?? elevation_m) - elevation_m) / FT_m;
  const input: BriefInput = {
    ...emptyBrief(type),
    wind: {
      direction_deg: (nose_deg + place.variation_E_deg + (headwind_kt < 0 ? 180 : 0) + 360) % 360,
      from_deg: null,
      to_deg: null,
      speed_kt: Math.abs(headwind_kt),
      gust_kt: null,
    },
    oat_C: env?.oat_c ?? null,
    qnh_hPa: Math.round(1013.25 - shift_ft / FT_PER_HPA),
    observedAt: now,
    heading_deg: nose_deg,
    fuel_kg: Math.round(FUEL_SHARE * type.loading.fuel.max_L * type.loading.fuel_density_kgL),
  };
  const site = { name: place.site, elev_ft: place.elev_ft, variation_E_deg: place.variation_E_deg };
  return briefOf(input, contextAlone({ type, tail, pad, site, now })).record;
}

/**
 * Flies many, on every core, and gives each back as soon as it is flown, in no order.
 * @param worker the built fly-worker.js; null flies them here
 */
export async function* flyAll(
  types: Readonly<Record<string, WatchedType>>,
  flights: readonly PlannedFlight[],
  worker: string | null,
): AsyncGenerator<{ flight: PlannedFlight; flown: PracticeRun }> {
  if (worker === null) {
    for (const flight of flights) yield { flight, flown: flyPlanned(types[flight.type]!, flight) };
    return;
  }
  const threads = Array.from({ length: Math.min(availableParallelism(), flights.length) }, () => new Worker(worker));
  try {
    const idle = [...threads];
    const flying = new Map<Worker, Promise<{ thread: Worker; flight: PlannedFlight; flown: PracticeRun }>>();
    const waiting = [...flights];
    while (waiting.length > 0 || flying.size > 0) {
      while (waiting.length > 0 && idle.length > 0) {
        const [thread, flight] = [idle.pop()!, waiting.shift()!];
        flying.set(thread, ask(thread, types[flight.type]!, flight));
      }
      const { thread, flight, flown } = await Promise.race(flying.values());
      flying.delete(thread);
      idle.push(thread);
      yield { flight, flown };
    }
  } finally {
    await Promise.all(threads.map((t) => t.terminate()));
  }
}

function ask(
  thread: Worker,
  type: WatchedType,
  flight: PlannedFlight,
): Promise<{ thread: Worker; flight: PlannedFlight; flown: PracticeRun }> {
  return new Promise((resolve, reject) => {
    thread.once('error', reject);
    thread.once('message', (flown: PracticeRun) => {
      thread.off('error', reject);
      resolve({ thread, flight, flown });
    });
    thread.postMessage({ type, flight });
  });
}
