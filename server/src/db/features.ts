import type { StoredStart } from '@rouse/core/contract';
import type { LearnedStart, StartProfile } from '@rouse/core/watch';
import type { Tx } from './pool.ts';

type StartFeatures = Record<string, number | null>;

export interface FeatureRow {
  runId: string;
  watch: string;
  attempt: number;
  at: Date;
  good: boolean;
  features: StartFeatures;
}

/** Of a run `r`: its readings are kept as they came. */
const EVERY_FRAME = `NOT EXISTS (
         SELECT FROM run_entry e WHERE e.operator_id = $1 AND e.run_id = r.run_id AND e.run_month = r.run_month AND e.kind = 'trace-thinned')`;

/** The last starts of every tail that flew a type, newest first: those whose frames are kept. */
export async function listStartsOfType(tx: Tx, typeId: string, limit: number): Promise<StoredStart[]> {
  const { rows } = await tx.query<Omit<StoredStart, 'at'> & { at: Date }>(
    `SELECT f.run_id AS run, a.tail, f.at, r.type_version AS version, f.watch, f.attempt,
            (f.features->>'starterAt_s')::float8 AS "starterAt_s"
     FROM aircraft a
     CROSS JOIN LATERAL (
       SELECT * FROM run_feature WHERE operator_id = $1 AND aircraft_id = a.aircraft_id ORDER BY at DESC LIMIT $3
     ) f
     JOIN run r ON r.operator_id = $1 AND r.run_id = f.run_id
     WHERE a.operator_id = $1 AND r.type_id = $2 AND f.features->>'starterAt_s' IS NOT NULL AND ${EVERY_FRAME}
     ORDER BY f.at DESC, f.attempt DESC LIMIT $3`,
    [tx.operatorId, typeId, limit],
  );
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}

/** A good start whose run can be read back frame by frame. */
export interface KeptStart {
  runId: string;
  runMonth: string;
  features: StartFeatures;
}

/** The last good starts of an aircraft before a moment that were flown with one version of its type, newest first. */
export async function listKeptStarts(
  tx: Tx,
  { aircraftId, typeId, typeVersion }: { aircraftId: string; typeId: string; typeVersion: number },
  watch: string,
  before: Date,
  limit: number,
): Promise<KeptStart[]> {
  const { rows } = await tx.query<KeptStart>(
    `SELECT f.run_id AS "runId", r.run_month AS "runMonth", f.features
     FROM run_feature f JOIN run r ON r.operator_id = $1 AND r.run_id = f.run_id
     WHERE f.operator_id = $1 AND f.aircraft_id = $2 AND f.watch = $3 AND f.at < $4 AND f.good
       AND r.type_id = $5 AND r.type_version = $6 AND ${EVERY_FRAME}
     ORDER BY f.at DESC LIMIT $7`,
    [tx.operatorId, aircraftId, watch, before, typeId, typeVersion, limit],
  );
  return rows;
}

type StoredProfile = { [K in keyof StartProfile]: (number | null)[] };

export interface NewFeature {
  runId: string;
  aircraftId: string;
  watch: string;
  attempt: number;
  at: Date;
  good: boolean;
  features: StartFeatures;
  profile: StartProfile;
}

/** Keeps the figures of one start; those of an aborted one become final when the engine has come to rest. */
export async function putFeature(tx: Tx, f: NewFeature): Promise<void> {
  await tx.query(
    `INSERT INTO run_feature (operator_id, run_id, attempt, aircraft_id, watch, at, good, features, profile)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9) 
     ON CONFLICT (operator_id, run_id, watch, attempt) DO UPDATE SET good = excluded.good, features = excluded.features, profile = excluded.profile`,
    [
      tx.operatorId,
      f.runId,
      f.attempt,
      f.aircraftId,
      f.watch,
      f.at,
      f.good,
      JSON.stringify(f.features),
      JSON.stringify(f.profile),
    ],
  );
}

export async function listFeaturesOfRun(tx: Tx, runId: string): Promise<FeatureRow[]> {
  const { rows } = await tx.query<FeatureRow>(
    'SELECT run_id AS "runId", watch, attempt, at, good, features FROM run_feature WHERE operator_id = $1 AND run_id = $2 ORDER BY attempt',
    [tx.operatorId, runId],
  );
  return rows;
}

/** The last good starts of an aircraft before a moment, newest first. */
export async function listGoodStarts(
  tx: Tx,
  aircraftId: string,
  watch: string,
  before: Date,
  limit: number,
): Promise<(FeatureRow & { learned: LearnedStart })[]> {
  const { rows } = await tx.query<FeatureRow & { profile: StoredProfile }>(
    `SELECT run_id AS "runId", watch, attempt, at, good, features, profile FROM run_feature
     WHERE operator_id = $1 AND aircraft_id = $2 AND watch = $3 AND at < $4 AND good ORDER BY at DESC LIMIT $5`,
    [tx.operatorId, aircraftId, watch, before, limit],
  );
  return rows.map(({ profile, ...row }) => ({
    ...row,
    learned: {
      profile: {
        totMax_C: numbers(profile.totMax_C),
        totMin_C: numbers(profile.totMin_C),
        paceMin_pct_s: numbers(profile.paceMin_pct_s),
      },
      day: {
        outsideAir_C: row.features['outsideAir_C'] ?? NaN,
        pressureAltitude_ft: row.features['pressureAltitude_ft'] ?? NaN,
        tailwind_kt: row.features['tailwind_kt'] ?? NaN,
        residual_C: row.features['residual_C'] ?? NaN,
        crankVolts_V: row.features['voltsDip_V'] ?? NaN,
      },
    },
  }));
}

const numbers = (column: (number | null)[]): number[] => column.map((v) => v ?? NaN);
