import type { DrillView } from '@rouse/core/drill';
import { Check } from 'lucide-react';
import { memo } from 'react';
import styled from 'styled-components';
import { mono } from '../../app/theme.ts';
import { Aid, Small } from '../../ui/heading.ts';
import { stopwatch } from '../../ui/words.ts';

const Lines = styled.ol`
  list-style: none;
  padding: 0;
  overflow: auto;
  li {
    display: grid;
    grid-template-columns: 3.625rem minmax(0, 1fr) auto;
    gap: 4px;
    align-items: baseline;
    padding: 4px 4px;
    border-top: 1px solid var(--hair);
    font-size: 0.8125rem;
  }
  li[data-wrong] {
    background: var(--caution-paper);
  }
  time {
    ${mono}
    font-size: 0.75rem;
    color: var(--soft);
  }
  em {
    grid-column: 2 / -1;
    font-style: normal;
    font-weight: 650;
    font-size: 0.75rem;
    color: var(--caution);
  }
  svg {
    color: var(--track);
  }
`;

/** What was done so far, newest first: right, or what was wrong with it. */
export const DoneList = memo(function DoneList({ view }: { view: DrillView | null }) {
  const done = view?.done ?? [];
  const wrong = done.filter((d) => d.wrong !== null).length;
  return (
    <>
      <Small>
        Done so far: {done.length - wrong} right{wrong > 0 ? `, ${wrong} not` : ''}
      </Small>
      {done.length === 0 && <Aid>Move a control, or press what you look at, read or say.</Aid>}
      {(view?.open ?? []).map((words) => (
        <Aid key={words} data-open>
          Open: {words}
        </Aid>
      ))}
      {/* oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex */}
      <Lines aria-label="Done so far" tabIndex={0}>
        {done.toReversed().map((line, i) => (
          <li key={`${line.t_s} ${line.of} ${i}`} data-wrong={line.wrong ?? undefined} data-done={line.of}>
            <time>{stopwatch(line.t_s)}</time>
            <span>{line.words}</span>
            {line.wrong === null ? <Check size={14} aria-label="right" /> : <em>{line.wrong}</em>}
          </li>
        ))}
      </Lines>
    </>
  );
});
