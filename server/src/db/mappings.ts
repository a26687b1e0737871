import type { CsvMapping } from '@rouse/core/replay';
import type { Tx } from './pool.ts';

/** The mapping that was kept for files with this header, null when there is none. */
export async function findMapping(tx: Tx, typeId: string, headerDigest: string): Promise<CsvMapping | null> {
  const { rows } = await tx.query<{ mapping: CsvMapping }>(
    'SELECT mapping FROM csv_mapping WHERE operator_id = $1 AND type_id = $2 AND header_digest = $3',
    [tx.operatorId, typeId, headerDigest],
  );
  return rows[0]?.mapping ?? null;
}

export async function putMapping(
  tx: Tx,
  typeId: string,
  headerDigest: string,
  mapping: CsvMapping,
  by: string,
  at: Date,
): Promise<void> {
  await tx.query(
    `INSERT INTO csv_mapping (operator_id, type_id, header_digest, mapping, saved_by, saved_at)
     VALUES ($1, $2, $3, $4, $5, $6)
     ON CONFLICT (operator_id, type_id, header_digest)
     DO UPDATE SET mapping = excluded.mapping, saved_by = excluded.saved_by, saved_at = excluded.saved_at`,
    [tx.operatorId, typeId, headerDigest, JSON.stringify(mapping), by, at],
  );
}
