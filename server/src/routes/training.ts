import { disputeSchema, type DrillRoom, signatureSchema } from '@rouse/core/contract';
import { canonicalJson, digestOf } from '@rouse/core/procedure';
import { type Response, Router } from 'express';
import { z } from 'zod';
import { disputeMark, listDrills, signDrill } from '../db/drills.ts';
import { getOperator } from '../db/operators.ts';
import { listPeople } from '../db/people.ts';
import type { Tx } from '../db/pool.ts';
import { Refusal } from '../errors.ts';
import type { TrainingForReport } from '../reports/training.ts';
import { deskOf, type Services } from '../services.ts';
import { asks } from './asks.ts';
import { parse } from './parse.ts';

const ON_RECORD = 500;
const idSchema = z.uuid({ message: 'is no id' });

/** Drills with an instructor: rooms, signatures, and the record of a person's training. */
export function trainingRoutes(services: Services): Router {
  const router = Router();

  router.post('/drill/rooms', (_req, res) => {
    const { who } = deskOf(services, res);
    res.status(201).json({ code: services.rooms.open(who) } satisfies DrillRoom);
  });

  router.post('/drill/flown/:drill/signature', asks(signatureSchema), async (req, res) => {
    const drill = parse(idSchema, req.params['drill']);
    const signature = req.body;
    const { who, inTx, now } = deskOf(services, res);
    const signed = await inTx((tx) => signDrill(tx, drill, who, now(), signature));
    if (!signed) throw new Refusal('not-found', 'There is no drill to sign here: it is signed already, or your own.');
    res.json({ by: who.name });
  });

  router.post('/drill/flown/:drill/disputes', asks(disputeSchema), async (req, res) => {
    const drill = parse(idSchema, req.params['drill']);
    const dispute = req.body;
    const { who, inTx, now } = deskOf(services, res);
    const kept = await inTx((tx) => disputeMark(tx, drill, who.personId, now(), dispute));
    if (!kept) throw new Refusal('not-found', 'There is no drill of your own of that name, or enough is said of it.');
    res.json({ kept: true });
  });

  router.get('/drill/record.pdf', async (_req, res) => {
    const { who, inTx } = deskOf(services, res);
    await sendRecord(res, services, await inTx((tx) => recordOf(tx, who.personId)));
  });

  router.get('/log/people/:person/training.pdf', async (req, res) => {
    const person = parse(idSchema, req.params['person']);
    await sendRecord(res, services, await deskOf(services, res).inTx((tx) => recordOf(tx, person)));
  });

  return router;
}

/** What a training record says of a person. @throws Refusal for nobody of this operator */
async function recordOf(tx: Tx, personId: string): Promise<TrainingForReport> {
  const person = (await listPeople(tx)).find((p) => p.personId === personId);
  if (!person) throw new Refusal('not-found', 'There is no such person here.');
  const drills = await listDrills(tx, personId, null, ON_RECORD);
  const { name: operator } = await getOperator(tx);
  return { operator, name: person.name, drills, digest: digestOf(canonicalJson(drills)) };
}

async function sendRecord(res: Response, { reckoner }: Services, training: TrainingForReport): Promise<void> {
  const pdf = await reckoner.report({ of: 'training', training });
  res
    .attachment(`training-${training.name.replace(/\W+/g, '-')}.pdf`)
    .type('application/pdf')
    .send(Buffer.from(pdf));
}
