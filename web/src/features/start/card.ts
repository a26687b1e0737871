import styled from 'styled-components';
import { mono, tiny } from '../../app/theme.ts';

export const Card = styled.section`
  border: 2px solid var(--now);
  border-radius: 14px;
  padding: 14px 16px 12px;
  background: var(--now-paper);
  h2 {
    font-size: min(1.5625rem, 9cqi);
    line-height: 1.12;
    font-weight: 720;
    margin: 6px 0 2px;
  }
  h3 {
    font-size: min(1.1875rem, 7cqi);
    font-weight: 500;
    margin-bottom: 8px;
  }
  /* the answer is on the screen, the reason below it */
  ${tiny} {
    display: flex;
    flex-direction: column;
  }
`;

export const Kicker = styled.div`
  font-size: 0.78125rem;
  color: var(--now);
  font-weight: 650;
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  span:first-child {
    flex: 1 1 8em;
  }
  span:nth-child(2) {
    ${mono}
  }
`;

export const Why = styled.p`
  font-size: 0.84375rem;
  color: var(--soft);
  margin-top: 9px;
  ${tiny} {
    order: 1;
  }
`;

export const Keys = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr 1fr;
  gap: 8px;
  margin-top: 11px;
  > button {
    padding: 6px 10px;
  }
  > .wide {
    grid-column: 1 / -1;
    min-height: min(3.5rem, 64px);
  }
`;

export const Refusal = styled.p`
  margin-top: 9px;
  background: var(--warning-paper);
  color: var(--warning);
  border-radius: 8px;
  padding: 8px 10px;
  font-size: 0.875rem;
`;
