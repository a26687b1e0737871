import type { Maintenance, MaintenanceEvent } from '@rouse/core/trends';
import type { Tx } from './pool.ts';

export interface NewMaintenance {
  eventId: string;
  aircraftId: string;
  at: Date;
  kind: Maintenance;
  words: string;
  by: string;
}

/** Books what an engineer did to an aircraft. */
export async function insertMaintenance(tx: Tx, m: NewMaintenance): Promise<void> {
  await tx.query(
    `INSERT INTO maintenance (operator_id, event_id, aircraft_id, at, kind, words, by) VALUES ($1, $2, $3, $4, $5, $6, $7)`,
    [tx.operatorId, m.eventId, m.aircraftId, m.at, m.kind, m.words, m.by],
  );
}

/** What was done to an aircraft, oldest first. */
export async function listMaintenance(tx: Tx, aircraftId: string): Promise<MaintenanceEvent[]> {
  const { rows } = await tx.query<Omit<MaintenanceEvent, 'at'> & { at: Date }>(
    `SELECT event_id AS id, at, kind, words, by FROM maintenance WHERE operator_id = $1 AND aircraft_id = $2 ORDER BY at`,
    [tx.operatorId, aircraftId],
  );
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}
