import { Link } from 'react-router';
import styled from 'styled-components';
import { Redirect } from '../../app/redirect.tsx';
import { troubleIn, useTodayQuery } from '../../app/server-data.ts';

const Page = styled.main`
  display: grid;
  place-content: center;
  gap: 10px;
  padding: 24px;
`;

/** /start without a run: the open one, or word that there is none. */
export function FindRun() {
  const { data: today, error } = useTodayQuery();
  const failure = troubleIn(error);
  const open = today?.aircraft.find((a) => a.openRun)?.openRun;
  if (open) return <Redirect to={`/start/${open}`} />;
  return (
    <Page>
      <title>Start · Rouse</title>
      <h1>No run is open</h1>
      <p role="status">
        {failure ?? (today ? 'A run is begun by its brief: choose the aircraft there.' : 'Looking for an open run…')}
      </p>
      <Link to="/brief">To the brief</Link>
    </Page>
  );
}
