import type { RunsPage, Today } from '@rouse/core/contract';
import { getBytes, getJson } from '../platform/api.ts';
import { isKept } from '../platform/offline.ts';

/** looked at again after so long */
const AGAIN_MS = 15 * 60_000;
/** a page that was just opened is first shown: a phone has one processor for both */
const FIRST_MS = 6000;
/** between two questions, so that nobody who works waits for this */
const PAUSE_MS = 150;
const MOST_AIRCRAFT = 12;
const RUNS_OF_A_TAIL = 20;
/** as many points as Debrief asks for */
const TRACE_POINTS = 6000;

const pause = (): Promise<void> => new Promise((resolve) => window.setTimeout(resolve, PAUSE_MS));

/** Reads what a tablet needs when it loses its server, one thing after the other: briefs, types, lessons, the last runs. */
async function readAll(stopped: () => boolean): Promise<void> {
  const ask = async <T>(path: string): Promise<T | null> => {
    if (stopped()) return null;
    await pause();
    return getJson<T>(path).catch(() => null);
  };
  const today = await ask<Today>('/today');
  for (const { aircraft, type } of today?.aircraft.slice(0, MOST_AIRCRAFT) ?? []) {
    await ask(`/aircraft/${aircraft}/brief`);
    await ask(`/types/${type.id}/${type.version}`);
    await ask(`/drill/${type.id}/${type.version}`);
  }
  for (const { tail } of today?.aircraft.slice(0, MOST_AIRCRAFT) ?? []) {
    const page = await ask<RunsPage>(`/log/runs?tail=${tail}`);
    for (const { run } of page?.runs.slice(0, RUNS_OF_A_TAIL) ?? []) {
      // a run that is over stays as it is: once is enough
      if (stopped() || (await isKept(`/api/runs/${run}/debrief`))) continue;
      await ask(`/runs/${run}/debrief`);
      await getBytes(`/runs/${run}/trace?points=${TRACE_POINTS}`).catch(() => null);
    }
  }
}

/** Keeps it at hand from now on, where this browser can. @returns how to stop it */
export function keepAtHand(): () => void {
  if (!('serviceWorker' in navigator)) return () => undefined;
  let stopped = false;
  const look = (): void => {
    void navigator.serviceWorker.ready.then(() => (navigator.serviceWorker.controller ? readAll(() => stopped) : undefined)); // oxfmt-ignore
  };
  const first = window.setTimeout(look, FIRST_MS);
  const timer = window.setInterval(look, AGAIN_MS);
  return () => {
    stopped = true;
    window.clearTimeout(first);
    window.clearInterval(timer);
  };
}
