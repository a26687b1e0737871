import { readLines } from './csv-file.ts';

/** A table as it is written: names of columns, and rows with the line that each stands in and the columns of text that its fields begin in. */
export interface WrittenTable {
  head: string[];
  rows: { line: number; cells: string[]; begins: number[] }[];
}

/** Reads a table for somebody who changes it: what is wrong in it stays as it is. */
export function tableOf(text: string): WrittenTable {
  const [head, ...body] = readLines('', text).lines;
  const width = head?.fields.length ?? 0;
  return {
    head: head?.fields.map((f) => f.text) ?? [],
    rows: body.map(({ line, fields }) => ({
      line,
      cells: Array.from({ length: Math.max(width, fields.length) }, (_, i) => fields[i]?.text ?? ''),
      begins: fields.map((f) => f.column),
    })),
  };
}

/** The cell that a place in the text of a table stands in, counted from 0: what is said of a row stands in its first one. */
export function cellAt(row: WrittenTable['rows'][number], column: number): number {
  return Math.max(
    0,
    row.begins.findLastIndex((begin) => begin <= column),
  );
}

const quoted = (cell: string): string => {
  const clean = cell.replaceAll(/[\r\n]+/g, ' ');
  return /[",]|^\s|\s$|^#/.test(clean) ? `"${clean.replaceAll('"', '""')}"` : clean;
};

/** Empty fields at the end of a row are left out, as a person leaves them out; a row of empty fields stays a row. */
const rowOf = (cells: readonly string[]): string => cells.map(quoted).join(',').replace(/,+$/, '') || ',';

/** Writes cells over a table from one of them on, as a spreadsheet pastes: rows that are not there are added. */
export function setCells(text: string, row: number, column: number, cells: readonly (readonly string[])[]): string {
  const table = tableOf(text);
  const lines = text.split(/\r\n|\r|\n/);
  const added: string[] = [];
  cells.forEach((fresh, i) => {
    const old = table.rows[row + i];
    const all = [...(old?.cells ?? table.head.map(() => ''))];
    fresh.forEach((cell, k) => (all[column + k] = cell));
    if (old) lines[old.line - 1] = rowOf(all);
    else added.push(rowOf(all));
  });
  if (added.length === 0) return lines.join('\n');
  while (lines.at(-1)?.trim() === '') lines.pop();
  return `${[...lines, ...added].join('\n')}\n`;
}

/** Takes a row away. */
export function removeRow(text: string, row: number): string {
  const line = tableOf(text).rows[row]?.line;
  return line === undefined ? text : text.split(/\r\n|\r|\n/).toSpliced(line - 1, 1).join('\n'); // oxfmt-ignore
}

/** What a spreadsheet puts on the clipboard: rows by line, cells by tab; quotes around a cell that holds either. Blanks around a cell go. */
export function cellsOf(pasted: string): string[][] {
  const rows: string[][] = [[]];
  let cell = '';
  let inQuotes = false;
  const text = pasted.replace(/\r\n?/g, '\n').replace(/\n$/, '');
  for (let i = 0; i < text.length; i++) {
    const c = text[i]!;
    if (inQuotes) {
      if (c !== '"') cell += c;
      else if (text[i + 1] === '"') {
        cell += '"';
        i++;
      } else inQuotes = false;
    } else if (c === '"' && cell === '') inQuotes = true;
    else if (c === '\t' || c === '\n') {
      rows.at(-1)!.push(cell);
      cell = '';
      if (c === '\n') rows.push([]);
    } else cell += c;
  }
  rows.at(-1)!.push(cell);
  return rows.map((row) => row.map((one) => one.trim()));
}
