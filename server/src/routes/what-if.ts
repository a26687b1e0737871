import { isWatched, type WatchedType } from '@rouse/core/aircraft';
import { type StartActs, startAskedSchema, whatIfAskedSchema } from '@rouse/core/contract';
import { recordedStart, type StartDay } from '@rouse/core/drill';
import { Router } from 'express';
import { getType } from '../db/aircraft.ts';
import { listEntries, type RunKey } from '../db/entries.ts';
import { listFeaturesOfRun, listKeptStarts } from '../db/features.ts';
import type { Tx } from '../db/pool.ts';
import { getRun, type RunRow } from '../db/runs.ts';
import { getTrace } from '../db/trace.ts';
import { Refusal } from '../errors.ts';
import type { StoredStart } from '../reckon/what-if.ts';
import { deskOf, type Services } from '../services.ts';
import { asks } from './asks.ts';
import { parse } from './parse.ts';
import { runIdOf } from './run-detail.ts';

/** a twin is fitted to this many starts, the latest before the one that is asked about */
const STARTS = 12;
/** of each start so much is read, s */
const READ_S = 46;

/** What if I had not, of a real start: what was done in it, and what its twin says. */
export function whatIfRoutes(services: Services): Router {
  const router = Router();

  router.get('/runs/:run/starts/:watch/:attempt/acts', async (req, res) => {
    const asked = parse(startAskedSchema, req.params);
    const { inTx } = deskOf(services, res);
    const { type, own } = await inTx(async (tx) => startOf(tx, await getRun(tx, runIdOf(req)), asked));
    const { acts } = refusing(() => recordedStart(type, own.trace, asked.watch, own.starterAt_s, own.day));
    res.json({ acts: acts.map(({ t_s, words }) => ({ t_s, words })) } satisfies StartActs);
  });

  router.post('/runs/:run/what-if', asks(whatIfAskedSchema), async (req, res) => {
    const asked = req.body;
    const { inTx } = deskOf(services, res);
    const starts = await inTx(async (tx) => {
      const run = await getRun(tx, runIdOf(req));
      const { type, own } = await startOf(tx, run, asked);
      const others: StoredStart[] = [];
      for (const { runId, runMonth, features } of await listKeptStarts(tx, run, asked.watch, run.openedAt, STARTS))
        others.push(await stored(tx, type, { runId, runMonth }, features));
      return { type, watch: asked.watch, own, others };
    });
    const answer = await services.reckoner.whatIf(starts, asked);
    if ('refused' in answer) throw new Refusal('cannot-say', sentence(answer.refused));
    res.json(answer);
  });

  return router;
}

async function startOf(tx: Tx, run: RunRow, { watch, attempt }: { watch: string; attempt: number }): Promise<{ type: WatchedType; own: StoredStart }> {
  const type = await getType(tx, run.typeId, run.typeVersion);
  const found = (await listFeaturesOfRun(tx, run.runId)).find((f) => f.watch === watch && f.attempt === attempt);
  if (!isWatched(type) || !found) throw new Refusal('not-found', 'That run has no such start.');
  if ((await listEntries(tx, run)).some((e) => e.kind === 'trace-thinned'))
    throw new Refusal('cannot-say', 'This start was flown long ago: its readings are kept no more as they came, and its figures stay.');
  return { type, own: await stored(tx, type, run, found.features) };
} // oxfmt-ignore

async function stored(tx: Tx, type: WatchedType, run: RunKey, features: Record<string, number | null>): Promise<StoredStart> {
  const known = (name: string): number => features[name] ?? NaN;
  const starterAt_s = known('starterAt_s');
  const day: StartDay = {
    outsideAir_C: known('outsideAir_C'),
    pressureAltitude_ft: known('pressureAltitude_ft'),
    headwind_kt: -known('tailwind_kt'),
    residual_C: known('residual_C'),
  };
  return { run: run.runId, starterAt_s, day, trace: await getTrace(tx, run, type.channels, starterAt_s, starterAt_s + READ_S) };
} // oxfmt-ignore

function refusing<T>(work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    throw new Refusal('cannot-say', sentence(error.message));
  }
}

const sentence = (words: string): string => `It cannot be said: ${words}.`;
