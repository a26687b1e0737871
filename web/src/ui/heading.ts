import styled from 'styled-components';

/** The small heading over a list or a drawing. */
export const Small = styled.h2`
  font-size: 0.78125rem;
  font-weight: 650;
  color: var(--soft);
  margin-bottom: 6px;
`;

export const Aid = styled.p`
  font-size: 0.78125rem;
  color: var(--soft);
`;

/** One line that every page with figures carries. */
export { PREVAILS } from '@rouse/core/people';
