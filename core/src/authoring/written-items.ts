import { isMap, type Node } from 'yaml';
import type { YamlPath } from './edit-yaml.ts';
import { kindOf, SEVERITIES } from './item-form.ts';
import type { AuthoredMap } from './places.ts';
import { readDocument } from './yaml-document.ts';

/** One item of a leg as somebody wrote it: one line of the file, which may stand for several. */
export interface WrittenItem {
  path: YamlPath;
  line: number;
  column: number;
  /** the fields that stand there */
  fields: AuthoredMap;
  /** the standard item that it takes, null where it is written out */
  use: string | null;
  kind: string | null;
  severity: (typeof SEVERITIES)[number] | null;
}

/** The items of a leg's file, in order; none where it cannot be read. */
export function writtenItems(text: string): WrittenItem[] {
  const { document, lines } = readDocument(text);
  if (document.errors.length > 0) return [];
  const walk = (list: unknown, path: YamlPath): WrittenItem[] => {
    if (!Array.isArray(list)) return [];
    return list.flatMap((element: unknown, i): WrittenItem[] => {
      const at = [...path, i];
      if (typeof element !== 'object' || element === null) return [];
      const fields = element as AuthoredMap;
      for (const inner of ['perEngine', 'items']) if (inner in fields) return walk(fields[inner], [...at, inner]);
      if (Object.keys(fields).length === 1 && 'zone' in fields) return [];
      const node = document.getIn(at, true) as Node | undefined;
      const { line, col } = lines.linePos(isMap(node) ? node.range![0] : 0);
      const use = typeof fields['use'] === 'string' ? fields['use'] : null;
      const severity = SEVERITIES.find((s) => s in fields) ?? null;
      return [{ path: at, line, column: col, fields, use, kind: kindOf(fields) ?? null, severity }];
    });
  };
  return walk((document.toJS() as { items?: unknown } | null)?.items, ['items']);
}
