import type { TypeFile } from '@rouse/core/aircraft';
import type { Debrief } from '@rouse/core/contract';
import { type Entry, sayEntry } from '@rouse/core/procedure';
import styled from 'styled-components';
import { mono } from '../../app/theme.ts';
import { Small } from '../../ui/heading.ts';
import { minutes } from '../../ui/words.ts';

const Column = styled.section`
  grid-area: left;
  border-right: 1px solid var(--line);
  background: var(--sheet);
  padding: 14px 18px;
  overflow: auto;
`;

const Line = styled.li`
  display: grid;
  grid-template-columns: 52px minmax(0, 1fr);
  padding: 6px 18px;
  margin: 0 -18px;
  border-top: 1px solid var(--hair);
  font-size: 14.5px;
  time {
    ${mono}
    color: var(--soft);
    font-size: 13.5px;
  }
  small {
    display: block;
    color: var(--soft);
    font-size: 13px;
  }
  &[data-stands] {
    background: var(--caution-paper);
  }
`;

const FEATURE_OF_STATE: Record<string, string> = {
  accelerating: 'lightOff_s',
  'self-sustaining': 'selfSustaining_s',
  idle: 'idle_s',
};

/** What happened, line by line, with the usual time beside each moment of the start. */
export function Journal({
  type,
  entries,
  start,
}: {
  type: TypeFile;
  entries: readonly Entry[];
  start: Debrief['starts'][number] | undefined;
}) {
  const usual = (entry: Entry): string => {
    const compared =
      entry.kind === 'start-state' && start?.compared.find((c) => c.spec.id === FEATURE_OF_STATE[entry.state]);
    if (!compared || compared.value === null) return '';
    const range = compared.usual ? `, usual ${compared.usual.low.toFixed(1)} to ${compared.usual.high.toFixed(1)}` : '';
    return `${compared.value.toFixed(1)} s${range}`;
  };
  return (
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex
    <Column tabIndex={0} aria-label="What happened">
      <Small>What happened</Small>
      <ol>
        {entries.map((entry) => {
          const words = sayEntry(type, entry);
          if (!words) return null;
          const detail = usual(entry) || words.detail;
          return (
            <Line key={entry.id} data-stands={words.stands || undefined}>
              <time>{minutes(entry.t)}</time>
              <span>
                {words.title}
                {detail && <small>{detail}</small>}
              </span>
            </Line>
          );
        })}
      </ol>
    </Column>
  );
}
