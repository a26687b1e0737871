import type { Tx } from './pool.ts';

/** The answers of the operator for one type: choice to alternative. */
export async function listWays(tx: Tx, typeId: string): Promise<Record<string, string>> {
  const { rows } = await tx.query<{ choice: string; alternative: string }>(
    'SELECT choice, alternative FROM operator_way WHERE operator_id = $1 AND type_id = $2',
    [tx.operatorId, typeId],
  );
  return Object.fromEntries(rows.map((r) => [r.choice, r.alternative]));
}

export async function putWay(
  tx: Tx,
  typeId: string,
  choice: string,
  alternative: string,
  by: string,
  at: Date,
): Promise<void> {
  await tx.query(
    `INSERT INTO operator_way (operator_id, type_id, choice, alternative, set_by, set_at) VALUES ($1, $2, $3, $4, $5, $6)
     ON CONFLICT (operator_id, type_id, choice)
     DO UPDATE SET alternative = excluded.alternative, set_by = excluded.set_by, set_at = excluded.set_at`,
    [tx.operatorId, typeId, choice, alternative, by, at],
  );
}
