import styled, { css } from 'styled-components';

export const Alert = styled.p`
  font-size: 0.875rem;
  color: var(--warning);
  max-width: 70ch;
`;

/** Where something is typed or chosen. */
export const inputLook = css`
  input,
  select {
    font: inherit;
    font-weight: 400;
    color: var(--ink);
    background: var(--sheet);
    border: 1px solid var(--button-line);
    border-radius: 8px;
    padding: 8px 10px;
    min-height: 3rem;
    max-width: 100%;
  }
`;
