import type { TypeFile } from '@rouse/core/aircraft';
import { sayFigure } from '@rouse/core/checks';
import { againstUsual, type UsualFigure } from '@rouse/core/health';
import { findItem, type MeasuredEntry } from '@rouse/core/procedure';
import type { ReactNode } from 'react';
import styled from 'styled-components';
import { SlimButton } from '../../ui/button.tsx';
import { Small } from '../../ui/heading.ts';
import { Column, Row, UsualLine } from './usual-line.tsx';

const List = styled.ol`
  display: flex;
  flex-wrap: wrap;
  gap: 8px 6px;
  margin: 8px 0 12px;
  [data-verdict='fault'],
  [data-verdict='unusual'],
  [data-verdict='unknown'] {
    border-color: var(--caution);
    color: var(--caution);
  }
`;

const SAID: Readonly<Record<MeasuredEntry['verdict'], string>> = {
  good: '',
  unusual: ', not as usual',
  fault: ', not good',
  unknown: ', unknown',
};

const Words = styled.p`
  font-size: 0.875rem;
  margin-bottom: 8px;
  &[data-verdict='fault'],
  &[data-verdict='unusual'],
  &[data-verdict='unknown'] {
    color: var(--caution);
    font-weight: 650;
  }
`;

interface ChecksColumnProps {
  type: TypeFile;
  checks: readonly MeasuredEntry[];
  shown: MeasuredEntry | undefined;
  usual: Readonly<Record<string, UsualFigure>>;
  choose: (entry: MeasuredEntry) => void;
  children?: ReactNode;
}

/** What each check of the run found, figure by figure on what this tail has shown before. */
export function ChecksColumn({ type, checks, shown, usual, choose, children }: ChecksColumnProps) {
  return (
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex
    <Column aria-label="Checks of the run" tabIndex={0}>
      {children}
      <Small>Measured checks</Small>
      {checks.length === 0 && <p>No check was measured in this run.</p>}
      <List>
        {checks.map((entry) => (
          <li key={entry.seq}>
            <SlimButton aria-pressed={entry === shown} data-verdict={entry.verdict} onPress={() => choose(entry)}>
              {findItem(type, entry.item)?.challenge ?? entry.check}
              {SAID[entry.verdict]}
            </SlimButton>
          </li>
        ))}
      </List>
      {shown && <Words data-verdict={shown.verdict}>{shown.verdict === 'good' ? 'Good.' : `${shown.words}.`}</Words>}
      <ul>
        {shown?.figures.map((figure) => (
          <FigureRow key={figure.id} figure={figure} usual={usual[`${shown.check}/${figure.id}`]} />
        ))}
      </ul>
    </Column>
  );
}

function FigureRow({ figure, usual }: { figure: MeasuredEntry['figures'][number]; usual: UsualFigure | undefined }) {
  const { value, decimals, unit } = figure;
  const place = value !== null && usual ? againstUsual(value, usual, 10 ** -decimals) : 'usual';
  const drift = usual?.drift ? `; drifting by ${sayFigure(usual.drift, decimals, unit)}` : '';
  const ahead =
    usual?.leavesGoodIn == null
      ? ''
      : `; at this pace out of what is good in ${usual.leavesGoodIn} checks at the soonest`;
  return (
    <Row data-worse={figure.verdict !== 'good' || place !== 'usual' || undefined} data-figure={figure.id}>
      <div>
        {figure.label} <b>{value === null ? '–' : sayFigure(value, decimals, '')}</b>
        <small>{value === null ? '' : unit}</small>
      </div>
      {usual && <UsualLine value={value} usual={usual} />}
      <p>
        {goodOf(figure.good, decimals)}
        {usual
          ? `usual ${sayFigure(usual.low, decimals, '')} to ${sayFigure(usual.high, decimals, '')}${place === 'usual' ? '' : `, ${place === 'high' ? 'higher' : 'lower'} than ever`}${drift}${ahead}`
          : 'too few earlier checks'}
      </p>
    </Row>
  );
}

function goodOf([low, high]: readonly [number | null, number | null], decimals: number): string {
  if (low === null && high === null) return '';
  if (low === null) return `good to ${sayFigure(high!, decimals, '')}; `;
  return high === null
    ? `good from ${sayFigure(low, decimals, '')}; `
    : `good ${sayFigure(low, decimals, '')} to ${sayFigure(high, decimals, '')}; `;
}
