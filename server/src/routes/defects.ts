import { type DefectMessage, defectSchema } from '@rouse/core/contract';
import { Router } from 'express';
import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { audit } from '../db/audit.ts';
import { closeDefect, insertDefect, listOpenDefects } from '../db/defects.ts';
import { Refusal } from '../errors.ts';
import { deskOf, type Services } from '../services.ts';
import { asks } from './asks.ts';
import { parse } from './parse.ts';

const idSchema = z.uuid({ message: 'is not an id' });

/** Equipment that is missing or defective, until an engineer has closed it. */
export function defectRoutes(services: Services): Router {
  const router = Router();

  router.get('/aircraft/:aircraft/defects', async (req, res) => {
    const { fleet, inTx } = deskOf(services, res);
    const { aircraft } = fleet.of(parse(idSchema, req.params['aircraft']));
    const rows = await inTx((tx) => listOpenDefects(tx, aircraft.aircraftId));
    res.json(
      rows.map((d): DefectMessage => ({
        id: d.defectId,
        equipment: d.equipment,
        words: d.words,
        openedBy: d.openedBy,
        openedAt: d.openedAt.toISOString(),
      })),
    );
  });

  router.post('/aircraft/:aircraft/defects', asks(defectSchema), async (req, res) => {
    const { equipment, words } = req.body;
    const { who, fleet, inTx, now } = deskOf(services, res);
    const { aircraft, type } = fleet.of(parse(idSchema, req.params['aircraft']));
    const found = type.equipment.find((e) => e.id === equipment);
    if (!found) throw new Refusal('bad-request', `equipment: ${type.name} has no ${equipment}.`, { path: 'equipment' });
    const defectId = uuidv7();
    await inTx(async (tx) => {
      const { aircraftId } = aircraft;
      await insertDefect(tx, { defectId, aircraftId, equipment, words, openedBy: who.name, openedAt: now() });
      await audit(tx, now(), who.name, 'defect', `${aircraft.tail}, ${found.label}: ${words}`);
    });
    res.status(201).json({ id: defectId });
  });

  router.post('/defects/:defect/close', async (req, res) => {
    const defectId = parse(idSchema, req.params['defect']);
    const { who, fleet, inTx, now } = deskOf(services, res);
    await inTx(async (tx) => {
      const { aircraftId, equipment } = await closeDefect(tx, defectId, who.name, now());
      await audit(tx, now(), who.name, 'defect-closed', `${fleet.of(aircraftId).aircraft.tail}, ${equipment}`);
    });
    res.json({ closed: true });
  });

  return router;
}
