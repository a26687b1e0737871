import type { TypeFile } from '@rouse/core/aircraft';
import { briefInputSchema, type BriefInput, type DayAllows } from '@rouse/core/brief';
import type { AircraftToday } from '@rouse/core/contract';
import type pg from 'pg';
import type { AircraftRow } from '../db/aircraft.ts';
import { asOperator, type Tx } from '../db/pool.ts';
import { briefContext } from '../routes/brief-context.ts';
import type { Reckoner } from './reckoner.ts';

/** What is worked out of one aircraft for Today. */
export interface DayOfAircraft {
  allows: DayAllows;
  due: AircraftToday['due'];
}

interface Known {
  key: string;
  day: DayOfAircraft | null;
}

/** a day is worked out again when it is so old, whatever else stays */
const GOOD_FOR_MS = 120_000;

/**
 * What the day allows every aircraft, worked out beside the page that asks: Today shows what is known and is asked again.
 * One after the other, so that sixty aircraft do not take the database from a run that is going on.
 */
export class DayDesk {
  private readonly pool: pg.Pool;
  private readonly reckoner: Reckoner;
  private readonly known = new Map<string, Known>();
  private queue: Promise<void> = Promise.resolve();

  constructor(pool: pg.Pool, reckoner: Reckoner) {
    this.pool = pool;
    this.reckoner = reckoner;
  }

  /**
   * What is known at once.
   * @param stamp changes whenever what it is worked out from may have
   */
  atHand(operatorId: string, aircraft: AircraftRow, type: TypeFile, report: string | null, stamp: string, now: Date): DayOfAircraft | null {
    const id = `${operatorId}/${aircraft.aircraftId}`;
    const key = `${stamp}/${aircraft.pad}/${report ?? ''}/${Math.floor(now.getTime() / GOOD_FOR_MS)}`;
    const before = this.known.get(id);
    if (before?.key === key) return before.day;
    const known: Known = { key, day: before?.day ?? null };
    this.known.set(id, known);
    this.queue = this.queue.then(async () => {
      if (this.known.get(id) !== known) return;
      try {
        known.day = await this.workOut(operatorId, aircraft, type, report, now);
      } catch {
        // the database is away, or the thread was lost: asked again with the next look at Today
        if (this.known.get(id) === known) this.known.set(id, { key: '', day: known.day });
      }
    });
    return known.day;
  } // oxfmt-ignore

  private async workOut(operatorId: string, aircraft: AircraftRow, type: TypeFile, report: string | null, now: Date): Promise<DayOfAircraft> {
    const read = await asOperator(this.pool, operatorId, async (tx) => ({
      context: await briefContext(tx, aircraft, type, now),
      last: await lastInput(tx, aircraft.aircraftId),
    }));
    return { allows: await this.reckoner.day(read.context, report, read.last), due: [...read.context.due] };
  } // oxfmt-ignore
}

/** What was entered in the last brief of an aircraft; null where nobody has briefed it, or with other fields. */
async function lastInput(tx: Tx, aircraftId: string): Promise<BriefInput | null> {
  const { rows } = await tx.query<{ input: unknown }>(
    `SELECT e.entry->'brief'->'input' AS input
     FROM (SELECT run_id, run_month FROM run WHERE operator_id = $1 AND aircraft_id = $2 ORDER BY opened_at DESC LIMIT 1) r
     JOIN run_entry e ON e.operator_id = $1 AND e.run_id = r.run_id AND e.run_month = r.run_month AND e.kind = 'briefed'
     ORDER BY e.seq LIMIT 1`,
    [tx.operatorId, aircraftId],
  );
  const input = briefInputSchema.safeParse(rows[0]?.input);
  return input.success ? input.data : null;
}
