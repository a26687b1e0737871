import { type AuthoredMap, type Places, textOf } from './places.ts';
import type { Place, Problem } from './problem.ts';

/** One line of a table: its fields and the columns that they begin in. */
export interface Line {
  line: number;
  fields: { text: string; column: number }[];
}

/** Splits comma-separated text by the usual rules: quotes around commas, doubled quotes inside, `#` begins a remark. */
export function readLines(file: string, text: string): { lines: Line[]; problems: Problem[] } {
  const lines: Line[] = [];
  const problems: Problem[] = [];
  text.split(/\r\n|\r|\n/).forEach((row, i) => {
    if (row.trim() === '' || row.startsWith('#')) return;
    const fields: Line['fields'] = [];
    let at = 0;
    while (at <= row.length) {
      const begin = at;
      let words = '';
      if (/^\s*"/.test(row.slice(at))) {
        at = row.indexOf('"', at) + 1;
        for (;;) {
          const end = row.indexOf('"', at);
          if (end < 0) {
            problems.push({
              file,
              line: i + 1,
              column: begin + 1,
              message: 'a quote is not closed',
              remedy: 'close it on the same line',
            });
            words += row.slice(at);
            at = row.length;
            break;
          }
          words += row.slice(at, end);
          at = end + 1;
          if (row[at] !== '"') break;
          words += '"';
          at++;
        }
        const comma = row.indexOf(',', at);
        at = comma < 0 ? row.length : comma;
      } else {
        const comma = row.indexOf(',', at);
        const end = comma < 0 ? row.length : comma;
        words = row.slice(at, end).trim();
        at = end;
      }
      fields.push({ text: words, column: begin + 1 });
      at++;
    }
    lines.push({ line: i + 1, fields });
  });
  return { lines, problems };
}

/** A table with names in its first row, as one map a row; empty fields are left out. */
export function readTable(
  file: string,
  text: string,
  places: Places,
  columns: { needed: readonly string[]; others: readonly string[] },
): { rows: AuthoredMap[]; unreadable: Problem[]; problems: Problem[] } {
  const { lines, problems: unreadable } = readLines(file, text);
  const problems: Problem[] = [];
  const [head, ...body] = lines;
  if (!head)
    return {
      rows: [],
      unreadable: [
        {
          file,
          line: 1,
          column: 1,
          message: 'the table is empty',
          remedy: `begin with a row ${columns.needed.join(',')}`,
        },
      ],
      problems,
    };
  const known = [...columns.needed, ...columns.others];
  const names = head.fields.map((f) => f.text);
  for (const { text: name, column } of head.fields)
    if (!known.includes(name))
      unreadable.push({
        file,
        line: head.line,
        column,
        message: `there is no column named "${name}"`,
        remedy: `the columns are ${known.join(', ')}`,
      });
  for (const name of columns.needed)
    if (!names.includes(name))
      unreadable.push({
        file,
        line: head.line,
        column: 1,
        message: `the column "${name}" is missing`,
        remedy: 'add it to the first row',
      });
  const rows = body.map(({ line, fields }) => {
    const row: AuthoredMap = {};
    const parts = new Map<string, Place>();
    fields.forEach(({ text: words, column }, i) => {
      const name = names[i];
      if (name === undefined) {
        if (words !== '')
          problems.push({
            file,
            line,
            column,
            message: `this row has more fields than the first one`,
            remedy: 'put words with a comma between quotes',
          });
        return;
      }
      parts.set(name, { file, line, column });
      if (words !== '') row[name] = words;
    });
    places.note(row, { file, line, column: 1 }, parts);
    // a row that takes another one away says no more than which
    if (textOf(row[columns.needed[0]!]).startsWith('-')) return row;
    for (const name of columns.needed)
      if (row[name] === undefined && names.includes(name))
        problems.push({
          ...(parts.get(name) ?? { file, line, column: 1 }),
          message: `"${name}" is empty`,
          remedy: 'fill it in',
        });
    return row;
  });
  return { rows, unreadable, problems };
}
