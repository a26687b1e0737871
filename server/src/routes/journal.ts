import { type Written, writeEntrySchema } from '@rouse/core/contract';
import { acceptFromPilot, chainEntries, type Entry, type Payload, reduceRun, samePayload } from '@rouse/core/procedure';
import { mayFly } from '@rouse/core/people';
import { Router } from 'express';
import { getType } from '../db/aircraft.ts';
import { insertEntries, listEntries } from '../db/entries.ts';
import { getRun, lockRun } from '../db/runs.ts';
import { Refusal } from '../errors.ts';
import type { LiveAircraft } from '../live/live-aircraft.ts';
import type { OpenRun } from '../live/open-run.ts';
import { type Desk, deskOf, type Services } from '../services.ts';
import { asks } from './asks.ts';
import { runIdOf } from './run-detail.ts';

/** What a person writes into the journal of a run. */
export function journalRoutes(services: Services): Router {
  const router = Router();

  router.post('/runs/:run/entries', asks(writeEntrySchema), async (req, res) => {
    const { id, seq, payload } = req.body;
    const runId = runIdOf(req);
    const desk = deskOf(services, res);
    const { fleet, who } = desk;
    if (payload.kind === 'handed-over')
      throw new Refusal('not-this-item', 'A run is taken over by whoever takes it, not by an entry.');
    if (payload.kind === 'leg-begun' && !mayFly(who.roles))
      throw new Refusal('no-right', 'An engineer runs it on the ground; a pilot takes it from here.');
    if (fleet.usedElsewhere(id, runId))
      throw new Refusal('id-used', 'This id was used for an entry of another run.', { path: 'id' });
    const open = fleet.ofRun(runId);
    const written: Written = open
      ? await writeOpen(open, id, seq, who.personId, payload)
      : await writeClosed(desk, runId, id, seq, payload);
    if (open && written.entry.kind === 'closed') slowDown(services, open.aircraft);
    res.status(201).json(written);
  });

  return router;
}

/** A simulated aircraft that was hurried lives on at its own pace: nothing waits for it any more. */
function slowDown({ standIn }: Services, aircraft: LiveAircraft): void {
  if (aircraft.pace === 1) return;
  aircraft.pace = 1;
  standIn.send({ cmd: 'pace', type: aircraft.type.id, times: 1 }).catch(() => undefined);
}

async function writeOpen(
  { aircraft, run }: NonNullable<ReturnType<Desk['fleet']['ofRun']>>,
  id: string,
  seq: number,
  by: string,
  payload: Payload,
): Promise<Written> {
  const since = (entry: Entry): Written => ({ entry, entries: run.session.entries.slice(seq - 1) });
  try {
    return since(await aircraft.answer(run, id, seq, by, payload));
  } catch (error) {
    const same = error instanceof Refusal && AS_SEEN.has(error.code) && answeredJustNow(run, by, payload);
    if (!same) throw error;
    return since(same);
  }
}

/** two people answer one item so near to each other */
const AT_ONCE_S = 2;
const AS_SEEN: ReadonlySet<string> = new Set(['not-this-item', 'not-so']);

/** The same answer to the same item that somebody else has given in this moment: two hands never fight over it. */
function answeredJustNow({ session, clock }: OpenRun, by: string, payload: Payload): Entry | undefined {
  if (payload.kind !== 'item-done' && payload.kind !== 'challenged' && payload.kind !== 'stage-done') return undefined;
  const since_s = clock.now_s() - AT_ONCE_S;
  return session.entries.findLast(
    (e) =>
      e.t >= since_s &&
      e.by !== by &&
      e.kind === payload.kind &&
      e.item === payload.item &&
      (e.kind !== 'stage-done' || payload.kind !== 'stage-done' || e.stage === payload.stage),
  );
}

/** A closed run takes notes, one after the other; everything else is refused by its state. */
async function writeClosed(
  { who, inTx, now }: Desk,
  runId: string,
  id: string,
  seq: number,
  payload: Payload,
): Promise<Written> {
  return inTx(async (tx) => {
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
    const at_ms = now().getTime();
    const t_s = (at_ms - run.openedAt.getTime()) / 1000;
    const added: Entry[] = chainEntries(runId, entries[entries.length - 1], [
      { id, at_ms, t_s, by: who.personId, payload: verdict.payload },
    ]);
    await insertEntries(tx, run.runMonth, added);
    return { entry: added[0]!, entries: added };
  });
}
