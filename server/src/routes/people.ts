import { type PersonMessage, personSchema } from '@rouse/core/contract';
import { Router } from 'express';
import { z } from 'zod';
import { audit } from '../db/audit.ts';
import { getPerson, hasOtherAdministrator, listPeople, putPerson, setLeft } from '../db/people.ts';
import { Refusal } from '../errors.ts';
import { deskOf, type Services } from '../services.ts';
import { asks } from './asks.ts';
import { parse } from './parse.ts';

const idSchema = z.uuid({ message: 'is not the id of a person' });

/** The people of an operator and what they are for: for administrators. */
export function peopleRoutes(services: Services): Router {
  const { accounts } = services;
  const router = Router();

  router.get('/people', async (_req, res) => {
    const people = await deskOf(services, res).inTx(listPeople);
    res.json(
      people.map((p): PersonMessage => ({
        personId: p.personId,
        name: p.name,
        roles: p.roles,
        joinedAt: p.joinedAt.toISOString(),
        leftAt: p.leftAt?.toISOString() ?? null,
      })),
    );
  });

  router.put('/people/:person', asks(personSchema), async (req, res) => {
    const personId = parse(idSchema, req.params['person']);
    const { name, roles } = req.body;
    const { who, inTx, now } = deskOf(services, res);
    await inTx(async (tx) => {
      const before = await getPerson(tx, personId);
      if (before.leftAt !== null) throw new Refusal('not-so', `${before.name} has left; invite them again.`);
      if (!roles.includes('administrator')) await keepAdministrator(tx, personId);
      await putPerson(tx, { personId, name, roles }, now());
      await audit(
        tx,
        now(),
        who.name,
        'person-changed',
        `${name}: ${roles.join(', ')} (before: ${before.roles.join(', ')})`,
      );
    });
    accounts.sessions.forget(personId);
    res.json({ personId });
  });

  router.delete('/people/:person', async (req, res) => {
    const personId = parse(idSchema, req.params['person']);
    const { who, fleet, inTx, now } = deskOf(services, res);
    for (const { holder, aircraft } of fleet.all())
      if (holder === personId)
        throw new Refusal('not-so', `They have the run of ${aircraft.tail}; it is handed over or closed first.`);
    await inTx(async (tx) => {
      const { name } = await getPerson(tx, personId);
      await keepAdministrator(tx, personId);
      await setLeft(tx, personId, now());
      await audit(tx, now(), who.name, 'person-left', `${name} has left`);
    });
    await accounts.sessions.endAll(personId);
    res.json({ left: true });
  });

  return router;
}

/** @throws Refusal where nobody who administers would be left */
async function keepAdministrator(tx: Parameters<typeof getPerson>[0], personId: string): Promise<void> {
  if (await hasOtherAdministrator(tx, personId)) return;
  const { roles } = await getPerson(tx, personId);
  if (roles.includes('administrator'))
    throw new Refusal('not-so', 'An operator keeps at least one administrator; name another one first.');
}
