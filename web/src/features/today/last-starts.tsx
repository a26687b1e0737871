import type { StartsToday } from '@rouse/core/contract';
import styled from 'styled-components';
import { mono } from '../../app/theme.ts';

const W = 132;
const H = 50;

const Box = styled.div`
  display: grid;
  grid-template-columns: ${W}px auto;
  gap: 2px 8px;
  align-items: center;
  svg {
    width: ${W}px;
    height: ${H}px;
    background: var(--deep);
    border-radius: 4px;
  }
  b {
    ${mono}
    font-size: 0.875rem;
    color: var(--now);
    white-space: nowrap;
  }
  p {
    grid-column: 1 / -1;
    font-size: 0.78125rem;
    color: var(--soft);
  }
  text {
    ${mono}
    font-size: 10.5px;
  }
`;

/** The last starts of a tail under their limit, the newest ringed. */
export function LastStarts({ starts, words }: { starts: StartsToday | null; words: string }) {
  if (!starts || starts.values.length === 0)
    return <p style={{ fontSize: '0.8125rem', color: 'var(--soft)' }}>{starts ? 'no start yet' : words}</p>;
  const { values, usual, limit, unit, decimals, label, worse } = starts;
  const drawn = [...values, ...(usual ?? [])];
  const [low, high] = [Math.min(...drawn), Math.max(...drawn)];
  const span = high - low || 1;
  // the limit is drawn at the edge; how far it is away is not to scale where it is far
  const far = worse === 'low' ? low - 0.7 * span : high + 0.7 * span;
  const edge = limit && (worse === 'low' ? Math.max(limit.at, far) : Math.min(limit.at, far));
  const past = limit ? values.map((v) => (worse === 'low' ? v < limit.at : v > limit.at)) : [];
  const bottom = Math.min(low, edge ?? low) - 0.24 * span;
  const top = Math.max(high, edge ?? high) + 0.8 * span;
  const last = values.length - 1;
  const x = (i: number): number => 8 + (i / Math.max(1, last)) * (W - 18);
  const y = (value: number): number => (H * (top - value)) / (top - bottom);
  const above = worse !== 'low';
  return (
    <Box>
      <svg viewBox={`0 0 ${W} ${H}`} role="img" aria-label={`${label}, last ${values.length} starts: now ${values[last]!.toFixed(decimals)} ${unit}`}>
        {usual && <rect x="0" y={y(usual[1])} width={W} height={Math.max(2, y(usual[0]) - y(usual[1]))} fill="var(--usual2)" />}
        {limit && edge !== null && (
          <g>
            <rect x="0" y={above ? 0 : y(edge)} width={W} height={Math.max(0, above ? y(edge) : H - y(edge))} fill="var(--limit-fill)" />
            <line x1="0" x2={W} y1={y(edge)} y2={y(edge)} stroke="var(--limit-edge)" strokeWidth="1.6" />
            <text x="5" y={above ? Math.max(10, y(edge) - 4) : Math.min(H - 3, y(edge) + 11)} fill="var(--limit-ink)">{limit.words}</text>
          </g>
        )}
        {values.map((v, i) => (i === last ? null : <circle key={i} cx={x(i)} cy={y(v)} r="2.1" fill={past[i] ? 'var(--warning)' : 'var(--ink)'} />))}
        <circle cx={x(last)} cy={y(values[last]!)} r="4.2" fill="var(--sheet)" stroke="var(--now)" strokeWidth="2.6" />
      </svg>
      <b>
        {values[last]!.toFixed(decimals)}
      </b>
      <p>{words}</p>
    </Box>
  );
} // oxfmt-ignore
