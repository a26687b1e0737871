import styled from 'styled-components';
import { mono } from '../../app/theme.ts';

/** Rows of figures under a drawing: the second column is the figure itself. */
export const FigureRows = styled.table`
  width: 100%;
  border-collapse: collapse;
  font-size: 0.875rem;
  align-self: start;
  th {
    text-align: left;
    font-weight: 500;
    font-size: 0.78125rem;
    color: var(--soft);
  }
  td,
  th {
    padding: 3px 8px 3px 0;
    border-top: 1px solid var(--hair);
  }
  td:nth-child(n + 3) {
    color: var(--soft);
  }
  td:nth-child(2),
  td[data-figure] {
    ${mono}
    color: var(--ink);
    font-weight: 700;
    font-size: 1rem;
    white-space: nowrap;
  }
  tr[data-verdict='fault'] td:nth-child(2) {
    color: var(--warning);
  }
  tr[data-verdict='unusual'] td:nth-child(2),
  tr[data-verdict='unknown'] td:nth-child(2) {
    color: var(--caution);
  }
`;
