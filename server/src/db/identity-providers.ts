import type { Tx } from './pool.ts';

export interface IdentityProviderRow {
  label: string;
  issuer: string;
  clientId: string;
  /** sealed by the key of the server */
  clientSecret: Buffer;
}

/** The organisation's own identity provider, null for none. */
export async function findIdentityProvider(tx: Tx): Promise<IdentityProviderRow | null> {
  const { rows } = await tx.query<IdentityProviderRow>(
    `SELECT label, issuer, client_id AS "clientId", client_secret AS "clientSecret" FROM identity_provider
     WHERE operator_id = $1`,
    [tx.operatorId],
  );
  return rows[0] ?? null;
}

export async function putIdentityProvider(tx: Tx, p: IdentityProviderRow): Promise<void> {
  await tx.query(
    `INSERT INTO identity_provider (operator_id, label, issuer, client_id, client_secret) VALUES ($1, $2, $3, $4, $5)
     ON CONFLICT (operator_id) DO UPDATE SET label = excluded.label, issuer = excluded.issuer,
       client_id = excluded.client_id, client_secret = excluded.client_secret`,
    [tx.operatorId, p.label, p.issuer, p.clientId, p.clientSecret],
  );
}

export async function deleteIdentityProvider(tx: Tx): Promise<void> {
  await tx.query('DELETE FROM identity_provider WHERE operator_id = $1', [tx.operatorId]);
}
