import styled from 'styled-components';
import { mono } from '../../app/theme.ts';

/** A block of the left column. */
export const Block = styled.section`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 2px;
  textarea {
    font: inherit;
    ${mono}
    font-size: 0.8125rem;
    line-height: 1.4;
    color: var(--ink);
    background: var(--sheet);
    border: 1.5px solid var(--button-line);
    border-radius: 9px;
    padding: 8px 10px;
    width: 100%;
    resize: vertical;
    min-height: 3.625rem;
  }
`;

/** A computed figure beside its name. */
export const Computed = styled.div`
  display: flex;
  justify-content: space-between;
  gap: 10px;
  padding: 5px 0;
  border-top: 1px solid var(--hair);
  font-size: 0.875rem;
  b {
    ${mono}
    font-weight: 640;
    text-align: right;
    white-space: nowrap;
  }
  b[data-state='unknown'],
  b[data-state='refused'],
  b[data-words] {
    white-space: normal;
  }
  b[data-state='unknown'],
  b[data-state='refused'] {
    font-weight: 450;
    font-size: 0.78125rem;
    color: var(--soft);
  }
  b[data-state='refused'] {
    color: var(--warning);
  }
  &[data-total] {
    border-top: 2px solid var(--ink);
    font-weight: 650;
  }
`;

export const Two = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 0 14px;
`;

export const Notes = styled.ul`
  li {
    font-size: 0.8125rem;
    padding: 3px 0;
    color: var(--soft);
  }
  li[data-serious] {
    color: var(--warning);
  }
  code {
    ${mono}
    font-weight: 650;
  }
`;

export const Ticks = styled.div`
  label {
    display: flex;
    gap: 10px;
    align-items: center;
    min-height: 2.25rem;
    border-top: 1px solid var(--hair);
    font-size: 0.875rem;
  }
  input {
    width: 18px;
    height: 18px;
    accent-color: var(--now);
    flex: none;
  }
`;
