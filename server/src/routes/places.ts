import { padSchema, placeNameSchema, type SiteMessage, siteSchema, standardMassSchema } from '@rouse/core/contract';
import { Router } from 'express';
import { audit } from '../db/audit.ts';
import { deletePad, listPads, listSites, putPad, putSite } from '../db/pads.ts';
import { deleteStandardMass, listStandardMasses, putStandardMass } from '../db/standard-masses.ts';
import { Refusal } from '../errors.ts';
import { deskOf, type Services } from '../services.ts';
import { asks } from './asks.ts';
import { parse } from './parse.ts';

/** Where the aircraft of an operator stand, and what people are taken to weigh. */
export function placeRoutes(services: Services): Router {
  const router = Router();

  router.get('/pads', async (_req, res) => void res.json(await deskOf(services, res).inTx(listPads)));

  router.get('/sites', async (_req, res) => {
    const sites = await deskOf(services, res).inTx(async (tx): Promise<SiteMessage[]> => {
      const pads = await listPads(tx);
      return (await listSites(tx)).map((s) => ({
        ...s,
        pads: pads.filter((p) => p.site === s.site).map(({ pad, x_m, y_m, tails }) => ({ pad, x_m, y_m, tails })),
      }));
    });
    res.json(sites);
  });

  router.put('/sites/:site', asks(siteSchema), async (req, res) => {
    const site = parse(placeNameSchema, req.params['site']);
    const wanted = req.body;
    if ((wanted.opens === null) !== (wanted.closes === null))
      throw new Refusal('bad-request', 'closes: say both hours, or none.', { path: 'closes' });
    const { who, inTx, now } = deskOf(services, res);
    await inTx(async (tx) => {
      await putSite(tx, { site, ...wanted });
      await audit(tx, now(), who.name, 'site', `${site}: ${wanted.elev_ft} ft`);
    });
    res.json({ site });
  });

  router.put('/pads/:pad', asks(padSchema), async (req, res) => {
    const pad = parse(placeNameSchema, req.params['pad']);
    const wanted = req.body;
    const { who, inTx, now } = deskOf(services, res);
    await inTx(async (tx) => {
      await putPad(tx, { pad, ...wanted });
      await audit(tx, now(), who.name, 'pad', `${pad} on ${wanted.site}: ${wanted.x_m} m east, ${wanted.y_m} m north`);
    });
    res.json({ pad });
  });

  router.delete('/pads/:pad', async (req, res) => {
    const pad = String(req.params['pad']);
    const { who, inTx, now } = deskOf(services, res);
    await inTx(async (tx) => {
      await deletePad(tx, pad);
      await audit(tx, now(), who.name, 'pad-gone', `${pad} is no place any more`);
    });
    res.json({ deleted: true });
  });

  router.get('/standard-masses', async (_req, res) => {
    res.json(await deskOf(services, res).inTx(listStandardMasses));
  });

  router.put('/standard-masses/:label', asks(standardMassSchema), async (req, res) => {
    const label = parse(placeNameSchema, req.params['label']);
    const { mass_kg } = req.body;
    const { who, inTx, now } = deskOf(services, res);
    await inTx(async (tx) => {
      await putStandardMass(tx, { label, mass_kg });
      await audit(tx, now(), who.name, 'standard-mass', `${label}: ${mass_kg} kg`);
    });
    res.json({ label, mass_kg });
  });

  router.delete('/standard-masses/:label', async (req, res) => {
    const label = String(req.params['label']);
    const { who, inTx, now } = deskOf(services, res);
    await inTx(async (tx) => {
      if (!(await deleteStandardMass(tx, label))) throw new Refusal('not-found', `There is no ${label}.`);
      await audit(tx, now(), who.name, 'standard-mass-gone', `${label} is taken away`);
    });
    res.json({ deleted: true });
  });

  return router;
}
