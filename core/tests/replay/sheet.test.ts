import { csvMappingSchema, encodingOf, guessMapping, headOf, isSheet, RowReader, sheetAsCsv } from '@rouse/core/replay';
import { strToU8, zipSync } from 'fflate';
import { describe, expect, test } from 'vitest';
import { typeOf } from '../fleet.ts';

type Cell = string | number | { day: number } | null;

/** A workbook of one sheet, as small as the format allows. */
function workbook(rows: readonly Cell[][]): Uint8Array<ArrayBuffer> {
  const cell = (value: Cell, r: number, c: number): string => {
    const at = `r="${String.fromCharCode(65 + c)}${r + 1}"`;
    if (value === null) return '';
    if (typeof value === 'number') return `<c ${at}><v>${value}</v></c>`;
    if (typeof value === 'object') return `<c ${at} s="1"><v>${value.day}</v></c>`;
    return `<c ${at} t="inlineStr"><is><t>${value}</t></is></c>`;
  };
  const sheet = rows.map((row, r) => `<row r="${r + 1}">${row.map((v, c) => cell(v, r, c)).join('')}</row>`).join('');
  const main = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
  const office = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
  const packages = 'http://schemas.openxmlformats.org/package/2006';
  const head = '<?xml version="1.0" encoding="UTF-8"?>';
  const types = 'application/vnd.openxmlformats-officedocument.spreadsheetml';
  const part = (name: string, kind: string): string =>
    `<Override PartName="${name}" ContentType="${types}.${kind}+xml"/>`;
  const files = {
    '[Content_Types].xml': `${head}<Types xmlns="${packages}/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>${part('/xl/workbook.xml', 'sheet.main')}${part('/xl/worksheets/sheet1.xml', 'worksheet')}${part('/xl/styles.xml', 'styles')}</Types>`,
    '_rels/.rels': `${head}<Relationships xmlns="${packages}/relationships"><Relationship Id="r1" Type="${office}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
    'xl/workbook.xml': `${head}<workbook xmlns="${main}" xmlns:r="${office}"><sheets><sheet name="Flight" sheetId="1" r:id="r1"/></sheets></workbook>`,
    'xl/_rels/workbook.xml.rels': `${head}<Relationships xmlns="${packages}/relationships"><Relationship Id="r1" Type="${office}/worksheet" Target="worksheets/sheet1.xml"/><Relationship Id="r2" Type="${office}/styles" Target="styles.xml"/></Relationships>`,
    'xl/styles.xml': `${head}<styleSheet xmlns="${main}"><cellXfs count="2"><xf numFmtId="0"/><xf numFmtId="22" applyNumberFormat="1"/></cellXfs></styleSheet>`,
    'xl/worksheets/sheet1.xml': `${head}<worksheet xmlns="${main}"><sheetData>${sheet}</sheetData></worksheet>`,
  };
  return Uint8Array.from(
    zipSync(Object.fromEntries(Object.entries(files).map(([name, text]) => [name, strToU8(text)]))),
  );
}

describe('a sheet', () => {
  test('becomes a table: figures, words with commas, empty cells, dates', async () => {
    const book = workbook([
      ['Time', 'Ng, %', 'note'],
      [{ day: 46_000.5 }, 61.25, 'start, warm'],
      [{ day: 46_000.75 }, null, 'said "hot"'],
    ]);
    expect(isSheet(book)).toBe(true);
    expect(await sheetAsCsv(book.buffer)).toBe(
      'Time,"Ng, %",note\n2025-12-09T12:00:00.000Z,61.25,"start, warm"\n2025-12-09T18:00:00.000Z,,"said ""hot"""\n',
    );
  });

  test('is mapped and read like any other file', async () => {
    const type = typeOf('S7');
    const rows = Array.from({ length: 50 }, (_, i): Cell[] => [i / 10, 10 + i, 300 + 2 * i]);
    const text = await sheetAsCsv(workbook([['t (s)', 'Ng (%)', 'TOT (°C)'], ...rows]).buffer);
    const csv = strToU8(text);
    const head = headOf(text, encodingOf(csv));
    const mapping = csvMappingSchema.parse(guessMapping(head, type.channels));
    const read: number[][] = [];
    const ng = type.channels.findIndex((c) => c.id === 'ng.1');
    const reader = new RowReader(mapping, type.channels, head.names, (t_s, values) => read.push([t_s, values[ng]!]));
    reader.push(csv);
    reader.end();
    expect(read).toHaveLength(50);
    expect(read[49]).toEqual([4.9, 59]);
  });

  test('that is none, or is cut off, says so and what helps', async () => {
    expect(isSheet(strToU8('time,ng\n1,2\n'))).toBe(false);
    const cut = workbook([
      ['a', 'b'],
      [1, 2],
    ]).slice(0, 400);
    await expect(sheetAsCsv(cut.buffer)).rejects.toThrow(/save it as CSV/);
    await expect(sheetAsCsv(Uint8Array.from(zipSync({ 'a.txt': strToU8('no sheet') })).buffer)).rejects.toThrow(
      /save it as CSV/,
    );
  });
});
