import type { Tx } from './pool.ts';

export interface DeviceRow {
  deviceId: string;
  aircraftId: string;
  tail: string;
  label: string;
  madeBy: string;
  madeAt: Date;
  /** null for a line without a token: only taken on this machine */
  tokenDigest: Buffer | null;
  datagramKey: Buffer | null;
}

const SELECT = `
  SELECT d.device_id AS "deviceId", d.aircraft_id AS "aircraftId", a.tail, d.label, d.made_by AS "madeBy", d.made_at AS "madeAt",
         d.token_digest AS "tokenDigest", d.datagram_key AS "datagramKey"
  FROM device d JOIN aircraft a USING (operator_id, aircraft_id) WHERE d.operator_id = $1 AND d.ended_at IS NULL`;

/** The units whose lines are taken. */
export async function listDevices(tx: Tx): Promise<DeviceRow[]> {
  const { rows } = await tx.query<DeviceRow>(`${SELECT} ORDER BY a.tail, d.label`, [tx.operatorId]);
  return rows;
}

export async function insertDevice(tx: Tx, d: Omit<DeviceRow, 'tail'> & { kind: 'stand-in' | 'unit' }): Promise<void> {
  await tx.query(
    `INSERT INTO device (operator_id, device_id, aircraft_id, kind, label, token_digest, datagram_key, made_by, made_at)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9) ON CONFLICT DO NOTHING`,
    [tx.operatorId, d.deviceId, d.aircraftId, d.kind, d.label, d.tokenDigest, d.datagramKey, d.madeBy, d.madeAt],
  );
}

export async function endDevice(tx: Tx, deviceId: string, at: Date): Promise<boolean> {
  const { rowCount } = await tx.query(
    'UPDATE device SET ended_at = $3 WHERE operator_id = $1 AND device_id = $2 AND ended_at IS NULL',
    [tx.operatorId, deviceId, at],
  );
  return rowCount === 1;
}
