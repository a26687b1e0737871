import { writeBundle } from '@rouse/core/format';
import type { Response } from 'express';
import { Zip, ZipDeflate } from 'fflate';
import { getType, listAircraft } from '../db/aircraft.ts';
import { listAudit } from '../db/audit.ts';
import { listEntries } from '../db/entries.ts';
import { getOperator } from '../db/operators.ts';
import { listRuns, type RunRow } from '../db/runs.ts';
import { getTrace } from '../db/trace.ts';
import type { Desk } from '../services.ts';
import { rowsOf, TABLES } from './tables.ts';

/** more runs than one tail has in its life */
const MOST_RUNS = 1_000_000;

/**
 * All that is an operator's, as one zip of open formats: a JSON file a table, the audit, and one verifiable bundle a run
 * with its journal and frames. Written run by run, so that memory does not grow with the years.
 */
export async function exportOperator({ inTx }: Desk, res: Response): Promise<void> {
  const done = new Promise<void>((resolve, reject) => {
    res.once('close', resolve);
    res.once('error', reject);
  });
  const zip = new Zip((error, chunk, last) => {
    if (error) return void res.destroy(error);
    res.write(chunk);
    if (last) res.end();
  });
  const put = (name: string, text: string): void => {
    const file = new ZipDeflate(name, { level: 6 });
    zip.add(file);
    file.push(Buffer.from(text, 'utf8'), true);
  };
  const json = (name: string, value: unknown): void => put(name, `${JSON.stringify(value, null, 1)}\n`);

  const runs: RunRow[] = [];
  await inTx(async (tx) => {
    const { name, place } = await getOperator(tx);
    json('operator.json', { format: 'rouse-operator/1', name, place });
    json('audit.json', await listAudit(tx));
    for (const table of TABLES) json(`tables/${table.name}.json`, await rowsOf(tx, table));
    for (const { aircraftId } of await listAircraft(tx)) runs.push(...(await listRuns(tx, aircraftId, MOST_RUNS)));
  });
  for (const run of runs) {
    if (res.destroyed) return;
    const bundle = await inTx(async (tx) => {
      const type = await getType(tx, run.typeId, run.typeVersion);
      const head = { id: run.runId, tail: run.tail, pilot: run.pilot, openedAt: run.openedAt.toISOString() };
      return writeBundle(head, type, await listEntries(tx, run), await getTrace(tx, run, type.channels));
    });
    put(`runs/${run.runId}.json`, bundle);
    if (res.writableNeedDrain) await Promise.race([done, new Promise<void>((go) => res.once('drain', go))]);
  }
  zip.end();
  await done;
}
