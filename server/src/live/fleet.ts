import type { LiveMessage } from '@rouse/core/contract';
import { Refusal } from '../errors.ts';
import type { Journal } from './journal.ts';
import type { LiveAircraft } from './live-aircraft.ts';

/** Every aircraft of the operator, each with its open run. */
export class Fleet {
  private readonly byId: ReadonlyMap<string, LiveAircraft>;

  constructor(aircraft: readonly LiveAircraft[]) {
    this.byId = new Map(aircraft.map((a) => [a.aircraft.aircraftId, a]));
  }

  /** @throws Refusal not-found */
  of(aircraftId: string): LiveAircraft {
    const found = this.byId.get(aircraftId);
    if (!found) throw new Refusal('not-found', `There is no aircraft ${aircraftId}.`);
    return found;
  }

  all(): Iterable<LiveAircraft> {
    return this.byId.values();
  }

  /** @throws Refusal not-found */
  tail(tail: string): LiveAircraft {
    for (const aircraft of this.byId.values()) if (aircraft.aircraft.tail === tail) return aircraft;
    throw new Refusal('not-found', `There is no aircraft ${tail}.`);
  }

  /** The aircraft whose open run this is, with its journal. */
  ofRun(runId: string): { aircraft: LiveAircraft; journal: Journal } | null {
    for (const aircraft of this.byId.values()) {
      const open = aircraft.runOf(runId);
      if (open) return { aircraft, journal: open.journal };
    }
    return null;
  }

  greeting(runId: string): LiveMessage | null {
    return this.ofRun(runId)?.aircraft.greeting(runId) ?? null;
  }

  async recover(): Promise<void> {
    for (const aircraft of this.byId.values()) await aircraft.recover();
  }

  async close(): Promise<void> {
    for (const aircraft of this.byId.values()) await aircraft.close();
  }
}
