import type { Dispute, DrillCost, DrillFlown, DrillRow, RoundFlown, Signature } from '@rouse/core/contract';
import type { Practised } from '@rouse/core/drill';
import type { Tx } from './pool.ts';

/** A drill as it is kept. */
export interface KeptDrill {
  id: string;
  personId: string;
  at: Date;
  title: string;
  lesson: string;
  flown: Omit<DrillFlown, 'id' | 'waited_s'> | Omit<RoundFlown, 'id' | 'waited_s'>;
  marks: { sum: number; worst: string[]; lost: { of: string; points: number }[] };
}

/** Keeps a drill, once. @returns false where the id is another drill's, or another person's */
export async function insertDrill(
  tx: Tx,
  { id, personId, at, title, lesson, flown, marks }: KeptDrill,
): Promise<boolean> {
  const { type } = flown;
  const acts = JSON.stringify(flown);
  await tx.query(
    `INSERT INTO drill (operator_id, drill_id, person_id, at, type_id, type_version, lesson, title, flown, marks, sum)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11) ON CONFLICT DO NOTHING`,
    [tx.operatorId, id, personId, at, type.id, type.version, lesson, title, acts, JSON.stringify(marks), marks.sum], // oxfmt-ignore
  );
  const { rowCount } = await tx.query(
    'SELECT FROM drill WHERE operator_id = $1 AND drill_id = $2 AND person_id = $3 AND lesson = $4 AND flown = $5',
    [tx.operatorId, id, personId, lesson, acts],
  );
  return rowCount === 1;
}

const LISTED = `drill_id AS id, at, type_id AS type, lesson, title, sum, marks->'worst' AS worst,
  CASE WHEN signed_by IS NULL THEN NULL ELSE jsonb_build_object('by', signed_by, 'at', signed_at) END AS signed, disputes`;

/** The last drills of a person, newest first. @param type of one type only, or null */
export async function listDrills(tx: Tx, personId: string, type: string | null, limit: number): Promise<DrillRow[]> {
  const { rows } = await tx.query<Omit<DrillRow, 'at'> & { at: Date }>(
    `SELECT ${LISTED} FROM drill
     WHERE operator_id = $1 AND person_id = $2 AND ($3::text IS NULL OR type_id = $3) ORDER BY at DESC LIMIT $4`,
    [tx.operatorId, personId, type, limit],
  );
  return rows.map((r) => ({ ...r, at: r.at.toISOString() }));
}

/** what has cost most is told of so many items and controls */
const MOST_COSTLY = 40;

/** What the drills of a person on one type have cost, by item and control, the dearest first. */
export async function costsOf(tx: Tx, personId: string, type: string): Promise<DrillCost[]> {
  const { rows } = await tx.query<DrillCost>(
    `SELECT l->>'of' AS of, count(*)::int AS times, sum((l->>'points')::float8) AS points
     FROM drill, jsonb_array_elements(marks->'lost') AS l
     WHERE operator_id = $1 AND person_id = $2 AND type_id = $3 GROUP BY 1 ORDER BY 3 DESC, 1 LIMIT $4`,
    [tx.operatorId, personId, type, MOST_COSTLY],
  );
  return rows;
}

/** An instructor signs a drill, once. @returns false when there is none to sign: not there, signed already, or the instructor's own */
export async function signDrill(tx: Tx, id: string, by: { personId: string; name: string }, at: Date, { notes }: Signature): Promise<boolean> {
  const { rowCount } = await tx.query(
    `UPDATE drill SET signed_by = $3, signed_at = $4, notes = $5
     WHERE operator_id = $1 AND drill_id = $2 AND signed_by IS NULL AND person_id <> $6`,
    [tx.operatorId, id, by.name, at, JSON.stringify(notes), by.personId],
  );
  return rowCount === 1;
} // oxfmt-ignore

/** nobody disputes more of one drill */
const MOST_DISPUTES = 20;

/** Adds what a learner says against a mark of an own drill. @returns false when there is no such drill, or nothing more to add */
export async function disputeMark(tx: Tx, id: string, personId: string, at: Date, dispute: Dispute): Promise<boolean> {
  const { rowCount } = await tx.query(
    `UPDATE drill SET disputes = disputes || $4::jsonb
     WHERE operator_id = $1 AND drill_id = $2 AND person_id = $3 AND jsonb_array_length(disputes) < $5`,
    [tx.operatorId, id, personId, JSON.stringify([{ ...dispute, at: at.toISOString() }]), MOST_DISPUTES],
  );
  return rowCount === 1;
}

/** Every time that a person has flown a lesson, for what is due again. */
export async function practisedBy(tx: Tx, personId: string): Promise<(Practised & { type: string })[]> {
  const { rows } = await tx.query<{ type: string; lesson: string; at: Date; sum: number }>(
    'SELECT type_id AS type, lesson, at, sum FROM drill WHERE operator_id = $1 AND person_id = $2',
    [tx.operatorId, personId],
  );
  return rows.map((r) => ({ ...r, at: r.at.toISOString() }));
}
