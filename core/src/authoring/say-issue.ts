import type { z } from 'zod';

/** A finding of the schema: where in the type, in words, and what to do. */
export interface SaidIssue {
  path: readonly PropertyKey[];
  message: string;
  remedy: string;
}

type Words = Omit<SaidIssue, 'path'>;

/** A finding of the schema in words, for somebody who writes a type. */
export function sayIssue(issue: z.core.$ZodIssue, above: readonly PropertyKey[] = []): SaidIssue[] {
  const path = [...above, ...issue.path];
  if (issue.code === 'unrecognized_keys')
    return issue.keys.map((key) => ({
      path: [...path, key],
      message: `there is no field named "${key}" here`,
      remedy: 'remove it, or look at its spelling',
    }));
  // of what it can be, the one that came nearest says what it still lacks
  const nearest = issue.code === 'invalid_union' ? issue.errors.toSorted((a, b) => a.length - b.length)[0] : undefined;
  if (nearest && nearest.length > 0) return nearest.flatMap((inner) => sayIssue(inner, path));
  return [{ path, ...wordsOf(issue, nameOf(path)) }];
}

/** What a field is called: of a member of a list, the list. */
function nameOf(path: readonly PropertyKey[]): string {
  return String(path.findLast((key) => typeof key === 'string') ?? '');
}

function wordsOf(issue: z.core.$ZodIssue, field: string): Words {
  switch (issue.code) {
    case 'invalid_type':
      return sayType(field, issue);
    case 'invalid_value':
      return {
        message: `"${field}" ${issue.input === undefined ? 'is missing' : `cannot be ${JSON.stringify(issue.input)}`}`,
        remedy: `choose one of ${issue.values.map(String).join(', ')}`,
      };
    case 'too_small':
      return sayBound(field, issue.origin, `at least ${String(issue.minimum)}`, issue.inclusive ?? true);
    case 'too_big':
      return sayBound(field, issue.origin, `at most ${String(issue.maximum)}`, issue.inclusive ?? true);
    case 'invalid_format':
      return {
        message: `"${field}" has letters that it cannot have`,
        remedy: 'use small letters, digits, points and dashes',
      };
    case 'invalid_union':
      return {
        message: `"${field}" names none of the kinds that there are`,
        remedy: 'look at the kinds of items in docs/formats.md',
      };
    default: {
      const [message, ...remedy] = issue.message.split('; ');
      return { message: message!, remedy: remedy.join('; ') || 'change one of the two' };
    }
  }
}

function sayType(field: string, { expected, message }: z.core.$ZodIssueInvalidType): Words {
  if (message.includes('received undefined') || message.includes('received null'))
    return { message: `"${field}" is missing`, remedy: `add it (${kindOf(expected)})` };
  const got = message.replace(/^.*received /, '');
  return { message: `"${field}" is ${GOT[got] ?? got}`, remedy: `write ${kindOf(expected)}` };
}

const GOT: Readonly<Record<string, string>> = {
  string: 'words',
  number: 'a number',
  array: 'a list',
  object: 'a map of fields',
  boolean: 'true or false',
};

function kindOf(expected: string): string {
  switch (expected) {
    case 'number':
    case 'int':
      return 'a number without a unit';
    case 'string':
      return 'words; between quotes where they look like a number';
    case 'boolean':
      return 'true or false';
    case 'array':
    case 'tuple':
      return 'a list';
    case 'object':
    case 'record':
      return 'fields with names';
    default:
      return expected;
  }
}

function sayBound(field: string, origin: string, bound: string, inclusive: boolean): Words {
  if (origin === 'string') return { message: `"${field}" is empty`, remedy: 'write it' };
  if (origin === 'array') return { message: `"${field}" has too few or too many members`, remedy: `give ${bound}` };
  const edge = inclusive ? bound : bound.replace('at least', 'more than').replace('at most', 'less than');
  return { message: `"${field}" is out of its range`, remedy: `write ${edge}` };
}
