import type { Course, SignTrend } from '@rouse/core/trends';
import styled from 'styled-components';
import { mono, phone, upright } from '../../app/theme.ts';
import { SignGround } from './sign-limits.tsx';
import { signScales } from './sign-scale.ts';

const List = styled.div`
  grid-area: left;
  border-right: 1px solid var(--line);
  background: var(--sheet);
  overflow: auto;
  display: grid;
  align-content: start;
  > p {
    padding: 10px 16px 8px;
    font-size: 0.78125rem;
    color: var(--soft);
  }
  ${upright} {
    grid-template-columns: repeat(auto-fill, minmax(min(100%, 15rem), 1fr));
    overflow: visible;
    > p {
      grid-column: 1 / -1;
    }
  }
  ${phone} {
    border-right: 0;
  }
`;

const Row = styled.button`
  display: grid;
  grid-template: auto auto auto / minmax(0, 1fr) auto;
  gap: 2px 8px;
  padding: 8px 16px;
  border: 0;
  border-top: 1px solid var(--line);
  border-left: 3px solid transparent;
  background: none;
  text-align: left;
  cursor: pointer;
  font-size: 0.875rem;
  > b {
    ${mono}
    font-size: 0.9375rem;
    small {
      font-weight: 400;
      color: var(--soft);
      font-size: 0.75rem;
    }
  }
  svg {
    grid-column: 1 / -1;
    width: 100%;
    height: 2.375rem;
    border-radius: 4px;
    background: var(--deep);
  }
  > small {
    grid-column: 1 / -1;
    color: var(--soft);
    font-size: 0.78125rem;
  }
  > small[data-worse] {
    color: var(--now);
    font-weight: 650;
  }
  &[aria-pressed='true'] {
    background: var(--now-paper);
    border-left-color: var(--now);
  }
`;

const BOX = { left: 3, right: 257, top: 2, bottom: 36 };

const WORDS: Record<Course, string> = {
  'too-few': 'too few to tell',
  steady: 'as usual',
  better: 'better than its usual',
  worse: '',
};

/** What a sign does, in a few words. */
export function courseWords({ sign, judged, points }: SignTrend): string {
  if (points.length === 0) return 'nothing read yet';
  if (judged.course !== 'worse') return WORDS[judged.course];
  const by = Math.abs(judged.away).toFixed(sign.decimals);
  return `${judged.away > 0 ? 'rising' : 'falling'}, ${by} ${judged.away > 0 ? 'above' : 'below'} its usual`;
}

/** Every sign of a tail as a small drawing; all share one axis of starts. */
export function SignList({ signs, chosen, choose, about }: { signs: readonly SignTrend[]; chosen: string; choose: (id: string) => void; about: string }) {
  return (
    <List role="group" aria-label="Signs">
      <p>{about}</p>
      {signs.map((trend) => (
        <Row key={trend.sign.id} type="button" aria-pressed={trend.sign.id === chosen} onClick={() => choose(trend.sign.id)}>
          <span>{trend.sign.label}</span>
          <b>
            {trend.points.at(-1)?.value.toFixed(trend.sign.decimals) ?? '–'} <small>{trend.sign.unit}</small>
          </b>
          <Small trend={trend} />
          <small data-worse={trend.judged.course === 'worse' || undefined}>{courseWords(trend)}</small>
        </Row>
      ))}
    </List>
  );
} // oxfmt-ignore

function Small({ trend }: { trend: SignTrend }) {
  const { x, y } = signScales(trend, BOX, 0, false);
  const last = trend.points.length - 1;
  return (
    <svg viewBox="0 0 260 38" preserveAspectRatio="none" aria-hidden>
      <SignGround trend={trend} y={y} box={BOX} words={false} />
      {trend.points.map((p, i) => (p.leftOut || i === last ? null : <circle key={i} cx={x(i)} cy={y(p.value)} r="1.7" fill="var(--ink)" />))}
      {last >= 0 && <circle cx={x(last)} cy={y(trend.points[last]!.value)} r="3.4" fill="var(--sheet)" stroke="var(--now)" strokeWidth="2.4" />}
    </svg>
  );
} // oxfmt-ignore
