import type { TypeFile } from '@rouse/core/aircraft';
import { signsOf, type TailTrends } from '@rouse/core/trends';
import { listMaintenance } from '../db/maintenance.ts';
import type { Tx } from '../db/pool.ts';
import { listTrendChecks, listTrendChoices, listTrendStarts, trendStamps } from '../db/trend-record.ts';
import type { Reckoner } from './reckoner.ts';

/** Trends of every aircraft, worked out once for each state of its record. */
export class TrendDesk {
  private readonly reckoner: Reckoner;
  private readonly known = new Map<string, { stamp: string; trends: Promise<TailTrends>; done: TailTrends | null }>();

  constructor(reckoner: Reckoner) {
    this.reckoner = reckoner;
  }

  /** Reads the record of one aircraft as it stands now. @returns what comes of it, to be waited for without the transaction */
  async of(tx: Tx, aircraftId: string, type: TypeFile): Promise<{ trends: Promise<TailTrends> }> {
    const stamp = (await trendStamps(tx)).get(aircraftId) ?? '';
    const known = this.known.get(`${tx.operatorId}/${aircraftId}`);
    return known?.stamp === stamp ? known : this.begin(tx, aircraftId, type, stamp);
  }

  /** What is known at once: null while it is being worked out. */
  async atHand(tx: Tx, aircraftId: string, type: TypeFile, stamp: string): Promise<TailTrends | null> {
    const known = this.known.get(`${tx.operatorId}/${aircraftId}`);
    if (known?.stamp !== stamp) void (await this.begin(tx, aircraftId, type, stamp)).trends.catch(() => undefined);
    return this.known.get(`${tx.operatorId}/${aircraftId}`)?.done ?? null;
  }

  /** Reads the record, and lets it be worked out. */
  private async begin(tx: Tx, aircraftId: string, type: TypeFile, stamp: string): Promise<{ trends: Promise<TailTrends> }> {
    const checks = signsOf(type).flatMap((s) => (s.source.of === 'check' ? [s.source.check] : []));
    const record = {
      starts: await listTrendStarts(tx, aircraftId),
      checks: await listTrendChecks(tx, aircraftId, [...new Set(checks)]),
      events: await listMaintenance(tx, aircraftId),
      leftOut: new Set((await listTrendChoices(tx, aircraftId)).filter((c) => c.leftOut).map((c) => c.run)),
    };
    const key = `${tx.operatorId}/${aircraftId}`;
    const before = this.known.get(key)?.done ?? null;
    const trends = this.reckoner.trends(type, record);
    const known = { stamp, trends, done: before };
    this.known.set(key, known);
    trends.then(
      (done) => (known.done = done),
      () => this.known.delete(key),
    );
    return known;
  }
} // oxfmt-ignore
