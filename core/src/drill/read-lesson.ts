import { parseDocument, stringify } from 'yaml';
import type { TypeFile } from '../aircraft/index.ts';
import { checkLesson, type Lesson, lessonSchema } from './lesson.ts';

/** A lesson as it was written, and what is wrong with it, each with its place and its remedy. */
export interface ReadLesson {
  lesson: Lesson | null;
  problems: string[];
}

/** Reads one lesson out of what stands in a file. */
export function lessonOf(type: TypeFile, written: unknown): ReadLesson {
  const read = lessonSchema.safeParse(written);
  const problems = read.success
    ? checkLesson(type, read.data)
    : read.error.issues.map((i) => `${i.path.join('.') || 'the lesson'}: ${i.message}`);
  return { lesson: read.success && problems.length === 0 ? read.data : null, problems };
}

/** Reads one lesson as a person writes it, in YAML; what is no YAML is told with its line. */
export function readLesson(type: TypeFile, text: string): ReadLesson {
  const document = parseDocument(text, { prettyErrors: true });
  const wrong = document.errors.map((e) => e.message.split('\n')[0]!.replace(/:$/, ''));
  return wrong.length > 0 ? { lesson: null, problems: wrong } : lessonOf(type, document.toJS({ maxAliasCount: 20 }));
}

/** A lesson as it is written, to begin another one with. */
export const writeLesson = (lesson: Lesson): string => stringify(lesson, { lineWidth: 100 });
