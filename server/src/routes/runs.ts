import { isPiston } from '@rouse/core/aircraft';
import { openRunSchema, type RunDetail, writeEntrySchema } from '@rouse/core/contract';
import { writeBundle, writeCsv } from '@rouse/core/format';
import { usualFigures } from '@rouse/core/health';
import { decimate, encodeChunk } from '@rouse/core/trace';
import { type Request, Router } from 'express';
import { z } from 'zod';
import { getType, listAircraft } from '../db/aircraft.ts';
import { listEntries } from '../db/entries.ts';
import { asOperator, type Tx } from '../db/pool.ts';
import { getRun, listRuns, type RunRow } from '../db/runs.ts';
import { getTrace } from '../db/trace.ts';
import { listGoodChecks, PAST_CHECKS } from '../db/checks.ts';
import { listWaits } from '../db/waits.ts';
import { Refusal } from '../errors.ts';
import type { Services } from '../services.ts';
import { briefOf } from '@rouse/core/brief';
import { briefContext } from './brief-context.ts';
import { corridorsBefore, debriefOf } from './debrief.ts';
import { parse } from './parse.ts';
import { summaryOf } from './summary.ts';
import { Journal } from '../live/journal.ts';

const windowSchema = z.strictObject({
  from: z.coerce.number().optional(),
  to: z.coerce.number().optional(),
  points: z.coerce.number().int().min(10).max(20_000).optional(),
});
const LISTED_RUNS = 200;
const PAST_WAITS = 200;
const idSchema = z.uuid({ message: 'is not the id of a run' });

export function runRoutes(services: Services): Router {
  const { pool, operatorId, personId, clock, fleet, standIn } = services;
  const router = Router();
  const runId = (req: Request): string => parse(idSchema, req.params['run']);

  router.post('/runs', async (req, res) => {
    const { aircraft: aircraftId, brief: entered, byHand } = parse(openRunSchema, req.body);
    const aircraft = fleet.of(aircraftId);
    const context = await asOperator(pool, operatorId, (tx) =>
      briefContext(tx, aircraft.aircraft, aircraft.type, new Date(clock.now())),
    );
    const brief = briefOf(entered, context);
    const held = brief.holds.find((h) => h.severity === 'no-go' || !(entered.accepted[h.id] ?? '').trim());
    if (held) throw new Refusal('brief-held', `${held.title}. ${held.words}`, { path: `brief.accepted.${held.id}` });
    const { type } = aircraft;
    const state =
      aircraft.wired && !byHand ? await standIn.send({ cmd: 'state', type: type.id }).catch(() => null) : null;
    const preset = type.standIn.find((p) => p.id === state?.preset);
    // a stand-in begins every run as its conditions say, whatever was done to it before
    if (preset && !aircraft.openRunId) await standIn.send({ cmd: 'reset', type: type.id, preset: preset.id });
    const source = preset ? 'stand-in' : aircraft.connected && !byHand ? 'device' : 'by-hand';
    const run = await aircraft.openRun(personId, preset?.label ?? brief.record.words, source, brief.record);
    // the stand-in weighs what the brief says, as the aircraft would
    const { mass } = brief.record.expected;
    if (preset && mass !== null && type.simulator && !isPiston(type.simulator))
      await standIn.send({ cmd: 'move', type: type.id, control: 'mass_kg', to: mass });
    res.status(201).json({ run });
  });

  router.get('/runs', async (_req, res) => {
    res.json(
      await asOperator(pool, operatorId, async (tx) => {
        const listed = [];
        for (const a of await listAircraft(tx)) {
          listed.push({ tail: a.tail, runs: (await listRuns(tx, a.aircraftId, LISTED_RUNS)).map(summaryOf) });
        }
        return listed;
      }),
    );
  });

  router.get('/runs/:run', async (req, res) => {
    res.json(await asOperator(pool, operatorId, async (tx) => detailOf(tx, await getRun(tx, runId(req)))));
  });

  router.post('/runs/:run/entries', async (req, res) => {
    const { id, seq, payload } = parse(writeEntrySchema, req.body);
    const run = runId(req);
    const open = fleet.ofRun(run);
    if (open && payload.kind === 'abort' && open.aircraft.stopStart()) {
      await open.journal.settled();
      res.status(201).json(open.journal.entries.findLast((e) => e.kind === 'abort'));
      return;
    }
    const journal = open?.journal ?? (await closedJournal(services, run));
    res
      .status(201)
      .json(await journal.appendFromPilot(id, seq, personId, payload, open?.aircraft.freshValues() ?? null));
  });

  router.get('/runs/:run/corridors', async (req, res) => {
    res.json(await asOperator(pool, operatorId, async (tx) => corridorsBefore(tx, await getRun(tx, runId(req)))));
  });

  router.get('/runs/:run/trace', async (req, res) => {
    const { from, to, points } = parse(windowSchema, req.query);
    const bytes = await asOperator(pool, operatorId, async (tx) => {
      const run = await getRun(tx, runId(req));
      const { channels } = await getType(tx, run.typeId, run.typeVersion);
      const trace = await getTrace(tx, run, channels, from, to);
      return encodeChunk(
        points === undefined ? trace : decimate(trace, points),
        channels.map((c) => c.resolution),
      );
    });
    res.type('application/octet-stream').send(Buffer.from(bytes));
  });

  router.get('/runs/:run/trace.csv', async (req, res) => {
    const { name, text } = await asOperator(pool, operatorId, async (tx) => {
      const run = await getRun(tx, runId(req));
      const { channels } = await getType(tx, run.typeId, run.typeVersion);
      return { name: fileName(run, 'csv'), text: writeCsv(await getTrace(tx, run, channels), channels) };
    });
    res.attachment(name).type('text/csv').send(text);
  });

  router.get('/runs/:run/bundle.json', async (req, res) => {
    const { name, text } = await asOperator(pool, operatorId, async (tx) => {
      const run = await getRun(tx, runId(req));
      const type = await getType(tx, run.typeId, run.typeVersion);
      const head = { id: run.runId, tail: run.tail, pilot: run.pilot, openedAt: run.openedAt.toISOString() };
      return {
        name: fileName(run, 'json'),
        text: writeBundle(head, type, await listEntries(tx, run), await getTrace(tx, run, type.channels)),
      };
    });
    res.attachment(name).type('application/json').send(text);
  });

  router.get('/runs/:run/debrief', async (req, res) => {
    res.json(
      await asOperator(pool, operatorId, async (tx) => {
        const run = await getRun(tx, runId(req));
        return debriefOf(tx, run, await detailOf(tx, run));
      }),
    );
  });

  router.get('/types/:type/:version', async (req, res) => {
    const version = parse(z.coerce.number().int().min(1), req.params['version']);
    const type = await asOperator(pool, operatorId, (tx) => getType(tx, String(req.params['type']), version));
    res.setHeader('Cache-Control', 'private, max-age=31536000, immutable');
    res.json(type);
  });

  return router;
}

/** Notes can be added to a run that is closed; everything else is refused by its state. */
async function closedJournal({ pool, operatorId, clock }: Services, runId: string): Promise<Journal> {
  return asOperator(pool, operatorId, async (tx) => {
    const run = await getRun(tx, runId);
    const type = await getType(tx, run.typeId, run.typeVersion);
    return new Journal(pool, operatorId, run, type, await listEntries(tx, run), clock, () => undefined);
  });
}

async function detailOf(tx: Tx, run: RunRow): Promise<RunDetail> {
  return {
    ...summaryOf(run),
    aircraft: run.aircraftId,
    tail: run.tail,
    pad: run.pad,
    type: { id: run.typeId, version: run.typeVersion },
    entries: await listEntries(tx, run),
    past: await listWaits(tx, run.aircraftId, PAST_WAITS),
    usual: usualFigures(await listGoodChecks(tx, run.aircraftId, run.openedAt, PAST_CHECKS)),
  };
}

function fileName(run: RunRow, extension: string): string {
  return `${run.tail}-${run.openedAt.toISOString().slice(0, 16).replace(/[:T]/g, '-')}.${extension}`;
}
