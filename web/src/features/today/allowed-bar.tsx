import type { Allowed } from '@rouse/core/brief';
import styled from 'styled-components';

const Line = styled.div`
  display: grid;
  grid-template-columns: 4.125rem 5.25rem minmax(0, 1fr);
  gap: 8px;
  align-items: center;
  font-size: 0.8125rem;
  line-height: 1.25;
  > span:first-child {
    color: var(--soft);
    white-space: nowrap;
  }
  > b {
    font-weight: 650;
    font-variant-numeric: tabular-nums;
    min-width: 0;
  }
  &[data-near='near'] > b,
  &[data-near='unknown'] > b {
    color: var(--caution);
  }
  &[data-near='past'] > b {
    color: var(--warning);
  }
`;

const Bar = styled.i`
  height: 10px;
  border-radius: 3px;
  position: relative;
  overflow: hidden;
  background: linear-gradient(90deg, var(--usual2) 0 70%, var(--band2) 70% 83%, var(--limit-fill) 83% 100%);
  &::before {
    content: '';
    position: absolute;
    inset: 0 0 0 83%;
    background: repeating-linear-gradient(135deg, var(--limit-hatch) 0 2px, transparent 2px 5px);
    border-left: 2px solid var(--limit-edge);
  }
  &::after {
    content: '';
    position: absolute;
    inset-block: 0;
    left: var(--at);
    width: 4px;
    margin-left: -2px;
    border-radius: 2px;
    background: var(--ink);
  }
  &[data-unknown] {
    background: none;
    border: 1.5px dashed var(--button-line);
  }
  &[data-unknown]::before,
  &[data-unknown]::after {
    display: none;
  }
`;

/** the limit stands here on the bar */
const LIMIT_AT = 83;

/** One thing that the day allows: how much of it is used, and in words. Not there: a quiet line. */
export function AllowedBar({ name, allowed, otherwise }: { name: string; allowed: Allowed | null; otherwise: string }) {
  if (!allowed)
    return (
      <Line>
        <span>{name}</span>
        <span style={{ borderTop: '2px solid var(--line)' }} />
        <b style={{ fontWeight: 450 }}>{otherwise}</b>
      </Line>
    );
  const at = Math.min(98, Math.max(1, LIMIT_AT * (allowed.used ?? 0)));
  return (
    <Line data-near={allowed.nearness}>
      <span>{name}</span>
      <Bar data-unknown={allowed.used === null ? '' : undefined} style={{ '--at': `${at}%` } as React.CSSProperties} />
      <b>{allowed.words}</b>
    </Line>
  );
}
