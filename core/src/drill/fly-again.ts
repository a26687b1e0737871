import type { TimedAct } from './act.ts';
import { DrillFlight } from './drill-flight.ts';
import type { DrillOptions } from './flown-drill.ts';

/** Flies a drill again from its acts. @param changed what is done instead; the acts as they were when missing */
export function flyAgain(options: DrillOptions, acts: readonly TimedAct[], ended_s: number): DrillFlight {
  const flight = new DrillFlight(options);
  let next = 0;
  do {
    while (next < acts.length && acts[next]!.tick <= flight.tick) flight.act(acts[next++]!.act);
  } while (flight.t_s < ended_s - 1e-9 && flight.step());
  return flight;
}
