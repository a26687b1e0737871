import { deleteOperatorSchema } from '@rouse/core/contract';
import { raw, Router } from 'express';
import { getType, listAircraft } from '../db/aircraft.ts';
import { audit } from '../db/audit.ts';
import { listDevices } from '../db/devices.ts';
import { forgetOperator } from '../db/operators.ts';
import { Refusal } from '../errors.ts';
import type { Fleet } from '../live/fleet.ts';
import { exportOperator } from '../operator-copy/export.ts';
import { importOperator } from '../operator-copy/import.ts';
import { deskOf, type Services } from '../services.ts';
import { asks } from './asks.ts';

/** years of a base; it is held in memory while it is read */
const LARGEST_IMPORT = '1gb';

/** An operator takes everything along, comes into an empty Rouse with it, and leaves nothing behind. */
export function operatorCopyRoutes(services: Services): Router {
  const { accounts, fleets, lines } = services;
  const router = Router();

  router.get('/operator/export', async (_req, res) => {
    const desk = deskOf(services, res);
    res.attachment('rouse-export.zip').type('application/zip');
    await exportOperator(desk, res);
  });

  router.post('/operator/import', raw({ type: 'application/zip', limit: LARGEST_IMPORT }), async (req, res) => {
    if (!Buffer.isBuffer(req.body))
      throw new Refusal('bad-request', 'file: send the zip of an export.', { path: 'file' });
    const bytes = new Uint8Array(req.body);
    const { who, fleet, inTx, now } = deskOf(services, res);
    noRunOpen(fleet);
    const units = await inTx(listDevices);
    const taken = await inTx(async (tx) => {
      const imported = await importOperator(tx, bytes, now());
      const { from, runs, people, auditEntries } = imported;
      const words = `${runs} runs and ${people} people of ${from}; the audit of before has ${auditEntries} entries`;
      await audit(tx, now(), who.name, 'imported', words);
      return imported;
    });
    for (const { deviceId } of units) lines.end(deviceId);
    fleets.drop(who.operatorId);
    await inTx(async (tx) => {
      for (const row of await listAircraft(tx))
        fleets.of(who.operatorId).add(services.enlist(who.operatorId, row, await getType(tx, row.typeId, row.typeVersion))); // oxfmt-ignore
    });
    accounts.sessions.forgetAll();
    res.status(201).json(taken);
  });

  router.delete('/operator', asks(deleteOperatorSchema), async (req, res) => {
    const { name } = req.body;
    const { who, fleet, inTx } = deskOf(services, res);
    if (who.demo)
      throw new Refusal('no-right', 'The demo belongs to everybody. It goes with the database: delete .local.');
    if (name !== who.operator)
      throw new Refusal('bad-request', 'name: type the name of the operator as it is written here.', { path: 'name' });
    noRunOpen(fleet);
    await services.stored();
    const units = await inTx(listDevices);
    await inTx(forgetOperator);
    for (const { deviceId } of units) lines.end(deviceId);
    fleets.drop(who.operatorId);
    accounts.sessions.forgetAll();
    accounts.cookies.clear(res, 'session');
    res.json({ deleted: true });
  });

  return router;
}

/** @throws Refusal run-is-open */
function noRunOpen(fleet: Fleet): void {
  for (const { openRunId, aircraft } of fleet.all())
    if (openRunId !== null)
      throw new Refusal('run-is-open', `${aircraft.tail} has an open run; close it first.`, { run: openRunId });
}
