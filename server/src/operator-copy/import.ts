import { verifyBundle } from '@rouse/core/format';
import { type Entry, parseEntry } from '@rouse/core/procedure';
import { decodeChunk } from '@rouse/core/trace';
import { type TypeFile, typeFileSchema } from '@rouse/core/aircraft';
import { base64 } from '@scure/base';
import { unzipSync } from 'fflate';
import { z } from 'zod';
import { insertAccount } from '../db/accounts.ts';
import { type AuditRow, brokenAudit } from '../db/audit.ts';
import { insertEntries } from '../db/entries.ts';
import type { Tx } from '../db/pool.ts';
import { insertTrace } from '../db/trace.ts';
import { Refusal } from '../errors.ts';
import { putRows, type Row, TABLES } from './tables.ts';

const rowsSchema = z.array(z.record(z.string(), z.unknown()));
const operatorSchema = z.object({ format: z.literal('rouse-operator/1'), name: z.string() });

interface Bundle {
  type: TypeFile;
  journal: unknown[];
  trace: { channels: string[]; data: string };
}

/** What came with an export. */
export interface Imported {
  from: string;
  runs: number;
  people: number;
  auditEntries: number;
}

/**
 * Takes an export into an operator that has no run yet: people, places, aircraft, types, and every run with its journal and
 * frames, each verified first. Aircraft and places that it was set up with give way.
 * @throws Refusal that names the file and what is wrong with it; nothing is taken then
 */
export async function importOperator(tx: Tx, bytes: Uint8Array, at: Date): Promise<Imported> {
  const files = unzipped(bytes);
  const { name } = readJson(files, 'operator.json', operatorSchema);
  const { rowCount: used } = await tx.query(
    'SELECT FROM run WHERE operator_id = $1 UNION ALL SELECT FROM defect WHERE operator_id = $1 LIMIT 1',
    [tx.operatorId],
  );
  if (used !== 0)
    throw new Refusal('not-so', 'This operator has runs or defects of its own; an export comes into an empty one.');
  const history = readJson(files, 'audit.json', rowsSchema).map((e) => ({
    ...e,
    at: new Date(String(e['at'])),
  })) as AuditRow[];
  const broken = brokenAudit(history);
  if (broken !== null) throw wrong('audit.json', `its chain is broken at entry ${broken}`);
  const tables = new Map<string, Row[]>();
  for (const table of TABLES) tables.set(table.name, readJson(files, `tables/${table.name}.json`, rowsSchema));

  for (const { type_id, file } of tables.get('aircraft_type')!)
    if (!typeFileSchema.safeParse(file).success)
      throw wrong('tables/aircraft_type.json', `${String(type_id)} is no type`);

  for (const table of ['device', 'aircraft', 'pad', 'site'])
    await tx.query(`DELETE FROM ${table} WHERE operator_id = $1`, [tx.operatorId]);
  // who signs in is made anew: an administrator hands links over
  const people = tables.get('person')!;
  for (const { person_id } of people)
    await insertAccount(tx, { accountId: String(person_id), login: null, password: null }, at);
  for (const month of new Set(tables.get('run')!.map((r) => String(r['run_month']))))
    await tx.query('SELECT ensure_month($1)', [month]);
  for (const table of TABLES) await putRows(tx, table.name, tables.get(table.name)!);
  for (const run of tables.get('run')!) await importRun(tx, files, run);
  return { from: name, runs: tables.get('run')!.length, people: people.length, auditEntries: history.length };
}

async function importRun(tx: Tx, files: Record<string, Uint8Array>, run: Row): Promise<void> {
  const name = `runs/${String(run['run_id'])}.json`;
  const text = textOf(files, name);
  const verdict = verifyBundle(text);
  if (!verdict.ok) throw wrong(name, verdict.message);
  const { type, journal, trace } = JSON.parse(text) as Bundle;
  const key = { runId: String(run['run_id']), runMonth: String(run['run_month']) };
  const entries: Entry[] = journal.map(parseEntry);
  if (entries.length > 0) await insertEntries(tx, key.runMonth, entries);
  const frames = decodeChunk(base64.decode(trace.data), trace.channels);
  if (frames.t_s.length > 0) await insertTrace(tx, key, frames, type.channels);
}

function unzipped(bytes: Uint8Array): Record<string, Uint8Array> {
  try {
    return unzipSync(bytes);
  } catch {
    throw new Refusal('bad-request', 'This is no export of Rouse: it cannot be unpacked.', { path: 'file' });
  }
}

const wrong = (file: string, words: string): Refusal =>
  new Refusal('bad-request', `${file}: ${words}. Nothing was taken.`, { path: 'file' });

function textOf(files: Record<string, Uint8Array>, name: string): string {
  const bytes = files[name];
  if (!bytes) throw wrong(name, 'is missing in this export');
  return Buffer.from(bytes).toString('utf8');
}

function readJson<T>(files: Record<string, Uint8Array>, name: string, schema: z.ZodType<T>): T {
  let value: unknown;
  try {
    value = JSON.parse(textOf(files, name));
  } catch (error) {
    if (error instanceof Refusal) throw error;
    throw wrong(name, 'is no JSON');
  }
  const read = schema.safeParse(value);
  if (!read.success) throw wrong(name, read.error.issues[0]!.message);
  return read.data;
}
