import { Zap } from 'lucide-react';
import { VisuallyHidden } from 'react-aria-components';
import styled from 'styled-components';
import { RailLink } from './rail-link.ts';
import { useTodayQuery } from './server-data.ts';
import { tiny } from './theme.ts';

/** whether a run is open is asked again so often, on pages that do not ask by themselves */
const AGAIN_MS = 20_000;

const Counted = styled(RailLink)`
  position: relative;
`;

const Count = styled.b`
  position: absolute;
  top: 3px;
  left: calc(50% + 6px);
  min-width: 1.1rem;
  padding: 0 4px;
  border-radius: 9px;
  background: var(--rail-ink);
  color: var(--rail);
  font-size: 0.6875rem;
  line-height: 1.1rem;
  text-align: center;
  ${tiny} {
    /* the next place stands close beside */
    left: calc(50% + 1px);
    min-width: 14px;
    padding: 0 2px;
    font-size: 10px;
    line-height: 14px;
  }
`;

/** The way to Start. Runs that are open are counted there, whatever page is looked at. */
export function StartLink() {
  const { open } = useTodayQuery(undefined, {
    pollingInterval: AGAIN_MS,
    refetchOnMountOrArgChange: AGAIN_MS / 1000,
    selectFromResult: ({ data }) => ({ open: data?.aircraft.filter((a) => a.openRun !== null).length ?? 0 }),
  });
  return (
    <Counted to="/start">
      <Zap size={20} aria-hidden />
      Start{' '}
      {open > 0 && (
        <>
          <Count data-open-runs={open}>{open}</Count>{' '}
          <VisuallyHidden>{open === 1 ? 'run is open' : 'runs are open'}</VisuallyHidden>
        </>
      )}
    </Counted>
  );
}
