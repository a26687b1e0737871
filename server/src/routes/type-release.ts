import { sayProblem } from '@rouse/core/authoring';
import { moveTailSchema } from '@rouse/core/contract';
import { canonicalJson, digestOf } from '@rouse/core/procedure';
import { Router } from 'express';
import { compileApart, type CompiledApart } from '../compile.ts';
import { getType, insertType, moveTail } from '../db/aircraft.ts';
import { audit } from '../db/audit.ts';
import { getDraft, getOpenDraft, listChanges, setReleased, setReview } from '../db/type-drafts.ts';
import { Refusal } from '../errors.ts';
import { type Desk, deskOf, type Services } from '../services.ts';
import { asks } from './asks.ts';
import { parse } from './parse.ts';
import { draftIdSchema } from './type-drafts.ts';

/** Review and release of what people write here, and which tail flies which version. */
export function typeReleaseRoutes(services: Services): Router {
  const { types } = services;
  const router = Router();

  /** The draft as a type: compiled apart, so that nothing waits for it. */
  async function compiled({ inTx }: Desk, id: string): Promise<CompiledApart> {
    const edits = await inTx((tx) => listChanges(tx, id, -1));
    const folder = Object.fromEntries(edits.flatMap((e) => (e.text === null ? [] : [[e.file, e.text]])));
    return compileApart(types.compileWorker, folder, types.library());
  }

  router.post('/types/drafts/:draft/review', async (req, res) => {
    const id = parse(draftIdSchema, req.params['draft']);
    const desk = deskOf(services, res);
    const { problems } = await compiled(desk, id);
    if (problems.length > 0) throw notWhole(problems);
    await desk.inTx(async (tx) => {
      await getOpenDraft(tx, id);
      await setReview(tx, id, desk.who);
    });
    res.json({ status: 'in-review' });
  });

  router.post('/types/drafts/:draft/reopen', async (req, res) => {
    const id = parse(draftIdSchema, req.params['draft']);
    const { inTx } = deskOf(services, res);
    await inTx(async (tx) => {
      const { status } = await getDraft(tx, id, true);
      if (status !== 'in-review') throw new Refusal('not-so', 'This draft is not in review.');
      await setReview(tx, id, null);
    });
    res.json({ status: 'open' });
  });

  router.post('/types/drafts/:draft/release', async (req, res) => {
    const id = parse(draftIdSchema, req.params['draft']);
    const desk = deskOf(services, res);
    const { type, problems } = await compiled(desk, id);
    if (!type || problems.length > 0) throw notWhole(problems);
    const digest = digestOf(canonicalJson(type));
    await desk.inTx(async (tx) => {
      const draft = await getDraft(tx, id, true);
      if (draft.status !== 'in-review') throw new Refusal('not-so', 'Send this draft to review first.');
      if (!(await setReleased(tx, id, desk.who, desk.now())))
        throw new Refusal(
          'not-so',
          `${desk.who.name} has sent it to review; a second person reads it and releases it.`,
        );
      await insertType(tx, type, digest);
      await audit(
        tx,
        desk.now(),
        desk.who.name,
        'type-released',
        `${type.id} version ${type.version}, ${digest.slice(0, 12)}`,
      );
    });
    res.status(201).json({ id: type.id, version: type.version, digest });
  });

  router.put('/types/:type/tails', asks(moveTailSchema), async (req, res) => {
    const { aircraft, version } = req.body;
    const { who, fleet, inTx, now } = deskOf(services, res);
    const live = fleet.of(aircraft);
    const type = await inTx((tx) => getType(tx, String(req.params['type']), version));
    live.retype(type);
    await inTx(async (tx) => {
      await moveTail(tx, aircraft, type.id, version);
      await audit(tx, now(), who.name, 'aircraft', `${live.aircraft.tail} flies ${type.id} version ${version}`);
    });
    res.json({ aircraft, id: type.id, version });
  });

  return router;
}

const notWhole = (problems: CompiledApart['problems']): Refusal =>
  new Refusal('not-so', problems.map(sayProblem).slice(0, 5).join('\n'), { problems });
