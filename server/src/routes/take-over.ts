import { Router } from 'express';
import { v7 as uuidv7 } from 'uuid';
import { getPerson } from '../db/people.ts';
import { Refusal } from '../errors.ts';
import { deskOf, type Services } from '../services.ts';
import { runIdOf } from './run-detail.ts';

/** A run goes on in other hands: an entry with both names. */
export function takeOverRoutes(services: Services): Router {
  const router = Router();

  router.post('/runs/:run/take-over', async (req, res) => {
    const { who, fleet, inTx } = deskOf(services, res);
    const { aircraft, run } = fleet.openRun(runIdOf(req));
    const { holder } = run.session.state;
    if (holder?.person === who.personId) throw new Refusal('not-so', 'You have this run already.');
    const from =
      holder === null ? run.row.pilot : (holder.name ?? (await inTx((tx) => getPerson(tx, holder.person))).name);
    for (;;) {
      const seq = run.session.entries.length + 1;
      try {
        const entry = await aircraft.answer(run, uuidv7(), seq, who.personId, {
          kind: 'handed-over',
          from,
          to: who.name,
          person: who.personId,
        });
        res.status(201).json({ entry, entries: [entry] });
        return;
      } catch (error) {
        // the watch wrote an entry in between
        if (!(error instanceof Refusal && error.code === 'out-of-order')) throw error;
      }
    }
  });

  return router;
}
