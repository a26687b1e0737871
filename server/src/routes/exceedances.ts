import {
  ATTACHMENT_TYPES,
  exceedanceNoteSchema,
  type ExceedanceMessage,
  type ExceedanceNoteKind,
  type ExceedanceSummary,
  MOST_ATTACHMENT_BYTES,
  releaseSchema,
} from '@rouse/core/contract';
import type { TypeFile } from '@rouse/core/aircraft';
import { type HeldEntry, sayEntry } from '@rouse/core/procedure';
import express, { type Request, type Response, Router } from 'express';
import { createHash } from 'node:crypto';
import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { getType } from '../db/aircraft.ts';
import { audit } from '../db/audit.ts';
import { findAttachment, insertAttachment, insertNote, listAttachments, listNotes } from '../db/exceedance-papers.ts';
import { type ExceedanceRow, findExceedance, listExceedances, releaseExceedance } from '../db/exceedances.ts';
import type { Tx } from '../db/pool.ts';
import { getRun } from '../db/runs.ts';
import { Refusal } from '../errors.ts';
import { deskOf, type Services } from '../services.ts';
import { asks, asksQuery } from './asks.ts';
import { parse } from './parse.ts';

const idSchema = z.uuid({ message: 'is not an id' });
const keySchema = z.object({ run: z.uuid(), seq: z.coerce.number().int().min(1) });
const fileSchema = z.strictObject({
  name: z.string().trim().min(1, 'is the name of the file').max(120),
});

/** What was passed, what was said and done about it, and who released it. */
export function exceedanceRoutes(services: Services): Router {
  const router = Router();

  router.get('/aircraft/:aircraft/exceedances', async (req, res) => {
    const { fleet, inTx } = deskOf(services, res);
    const { aircraft } = fleet.of(parse(idSchema, req.params['aircraft']));
    res.json(await inTx((tx) => exceedancesOf(tx, aircraft.aircraftId)));
  });

  router.get('/exceedances/:run/:seq', async (req, res) => {
    const { run, seq } = parse(keySchema, req.params);
    res.json(await deskOf(services, res).inTx((tx) => exceedanceMessage(tx, run, seq)));
  });

  router.post('/exceedances/:run/:seq/release', asks(releaseSchema), async (req, res) => {
    const { found } = req.body;
    const { run, seq } = parse(keySchema, req.params);
    const { who, inTx, now } = deskOf(services, res);
    const released = await inTx(async (tx) => {
      const done = await releaseExceedance(tx, run, seq, { engineer: who.name, found }, now());
      if (done) await audit(tx, now(), who.name, 'exceedance-released', found);
      return done;
    });
    if (!released) throw new Refusal('not-found', 'No exceedance is open there; somebody may have released it.');
    res.json({ released: true });
  });

  const note = (kind: ExceedanceNoteKind) => async (req: Request<Request['params'], unknown, z.infer<typeof exceedanceNoteSchema>>, res: Response) => {
    const { words } = req.body;
    const key = parse(keySchema, req.params);
    const { who, inTx, now } = deskOf(services, res);
    const noteId = uuidv7();
    await inTx(async (tx) => {
      const { tail } = await needExceedance(tx, key.run, key.seq);
      await insertNote(tx, key, { noteId, kind, words, by: who.name, at: now() });
      await audit(tx, now(), who.name, kind === 'disputed' ? 'exceedance-disputed' : 'exceedance-work', `${tail}: ${words}`);
    });
    res.status(201).json({ id: noteId });
  }; // oxfmt-ignore
  router.post('/exceedances/:run/:seq/notes', asks(exceedanceNoteSchema), note('done'));
  router.post('/exceedances/:run/:seq/dispute', asks(exceedanceNoteSchema), note('disputed'));

  router.post(
    '/exceedances/:run/:seq/attachments',
    express.raw({ type: [...ATTACHMENT_TYPES], limit: MOST_ATTACHMENT_BYTES }),
    asksQuery(fileSchema),
    async (req, res) => {
      const key = parse(keySchema, req.params);
      const { name } = res.locals.query;
      const data = req.body as unknown;
      const mediaType = ATTACHMENT_TYPES.find((t) => req.is(t));
      if (!mediaType || !Buffer.isBuffer(data) || data.length === 0 || !isWhatItSays(mediaType, data))
        throw new Refusal('bad-request', 'file: A photo (JPEG, PNG), a PDF or a plain text is kept, up to 5 MB.', { path: 'file' }); // oxfmt-ignore
      const { who, inTx, now } = deskOf(services, res);
      const attachmentId = uuidv7();
      await inTx(async (tx) => {
        const { tail } = await needExceedance(tx, key.run, key.seq);
        const digest = createHash('sha256').update(data).digest('hex');
        await insertAttachment(tx, key, { attachmentId, name, mediaType, size: data.length, digest, by: who.name, at: now() }, data); // oxfmt-ignore
        await audit(tx, now(), who.name, 'attached', `${tail}: ${name}, ${data.length} bytes, ${digest.slice(0, 12)}`);
      });
      res.status(201).json({ id: attachmentId });
    },
  );

  router.get('/attachments/:attachment', async (req, res) => {
    const id = parse(idSchema, req.params['attachment']);
    const found = await deskOf(services, res).inTx((tx) => findAttachment(tx, id));
    if (!found) throw new Refusal('not-found', 'There is no such attachment.');
    // never shown as a page of ours, whatever is in it
    res.setHeader('Content-Security-Policy', "default-src 'none'; sandbox");
    res.attachment(found.name).type(found.mediaType).send(found.data);
  });

  return router;
}

/** By its first bytes: a name and a header can say anything. */
function isWhatItSays(mediaType: (typeof ATTACHMENT_TYPES)[number], data: Buffer): boolean {
  switch (mediaType) {
    case 'image/jpeg':
      return data[0] === 0xff && data[1] === 0xd8;
    case 'image/png':
      return data.subarray(1, 4).toString('latin1') === 'PNG';
    case 'application/pdf':
      return data.subarray(0, 5).toString('latin1') === '%PDF-';
    case 'text/plain':
      return !data.includes(0);
  }
}

async function needExceedance(tx: Tx, run: string, seq: number): Promise<ExceedanceRow> {
  const found = await findExceedance(tx, run, seq);
  if (!found) throw new Refusal('not-found', 'There is no exceedance there.');
  return found;
}

/** Every exceedance of a tail in words, the newest first. */
export async function exceedancesOf(tx: Tx, aircraftId: string): Promise<ExceedanceSummary[]> {
  const out: ExceedanceSummary[] = [];
  for (const row of await listExceedances(tx, aircraftId)) {
    const run = await getRun(tx, row.record.run);
    out.push(summaryOf(await getType(tx, run.typeId, run.typeVersion), row));
  }
  return out;
}

function summaryOf(type: TypeFile, { tail, record, release, disputed }: ExceedanceRow): ExceedanceSummary {
  const { title, detail } = sayEntry(type, record)!;
  return {
    run: record.run,
    seq: record.seq,
    tail,
    record,
    title,
    detail,
    release: release && { ...release, at: release.at.toISOString() },
    disputed,
  };
}

/** One exceedance with everything that belongs to it. @throws Refusal not-found */
export async function exceedanceMessage(tx: Tx, runId: string, seq: number): Promise<ExceedanceMessage> {
  const row = await needExceedance(tx, runId, seq);
  const run = await getRun(tx, runId);
  const type = await getType(tx, run.typeId, run.typeVersion);
  const key = { run: runId, seq };
  return {
    ...summaryOf(type, row),
    aircraft: row.aircraftId,
    runOpenedAt: run.openedAt.toISOString(),
    pilot: run.pilot,
    asks: whatIsAsked(type, row.record),
    notes: (await listNotes(tx, key)).map(({ noteId, at, ...n }) => ({ ...n, id: noteId, at: at.toISOString() })),
    attachments: (await listAttachments(tx, key)).map(({ attachmentId, at, name, mediaType, size, by }) => ({
      id: attachmentId,
      name,
      mediaType,
      size,
      by,
      at: at.toISOString(),
    })),
  };
}

/** What the type says must be done. */
function whatIsAsked(type: TypeFile, record: HeldEntry): string {
  if (record.kind === 'exceedance') {
    const band = type.limits.find((l) => l.id === record.limit)?.bands.find((b) => b.id === record.band);
    return band?.action ?? '';
  }
  const ledger = type.ratings?.ledgers.find((l) => l.id === record.ledger);
  return ledger?.ratings.find((r) => r.id === record.rating)?.inspection ?? '';
}
