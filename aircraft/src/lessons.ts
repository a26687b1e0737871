// Lessons as they are written: one file for each type, and a library of those that several share.
import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import type { TypeFile } from '@rouse/core/aircraft';
import { type Lesson, lessonOf, usualLessons } from '@rouse/core/drill';
import { parse } from 'yaml';

const DIR = 'aircraft/lessons';

type Written = Readonly<Record<string, unknown>>;

function readList(root: string, file: string): readonly Written[] {
  const written = parse(readFileSync(path.join(root, DIR, file), 'utf8')) as { lessons?: readonly Written[] };
  return written.lessons ?? [];
}

/** The lessons of a type that fit it, and what is wrong with the others, each with file, lesson and remedy. */
export interface FoundLessons {
  lessons: Lesson[];
  problems: string[];
}

/**
 * The lessons that are written for a type; those that every type has where none are.
 * @param root of the checkout
 */
export function lessonsOf(root: string, type: TypeFile): FoundLessons {
  const file = `${type.id}.yaml`;
  if (!existsSync(path.join(root, DIR, file))) return { lessons: usualLessons(type), problems: [] };
  const library = new Map(readList(root, 'library.yaml').map((lesson) => [String(lesson['id']), lesson]));
  const problems: string[] = [];
  const lessons = readList(root, file).flatMap(({ use, ...own }) => {
    const shared = typeof use === 'string' ? library.get(use) : {};
    const name = [own['id'], use].find((id) => typeof id === 'string') ?? 'a lesson without a name';
    if (!shared) problems.push(`${file}, ${name}: the library has no such lesson; name one of library.yaml`);
    const read = lessonOf(type, { ...shared, ...own });
    problems.push(...read.problems.map((words) => `${file}, ${name}: ${words}`));
    return read.lesson ? [read.lesson] : [];
  });
  return { lessons, problems };
}
