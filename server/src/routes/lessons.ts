import { isWatched, type TypeFile } from '@rouse/core/aircraft';
import { type LessonsOfType, ownLessonSchema } from '@rouse/core/contract';
import { type Lesson, readLesson } from '@rouse/core/drill';
import { Router } from 'express';
import { z } from 'zod';
import { getNewestType } from '../db/aircraft.ts';
import { deleteOwnLesson, listOwnLessons, putOwnLesson } from '../db/own-lessons.ts';
import type { Tx } from '../db/pool.ts';
import { Refusal } from '../errors.ts';
import { deskOf, type Services } from '../services.ts';
import { asks } from './asks.ts';
import { parse } from './parse.ts';

const namesSchema = z.object({
  type: z.string().max(20),
  lesson: z.string().regex(/^[a-z0-9-]{1,60}$/, { message: 'is written in small letters, figures and hyphens' }),
});

/** Everything that can be practised on a type: what comes with it, and what was written here and fits it. */
export async function lessonsOfType(tx: Tx, { types }: Services, type: TypeFile): Promise<readonly Lesson[]> {
  if (!isWatched(type)) return [];
  const own = (await listOwnLessons(tx, type.id)).flatMap(({ text }) => readLesson(type, text).lesson ?? []);
  return [...types.lessons(type), ...own];
}

/** Lessons that instructors write. */
export function lessonRoutes(services: Services): Router {
  const router = Router();

  router.get('/lessons/:type', async (req, res) => {
    const { inTx } = deskOf(services, res);
    res.json(
      await inTx(async (tx): Promise<LessonsOfType> => {
        const type = await getNewestType(tx, String(req.params['type']));
        const own = (await listOwnLessons(tx, type.id)).map((l) => ({ ...l, problems: readLesson(type, l.text).problems }));
        return { version: type.version, shipped: services.types.lessons(type), own };
      }),
    );
  });

  router.put('/lessons/:type/:lesson', asks(ownLessonSchema), async (req, res) => {
    const names = parse(namesSchema, req.params);
    const { text } = req.body;
    const { who, inTx, now } = deskOf(services, res);
    await inTx(async (tx) => {
      const type = await getNewestType(tx, names.type);
      const { lesson, problems } = readLesson(type, text);
      if (!lesson) throw new Refusal('bad-request', problems.join('; '), { path: 'text' });
      if (lesson.id !== names.lesson) throw new Refusal('bad-request', `id: the lesson is named ${lesson.id}, and kept as ${names.lesson}`, { path: 'text' });
      if (services.types.lessons(type).some((l) => l.id === lesson.id))
        throw new Refusal('bad-request', `id: ${lesson.id} comes with the type; give yours another name`, { path: 'text' });
      await putOwnLesson(tx, type.id, { id: lesson.id, text, by: who.name, at: now() });
    });
    res.json({ kept: names.lesson });
  });

  router.delete('/lessons/:type/:lesson', async (req, res) => {
    const names = parse(namesSchema, req.params);
    const gone = await deskOf(services, res).inTx((tx) => deleteOwnLesson(tx, names.type, names.lesson));
    if (!gone) throw new Refusal('not-found', 'There is no such lesson of your own.');
    res.json({ deleted: true });
  });

  return router;
} // oxfmt-ignore
