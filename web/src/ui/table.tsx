import { type ComponentProps, useEffect, useRef } from 'react';
import styled from 'styled-components';
import { phone } from '../app/theme.ts';

/** On a phone each row stands as a list of its own, every figure beside the name of its column. */
const Stacked = styled.table`
  ${phone} {
    &,
    tbody,
    tr,
    th,
    td {
      display: block;
      text-align: left;
    }
    thead {
      display: none;
    }
    tbody tr {
      border-top: 1px solid var(--line);
      padding: 6px 0;
    }
    tbody td:not(:empty),
    tbody th {
      display: flex;
      flex-wrap: wrap;
      justify-content: space-between;
      gap: 2px 12px;
      border: 0;
      padding: 3px 0;
      white-space: normal;
      overflow-wrap: anywhere;
      min-width: 0;
    }
    tbody td:empty {
      display: none;
    }
    [data-column]::before {
      content: attr(data-column);
      font-size: 0.78125rem;
      font-weight: 500;
      color: var(--soft);
    }
  }
`;

/** A table whose cells know the name of their column. */
export function Table(props: ComponentProps<'table'>) {
  const table = useRef<HTMLTableElement>(null);
  useEffect(() => {
    const heads = [...(table.current?.tHead?.rows[0]?.cells ?? [])].map((cell) => cell.textContent);
    for (const body of table.current?.tBodies ?? [])
      for (const row of body.rows)
        for (const cell of row.cells) {
          const head = heads[cell.cellIndex];
          if (head) cell.dataset['column'] = head;
        }
  });
  return <Stacked ref={table} {...props} />;
}
