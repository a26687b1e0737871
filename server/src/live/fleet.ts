import type { TypeFile } from '@rouse/core/aircraft';
import type { LiveMessage } from '@rouse/core/contract';
import { Refusal } from '../errors.ts';
import type { LiveAircraft } from './live-aircraft.ts';
import type { OpenRun } from './open-run.ts';

/** Every aircraft of the operator, each with its open run. */
export class Fleet {
  private readonly byId: Map<string, LiveAircraft>;

  constructor(aircraft: readonly LiveAircraft[]) {
    this.byId = new Map(aircraft.map((a) => [a.aircraft.aircraftId, a]));
  }

  /** One more, from now on. */
  add(aircraft: LiveAircraft): void {
    this.byId.set(aircraft.aircraft.aircraftId, aircraft);
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

  /** The aircraft with this tail, null where there is none. */
  tail(tail: string): LiveAircraft | null {
    for (const aircraft of this.byId.values()) if (aircraft.aircraft.tail === tail) return aircraft;
    return null;
  }

  /** The aircraft whose run this is, open or on its way into the database. */
  ofRun(runId: string): { aircraft: LiveAircraft; run: OpenRun } | null {
    for (const aircraft of this.byId.values()) {
      const run = aircraft.runOf(runId);
      if (run) return { aircraft, run };
    }
    return null;
  }

  /** @throws Refusal not-found when the run is not open */
  openRun(runId: string): { aircraft: LiveAircraft; run: OpenRun } {
    const found = this.ofRun(runId);
    if (!found || found.aircraft.openRunId !== runId) throw new Refusal('not-found', 'This run is not open.');
    return found;
  }

  /** Another run that this id was used in, of those that are at hand. */
  usedElsewhere(id: string, runId: string): boolean {
    for (const aircraft of this.byId.values()) if (aircraft.usedElsewhere(id, runId)) return true;
    return false;
  }

  /** A type version that flies now, or that an open run was opened with. */
  typeAtHand(id: string, version: number): TypeFile | null {
    for (const { type, openType } of this.byId.values())
      for (const one of [type, openType]) if (one?.id === id && one.version === version) return one;
    return null;
  }

  get openRuns(): number {
    let count = 0;
    for (const aircraft of this.byId.values()) if (aircraft.openRunId !== null) count++;
    return count;
  }

  get isClosing(): boolean {
    for (const aircraft of this.byId.values()) if (aircraft.isClosing) return true;
    return false;
  }

  greeting(runId: string): LiveMessage | null {
    return this.ofRun(runId)?.aircraft.greeting(runId) ?? null;
  }

  entriesStored(runId: string, seq: number): void {
    this.ofRun(runId)?.run.entriesStored(seq);
  }

  framesStored(runId: string, to_s: number): void {
    this.ofRun(runId)?.run.stored(to_s);
  }

  closedStored(runId: string): void {
    for (const aircraft of this.byId.values()) aircraft.stored(runId);
  }

  async recover(): Promise<void> {
    for (const aircraft of this.byId.values()) await aircraft.recover();
  }

  close(): void {
    for (const aircraft of this.byId.values()) aircraft.close();
  }
}
