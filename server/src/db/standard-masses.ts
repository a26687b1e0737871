import type { Tx } from './pool.ts';

export interface StandardMass {
  label: string;
  mass_kg: number;
}

/** What people are taken to weigh where nobody was weighed. */
export async function listStandardMasses(tx: Tx): Promise<StandardMass[]> {
  const { rows } = await tx.query<StandardMass>(
    'SELECT label, mass_kg FROM standard_mass WHERE operator_id = $1 ORDER BY label',
    [tx.operatorId],
  );
  return rows;
}

export async function putStandardMass(tx: Tx, m: StandardMass): Promise<void> {
  await tx.query(
    `INSERT INTO standard_mass (operator_id, label, mass_kg) VALUES ($1, $2, $3)
     ON CONFLICT (operator_id, label) DO UPDATE SET mass_kg = excluded.mass_kg`,
    [tx.operatorId, m.label, m.mass_kg],
  );
}

export async function deleteStandardMass(tx: Tx, label: string): Promise<boolean> {
  const { rowCount } = await tx.query('DELETE FROM standard_mass WHERE operator_id = $1 AND label = $2', [
    tx.operatorId,
    label,
  ]);
  return rowCount === 1;
}
