import type { Role } from '@rouse/core/people';
import type pg from 'pg';

type Db = pg.Pool | pg.ClientBase;

export interface AccountRow {
  accountId: string;
  login: string | null;
  password: string | null;
  codeSecret: Buffer | null;
}

const COLUMNS = 'account_id AS "accountId", login, password, totp_secret AS "codeSecret"';

export async function findAccount(db: Db, accountId: string): Promise<AccountRow | null> {
  const { rows } = await db.query<AccountRow>(`SELECT ${COLUMNS} FROM account WHERE account_id = $1`, [accountId]);
  return rows[0] ?? null;
}

export async function findAccountByLogin(db: Db, login: string): Promise<AccountRow | null> {
  const { rows } = await db.query<AccountRow>(`SELECT ${COLUMNS} FROM account WHERE lower(login) = lower($1)`, [login]);
  return rows[0] ?? null;
}

/** @returns false when the name is taken */
export async function insertAccount(
  db: Db,
  a: { accountId: string; login: string | null; password: string | null },
  at: Date,
): Promise<boolean> {
  const { rowCount } = await db.query(
    'INSERT INTO account (account_id, login, password, made_at) VALUES ($1, $2, $3, $4) ON CONFLICT DO NOTHING',
    [a.accountId, a.login, a.password, at],
  );
  return rowCount === 1;
}

/** @returns false when the name is somebody else's */
export async function setLogin(db: Db, accountId: string, login: string, password: string): Promise<boolean> {
  const { rowCount } = await db.query(
    `UPDATE account SET login = $2, password = $3 WHERE account_id = $1
     AND NOT EXISTS (SELECT FROM account o WHERE lower(o.login) = lower($2) AND o.account_id <> $1)`,
    [accountId, login, password],
  );
  return rowCount === 1;
}

export async function setPassword(db: Db, accountId: string, password: string): Promise<void> {
  await db.query('UPDATE account SET password = $2 WHERE account_id = $1', [accountId, password]);
}

export async function setCodeSecret(db: Db, accountId: string, sealed: Buffer | null): Promise<void> {
  await db.query('UPDATE account SET totp_secret = $2 WHERE account_id = $1', [accountId, sealed]);
}

/** @returns false when the code of this step, or of a later one, was used before */
export async function useStep(db: Db, accountId: string, step: number): Promise<boolean> {
  const { rowCount } = await db.query('UPDATE account SET totp_step = $2 WHERE account_id = $1 AND totp_step < $2', [
    accountId,
    step,
  ]);
  return rowCount === 1;
}

export interface MembershipRow {
  operatorId: string;
  operator: string;
  demo: boolean;
  codesAsked: boolean;
  name: string;
  roles: Role[];
}

/** The operators that an account works for. */
export async function listMemberships(db: Db, accountId: string): Promise<MembershipRow[]> {
  const { rows } = await db.query<MembershipRow>(
    'SELECT operator_id AS "operatorId", operator, demo, codes_asked AS "codesAsked", name, roles FROM memberships_of($1)',
    [accountId],
  );
  return rows;
}

export interface PasskeyRow {
  credentialId: string;
  accountId: string;
  publicKey: Buffer;
  counter: number;
  transports: string[];
  label: string;
  madeAt: Date;
}

const KEY_COLUMNS =
  'credential_id AS "credentialId", account_id AS "accountId", public_key AS "publicKey", counter, transports, label, made_at AS "madeAt"';

export async function listPasskeys(db: Db, accountId: string): Promise<PasskeyRow[]> {
  const { rows } = await db.query<PasskeyRow>(
    `SELECT ${KEY_COLUMNS} FROM passkey WHERE account_id = $1 ORDER BY made_at`,
    [accountId],
  );
  return rows;
}

export async function findPasskey(db: Db, credentialId: string): Promise<PasskeyRow | null> {
  const { rows } = await db.query<PasskeyRow>(`SELECT ${KEY_COLUMNS} FROM passkey WHERE credential_id = $1`, [
    credentialId,
  ]);
  return rows[0] ?? null;
}

export async function insertPasskey(db: Db, k: PasskeyRow): Promise<void> {
  await db.query(
    `INSERT INTO passkey (credential_id, account_id, public_key, counter, transports, label, made_at)
     VALUES ($1, $2, $3, $4, $5, $6, $7)`,
    [k.credentialId, k.accountId, k.publicKey, k.counter, k.transports, k.label, k.madeAt],
  );
}

export async function countPasskey(db: Db, credentialId: string, counter: number): Promise<void> {
  await db.query('UPDATE passkey SET counter = $2 WHERE credential_id = $1', [credentialId, counter]);
}

export async function deletePasskey(db: Db, accountId: string, credentialId: string): Promise<boolean> {
  const { rowCount } = await db.query('DELETE FROM passkey WHERE account_id = $1 AND credential_id = $2', [
    accountId,
    credentialId,
  ]);
  return rowCount === 1;
}

/** Whom an identity provider means; null for nobody here. */
export async function findOutsideIdentity(db: Db, issuer: string, subject: string): Promise<string | null> {
  const { rows } = await db.query<{ id: string }>(
    'SELECT account_id AS id FROM outside_identity WHERE issuer = $1 AND subject = $2',
    [issuer, subject],
  );
  return rows[0]?.id ?? null;
}

export async function insertOutsideIdentity(db: Db, issuer: string, subject: string, accountId: string): Promise<void> {
  await db.query('INSERT INTO outside_identity (issuer, subject, account_id) VALUES ($1, $2, $3)', [
    issuer,
    subject,
    accountId,
  ]);
}
