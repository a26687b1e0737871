import type { Tx } from '../db/pool.ts';

/** A table that is taken along as it is, row by row. */
interface CopiedTable {
  name: string;
  /** columns that stay here: secrets, and what belongs to this machine */
  without?: readonly string[];
}

/** What an operator takes along beside the journals and frames of its runs; each after what it refers to. */
export const TABLES: readonly CopiedTable[] = [
  { name: 'person', without: ['pin'] },
  { name: 'site' },
  { name: 'pad' },
  { name: 'standard_mass' },
  { name: 'aircraft_type' },
  { name: 'aircraft' },
  { name: 'defect' },
  { name: 'operator_way' },
  { name: 'csv_mapping' },
  { name: 'type_draft' },
  { name: 'type_draft_edit' },
  { name: 'run' },
  { name: 'recording' },
  { name: 'run_feature' },
  { name: 'run_check' },
  { name: 'run_booking' },
  { name: 'wait_duration' },
  { name: 'exceedance' },
  { name: 'release' },
  { name: 'exceedance_note' },
  { name: 'attachment' },
  { name: 'trend_choice' },
  { name: 'maintenance' },
  { name: 'book_entry' },
  { name: 'due_item' },
  { name: 'site_report' },
  { name: 'practice_flight' },
  { name: 'own_lesson' },
  { name: 'drill' },
  { name: 'acknowledgement' },
];

export type Row = Record<string, unknown>;

/** The rows of a table without the operator, which is another one elsewhere. */
export async function rowsOf(tx: Tx, { name, without = [] }: CopiedTable): Promise<Row[]> {
  const { rows } = await tx.query<{ row: Row }>(
    `SELECT to_jsonb(t) - 'operator_id' - $2::text[] AS row FROM ${name} t WHERE operator_id = $1`,
    [tx.operatorId, without],
  );
  return rows.map((r) => r.row);
}

/** Writes rows as those of the operator that the transaction is for; what is there already stays. */
export async function putRows(tx: Tx, name: string, rows: readonly Row[]): Promise<void> {
  await tx.query(
    `INSERT INTO ${name} SELECT r.* FROM jsonb_array_elements($2::jsonb) AS e (row),
       jsonb_populate_record(NULL::${name}, e.row || jsonb_build_object('operator_id', $1::text)) AS r
     ON CONFLICT DO NOTHING`,
    [tx.operatorId, JSON.stringify(rows)],
  );
}
