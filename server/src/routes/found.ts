import { foundSchema } from '@rouse/core/contract';
import { Router } from 'express';
import { v7 as uuidv7 } from 'uuid';
import { hashPassword } from '../accounts/passwords.ts';
import { insertAccount } from '../db/accounts.ts';
import { audit } from '../db/audit.ts';
import { listOperators } from '../db/operators.ts';
import { asOperator } from '../db/pool.ts';
import { Refusal } from '../errors.ts';
import { foundOperator } from '../found.ts';
import { isLoopback } from '../origin.ts';
import type { Services } from '../services.ts';
import { asks } from './asks.ts';
import { saySession } from './session-message.ts';

/** The first operator of a database: set up by whoever sits at the machine. Those after it are invited. */
export function foundRoutes(services: Services): Router {
  const { pool, clock, accounts, leases, types } = services;
  const router = Router();

  router.post('/found', asks(foundSchema), async (req, res) => {
    const { operator: name, site, person, aircraft } = req.body;
    if (!isLoopback(req)) throw new Refusal('no-right', 'Rouse is set up at the machine that it runs on.');
    const type = types.shipped().find((t) => t.id === aircraft.type);
    if (!type) throw new Refusal('bad-request', `There is no type ${aircraft.type}.`, { path: 'aircraft.type' });
    const now = new Date(clock.now());
    const password = await hashPassword(person.password);
    const operatorId = uuidv7();
    const accountId = uuidv7();
    const pad = `${site.pad}, ${site.name}`;
    const row = {
      aircraftId: uuidv7(),
      tail: aircraft.tail,
      typeId: type.id,
      typeVersion: type.version,
      pad,
      basic: aircraft.basic,
    };
    await asOperator(pool, operatorId, async (tx) => {
      // two browsers that press at the same time: one of them is first
      await tx.query("SELECT pg_advisory_xact_lock(hashtext('found'))");
      if ((await listOperators(tx)).some((o) => !o.demo))
        throw new Refusal('not-so', 'Rouse is set up already; an administrator invites you.');
      if (!(await insertAccount(tx, { accountId, login: person.login, password }, now)))
        throw new Refusal('bad-request', 'Somebody signs in with this name already; choose another one.', { path: 'person.login' }); // oxfmt-ignore
      const { name: siteName, pad: _pad, ...place } = site;
      await foundOperator(
        tx,
        {
          operator: { name, place: `${siteName}, ${site.elev_ft} ft`, demo: false },
          types: types.shipped(),
          sites: [{ site: siteName, ...place }],
          pads: [{ pad, site: siteName, x_m: 0, y_m: 0 }],
          people: [{ personId: accountId, name: person.name, roles: ['administrator', 'pilot'] }],
          aircraft: [row],
        },
        now,
      );
      await audit(tx, now, person.name, 'founded', `${name} was set up by ${person.name}`);
    });
    await leases.look();
    const session = await accounts.sessions.begin(req, res, accountId, 'password', { operatorId });
    res.status(201).json(await saySession(services, req, session));
  });

  return router;
}
