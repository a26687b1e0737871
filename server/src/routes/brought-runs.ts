import { type BroughtRun, broughtRunSchema, type RunTaken } from '@rouse/core/contract';
import { type Entry, parseEntry, reduceRun, whyNotBrought } from '@rouse/core/procedure';
import { bookingOf } from '@rouse/core/shutdown';
import express, { Router } from 'express';
import { getType } from '../db/aircraft.ts';
import { audit } from '../db/audit.ts';
import { insertBooking } from '../db/bookings.ts';
import { insertEntries, listEntries } from '../db/entries.ts';
import type { Tx } from '../db/pool.ts';
import { runWithin } from '../db/recordings.ts';
import { findRun, insertRun, monthOf } from '../db/runs.ts';
import { Refusal } from '../errors.ts';
import { storeConsequences } from '../outbox/consequences.ts';
import { type Desk, deskOf, type Services } from '../services.ts';
import { asks } from './asks.ts';

/** where whole journals are sent */
export const BROUGHT_RUNS = '/runs/brought';
const MOST_BYTES = '8mb';
/** a clock that is off by less than this is right, ms */
const CLOCK_OFF_MS = 120_000;

/** Takes runs that were written on a tablet while no server was there: as they are, or not at all. */
export function broughtRunRoutes(services: Services): Router {
  const router = Router();

  router.post(BROUGHT_RUNS, express.json({ limit: MOST_BYTES }), asks(broughtRunSchema), async (req, res) => {
    const asked = req.body;
    const entries = readEntries(asked);
    const desk = deskOf(services, res);
    const taken = await desk.inTx((tx) => take(desk, tx, asked, entries));
    res.status(taken.already ? 200 : 201).json(taken);
  });

  return router;
}

function readEntries({ entries }: BroughtRun): Entry[] {
  return entries.map((written, i) => {
    try {
      return parseEntry(written);
    } catch {
      throw new Refusal('bad-request', `entries ${i + 1}: This is no entry of a journal.`, { path: `entries.${i}` });
    }
  });
}

async function take({ who, fleet, now }: Desk, tx: Tx, asked: BroughtRun, entries: readonly Entry[]): Promise<RunTaken> {
  const { aircraftId, tail } = fleet.of(asked.aircraft).aircraft;
  const known = await findRun(tx, asked.run);
  if (known) {
    const kept = await listEntries(tx, known);
    if (kept.length === entries.length && kept.every((e, i) => e.id === entries[i]!.id)) return { run: asked.run, already: true, overlaps: null };
    throw new Refusal('id-used', 'A run of this name is here already, with other entries.', { path: 'run' });
  }
  const type = await getType(tx, asked.type.id, asked.type.version);
  const why = whyNotBrought(entries, { type, tail, run: asked.run, by: who.personId });
  if (why !== null) throw new Refusal('bad-request', `entries: ${why}.`, { path: 'entries' });
  // a tablet whose clock is wrong is put right by as much as it is off now; the entries stay as they were written
  const off_ms = Date.parse(asked.tabletNow) - now().getTime();
  const right_ms = Math.abs(off_ms) > CLOCK_OFF_MS ? off_ms : 0;
  const openedAt = new Date(Date.parse(asked.openedAt) - right_ms);
  const closedAt = new Date(openedAt.getTime() + 1000 * entries.at(-1)!.t);
  if (closedAt.getTime() > now().getTime() + CLOCK_OFF_MS) throw new Refusal('bad-request', 'openedAt: It ends at a time that is still to come; set the clock of the tablet right.', { path: 'openedAt' });
  const overlapping = await runWithin(tx, aircraftId, openedAt, closedAt);
  const [opened] = entries;
  const conditions = [
    opened?.kind === 'run-opened' ? opened.conditions : '',
    'written on a tablet without a server',
    right_ms !== 0 && `its clock was ${sayOff(right_ms)}`,
    overlapping && `goes over the same time as the run of ${overlapping.toISOString().slice(0, 16).replace('T', ' ')} UTC`,
  ].filter(Boolean).join('; ');
  const { status: _, outcome } = reduceRun(entries);
  await insertRun(tx, { runId: asked.run, aircraftId, typeId: type.id, typeVersion: type.version, openedBy: who.personId, openedAt, source: 'by-hand', conditions, closed: { at: closedAt, outcome: outcome ?? 'given-up' } });
  await insertEntries(tx, monthOf(openedAt), entries);
  await storeConsequences(tx, type, aircraftId, entries);
  await insertBooking(tx, { runId: asked.run, aircraftId }, closedAt, bookingOf(type, entries, []));
  await audit(tx, now(), who.name, 'run', `${tail}: a run of ${openedAt.toISOString().slice(0, 16)}, written on a tablet, ${entries.length} entries`);
  return { run: asked.run, already: false, overlaps: overlapping?.toISOString() ?? null };
} // oxfmt-ignore

const sayOff = (by_ms: number): string =>
  `${Math.round(Math.abs(by_ms) / 60_000)} min ${by_ms > 0 ? 'ahead' : 'behind'}`;
