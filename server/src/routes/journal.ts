import { type Written, writeEntrySchema } from '@rouse/core/contract';
import { acceptFromPilot, chainEntries, type Entry, type Payload, reduceRun, samePayload } from '@rouse/core/procedure';
import { Router } from 'express';
import { getType } from '../db/aircraft.ts';
import { insertEntries, listEntries } from '../db/entries.ts';
import { asOperator } from '../db/pool.ts';
import { getRun, lockRun } from '../db/runs.ts';
import { Refusal } from '../errors.ts';
import type { Services } from '../services.ts';
import { parse } from './parse.ts';
import { runIdOf } from './run-detail.ts';

/** What a person writes into the journal of a run. */
export function journalRoutes(services: Services): Router {
  const { fleet, personId } = services;
  const router = Router();

  router.post('/runs/:run/entries', async (req, res) => {
    const { id, seq, payload } = parse(writeEntrySchema, req.body);
    const runId = runIdOf(req);
    if (fleet.usedElsewhere(id, runId))
      throw new Refusal('id-used', 'This id was used for an entry of another run.', { path: 'id' });
    const open = fleet.ofRun(runId);
    const written: Written = open
      ? await writeOpen(open, id, seq, personId, payload)
      : await writeClosed(services, runId, id, seq, payload);
    res.status(201).json(written);
  });

  return router;
}

async function writeOpen(
  { aircraft, run }: NonNullable<ReturnType<Services['fleet']['ofRun']>>,
  id: string,
  seq: number,
  by: string,
  payload: Payload,
): Promise<Written> {
  const entry = await aircraft.answer(run, id, seq, by, payload);
  return { entry, entries: run.session.entries.slice(seq - 1) };
}

/** A closed run takes notes, one after the other; everything else is refused by its state. */
async function writeClosed(
  { pool, operatorId, personId, clock }: Services,
  runId: string,
  id: string,
  seq: number,
  payload: Payload,
): Promise<Written> {
  return asOperator(pool, operatorId, async (tx) => {
    const run = await getRun(tx, runId);
    await lockRun(tx, runId);
    const entries = await listEntries(tx, run);
    const before = entries.find((e) => e.id === id);
    if (before && !samePayload(before, payload))
      throw new Refusal('id-used', 'This id was used for another entry of this run.', { path: 'id' });
    if (before) return { entry: before, entries: entries.slice(seq - 1) };
    const expected = entries.length + 1;
    if (seq !== expected)
      throw new Refusal('out-of-order', `The journal expects entry ${expected}, not ${seq}.`, { expected });
    const type = await getType(tx, run.typeId, run.typeVersion);
    const verdict = acceptFromPilot(type, reduceRun(entries), payload, null);
    if (!verdict.ok) throw new Refusal(verdict.code, verdict.message);
    const at_ms = clock.now();
    const t_s = (at_ms - run.openedAt.getTime()) / 1000;
    const added: Entry[] = chainEntries(runId, entries[entries.length - 1], [
      { id, at_ms, t_s, by: personId, payload: verdict.payload },
    ]);
    await insertEntries(tx, run.runMonth, added);
    return { entry: added[0]!, entries: added };
  });
}
