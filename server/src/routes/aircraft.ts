import { aircraftSettingsSchema, newAircraftSchema } from '@rouse/core/contract';
import { Router } from 'express';
import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { type AircraftRow, getType, insertAircraft, setAircraft } from '../db/aircraft.ts';
import { audit } from '../db/audit.ts';
import { getPad } from '../db/pads.ts';
import { Refusal } from '../errors.ts';
import { deskOf, type Services } from '../services.ts';
import { asks } from './asks.ts';
import { parse } from './parse.ts';

const idSchema = z.uuid({ message: 'is not an id' });

/** Tails of the operator: where they stand, and what they were weighed at. */
export function aircraftRoutes(services: Services): Router {
  const router = Router();

  router.post('/aircraft', asks(newAircraftSchema), async (req, res) => {
    const wanted = req.body;
    const { who, fleet, inTx, now } = deskOf(services, res);
    const row: AircraftRow = {
      aircraftId: uuidv7(),
      tail: wanted.tail,
      typeId: wanted.type,
      typeVersion: wanted.version,
      pad: wanted.pad,
      basic: null,
    };
    const type = await inTx(async (tx) => {
      const file = await getType(tx, row.typeId, row.typeVersion);
      await getPad(tx, row.pad);
      if (!(await insertAircraft(tx, row)))
        throw new Refusal('bad-request', `There is an aircraft ${row.tail} already.`, { path: 'tail' });
      await audit(tx, now(), who.name, 'aircraft', `${row.tail}, ${file.name}, was added`);
      return file;
    });
    fleet.add(services.enlist(who.operatorId, row, type));
    res.status(201).json({ aircraft: row.aircraftId, tail: row.tail });
  });

  router.put('/aircraft/:aircraft', asks(aircraftSettingsSchema), async (req, res) => {
    const wanted = req.body;
    const { who, fleet, inTx, now } = deskOf(services, res);
    const live = fleet.of(parse(idSchema, req.params['aircraft']));
    if (live.openRunId !== null)
      throw new Refusal('run-is-open', `${live.aircraft.tail} has an open run; it keeps its place and its mass to the end.`, { run: live.openRunId }); // oxfmt-ignore
    await inTx(async (tx) => {
      await getPad(tx, wanted.pad);
      await setAircraft(tx, live.aircraft.aircraftId, wanted);
      const mass = wanted.basic ? `${wanted.basic.mass_kg} kg` : 'as its type says';
      await audit(
        tx,
        now(),
        who.name,
        'aircraft',
        `${live.aircraft.tail}: stands on ${wanted.pad}, basic mass ${mass}`,
      );
    });
    live.aircraft = { ...live.aircraft, ...wanted };
    res.json({ aircraft: live.aircraft.aircraftId });
  });

  return router;
}
