import type { Booking } from '@rouse/core/shutdown';
import type { Tx } from './pool.ts';

/** Keeps what one run added to the books of its aircraft. */
export async function insertBooking(
  tx: Tx,
  run: { runId: string; aircraftId: string },
  at: Date,
  booking: Booking,
): Promise<void> {
  const sum = (of: (e: Booking['engines'][number]) => number): number =>
    booking.engines.reduce((total, e) => total + of(e), 0);
  await tx.query(
    `INSERT INTO run_booking (operator_id, run_id, aircraft_id, at, starts, running_s, flight_s, booking)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8) ON CONFLICT DO NOTHING`,
    [
      tx.operatorId,
      run.runId,
      run.aircraftId,
      at,
      sum((e) => e.starts),
      sum((e) => e.running_s),
      booking.flight_s,
      JSON.stringify(booking),
    ],
  );
}

export async function findBooking(tx: Tx, runId: string): Promise<Booking | null> {
  const { rows } = await tx.query<{ booking: Booking }>(
    'SELECT booking FROM run_booking WHERE operator_id = $1 AND run_id = $2',
    [tx.operatorId, runId],
  );
  return rows[0]?.booking ?? null;
}
