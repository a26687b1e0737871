import type { RunSummary } from '@rouse/core/contract';
import { Link } from 'react-router';
import styled from 'styled-components';
import { dayAndTime, outcomeInWords, sourceInWords } from './words.ts';

const List = styled.ol`
  li {
    border-top: 1px solid var(--hair);
  }
  a {
    display: grid;
    grid-template-columns: 9.5em 9em minmax(0, 1fr) auto;
    gap: 12px;
    padding: 9px 4px;
    min-height: 40px;
    color: inherit;
    text-decoration: none;
    font-size: 14px;
  }
  a:hover {
    background: var(--deep);
  }
  span:nth-child(3),
  span:nth-child(4) {
    color: var(--soft);
  }
  [data-outcome='aborted'] {
    color: var(--caution);
    font-weight: 650;
  }
`;

export function RunList({ runs }: { runs: readonly RunSummary[] }) {
  if (runs.length === 0) return <p>No run yet.</p>;
  return (
    <List>
      {runs.map((run) => (
        <li key={run.run}>
          <Link to={`/debrief/${run.run}`}>
            <span>{dayAndTime(run.openedAt)}</span>
            <span data-outcome={run.outcome}>{outcomeInWords(run.outcome)}</span>
            <span>{run.conditions}</span>
            <span>{[run.pilot, sourceInWords(run.source)].filter(Boolean).join(', ')}</span>
          </Link>
        </li>
      ))}
    </List>
  );
}
