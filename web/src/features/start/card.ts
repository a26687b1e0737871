import styled from 'styled-components';
import { mono } from '../../app/theme.ts';

export const Card = styled.section`
  border: 2px solid var(--now);
  border-radius: 14px;
  padding: 14px 16px 12px;
  background: var(--now-paper);
  h2 {
    font-size: 25px;
    line-height: 1.12;
    font-weight: 720;
    margin: 6px 0 2px;
  }
  h3 {
    font-size: 19px;
    font-weight: 500;
    margin-bottom: 8px;
  }
`;

export const Kicker = styled.div`
  font-size: 12.5px;
  color: var(--now);
  font-weight: 650;
  display: flex;
  justify-content: space-between;
  span:nth-child(2) {
    ${mono}
  }
`;

export const Why = styled.p`
  font-size: 13.5px;
  color: var(--soft);
  margin-top: 9px;
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
    min-height: 56px;
  }
`;

export const Refusal = styled.p`
  margin-top: 9px;
  background: var(--warning-paper);
  color: var(--warning);
  border-radius: 8px;
  padding: 8px 10px;
  font-size: 14px;
`;
