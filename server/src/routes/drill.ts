import { isWatched, type TypeFile, type WatchedType } from '@rouse/core/aircraft';
import { type DrillFlown, type DrillKept, type DrillMessage, drillFlownSchema, type DueDrillsMessage, type RoundFlown, roundFlownSchema } from '@rouse/core/contract'; // oxfmt-ignore
import { dueOf, type Lesson } from '@rouse/core/drill';
import express, { type Response, Router } from 'express';
import { z } from 'zod';
import { getType } from '../db/aircraft.ts';
import { costsOf, insertDrill, listDrills, practisedBy } from '../db/drills.ts';
import { Refusal } from '../errors.ts';
import type { DrillMarked } from '../reckon/tasks.ts';
import { deskOf, type Services } from '../services.ts';
import { lessonsOfType } from './lessons.ts';
import { asks } from './asks.ts';
import { parse } from './parse.ts';

const LISTED = 30;
/** where a whole drill is sent, every move of a lever in it */
export const LONG_BODY = '/drill/flown';
const MOST_FLOWN = '2mb';
const typeSchema = z.object({ type: z.string().max(20), version: z.coerce.number().int().min(1) });

/** Lessons of a type, what a person has flown of them, and what is due again. */
export function drillRoutes(services: Services): Router {
  const router = Router();

  /** The lesson, and the type that it was flown on, as the server has them. */
  const lessonOf = (
    res: Response,
    { type: asked, lesson: id }: DrillFlown | RoundFlown,
  ): Promise<{ type: WatchedType; lesson: Lesson }> =>
    deskOf(services, res).inTx(async (tx) => {
      const type = await getType(tx, asked.id, asked.version);
      const lesson = (await lessonsOfType(tx, services, type)).find((l) => l.id === id);
      if (!isWatched(type) || !lesson) throw new Refusal('not-found', `${type.id} has no lesson named ${id}.`);
      return { type, lesson };
    });
  const keep = async (
    res: Response,
    { id, waited_s, ...flown }: DrillFlown | RoundFlown,
    { title }: Lesson,
    marks: DrillMarked,
  ): Promise<DrillKept> => {
    const { who, inTx, now } = deskOf(services, res);
    const at = new Date(now().getTime() - 1000 * waited_s);
    const drill = { id, personId: who.personId, at, lesson: flown.lesson, title, flown, marks };
    if (!(await inTx((tx) => insertDrill(tx, drill)))) throw new Refusal('id-used', 'Another drill has this id.');
    return { id, sum: marks.sum };
  };

  router.get('/drill/due', async (_req, res) => {
    const { who, fleet, inTx, now } = deskOf(services, res);
    const types = [...new Map(Array.from(fleet.all(), ({ type }) => [type.id, type] as const)).values()];
    const { practised, known } = await inTx(async (tx) => {
      const of: { type: TypeFile; lessons: readonly Lesson[] }[] = [];
      for (const type of types) of.push({ type, lessons: await lessonsOfType(tx, services, type) });
      return { practised: await practisedBy(tx, who.personId), known: of };
    });
    const until = now().toISOString();
    const due = known.map(({ type, lessons }) => {
      const ids = dueOf(practised.filter((p) => p.type === type.id)).filter((d) => d.due <= until).map((d) => d.lesson); // oxfmt-ignore
      return { type: type.id, lessons: lessons.filter((l) => ids.includes(l.id)) };
    });
    const lessons = due.flatMap((d) => d.lessons);
    const most = due.toSorted((a, b) => b.lessons.length - a.lessons.length)[0];
    res.json({
      lessons: lessons.length,
      minutes: lessons.reduce((sum, l) => sum + l.minutes, 0),
      type: lessons.length > 0 ? most!.type : null,
    } satisfies DueDrillsMessage);
  });

  router.get('/drill/:type/:version', async (req, res) => {
    const asked = parse(typeSchema, req.params);
    const { who, inTx, now } = deskOf(services, res);
    const message = await inTx(async (tx): Promise<DrillMessage> => {
      const type = await getType(tx, asked.type, asked.version);
      return {
        now: now().toISOString(),
        lessons: await lessonsOfType(tx, services, type),
        costs: await costsOf(tx, who.personId, type.id),
        flown: await listDrills(tx, who.personId, type.id, LISTED),
        due: dueOf((await practisedBy(tx, who.personId)).filter((p) => p.type === type.id)),
      };
    });
    res.json(message);
  });

  router.post(LONG_BODY, express.json({ limit: MOST_FLOWN }), asks(drillFlownSchema), async (req, res) => {
    const flown = req.body;
    const { type, lesson } = await lessonOf(res, flown);
    const marks = await services.reckoner.drill(type, lesson, flown);
    if ('refused' in marks) throw new Refusal('bad-request', marks.refused);
    res.status(201).json(await keep(res, flown, lesson, marks));
  });

  router.post('/drill/rounds', asks(roundFlownSchema), async (req, res) => {
    const flown = req.body;
    const { type, lesson } = await lessonOf(res, flown);
    const marks = await services.reckoner.round(type, flown);
    res.status(201).json(await keep(res, flown, lesson, marks));
  });

  return router;
}
