import styled from 'styled-components';
import { mono } from '../../app/theme.ts';

/** A chapter of a type on paper; where its table is wider than the page it scrolls, with the keyboard too. */
export const Chapter = styled.section.attrs({ tabIndex: 0 })`
  background: var(--sheet);
  border: 1px solid var(--line);
  border-radius: 12px;
  padding: 14px 18px;
  overflow-x: auto;
  break-inside: avoid-page;
  > h2 {
    font-size: 1.0625rem;
    font-weight: 700;
    margin-bottom: 8px;
  }
  > h3 {
    font-size: 0.875rem;
    font-weight: 650;
    margin: 12px 0 4px;
  }
  > p {
    font-size: 0.84375rem;
    color: var(--soft);
  }
  table {
    border-collapse: collapse;
    font-size: 0.84375rem;
    width: 100%;
  }
  th {
    text-align: left;
    font-weight: 620;
    font-size: 0.78125rem;
    color: var(--soft);
  }
  th,
  td {
    padding: 4px 12px 4px 0;
    border-top: 1px solid var(--hair);
    vertical-align: top;
  }
  td.n,
  th.n {
    ${mono}
    text-align: right;
    white-space: nowrap;
  }
  td small {
    display: block;
    color: var(--soft);
    font-size: 0.78125rem;
  }
  td[data-severity='warning'],
  td[data-failure='no-go'] {
    color: var(--warning);
    font-weight: 620;
  }
  td[data-severity='caution'],
  td[data-failure='caution'] {
    color: var(--caution);
  }
  @media print {
    border: 0;
    padding: 6px 0;
  }
`;
