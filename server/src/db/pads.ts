import { Refusal } from '../errors.ts';
import type { Tx } from './pool.ts';

export interface PadRow {
  pad: string;
  site: string;
  elev_ft: number;
  variation_E_deg: number;
  x_m: number;
  y_m: number;
}

const COLUMNS = 'pad, site, elev_ft, variation_e_deg AS "variation_E_deg", x_m, y_m';

export async function getPad(tx: Tx, pad: string): Promise<PadRow> {
  const { rows } = await tx.query<PadRow>(`SELECT ${COLUMNS} FROM pad WHERE operator_id = $1 AND pad = $2`, [
    tx.operatorId,
    pad,
  ]);
  if (!rows[0]) throw new Refusal('not-found', `There is no pad ${pad}.`);
  return rows[0];
}

export interface NeighbourRow extends PadRow {
  tail: string;
  typeId: string;
  typeVersion: number;
}

/** Other aircraft on the same site, with where they stand. */
export async function listNeighbours(tx: Tx, aircraftId: string, site: string): Promise<NeighbourRow[]> {
  const { rows } = await tx.query<NeighbourRow>(
    `SELECT ${COLUMNS}, a.tail, a.type_id AS "typeId", a.type_version AS "typeVersion"
     FROM aircraft a JOIN pad USING (operator_id, pad)
     WHERE operator_id = $1 AND a.aircraft_id <> $2 AND site = $3 ORDER BY pad`,
    [tx.operatorId, aircraftId, site],
  );
  return rows;
}

export async function putPad(tx: Tx, p: PadRow): Promise<void> {
  await tx.query(
    `INSERT INTO pad (operator_id, pad, site, elev_ft, variation_e_deg, x_m, y_m) VALUES ($1, $2, $3, $4, $5, $6, $7)
     ON CONFLICT DO NOTHING`,
    [tx.operatorId, p.pad, p.site, p.elev_ft, p.variation_E_deg, p.x_m, p.y_m],
  );
}
