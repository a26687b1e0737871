import type { Role } from '@rouse/core/people';
import { Refusal } from '../errors.ts';
import type { Tx } from './pool.ts';

export interface PersonRow {
  personId: string;
  name: string;
  roles: Role[];
  joinedAt: Date;
  leftAt: Date | null;
  hasPin: boolean;
}

const COLUMNS =
  'person_id AS "personId", name, roles, joined_at AS "joinedAt", left_at AS "leftAt", pin IS NOT NULL AS "hasPin"';

/** Everybody who works or has worked for the operator, by name. */
export async function listPeople(tx: Tx): Promise<PersonRow[]> {
  const { rows } = await tx.query<PersonRow>(
    `SELECT ${COLUMNS} FROM person WHERE operator_id = $1 ORDER BY left_at IS NOT NULL, name`,
    [tx.operatorId],
  );
  return rows;
}

/** @throws Refusal not-found */
export async function getPerson(tx: Tx, personId: string): Promise<PersonRow> {
  const { rows } = await tx.query<PersonRow>(
    `SELECT ${COLUMNS} FROM person WHERE operator_id = $1 AND person_id = $2`,
    [tx.operatorId, personId],
  );
  if (!rows[0]) throw new Refusal('not-found', `There is no person ${personId}.`);
  return rows[0];
}

/** Somebody begins to work for the operator, or comes back. */
export async function putPerson(
  tx: Tx,
  p: { personId: string; name: string; roles: readonly Role[] },
  at: Date,
): Promise<void> {
  await tx.query(
    `INSERT INTO person (operator_id, person_id, name, roles, joined_at) VALUES ($1, $2, $3, $4, $5)
     ON CONFLICT (operator_id, person_id) DO UPDATE SET name = excluded.name, roles = excluded.roles, left_at = NULL`,
    [tx.operatorId, p.personId, p.name, p.roles, at],
  );
}

export async function setLeft(tx: Tx, personId: string, at: Date): Promise<void> {
  await tx.query('UPDATE person SET left_at = $3, pin = NULL WHERE operator_id = $1 AND person_id = $2', [
    tx.operatorId,
    personId,
    at,
  ]);
}

/** Whether somebody who may administer would be left. */
export async function hasOtherAdministrator(tx: Tx, personId: string): Promise<boolean> {
  const { rowCount } = await tx.query(
    `SELECT FROM person WHERE operator_id = $1 AND person_id <> $2 AND left_at IS NULL AND 'administrator' = ANY (roles)`,
    [tx.operatorId, personId],
  );
  return (rowCount ?? 0) > 0;
}

export async function setPin(tx: Tx, personId: string, pin: string | null): Promise<void> {
  await tx.query('UPDATE person SET pin = $3 WHERE operator_id = $1 AND person_id = $2', [
    tx.operatorId,
    personId,
    pin,
  ]);
}

/** The kept PIN of somebody who works here; null for none. */
export async function findPin(tx: Tx, personId: string): Promise<string | null> {
  const { rows } = await tx.query<{ pin: string | null }>(
    'SELECT pin FROM person WHERE operator_id = $1 AND person_id = $2 AND left_at IS NULL',
    [tx.operatorId, personId],
  );
  return rows[0]?.pin ?? null;
}

/** Which words somebody has acknowledged, at most this version. */
export async function acknowledgedVersion(tx: Tx, personId: string): Promise<number> {
  const { rows } = await tx.query<{ version: number | null }>(
    'SELECT max(version) AS version FROM acknowledgement WHERE operator_id = $1 AND person_id = $2',
    [tx.operatorId, personId],
  );
  return rows[0]?.version ?? 0;
}

export async function insertAcknowledgement(
  tx: Tx,
  personId: string,
  a: { version: number; words: string; at: Date },
): Promise<void> {
  await tx.query(
    `INSERT INTO acknowledgement (operator_id, person_id, version, words, at) VALUES ($1, $2, $3, $4, $5)
     ON CONFLICT DO NOTHING`,
    [tx.operatorId, personId, a.version, a.words, a.at],
  );
}
