import type pg from 'pg';
import { Refusal } from '../errors.ts';
import { connectionsOf, type Tx } from './pool.ts';

/** Where a server is reached by the others. */
export interface Doors {
  host: string;
  /** pages and interface */
  port: number;
  /** units with a token */
  lines: number;
  /** units of this machine, by tail */
  devices: Readonly<Record<string, number>>;
}

export interface ServerRow {
  serverId: string;
  doors: Doors;
  beat: number;
}

export interface LeaseRow {
  operatorId: string;
  /** null: free to be taken */
  serverId: string | null;
  fence: number;
}

type Db = pg.Pool | pg.ClientBase;

/** This server lives, and is reached there. */
export async function putBeat(db: Db, serverId: string, doors: Doors): Promise<void> {
  await db.query(
    `INSERT INTO server (server_id, doors, beat) VALUES ($1, $2, 1)
     ON CONFLICT (server_id) DO UPDATE SET doors = EXCLUDED.doors, beat = server.beat + 1`,
    [serverId, JSON.stringify(doors)],
  );
}

export async function listServers(db: Db): Promise<ServerRow[]> {
  const { rows } = await db.query<ServerRow>('SELECT server_id AS "serverId", doors, beat FROM server');
  return rows;
}

export async function listLeases(db: Db): Promise<LeaseRow[]> {
  const { rows } = await db.query<LeaseRow>(
    'SELECT operator_id AS "operatorId", server_id AS "serverId", fence FROM fleet_lease',
  );
  return rows;
}

/**
 * A server that is gone: its fleets are free. One whose heart has beaten since stays. It may stand still in the middle of
 * a write, which would keep the fleet for as long as it stands: what it has open in the database is ended first.
 * @param beat null: whatever it is, in order, with nothing open
 */
export async function removeServer(db: Db, serverId: string, beat: number | null): Promise<void> {
  if (beat !== null)
    await db.query(
      `SELECT pg_terminate_backend(a.pid) FROM server s JOIN pg_stat_activity a ON a.application_name = $3
       WHERE s.server_id = $1 AND s.beat = $2 AND a.usename = current_user AND a.datname = current_database()`,
      [serverId, beat, connectionsOf(serverId)],
    );
  await db.query('DELETE FROM server WHERE server_id = $1 AND beat = coalesce($2, beat)', [serverId, beat]);
}

/** Takes every fleet that nobody has. */
export async function claimFree(db: Db, serverId: string): Promise<void> {
  await db.query(
    `INSERT INTO fleet_lease (operator_id, fence)
     SELECT operator_id, 0 FROM operator o WHERE NOT EXISTS (SELECT FROM fleet_lease l WHERE l.operator_id = o.operator_id)
     ON CONFLICT DO NOTHING`,
  );
  await db.query('UPDATE fleet_lease SET server_id = $1, fence = fence + 1 WHERE server_id IS NULL', [serverId]);
}

/** What is written in a tenure that is over is refused. */
export class TenureOver extends Refusal {
  readonly operatorId: string;
  readonly fence: number;

  constructor(operatorId: string, fence: number) {
    super('changing-hands', 'Another server has taken this fleet over.');
    this.operatorId = operatorId;
    this.fence = fence;
  }
}

/** Until the end of this transaction nobody takes the fleet over. @throws TenureOver when somebody has */
export async function holdFleet(tx: Tx, fence: number): Promise<void> {
  const { rowCount } = await tx.query('SELECT FROM fleet_lease WHERE operator_id = $1 AND fence = $2 FOR SHARE', [
    tx.operatorId,
    fence,
  ]);
  if (rowCount !== 1) throw new TenureOver(tx.operatorId, fence);
}

/** Whose unit has this token or this id, null for nobody's. */
export async function findOperatorOfUnit(
  db: Db,
  unit: { tokenDigest: Buffer } | { deviceId: string },
): Promise<string | null> {
  const { rows } = await db.query<{ id: string | null }>('SELECT operator_of_unit($1, $2) AS id', [
    'tokenDigest' in unit ? unit.tokenDigest : null,
    'deviceId' in unit ? unit.deviceId : null,
  ]);
  return rows[0]?.id ?? null;
}
