import type { Usual } from '@rouse/core/health';
import styled from 'styled-components';
import { mono } from '../../app/theme.ts';

export const Column = styled.aside`
  grid-area: right;
  border-left: 1px solid var(--line);
  background: var(--sheet);
  padding: 14px 16px;
  overflow: auto;
`;

export const Row = styled.li`
  padding: 9px 0 11px;
  border-top: 1px solid var(--hair);
  > div:first-child {
    display: flex;
    align-items: baseline;
    gap: 6px;
    font-size: 0.90625rem;
  }
  b {
    ${mono}
    font-size: 1.125rem;
    margin-left: auto;
  }
  small {
    font-size: 0.78125rem;
    color: var(--soft);
    width: 22px;
  }
  p {
    font-size: 0.78125rem;
    color: var(--soft);
    margin-top: 6px;
  }
  &[data-worse] p {
    color: var(--caution);
    font-weight: 650;
  }
`;

const Line = styled.div`
  height: 9px;
  margin-top: 8px;
  position: relative;
  background: var(--deep);
  border-radius: 3px;
  i {
    position: absolute;
    inset-block: 0;
    background: var(--usual2);
    border-radius: 2px;
  }
  u {
    position: absolute;
    inset-block: -1px;
    width: 2px;
    background: var(--track);
  }
  span {
    position: absolute;
    top: -3px;
    width: 15px;
    height: 15px;
    margin-left: -7px;
    border-radius: 50%;
    border: 3.5px solid var(--now);
    background: var(--sheet);
  }
`;

/** One value as a dot on the range that this tail has shown. */
export function UsualLine({ value, usual }: { value: number | null; usual: Usual }) {
  const span = Math.max(usual.most - usual.least, 1e-6);
  const low = Math.min(usual.least, value ?? usual.least) - 0.35 * span;
  const high = Math.max(usual.most, value ?? usual.most) + 0.35 * span;
  const at = (v: number): number => (100 * (v - low)) / (high - low);
  return (
    <Line aria-hidden>
      <i style={{ left: `${at(usual.low)}%`, width: `${at(usual.high) - at(usual.low)}%` }} />
      <u style={{ left: `${at(usual.median)}%` }} />
      {value !== null && <span style={{ left: `${at(value)}%` }} />}
    </Line>
  );
}
