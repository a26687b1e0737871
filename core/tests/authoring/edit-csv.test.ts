import fc from 'fast-check';
import { folderNames, readFolder } from '@rouse/aircraft';
import { cellAt, cellsOf, removeRow, setCells, tableOf } from '@rouse/core/authoring';
import { describe, expect, test } from 'vitest';

const tables = folderNames('aircraft').flatMap(
  (name) =>
  Object.entries(readFolder(`aircraft/${name}`)!).filter(([file, text]) => file.endsWith('.csv') && tableOf(text).rows.length > 0), // oxfmt-ignore
);
const picked = fc.constantFrom(...tables).chain(([file, text]) => {
  const { head, rows } = tableOf(text);
  return fc.tuple(fc.constant(`${file}\n${text}`), fc.constant(text), fc.nat(rows.length - 1), fc.nat(head.length - 1));
});
const cell = fc.oneof(
  fc.string({ unit: 'grapheme-ascii', maxLength: 12 }),
  fc.constantFrom('a, b', '"said"', '#5', ' blank ', '12.5', ''),
);
/** A row as it is compared: what is empty at its end says nothing. */
const said = (cells: readonly string[] | undefined): string => (cells ?? []).join('\t').replace(/\t+$/, '');

describe('a table that is changed', () => {
  test('one cell is what was written, and every other one is as it was', () => {
    fc.assert(
      fc.property(picked, cell, ([, text, row, column], words) => {
        const before = tableOf(text);
        const after = tableOf(setCells(text, row, column, [[words]]));
        expect(after.head).toEqual(before.head);
        expect(after.rows).toHaveLength(before.rows.length);
        after.rows.forEach((r, i) => {
          const wanted = [...before.rows[i]!.cells];
          if (i === row) wanted[column] = words;
          expect(said(r.cells)).toBe(said(wanted));
        });
      }),
      { numRuns: 300, seed: 6 },
    );
  });

  test('remarks stay, and a row that is taken away takes nothing with it', () => {
    fc.assert(
      fc.property(picked, ([, text, row]) => {
        const remarks = (of: string): string[] => of.split('\n').filter((line) => line.startsWith('#'));
        const after = removeRow(text, row);
        expect(remarks(after)).toEqual(remarks(text));
        const rows = tableOf(text).rows.map((r) => said(r.cells));
        expect(tableOf(after).rows.map((r) => said(r.cells))).toEqual(rows.toSpliced(row, 1));
      }),
      { numRuns: 200, seed: 7 },
    );
  });

  test('a block from a spreadsheet is laid over the table, and what does not fit is added below', () => {
    const text = '# as printed\nft,0,20\n0,100,90\n2000,95,85\n';
    const after = setCells(text, 1, 0, cellsOf('2000\t96\t86\r\n4000\t"88 "\t80\r\n'));
    expect(after).toBe('# as printed\nft,0,20\n0,100,90\n2000,96,86\n4000,88,80\n');
  });
});

test('a place in the text is a cell of its row, whatever stands before it', () => {
  const row = tableOf('id,label,value\nng,"Gas, producer",98\n').rows[0]!;
  expect([1, 3, 4, 19, 20, 40].map((column) => cellAt(row, column))).toEqual([0, 0, 1, 1, 2, 2]);
  expect(cellAt({ ...row, begins: [] }, 5)).toBe(0);
});

describe('what a spreadsheet puts on the clipboard', () => {
  test.each([
    ['1\t2\n3\t4\n', [['1', '2'], ['3', '4']]], // oxfmt-ignore
    ['one', [['one']]],
    ['"two\tcells"\tthird', [['two\tcells', 'third']]],
    ['"a ""word"""\t', [['a "word"', '']]],
    ['"over\ntwo lines"\nnext', [['over\ntwo lines'], ['next']]],
  ])('%j', (pasted, cells) => expect(cellsOf(pasted)).toEqual(cells));
});
