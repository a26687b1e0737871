import type { TypeFile } from '@rouse/core/aircraft';
import { Refusal } from '../errors.ts';
import type { Tx } from './pool.ts';

export interface AircraftRow {
  aircraftId: string;
  tail: string;
  typeId: string;
  typeVersion: number;
  pad: string;
  /** as this one was weighed; null: as its type says */
  basic: { mass_kg: number; arm_long_m: number; arm_lat_m: number } | null;
}

const COLUMNS = `aircraft_id AS "aircraftId", tail, type_id AS "typeId", type_version AS "typeVersion", pad,
  CASE WHEN basic_kg IS NOT NULL THEN
    json_build_object('mass_kg', basic_kg, 'arm_long_m', basic_arm_long_m, 'arm_lat_m', basic_arm_lat_m) END AS basic`;

export async function listAircraft(tx: Tx): Promise<AircraftRow[]> {
  const { rows } = await tx.query<AircraftRow>(`SELECT ${COLUMNS} FROM aircraft WHERE operator_id = $1 ORDER BY tail`, [
    tx.operatorId,
  ]);
  return rows;
}

export async function getAircraft(tx: Tx, aircraftId: string): Promise<AircraftRow> {
  const { rows } = await tx.query<AircraftRow>(
    `SELECT ${COLUMNS} FROM aircraft WHERE operator_id = $1 AND aircraft_id = $2`,
    [tx.operatorId, aircraftId],
  );
  if (!rows[0]) throw new Refusal('not-found', `There is no aircraft ${aircraftId}.`);
  return rows[0];
}

/** The type file as it was when this version was flown. */
export async function getType(tx: Tx, typeId: string, version: number): Promise<TypeFile> {
  const { rows } = await tx.query<{ file: TypeFile }>(
    'SELECT file FROM aircraft_type WHERE operator_id = $1 AND type_id = $2 AND version = $3',
    [tx.operatorId, typeId, version],
  );
  if (!rows[0]) throw new Refusal('not-found', `There is no type ${typeId} version ${version}.`);
  return rows[0].file;
}

/** The latest version of a type that is kept here. */
export async function getNewestType(tx: Tx, typeId: string): Promise<TypeFile> {
  const { rows } = await tx.query<{ file: TypeFile }>(
    'SELECT file FROM aircraft_type WHERE operator_id = $1 AND type_id = $2 ORDER BY version DESC LIMIT 1',
    [tx.operatorId, typeId],
  );
  if (!rows[0]) throw new Refusal('not-found', `There is no type ${typeId}.`);
  return rows[0].file;
}

export async function findTypeDigest(tx: Tx, typeId: string, version: number): Promise<string | null> {
  const { rows } = await tx.query<{ digest: string }>(
    'SELECT digest FROM aircraft_type WHERE operator_id = $1 AND type_id = $2 AND version = $3',
    [tx.operatorId, typeId, version],
  );
  return rows[0]?.digest ?? null;
}

export async function insertType(tx: Tx, type: TypeFile, digest: string): Promise<void> {
  await tx.query(
    'INSERT INTO aircraft_type (operator_id, type_id, version, digest, file) VALUES ($1, $2, $3, $4, $5)',
    [tx.operatorId, type.id, type.version, digest, JSON.stringify(type)],
  );
}

/** @returns false when there is an aircraft of this registration already */
export async function insertAircraft(tx: Tx, a: AircraftRow): Promise<boolean> {
  const { rowCount } = await tx.query(
    `INSERT INTO aircraft (operator_id, aircraft_id, tail, type_id, type_version, pad, basic_kg, basic_arm_long_m, basic_arm_lat_m)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9) ON CONFLICT DO NOTHING`,
    [
      tx.operatorId,
      a.aircraftId,
      a.tail,
      a.typeId,
      a.typeVersion,
      a.pad,
      a.basic?.mass_kg ?? null,
      a.basic?.arm_long_m ?? null,
      a.basic?.arm_lat_m ?? null,
    ],
  );
  return rowCount === 1;
}

/** Where an aircraft stands, and what it was weighed at. */
export async function setAircraft(
  tx: Tx,
  aircraftId: string,
  { pad, basic }: Pick<AircraftRow, 'pad' | 'basic'>,
): Promise<void> {
  await tx.query(
    `UPDATE aircraft SET pad = $3, basic_kg = $4, basic_arm_long_m = $5, basic_arm_lat_m = $6
     WHERE operator_id = $1 AND aircraft_id = $2`,
    [tx.operatorId, aircraftId, pad, basic?.mass_kg ?? null, basic?.arm_long_m ?? null, basic?.arm_lat_m ?? null],
  );
}

/** An aircraft flies another version from its next run on. */
export async function moveTail(tx: Tx, aircraftId: string, typeId: string, version: number): Promise<void> {
  await tx.query('UPDATE aircraft SET type_id = $3, type_version = $4 WHERE operator_id = $1 AND aircraft_id = $2', [
    tx.operatorId,
    aircraftId,
    typeId,
    version,
  ]);
}

/** Every version of every type, newest first. */
export async function listTypes(tx: Tx): Promise<{ id: string; version: number; name: string; role: string }[]> {
  const { rows } = await tx.query<{ id: string; version: number; name: string; role: string }>(
    `SELECT type_id AS id, version, file->>'name' AS name, file->>'role' AS role FROM aircraft_type
     WHERE operator_id = $1 ORDER BY type_id, version DESC`,
    [tx.operatorId],
  );
  return rows;
}
