import { accountsOf, bookOf, dueState } from '@rouse/core/books';
import type { TypeFile } from '@rouse/core/aircraft';
import { csvTable } from '@rouse/core/format';
import { bookEntrySchema, type BooksMessage, dueDoneSchema, dueSchema } from '@rouse/core/contract';
import { Router } from 'express';
import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { audit } from '../db/audit.ts';
import { finishDue, insertBookEntry, insertDue, listBookedRuns, listBookEntries, listDue } from '../db/books.ts';
import { listMaintenance } from '../db/maintenance.ts';
import type { Tx } from '../db/pool.ts';
import { Refusal } from '../errors.ts';
import { deskOf, type Services } from '../services.ts';
import { asks } from './asks.ts';
import { parse } from './parse.ts';

const idSchema = z.uuid({ message: 'is not an id' });

/** Hours, starts and cycles of a tail, what they began with, what was corrected, and what falls due by them. */
export function bookRoutes(services: Services): Router {
  const router = Router();

  router.get('/aircraft/:aircraft/books', async (req, res) => {
    const { fleet, inTx, now } = deskOf(services, res);
    const { aircraft, type } = fleet.of(parse(idSchema, req.params['aircraft']));
    res.json(await inTx((tx) => booksOf(tx, aircraft.aircraftId, type, now())));
  });

  router.get('/aircraft/:aircraft/books.csv', async (req, res) => {
    const { fleet, inTx, now } = deskOf(services, res);
    const { aircraft, type } = fleet.of(parse(idSchema, req.params['aircraft']));
    const { book } = await inTx((tx) => booksOf(tx, aircraft.aircraftId, type, now()));
    const rows = book.lines.flatMap(({ account: { label, unit }, opening, corrected, total, months }) => [
      [label, unit, 'opening', opening ?? 0],
      ...months.toReversed().map((m) => [label, unit, m.month, m.amount]),
      [label, unit, 'corrected', corrected],
      [label, unit, 'total', total],
    ]);
    const table = csvTable([['account', 'unit', 'month', 'amount'], ...rows]);
    res.attachment(`${aircraft.tail}-books.csv`).type('text/csv').send(table);
  });

  router.post('/aircraft/:aircraft/books', asks(bookEntrySchema), async (req, res) => {
    const entry = req.body;
    const { who, fleet, inTx, now } = deskOf(services, res);
    const { aircraft, type } = fleet.of(parse(idSchema, req.params['aircraft']));
    const account = accountNamed(type, entry.account);
    if (entry.kind === 'opening' && entry.amount < 0)
      throw new Refusal('bad-request', 'amount: Books begin with nothing or more.', { path: 'amount' });
    const id = uuidv7();
    await inTx(async (tx) => {
      await insertBookEntry(tx, aircraft.aircraftId, { ...entry, id, by: who.name }, now());
      const words = `${aircraft.tail}, ${account}, ${entry.amount}: ${entry.reason}`;
      await audit(tx, now(), who.name, entry.kind === 'opening' ? 'books-opened' : 'books-corrected', words);
    });
    res.status(201).json({ id });
  });

  router.post('/aircraft/:aircraft/due', asks(dueSchema), async (req, res) => {
    const due = req.body;
    const { who, fleet, inTx, now } = deskOf(services, res);
    const { aircraft, type } = fleet.of(parse(idSchema, req.params['aircraft']));
    if (due.account !== null) accountNamed(type, due.account);
    const id = uuidv7();
    await inTx(async (tx) => {
      await insertDue(tx, aircraft.aircraftId, { ...due, id, setBy: who.name }, now());
      await audit(tx, now(), who.name, 'due', `${aircraft.tail}: ${due.title}`);
    });
    res.status(201).json({ id });
  });

  router.post('/due/:due/done', asks(dueDoneSchema), async (req, res) => {
    const { words } = req.body;
    const id = parse(idSchema, req.params['due']);
    const { who, fleet, inTx, now } = deskOf(services, res);
    await inTx(async (tx) => {
      const { aircraftId, title } = await finishDue(tx, id, { by: who.name, words }, now());
      await audit(tx, now(), who.name, 'due-done', `${fleet.of(aircraftId).aircraft.tail}, ${title}: ${words}`);
    });
    res.json({ done: true });
  });

  return router;
}

/** @returns its label @throws Refusal bad-request for an account that the type does not keep */
function accountNamed(type: TypeFile, id: string): string {
  const account = accountsOf(type).find((a) => a.id === id);
  if (!account) throw new Refusal('bad-request', `account: ${type.name} keeps no account ${id}.`, { path: 'account' });
  return account.label;
}

/** The books of one aircraft, with what falls due by them. */
export async function booksOf(tx: Tx, aircraftId: string, type: TypeFile, now: Date): Promise<BooksMessage> {
  const entries = await listBookEntries(tx, aircraftId);
  const book = bookOf(type, await listBookedRuns(tx, aircraftId), entries);
  const due = (await listDue(tx, aircraftId)).map((item) => ({
    ...item,
    now: dueState(item, book, now.toISOString()),
  }));
  return { book, entries, due, maintenance: await listMaintenance(tx, aircraftId) };
}
