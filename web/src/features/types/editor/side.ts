import styled from 'styled-components';

/** What stands beside the part that is open. */
export const Side = styled.aside`
  grid-area: side;
  background: var(--sheet);
  border-left: 1px solid var(--line);
  padding: 12px 16px;
  overflow: auto;
  min-width: 0;
  p {
    font-size: 0.8125rem;
    color: var(--soft);
  }
  svg {
    display: block;
    width: 100%;
    height: auto;
    background: var(--deep);
    border: 1px solid var(--line);
    border-radius: 10px;
    margin: 6px 0 14px;
  }
  svg text {
    font-size: 11px;
    fill: var(--soft);
  }
`;
