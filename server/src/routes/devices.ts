import { type DeviceMade, type DeviceMessage, newDeviceSchema } from '@rouse/core/contract';
import { Router } from 'express';
import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { freshToken, tokenDigest } from '../accounts/tokens.ts';
import { audit } from '../db/audit.ts';
import { endDevice, insertDevice, listDevices } from '../db/devices.ts';
import { datagramKeyOf } from '../device/lines.ts';
import { Refusal } from '../errors.ts';
import { deskOf, type Services } from '../services.ts';
import { asks } from './asks.ts';
import { parse } from './parse.ts';

const idSchema = z.uuid({ message: 'is not the id of a line' });

/** Data lines: which unit may speak for which aircraft. */
export function deviceRoutes(services: Services): Router {
  const { lines } = services;
  const router = Router();

  router.get('/devices', async (_req, res) => {
    const { fleet, inTx } = deskOf(services, res);
    const rows = await inTx(listDevices);
    res.json(
      rows.map((d): DeviceMessage => {
        const state = lines.stateOf(d.deviceId);
        return {
          id: d.deviceId,
          aircraft: d.aircraftId,
          tail: d.tail,
          label: d.label,
          madeBy: d.madeBy,
          madeAt: d.madeAt.toISOString(),
          connected: d.tokenDigest === null ? fleet.of(d.aircraftId).connected : state.connected,
          refused: state.refused,
        };
      }),
    );
  });

  router.post('/devices', asks(newDeviceSchema), async (req, res) => {
    const { aircraft: aircraftId, label } = req.body;
    const { who, fleet, inTx, now } = deskOf(services, res);
    const sink = fleet.of(aircraftId);
    const token = freshToken();
    const made = {
      operatorId: who.operatorId,
      deviceId: uuidv7(),
      tokenDigest: tokenDigest(token),
      datagramKey: datagramKeyOf(token),
    };
    await inTx(async (tx) => {
      await insertDevice(tx, { ...made, aircraftId, label, kind: 'unit', madeBy: who.name, madeAt: now() });
      await audit(tx, now(), who.name, 'line', `${sink.aircraft.tail}: ${label} may speak`);
    });
    lines.add({ ...made, sink });
    res.status(201).json({ id: made.deviceId, token, port: lines.port } satisfies DeviceMade);
  });

  router.delete('/devices/:device', async (req, res) => {
    const id = parse(idSchema, req.params['device']);
    const { who, inTx, now } = deskOf(services, res);
    await inTx(async (tx) => {
      const device = (await listDevices(tx)).find((d) => d.deviceId === id);
      if (!device || !(await endDevice(tx, id, now()))) throw new Refusal('not-found', 'There is no such line.');
      await audit(tx, now(), who.name, 'line-ended', `${device.tail}: ${device.label} may speak no more`);
    });
    lines.end(id);
    res.json({ ended: true });
  });

  return router;
}
