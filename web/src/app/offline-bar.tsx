import { useSyncExternalStore } from 'react';
import { Link } from 'react-router';
import styled from 'styled-components';
import { newerVersion } from '../platform/offline.ts';
import { reach } from '../platform/reach.ts';
import { sendAgain, tabletRuns } from '../run/tablet/send-tablet-runs.ts';
import { SlimButton } from '../ui/button.tsx';
import { clockTime, dayAndTime } from '../ui/words.ts';
import { useAppSelector } from './store.ts';

const Bar = styled.div`
  min-width: 0;
  > p,
  > div {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 12px;
    align-items: center;
    padding: 6px 16px;
    background: var(--caution-paper);
    color: var(--caution);
    border-bottom: 1px solid var(--caution);
    font-size: 0.875rem;
  }
  a {
    color: inherit;
    font-weight: 650;
  }
`;

/** Over every page: that there is no server, what waits on this tablet, that a newer version is here. */
export function OfflineBar() {
  const { awaySince_ms, shownFrom_ms } = useSyncExternalStore(reach.subscribe, reach.now);
  const { open, waiting, refused } = useSyncExternalStore(tabletRuns.subscribe, tabletRuns.now);
  const newer = useSyncExternalStore(newerVersion.subscribe, newerVersion.waits);
  const followed = useAppSelector((s) => s.run.followed);
  const busy = followed?.state.status === 'open';
  return (
    <Bar role="status" aria-label="This tablet">
      {awaySince_ms !== null && (
        <p data-away>
          No server since {clockTime(new Date(awaySince_ms))}.
          {shownFrom_ms !== null && ` What is shown is as it was at ${clockTime(new Date(shownFrom_ms))}.`} Runs are
          worked by hand and kept on this tablet.
        </p>
      )}
      {open.map((r) => (
        <p key={r.run} data-tablet="open">
          A run of {r.tail} goes on, kept on this tablet. <Link to={`/start/${r.run}`}>Continue it</Link>
        </p>
      ))}
      {waiting.length > 0 && (
        <p data-tablet="waiting">
          {waiting.length === 1 ? `A run of ${waiting[0]!.tail} waits` : `${waiting.length} runs wait`} on this tablet
          until the server has {waiting.length === 1 ? 'it' : 'them'}.
        </p>
      )}
      {refused.map((r) => (
        <div key={r.run} data-tablet="refused">
          The run of {r.tail}, {dayAndTime(r.openedAt)}, was not taken: {r.refused} It stays on this tablet.
          <SlimButton onPress={() => void sendAgain(r.run)}>Send it again</SlimButton>
        </div>
      ))}
      {newer && !busy && (
        <div data-newer>
          A newer Rouse is here.
          <SlimButton onPress={newerVersion.use}>Use it now</SlimButton>
        </div>
      )}
    </Bar>
  );
}
