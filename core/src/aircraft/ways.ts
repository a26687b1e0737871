import { z } from 'zod';

/** Choices that the program itself obeys; a type may have others that only its items ask for. */
const METHODS = ['read-and-do', 'flow-then-verify', 'two-crew'] as const;
export type Method = (typeof METHODS)[number];

/** Ways to settle which engine is started first. */
const ENGINE_FIRST = ['date-parity', 'wind-side', 'always-1', 'always-2', 'fewest-starts'] as const;
export type EngineFirst = (typeof ENGINE_FIRST)[number];

/** A question that operators answer differently, with the reason for each answer. */
export const choiceSchema = z.strictObject({
  id: z.string().regex(/^[a-z0-9-]+$/),
  question: z.string(),
  alternatives: z
    .array(z.strictObject({ id: z.string().regex(/^[a-z0-9-]+$/), label: z.string(), why: z.string() }))
    .min(2),
  usual: z.string(),
  /** answered by the program for each run: the engine that is started first */
  derived: z.boolean().optional(),
  /** asked only where another choice is answered so */
  when: z.strictObject({ choice: z.string(), is: z.string() }).optional(),
});
export type Choice = z.infer<typeof choiceSchema>;

/** The answers of one operator, or one run: choice id to alternative id. */
export type Ways = Readonly<Record<string, string>>;

/** Whether a question arises at all, given the other answers. */
export function isAsked({ when }: Choice, answerOf: (choice: string) => string | undefined): boolean {
  return when === undefined || answerOf(when.choice) === when.is;
}

/** The short list of a turn-round: a procedure of its own with conditions for using it. */
export const turnRoundSchema = z.strictObject({
  label: z.string(),
  /** each has to be true, by the record where there is one or by the pilot's word */
  entry: z
    .array(
      z.strictObject({
        id: z.string().regex(/^[a-z0-9-]+$/),
        words: z.string(),
        /** the run before ended at most this long ago */
        withinMinutes: z.number().positive().optional(),
      }),
    )
    .min(1),
  items: z.array(z.string()).min(1),
});

/** Something that has to be on board and working. */
export const equipmentSchema = z.strictObject({
  id: z.string().regex(/^[a-z0-9-]+$/),
  label: z.string(),
  failure: z.enum(['no-go', 'caution']),
  why: z.string(),
  /** what may not be done without it; every flight where it is left out of a no-go */
  forbids: z.string().optional(),
});
