import type { TypeFolder } from '@rouse/core/authoring';
import {
  type DraftEdit,
  draftEditSchema,
  type NewDraft,
  newDraftSchema,
  type TypeDraft,
  type TypeDraftRow,
  type TypeLibrary,
} from '@rouse/core/contract';
import { Router } from 'express';
import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { listTypes } from '../db/aircraft.ts';
import { listStartsOfType } from '../db/features.ts';
import type { Tx } from '../db/pool.ts';
import {
  findEdit,
  findReleasedText,
  findUndoable,
  getDraft,
  getOpenDraft,
  insertDraft,
  insertEdit,
  listChanges,
  listDrafts,
  revisionOf,
} from '../db/type-drafts.ts';
import { Refusal } from '../errors.ts';
import { deskOf, type Services } from '../services.ts';
import { asks, asksQuery } from './asks.ts';
import { parse } from './parse.ts';

export const draftIdSchema = z.uuid({ message: 'is not the id of a draft' });
const limitSchema = z.object({ limit: z.coerce.number().int().min(1).max(200).default(40) });
const sinceSchema = z.object({ since: z.coerce.number().int().min(-1).default(-1) });

/** Types that people write here: drafts and their edits. */
export function typeDraftRoutes(services: Services): Router {
  const { types } = services;
  const router = Router();

  router.get('/types/library', (_req, res) => void res.json(types.library()));

  router.get('/types/:type/starts', asksQuery(limitSchema), async (req, res) => {
    const { limit } = res.locals.query;
    const { inTx } = deskOf(services, res);
    res.json(await inTx((tx) => listStartsOfType(tx, String(req.params['type']), limit)));
  });

  router.get('/types/drafts', async (_req, res) => void res.json(await deskOf(services, res).inTx(listDrafts)));

  router.post('/types/drafts', asks(newDraftSchema), async (req, res) => {
    const wanted = req.body;
    const { who, inTx, now } = deskOf(services, res);
    const draft = await inTx(async (tx) => {
      const folder = (await findReleasedText(tx, wanted.like)) ?? shippedText(types.library(), wanted.like);
      if (!folder)
        throw new Refusal('bad-request', `There is no type ${wanted.like} that is written here.`, { path: 'like' });
      const row = { ...(await beginning(tx, wanted, folder)), begunBy: who.name, begunAt: now().toISOString() };
      await insertDraft(tx, row, { ...folder, 'type.yaml': headOf(folder['type.yaml']!, row) });
      return row;
    });
    res.status(201).json(draft);
  });

  router.get('/types/drafts/:draft', asksQuery(sinceSchema), async (req, res) => {
    const id = parse(draftIdSchema, req.params['draft']);
    const { since } = res.locals.query;
    const { inTx } = deskOf(services, res);
    const draft: TypeDraft = await inTx(async (tx) => ({
      ...(await getDraft(tx, id)),
      revision: await revisionOf(tx, id),
      edits: await listChanges(tx, id, since),
    }));
    res.json(draft);
  });

  router.put('/types/drafts/:draft/files', asks(draftEditSchema), async (req, res) => {
    const id = parse(draftIdSchema, req.params['draft']);
    const { file, text, seen } = req.body;
    const { who, inTx, now } = deskOf(services, res);
    const edit = await inTx(async (tx) => {
      await getOpenDraft(tx, id);
      const revision = await revisionOf(tx, id);
      const last = await findEdit(tx, id, file, revision);
      if (last && last.revision > seen)
        throw new Refusal('changed-meanwhile', `${last.by} has changed ${file} meanwhile.`, { edit: last });
      const made: DraftEdit = { revision: revision + 1, file, text, by: who.name, at: now().toISOString() };
      await insertEdit(tx, id, made, null);
      return made;
    });
    res.json(edit);
  });

  router.post('/types/drafts/:draft/undo', async (req, res) => {
    const id = parse(draftIdSchema, req.params['draft']);
    const { who, inTx, now } = deskOf(services, res);
    const edit = await inTx(async (tx) => {
      await getOpenDraft(tx, id);
      const last = await findUndoable(tx, id);
      if (!last) throw new Refusal('nothing-to-undo', 'Nothing was changed that is not taken back already.');
      const before = await findEdit(tx, id, last.file, last.revision - 1);
      const revision = (await revisionOf(tx, id)) + 1;
      const made: DraftEdit = {
        revision,
        file: last.file,
        text: before?.text ?? null,
        by: who.name,
        at: now().toISOString(),
      };
      await insertEdit(tx, id, made, last.revision);
      return made;
    });
    res.json(edit);
  });

  return router;
}

/** The folder of a shipped type, by its name or by the id of the type. */
function shippedText(library: TypeLibrary, like: string): TypeFolder | null {
  const byId = Object.values(library).find((folder) =>
    new RegExp(`^id: ${like}$`, 'm').test(folder['type.yaml'] ?? ''),
  );
  const found = library[like] ?? byId;
  return found?.['type.yaml'] === undefined ? null : found;
}

/** What the draft will be: the next version of its type, or the first one of a new one. */
async function beginning(
  tx: Tx,
  { id, name, like }: NewDraft,
  folder: TypeFolder,
): Promise<Omit<TypeDraftRow, 'begunBy' | 'begunAt'>> {
  const field = (key: string): string => new RegExp(`^${key}: (.*)$`, 'm').exec(folder['type.yaml']!)?.[1]?.trim() ?? like; // oxfmt-ignore
  const typeId = id ?? field('id');
  const versions = (await listTypes(tx)).filter((t) => t.id === typeId).map((t) => t.version);
  if (id !== undefined && versions.length > 0)
    throw new Refusal('bad-request', `There is a type ${id} already; choose another id.`, { path: 'id' });
  const newest = versions.length > 0 ? Math.max(...versions) : null;
  return {
    draft: uuidv7(),
    typeId,
    version: (newest ?? 0) + 1,
    name: name ?? field('name'),
    basedOn: newest,
    status: 'open',
    sentBy: null,
  };
}

/** The first file with id, version and name of the draft; everything else in it stays as it is written. */
function headOf(text: string, { typeId, version, name }: Pick<TypeDraftRow, 'typeId' | 'version' | 'name'>): string {
  return text
    .replace(/^id: .*$/m, `id: ${typeId}`)
    .replace(/^version: .*$/m, `version: ${version}`)
    .replace(/^name: .*$/m, `name: ${JSON.stringify(name)}`);
}
