import { z } from 'zod';
import { type TypeFile, standInPresetSchema } from '../aircraft/index.ts';

/** How a lesson is practised. */
const WAYS_OF_PRACTICE = ['learn', 'recall', 'faults', 'abort-or-go', 'one-engine'] as const;
export type WayOfPractice = (typeof WAYS_OF_PRACTICE)[number];

/** What is marked, and what each is usually worth. */
const CRITERIA = ['order', 'complete', 'controls', 'hand', 'room', 'reaction'] as const;
export type Criterion = (typeof CRITERIA)[number];

const weightsSchema = z.partialRecord(z.enum(CRITERIA), z.number().positive());

/** A fault that nobody announces; of a start it is stopped, of a check it is written down. */
const drillFaultSchema = z.strictObject({
  label: z.string(),
  ...standInPresetSchema.shape.faults.element.shape,
  found: z.enum(['stop', 'not-good']),
  /** the item at which it shows, for what is written down */
  item: z.string().optional(),
  /** how soon after it could be told, s */
  within_s: z.number().positive(),
});
export type DrillFault = z.infer<typeof drillFaultSchema>;

/** One thing to practise, as open data. */
export const lessonSchema = z.strictObject({
  id: z.string().regex(/^[a-z0-9-]+$/),
  title: z.string().min(1).max(80),
  way: z.enum(WAYS_OF_PRACTICE),
  /** what it is for, in a sentence */
  aim: z.string().min(1).max(300),
  minutes: z.number().positive().max(60),
  /** the condition of the type that the day is */
  day: z.string(),
  /** the first and the last item of the list that belong to it; the whole list where they are missing */
  from: z.string().optional(),
  until: z.string().optional(),
  faults: z.array(drillFaultSchema).default([]),
  marks: weightsSchema.optional(),
  /** what is talked about afterwards */
  debrief: z.array(z.string().min(1).max(200)).default([]),
});
export type Lesson = z.infer<typeof lessonSchema>;

/** What does not fit between a lesson and its type, each with its remedy; empty where all does. */
export function checkLesson(type: TypeFile, lesson: Lesson): string[] {
  const items = new Set(type.items.map((i) => i.id));
  const unknown = (id: string | undefined, what: string): string[] =>
    id === undefined || items.has(id) ? [] : [`${what}: ${type.id} has no item named ${id}; name one of its list`];
  const from = type.items.findIndex((i) => i.id === lesson.from);
  const until = type.items.findIndex((i) => i.id === lesson.until);
  return [
    ...(type.standIn.some((p) => p.id === lesson.day)
      ? []
      : [`day: ${type.id} has no condition named ${lesson.day}; name one of conditions.yaml`]),
    ...unknown(lesson.from, 'from'),
    ...unknown(lesson.until, 'until'),
    ...(from >= 0 && until >= 0 && until < from ? ['until: it stands before from; change them round'] : []),
    ...lesson.faults.flatMap((f, i) => unknown(f.item, `faults ${i + 1}`)),
    ...(lesson.way === 'faults' && lesson.faults.length === 0 ? ['faults: nothing goes wrong; name a fault'] : []),
  ];
}

/** Lessons of a type that nobody has written any for: each leg with its list and without, on its first day. */
export function usualLessons(type: TypeFile): Lesson[] {
  const day = type.standIn[0]?.id;
  if (day === undefined) return [];
  return type.legs.flatMap(({ id, label }): Lesson[] => {
    const items = type.items.filter((i) => i.leg === id && !i.byHandOnly);
    const [from, until] = [items[0]?.id, items.at(-1)?.id];
    if (from === undefined || until === undefined) return [];
    const shared = { day, from, until, minutes: Math.max(1, Math.round(items.length / 4)), faults: [], debrief: [] };
    return [
      { ...shared, id: `learn-${id}`, title: `${label}, with the list`, way: 'learn', aim: 'Every item in its place, with its reason.' }, // oxfmt-ignore
      { ...shared, id: `recall-${id}`, title: `${label}. No list`, way: 'recall', aim: 'The whole leg from memory.' },
    ];
  });
}
