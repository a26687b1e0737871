import type { BriefContextMessage } from '@rouse/core/contract';
import { operatorWaySchema } from '@rouse/core/contract';
import { Router } from 'express';
import { z } from 'zod';
import { listTypes, getType } from '../db/aircraft.ts';
import { audit } from '../db/audit.ts';
import { listSiteReports } from '../db/site-reports.ts';
import { listWays, putWay } from '../db/ways.ts';
import { Refusal } from '../errors.ts';
import { deskOf, type Services } from '../services.ts';
import { briefContext } from './brief-context.ts';
import { asks } from './asks.ts';
import { parse } from './parse.ts';
import { standInState } from './stand-in.ts';

const idSchema = z.uuid({ message: 'is not the id of an aircraft' });

export function briefRoutes(services: Services): Router {
  const router = Router();

  router.get('/aircraft/:aircraft/brief', async (req, res) => {
    const { fleet, inTx, now } = deskOf(services, res);
    const live = fleet.of(parse(idSchema, req.params['aircraft']));
    const { context, report } = await inTx(async (tx) => {
      const read = await briefContext(tx, live.aircraft, live.type, now());
      return { context: read, report: (await listSiteReports(tx)).find((r) => r.site === read.site.name) };
    });
    const { type, ...rest } = context;
    const message: BriefContextMessage = {
      ...rest,
      starts: [...rest.starts],
      type: { id: type.id, version: type.version },
      openRun: live.openRunId,
      siteReport: report ? { text: report.report, by: report.by, at: report.at.toISOString() } : null,
      simulated: live.wired ? (await standInState(services, live)).preset : null,
    };
    res.json(message);
  });

  router.get('/types', async (_req, res) => {
    res.json(await deskOf(services, res).inTx(listTypes));
  });

  router.get('/types/:type/ways', async (req, res) => {
    res.json(await deskOf(services, res).inTx((tx) => listWays(tx, String(req.params['type']))));
  });

  router.put('/types/:type/ways', asks(operatorWaySchema), async (req, res) => {
    const { version, choice, to } = req.body;
    const typeId = String(req.params['type']);
    const { who, inTx, now } = deskOf(services, res);
    const ways = await inTx(async (tx) => {
      const type = await getType(tx, typeId, version);
      const asked = type.choices.find((c) => c.id === choice && !c.derived);
      if (!asked?.alternatives.some((a) => a.id === to))
        throw new Refusal('bad-request', `${to} is not an answer to ${asked?.question ?? choice}.`, { path: 'to' });
      await putWay(tx, typeId, choice, to, who.personId, now());
      await audit(tx, now(), who.name, 'way', `${typeId}, ${asked.question}: ${to}`);
      return listWays(tx, typeId);
    });
    res.json(ways);
  });

  return router;
}
