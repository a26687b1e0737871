import styled from 'styled-components';
import { mono } from '../../app/theme.ts';

/** One matter in the column of the plan. */
export const Part = styled.section`
  padding: 9px 16px;
  margin: 0 -16px;
  border-top: 1px solid var(--hair);
  > em {
    font-style: normal;
    font-size: 0.78125rem;
    color: var(--soft);
    display: block;
  }
  > b {
    font-size: 1.0625rem;
    font-weight: 660;
    display: block;
    line-height: 1.25;
  }
  > b[data-figure] {
    ${mono}
    font-size: 1rem;
  }
  p {
    font-size: 0.84375rem;
    color: var(--soft);
  }
  &[data-severity='caution'] {
    background: var(--caution-paper);
    > em {
      color: var(--caution);
      font-weight: 650;
    }
  }
  &[data-severity='no-go'] {
    background: var(--warning-paper);
    > em {
      color: var(--warning);
      font-weight: 700;
    }
  }
  input {
    font: inherit;
    font-size: 0.84375rem;
    width: 100%;
    min-height: 2.5rem;
    margin-top: 5px;
    border: 1.5px solid var(--button-line);
    border-radius: 7px;
    padding: 4px 8px;
    background: var(--sheet);
    color: var(--ink);
  }
`;
