import { Refusal } from '../errors.ts';
import type { Tx } from './pool.ts';

export async function getPerson(
  tx: Tx,
  personId: string,
): Promise<{ operator: { name: string; place: string }; person: { name: string; role: string } }> {
  const { rows } = await tx.query<{ name: string; role: string; operator: string; place: string }>(
    `SELECT p.name, p.role, o.name AS operator, o.place FROM person p JOIN operator o USING (operator_id)
     WHERE p.operator_id = $1 AND p.person_id = $2`,
    [tx.operatorId, personId],
  );
  const row = rows[0];
  if (!row) throw new Refusal('not-found', `There is no person ${personId}.`);
  return { operator: { name: row.operator, place: row.place }, person: { name: row.name, role: row.role } };
}
