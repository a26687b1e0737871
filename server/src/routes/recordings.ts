import { createHash } from 'node:crypto';
import { isWatched } from '@rouse/core/aircraft';
import { type BroughtAlong, MOST_RECORDING_BYTES, recordingNameSchema } from '@rouse/core/contract';
import { digestOf } from '@rouse/core/procedure';
import { encodingOf, headerKey, headOf, type KeptRecording } from '@rouse/core/replay';
import express, { Router } from 'express';
import { v7 as uuidv7 } from 'uuid';
import { audit } from '../db/audit.ts';
import { insertEntries } from '../db/entries.ts';
import { putFeature } from '../db/features.ts';
import { findMapping } from '../db/mappings.ts';
import type { Tx } from '../db/pool.ts';
import { findRecording, insertRecording, runWithin } from '../db/recordings.ts';
import { findOpenRun, insertRun, monthOf } from '../db/runs.ts';
import { insertTrace } from '../db/trace.ts';
import { Refusal } from '../errors.ts';
import type { LiveAircraft } from '../live/live-aircraft.ts';
import { storeConsequences } from '../outbox/consequences.ts';
import { type Desk, deskOf, type Services } from '../services.ts';
import { asksQuery } from './asks.ts';

const HEAD_BYTES = 64 * 1024;

/** Brings a tail's past along from before Rouse, file by file. */
export function recordingRoutes(services: Services): Router {
  const router = Router();

  router.post(
    '/aircraft/:aircraft/recordings',
    express.raw({ type: 'application/octet-stream', limit: MOST_RECORDING_BYTES }),
    asksQuery(recordingNameSchema),
    async (req, res) => {
      const { name } = res.locals.query;
      const bytes = req.body as unknown;
      if (!Buffer.isBuffer(bytes) || bytes.length === 0) throw refused('The file is empty');
      const desk = deskOf(services, res);
      const aircraft = desk.fleet.of(String(req.params['aircraft']));
      const digest = createHash('sha256').update(bytes).digest('hex');
      const { known, mapping, names } = await prepare(desk, aircraft, bytes, digest);
      if (known !== null) {
        res.json({ run: known, already: true, starts: 0, held: 0 } satisfies BroughtAlong);
        return;
      }
      const { aircraftId, tail, pad } = aircraft.aircraft;
      if (!isWatched(aircraft.type)) throw refused(`${tail} sends no figures that a recording could be read into`);
      const run = uuidv7();
      const answer = await services.reckoner.recording(
        aircraft.type,
        { name, bytes, mapping, names },
        { run, tail, pad, by: desk.who.name },
      );
      if ('refused' in answer) throw refused(answer.refused);
      const found = answer.kept;
      const held = await desk.inTx(async (tx) => {
        await needFree(tx, aircraft, found, desk.now());
        return store(tx, aircraft, run, found, { runId: run, aircraftId, name, digest, by: desk.who.name, at: desk.now() }, desk.who.personId); // oxfmt-ignore
      });
      res.status(201).json({ run, already: false, starts: found.starts.length, held } satisfies BroughtAlong);
    },
  );

  return router;
}

const refused = (message: string): Refusal => new Refusal('bad-request', `file: ${message}.`, { path: 'file' });

/** What is known of a file by its first rows alone. */
async function prepare({ inTx }: Desk, { aircraft, type }: LiveAircraft, bytes: Buffer, digest: string) {
  const start = bytes.subarray(0, HEAD_BYTES);
  const encoding = encodingOf(start);
  if (encoding.startsWith('utf-16')) throw refused('It is read as UTF-8; save it so');
  const text = new TextDecoder(encoding).decode(start);
  const head = headOf(bytes.length > HEAD_BYTES ? text.slice(0, text.lastIndexOf('\n')) : text, encoding);
  if (head.names.length < 2 || head.rows.length === 0) throw refused('This is no table: no separator cuts its rows into columns'); // oxfmt-ignore
  const { known, mapping } = await inTx(async (tx) => ({
    known: await findRecording(tx, aircraft.aircraftId, digest),
    mapping: await findMapping(tx, type.id, digestOf(headerKey(head))),
  }));
  if (!mapping) throw refused('Its columns are named otherwise than in any file that was mapped; choose it first, and say which column is which'); // oxfmt-ignore
  return { known, mapping, names: head.names };
}

/** @throws Refusal where the log has that time already, or cannot have it */
async function needFree(tx: Tx, { aircraft }: LiveAircraft, { openedAt_ms, closedAt_ms }: KeptRecording, now: Date): Promise<void> {
  if (closedAt_ms > now.getTime()) throw refused(`It ends at ${said(new Date(closedAt_ms))}, which is still to come`);
  const open = await findOpenRun(tx, aircraft.aircraftId);
  if (open) throw new Refusal('run-is-open', `${aircraft.tail} has an open run already.`, { run: open.runId });
  const other = await runWithin(tx, aircraft.aircraftId, new Date(openedAt_ms), new Date(closedAt_ms));
  if (other) throw refused(`The log of ${aircraft.tail} has a run of ${said(other)} within its time`);
} // oxfmt-ignore

const said = (at: Date): string => `${at.toISOString().slice(0, 16).replace('T', ' ')} UTC`;

/** @returns how many exceedances of it hold the next start */
async function store(tx: Tx, { aircraft, type }: LiveAircraft, runId: string, found: KeptRecording, recording: Parameters<typeof insertRecording>[1], openedBy: string): Promise<number> {
  const { aircraftId, tail } = aircraft;
  const openedAt = new Date(found.openedAt_ms);
  const run = { runId, aircraftId, runMonth: monthOf(openedAt) };
  await insertRun(tx, { runId, aircraftId, typeId: type.id, typeVersion: type.version, openedBy, openedAt, source: 'recording', conditions: recording.name, closed: { at: new Date(found.closedAt_ms), outcome: 'recorded' } }); // oxfmt-ignore
  await insertEntries(tx, run.runMonth, found.entries);
  await insertTrace(tx, run, found.trace, type.channels);
  await storeConsequences(tx, type, aircraftId, found.entries);
  for (const { watch, attempt, good, features, profile } of found.starts)
    await putFeature(tx, { runId, aircraftId, watch, attempt, at: openedAt, good, features, profile });
  await insertRecording(tx, recording);
  await audit(tx, recording.at, recording.by, 'recording', `${tail}: ${recording.name}, ${recording.digest.slice(0, 12)}`);
  const { rows } = await tx.query<{ n: number }>('SELECT count(*)::int AS n FROM exceedance WHERE operator_id = $1 AND run_id = $2', [tx.operatorId, runId]); // oxfmt-ignore
  return rows[0]!.n;
} // oxfmt-ignore
