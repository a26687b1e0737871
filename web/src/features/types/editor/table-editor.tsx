import { cellAt, cellsOf, type Problem, removeRow, setCells, tableOf, type WrittenTable } from '@rouse/core/authoring';
import { type ClipboardEvent, useEffect, useMemo, useRef } from 'react';
import styled from 'styled-components';
import { mono } from '../../../app/theme.ts';
import { SlimButton } from '../../../ui/button.tsx';
import { PartHead } from './part-head.tsx';
import type { TextEditorProps } from './text-editor.tsx';

const Scroll = styled.div`
  overflow: auto;
  margin: 0 16px 16px;
  border: 1px solid var(--line);
  border-radius: 10px;
  background: var(--sheet);
  max-height: calc(100% - 4.375rem);
`;

const Grid = styled.table`
  border-collapse: collapse;
  font-size: 0.8125rem;
  th {
    position: sticky;
    top: 0;
    z-index: 1;
    text-align: left;
    font-weight: 600;
    color: var(--soft);
    background: var(--sheet);
    padding: 6px 8px;
    border-bottom: 1px solid var(--line);
  }
  td {
    border-bottom: 1px solid var(--hair);
    padding: 0;
  }
  td:nth-last-child(2) input {
    max-width: 17.5rem;
  }
  th:first-child,
  td:first-child {
    position: sticky;
    left: 0;
    background: var(--sheet);
    z-index: 2;
  }
  td[data-wrong] {
    background: var(--caution-paper);
    box-shadow: inset 0 0 0 1.5px var(--caution);
  }
  input {
    ${mono}
    border: 0;
    background: none;
    color: var(--ink);
    min-height: 2.25rem;
    padding: 4px 8px;
    font-size: 0.8125rem;
    field-sizing: content;
    min-width: 2.75rem;
    max-width: 8.25rem;
    text-overflow: ellipsis;
  }
  input:focus-visible {
    outline: 2px solid var(--now);
    outline-offset: -2px;
  }
`;

/** A part that is a table: cells by hand, or pasted from a spreadsheet. */
export function TableEditor({ part, desk, line, locked, extra }: TextEditorProps) {
  const text = desk.folder[part.file] ?? '';
  const table = useMemo(() => tableOf(text), [text]);
  const body = useRef<HTMLTableSectionElement>(null);
  const wrong = useMemo(
    () => wrongCells(table, desk.compiled?.problems.filter((p) => p.file === part.file) ?? []),
    [table, desk.compiled, part.file],
  );
  const put = (row: number, column: number, cells: string[][]): void =>
    desk.change(part.file, setCells(text, row, column, cells));
  useEffect(() => {
    const row = body.current?.querySelector(`[data-line="${line}"]`);
    const cell = row?.querySelector<HTMLInputElement>('[data-wrong] input') ?? row?.querySelector('input');
    cell?.focus();
    cell?.scrollIntoView({ block: 'center' });
  }, [line]);
  const paste = (event: ClipboardEvent<HTMLInputElement>, row: number, column: number): void => {
    const cells = cellsOf(event.clipboardData.getData('text/plain'));
    if (cells.length === 1 && cells[0]!.length === 1) return;
    event.preventDefault();
    put(row, column, cells);
  };
  return (
    <>
      <PartHead title={part.label} about={`${table.rows.length} rows; paste from a spreadsheet into any cell`}>
        <SlimButton isDisabled={locked} onPress={() => put(table.rows.length, 0, [['new']])}>
          Add a row
        </SlimButton>
        {extra}
      </PartHead>
      <Scroll>
        <Grid aria-label={part.label}>
          <thead>
            <tr>
              {table.head.map((name, i) => (
                <th key={i} scope="col">
                  {name}
                </th>
              ))}
              <th scope="col">
                <span hidden>Row</span>
              </th>
            </tr>
          </thead>
          <tbody ref={body}>
            {table.rows.map(({ line: at, cells }, row) => (
              <tr key={row} data-line={at}>
                {table.head.map((name, column) => (
                  <td key={column} data-wrong={wrong.has(`${at}/${column}`) || undefined}>
                    <input
                      aria-label={`${name}, ${cells[0]}`}
                      aria-invalid={wrong.has(`${at}/${column}`) || undefined}
                      readOnly={locked}
                      value={cells[column] ?? ''}
                      title={wrong.get(`${at}/${column}`) ?? cells[column]}
                      onChange={(e) => put(row, column, [[e.target.value]])}
                      onBlur={(e) =>
                        e.target.value !== e.target.value.trim() && put(row, column, [[e.target.value.trim()]])
                      }
                      onPaste={(e) => paste(e, row, column)}
                    />
                  </td>
                ))}
                <td>
                  <SlimButton
                    aria-label={`Remove ${cells[0]}`}
                    isDisabled={locked}
                    onPress={() => desk.change(part.file, removeRow(text, row))}
                  >
                    ×
                  </SlimButton>
                </td>
              </tr>
            ))}
          </tbody>
        </Grid>
      </Scroll>
    </>
  );
}

/** What is wrong, by line and cell. */
function wrongCells(table: WrittenTable, problems: readonly Problem[]): Map<string, string> {
  const rows = new Map(table.rows.map((row) => [row.line, row]));
  return new Map(
    problems.flatMap(({ line, column, message, remedy }) => {
      const row = rows.get(line);
      return row ? [[`${line}/${cellAt(row, column)}`, `${message}; ${remedy}`] as const] : [];
    }),
  );
}
