import { promisify } from 'node:util';
import { deflateRaw } from 'node:zlib';
import type { Channel } from '@rouse/core/aircraft';
import { chunkBody, chunkOf, decodeChunks, rowAt, type Trace } from '@rouse/core/trace';
import type { RunKey } from './entries.ts';
import type { Tx } from './pool.ts';

/** away from the thread that alarms come from */
const deflate = promisify(deflateRaw);

/** a part of a run is read without unpacking the whole of it */
const CHUNK_ROWS = 3000;

export async function insertTrace(tx: Tx, run: RunKey, trace: Trace, channels: readonly Channel[]): Promise<void> {
  for (let from = 0; from < trace.t_s.length; from += CHUNK_ROWS) {
    const to = from + CHUNK_ROWS;
    const columns = trace.columns.map((c) => c.subarray(from, to));
    await insertChunk(tx, run, { channels: trace.channels, t_s: trace.t_s.subarray(from, to), columns }, channels);
  }
}

async function insertChunk(tx: Tx, run: RunKey, trace: Trace, channels: readonly Channel[]): Promise<void> {
  const rows = trace.t_s.length;
  const body = chunkBody(
    trace,
    channels.map((c) => c.resolution),
  );
  const data = chunkOf(await deflate(body));
  await tx.query(
    `INSERT INTO trace_chunk (operator_id, run_id, run_month, first_t, last_t, frames, data) VALUES ($1, $2, $3, $4, $5, $6, $7)`,
    [tx.operatorId, run.runId, run.runMonth, trace.t_s[0], trace.t_s[rows - 1], rows, Buffer.from(data.buffer)],
  );
}

/** Takes the readings of a run away; only the owner of the tables may. */
export async function deleteTrace(tx: Tx, run: RunKey): Promise<void> {
  await tx.query('DELETE FROM trace_chunk WHERE operator_id = $1 AND run_id = $2 AND run_month = $3', [
    tx.operatorId,
    run.runId,
    run.runMonth,
  ]);
}

/** Frames of a run from `from_s` up to `to_s`, as stored. */
export async function getTrace(
  tx: Tx,
  run: RunKey,
  channels: readonly Channel[],
  from_s = -Infinity,
  to_s = Infinity,
): Promise<Trace> {
  const { rows } = await tx.query<{ data: Buffer }>(
    `SELECT data FROM trace_chunk
     WHERE operator_id = $1 AND run_id = $2 AND run_month = $3 AND last_t >= $4 AND first_t <= $5 ORDER BY first_t`,
    [tx.operatorId, run.runId, run.runMonth, from_s, to_s],
  );
  const ids = channels.map((c) => c.id);
  const all = decodeChunks(
    rows.map((r) => r.data),
    ids,
  );
  const a = rowAt(all, from_s);
  const b = rowAt(all, to_s + 1e-9);
  return { channels: ids, t_s: all.t_s.subarray(a, b), columns: all.columns.map((c) => c.subarray(a, b)) };
}

/** Run clock of the last frame of a run that is stored, -Infinity for none. */
export async function lastStored_s(tx: Tx, run: RunKey): Promise<number> {
  const { rows } = await tx.query<{ last_t: number | null }>(
    'SELECT max(last_t) AS last_t FROM trace_chunk WHERE operator_id = $1 AND run_id = $2 AND run_month = $3',
    [tx.operatorId, run.runId, run.runMonth],
  );
  return rows[0]!.last_t ?? -Infinity;
}
