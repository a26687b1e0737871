import { Refusal } from '../errors.ts';
import type { Tx } from './pool.ts';

/** A place with its elevation: all pads of it are near each other. */
export interface SiteRow {
  site: string;
  elev_ft: number;
  variation_E_deg: number;
  lat_deg: number | null;
  lon_deg: number | null;
  /** HH:MM in UTC; null: always open */
  opens: string | null;
  closes: string | null;
}

export interface PadRow {
  pad: string;
  site: string;
  elev_ft: number;
  variation_E_deg: number;
  opens: string | null;
  closes: string | null;
  x_m: number;
  y_m: number;
}

const COLUMNS = 'pad, site, elev_ft, variation_e_deg AS "variation_E_deg", opens, closes, x_m, y_m';

export async function getPad(tx: Tx, pad: string): Promise<PadRow> {
  const { rows } = await tx.query<PadRow>(
    `SELECT ${COLUMNS} FROM pad JOIN site USING (operator_id, site) WHERE operator_id = $1 AND pad = $2`,
    [tx.operatorId, pad],
  );
  if (!rows[0]) throw new Refusal('not-found', `There is no pad ${pad}.`);
  return rows[0];
}

/** Every place where an aircraft can stand, with the tails that stand there. */
export async function listPads(
  tx: Tx,
): Promise<{ pad: string; site: string; x_m: number; y_m: number; tails: string[] }[]> {
  const { rows } = await tx.query<{ pad: string; site: string; x_m: number; y_m: number; tails: string[] }>(
    `SELECT pad, site, x_m, y_m, array_remove(array_agg(tail ORDER BY tail), NULL) AS tails
     FROM pad LEFT JOIN aircraft USING (operator_id, pad)
     WHERE operator_id = $1 GROUP BY pad, site, x_m, y_m ORDER BY site, pad`,
    [tx.operatorId],
  );
  return rows;
}

export async function listSites(tx: Tx): Promise<SiteRow[]> {
  const { rows } = await tx.query<SiteRow>(
    `SELECT site, elev_ft, variation_e_deg AS "variation_E_deg", lat_deg, lon_deg, opens, closes FROM site
     WHERE operator_id = $1 ORDER BY site`,
    [tx.operatorId],
  );
  return rows;
}

export async function putSite(tx: Tx, s: SiteRow): Promise<void> {
  await tx.query(
    `INSERT INTO site (operator_id, site, elev_ft, variation_e_deg, lat_deg, lon_deg, opens, closes)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8)
     ON CONFLICT (operator_id, site) DO UPDATE SET elev_ft = excluded.elev_ft, variation_e_deg = excluded.variation_e_deg,
       lat_deg = excluded.lat_deg, lon_deg = excluded.lon_deg, opens = excluded.opens, closes = excluded.closes`,
    [tx.operatorId, s.site, s.elev_ft, s.variation_E_deg, s.lat_deg, s.lon_deg, s.opens, s.closes],
  );
}

/** @throws Refusal bad-request for a site that is not there */
export async function putPad(tx: Tx, p: Pick<PadRow, 'pad' | 'site' | 'x_m' | 'y_m'>): Promise<void> {
  const { rowCount } = await tx.query(
    `INSERT INTO pad (operator_id, pad, site, x_m, y_m)
     SELECT $1, $2, site, $4, $5 FROM site WHERE operator_id = $1 AND site = $3
     ON CONFLICT (operator_id, pad) DO UPDATE SET site = excluded.site, x_m = excluded.x_m, y_m = excluded.y_m`,
    [tx.operatorId, p.pad, p.site, p.x_m, p.y_m],
  );
  if (rowCount === 0) throw new Refusal('bad-request', `There is no site ${p.site}.`, { path: 'site' });
}

/** @throws Refusal not-so while an aircraft stands there */
export async function deletePad(tx: Tx, pad: string): Promise<void> {
  const { rows } = await tx.query<{ tail: string }>('SELECT tail FROM aircraft WHERE operator_id = $1 AND pad = $2', [
    tx.operatorId,
    pad,
  ]);
  if (rows[0]) throw new Refusal('not-so', `${rows[0].tail} stands on ${pad}; move it first.`);
  const { rowCount } = await tx.query('DELETE FROM pad WHERE operator_id = $1 AND pad = $2', [tx.operatorId, pad]);
  if (rowCount === 0) throw new Refusal('not-found', `There is no pad ${pad}.`);
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
     FROM aircraft a JOIN pad USING (operator_id, pad) JOIN site USING (operator_id, site)
     WHERE operator_id = $1 AND a.aircraft_id <> $2 AND site = $3 ORDER BY pad`,
    [tx.operatorId, aircraftId, site],
  );
  return rows;
}
