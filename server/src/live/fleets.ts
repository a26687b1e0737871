import type { LiveMessage } from '@rouse/core/contract';
import { Fleet } from './fleet.ts';
import type { LiveAircraft } from './live-aircraft.ts';

/** The aircraft of every operator, each operator's apart from the others'. */
export class Fleets {
  private readonly byOperator = new Map<string, Fleet>();

  /** The fleet of an operator; an empty one where it has no aircraft yet. */
  of(operatorId: string): Fleet {
    const known = this.byOperator.get(operatorId);
    if (known) return known;
    const fleet = new Fleet([]);
    this.byOperator.set(operatorId, fleet);
    return fleet;
  }

  /** An operator has left, or another server has its fleet. */
  drop(operatorId: string): void {
    this.byOperator.get(operatorId)?.close();
    this.byOperator.delete(operatorId);
  }

  *aircraft(): Iterable<LiveAircraft> {
    for (const fleet of this.byOperator.values()) yield* fleet.all();
  }

  get openRuns(): number {
    let count = 0;
    for (const fleet of this.byOperator.values()) count += fleet.openRuns;
    return count;
  }

  /** Whether somebody has opened or taken over a run that still goes on. */
  holdsRun(accountId: string): boolean {
    for (const { holder } of this.aircraft()) if (holder === accountId) return true;
    return false;
  }

  greeting(operatorId: string, runId: string): LiveMessage | null {
    return this.byOperator.get(operatorId)?.greeting(runId) ?? null;
  }

  entriesStored(runId: string, seq: number): void {
    for (const fleet of this.byOperator.values()) fleet.entriesStored(runId, seq);
  }

  framesStored(runId: string, to_s: number): void {
    for (const fleet of this.byOperator.values()) fleet.framesStored(runId, to_s);
  }

  closedStored(runId: string): void {
    for (const fleet of this.byOperator.values()) fleet.closedStored(runId);
  }

  close(): void {
    for (const fleet of this.byOperator.values()) fleet.close();
  }
}
