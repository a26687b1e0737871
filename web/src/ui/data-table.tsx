import styled from 'styled-components';
import { mono } from '../app/theme.ts';
import { Table } from './table.tsx';

const Box = styled.div`
  overflow: auto;
  min-height: 0;
  border: 1px solid var(--line);
  border-radius: 10px;
  background: var(--sheet);
  table {
    border-collapse: collapse;
    width: 100%;
    font-size: 0.84375rem;
  }
  caption {
    text-align: left;
    padding: 8px 12px;
    color: var(--soft);
  }
  th,
  td {
    text-align: right;
    padding: 4px 12px;
    border-top: 1px solid var(--hair);
  }
  td {
    ${mono}
  }
`;

/** The figures of a drawing, for who would rather read them. */
export function DataTable({
  caption,
  head,
  rows,
}: {
  caption: string;
  head: readonly string[];
  rows: readonly (readonly string[])[];
}) {
  return (
    // a scrolled region is reached with the keyboard
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex
    <Box tabIndex={0} role="region" aria-label={caption}>
      <Table>
        <caption>{caption}</caption>
        <thead>
          <tr>
            {head.map((h) => (
              <th key={h} scope="col">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => (
            <tr key={i}>
              {row.map((cell, k) => (
                <td key={head[k]}>{cell}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </Table>
    </Box>
  );
}
