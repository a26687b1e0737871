import { writeBundle, writeCsv } from '@rouse/core/format';
import { decimate, encodeChunk, joinTraces, rowAt, type Trace } from '@rouse/core/trace';
import { type Request, type Response, Router } from 'express';
import { z } from 'zod';
import { getType } from '../db/aircraft.ts';
import { listEntries } from '../db/entries.ts';
import type { Tx } from '../db/pool.ts';
import { getRun, type RunRow } from '../db/runs.ts';
import { getTrace } from '../db/trace.ts';
import type { OpenRun } from '../live/open-run.ts';
import { deskOf, type Services } from '../services.ts';
import { asksQuery } from './asks.ts';
import { runIdOf } from './run-detail.ts';

const windowSchema = z.strictObject({
  from: z.coerce.number().optional(),
  to: z.coerce.number().optional(),
  points: z.coerce.number().int().min(10).max(20_000).optional(),
});

/** The record of a run as bytes: its trace, as table and as chunk, and the whole run as a bundle. */
export function exportRoutes(services: Services): Router {
  const router = Router();
  const inRun = <T>(req: Request, res: Response, work: (tx: Tx, run: RunRow) => Promise<T>): Promise<T> =>
    deskOf(services, res).inTx(async (tx) => work(tx, await getRun(tx, runIdOf(req))));

  router.get('/runs/:run/trace', asksQuery(windowSchema), async (req, res) => {
    const { from, to, points } = res.locals.query;
    const { fleet } = deskOf(services, res);
    const open = fleet.ofRun(runIdOf(req))?.run ?? null;
    const recent = open?.recent();
    // what a page looks back on is at hand, whether the database is there or not
    const atHand = open && recent && from !== undefined && from >= (recent.t_s[0] ?? Infinity);
    const { channels, trace } = atHand
      ? { channels: open.type.channels, trace: cut(recent, from, to) }
      : await inRun(req, res, async (tx, run) => {
          const type =
            fleet.typeAtHand(run.typeId, run.typeVersion) ?? (await getType(tx, run.typeId, run.typeVersion));
          return { channels: type.channels, trace: await wholeTrace(tx, run, open, type.channels, from, to) };
        });
    const bytes = encodeChunk(
      points === undefined ? trace : decimate(trace, points),
      channels.map((c) => c.resolution),
      'quick',
    );
    res.type('application/octet-stream').send(Buffer.from(bytes));
  });

  router.get('/runs/:run/trace.csv', async (req, res) => {
    const { fleet } = deskOf(services, res);
    const open = fleet.ofRun(runIdOf(req))?.run ?? null;
    const { name, text } = await inRun(req, res, async (tx, run) => {
      const { channels } = await getType(tx, run.typeId, run.typeVersion);
      return { name: fileName(run, 'csv'), text: writeCsv(await wholeTrace(tx, run, open, channels), channels) };
    });
    res.attachment(name).type('text/csv').send(text);
  });

  router.get('/runs/:run/bundle.json', async (req, res) => {
    const { fleet } = deskOf(services, res);
    const open = fleet.ofRun(runIdOf(req))?.run ?? null;
    const { name, text } = await inRun(req, res, async (tx, run) => {
      const type = await getType(tx, run.typeId, run.typeVersion);
      const head = { id: run.runId, tail: run.tail, pilot: run.pilot, openedAt: run.openedAt.toISOString() };
      const entries = open ? open.session.entries : await listEntries(tx, run);
      const trace = await wholeTrace(tx, run, open, type.channels);
      return { name: fileName(run, 'json'), text: writeBundle(head, type, entries, trace) };
    });
    res.attachment(name).type('application/json').send(text);
  });

  return router;
}

/** Stored frames, and behind them those that are kept and not stored yet. */
async function wholeTrace(
  tx: Tx,
  run: RunRow,
  open: OpenRun | null,
  channels: Parameters<typeof getTrace>[2],
  from_s?: number,
  to_s?: number,
): Promise<Trace> {
  // looked at first: what is stored meanwhile is in both, and is taken once
  const recent = open?.recent();
  const stored = await getTrace(tx, run, channels, from_s, to_s);
  if (!recent) return stored;
  const last_s = stored.t_s[stored.t_s.length - 1] ?? -Infinity;
  return joinTraces([stored, cut(recent, Math.max(from_s ?? -Infinity, last_s + 0.0005), to_s)], stored.channels);
}

function cut(trace: Trace, from_s = -Infinity, to_s = Infinity): Trace {
  const [a, b] = [rowAt(trace, from_s), rowAt(trace, to_s + 1e-9)];
  return {
    channels: trace.channels,
    t_s: trace.t_s.subarray(a, b),
    columns: trace.columns.map((c) => c.subarray(a, b)),
  };
}

function fileName(run: RunRow, extension: string): string {
  return `${run.tail}-${run.openedAt.toISOString().slice(0, 16).replace(/[:T]/g, '-')}.${extension}`;
}
