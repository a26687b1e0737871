import type pg from 'pg';
import type { Tx } from './pool.ts';

export interface OperatorRow {
  operatorId: string;
  name: string;
  place: string;
  demo: boolean;
  codesAsked: boolean;
}

const COLUMNS = 'operator_id AS "operatorId", name, place, demo, codes_asked AS "codesAsked"';

/** Every operator of this database, by name. */
export async function listOperators(pool: pg.Pool | pg.ClientBase): Promise<OperatorRow[]> {
  const { rows } = await pool.query<OperatorRow>(`SELECT ${COLUMNS} FROM operator ORDER BY name`);
  return rows;
}

export async function getOperator(tx: Tx): Promise<OperatorRow> {
  const { rows } = await tx.query<OperatorRow>(`SELECT ${COLUMNS} FROM operator WHERE operator_id = $1`, [
    tx.operatorId,
  ]);
  return rows[0]!;
}

/** The operator that the transaction is for. @returns false when it is there already */
export async function insertOperator(tx: Tx, o: Omit<OperatorRow, 'operatorId' | 'codesAsked'>): Promise<boolean> {
  const { rowCount } = await tx.query(
    'INSERT INTO operator (operator_id, name, place, demo) VALUES ($1, $2, $3, $4) ON CONFLICT DO NOTHING',
    [tx.operatorId, o.name, o.place, o.demo],
  );
  return rowCount === 1;
}

export async function updateOperator(tx: Tx, o: Pick<OperatorRow, 'name' | 'place' | 'codesAsked'>): Promise<void> {
  await tx.query('UPDATE operator SET name = $2, place = $3, codes_asked = $4 WHERE operator_id = $1', [
    tx.operatorId,
    o.name,
    o.place,
    o.codesAsked,
  ]);
}

/** Everything of the operator that the transaction is for goes, and the accounts that belonged to nobody else. */
export async function forgetOperator(tx: Tx): Promise<void> {
  await tx.query('SELECT forget_operator()');
}
