import { Link } from 'react-router';
import styled from 'styled-components';
import { aircraftInHand } from '../../app/aircraft-in-hand.tsx';
import { Redirect } from '../../app/redirect.tsx';
import { troubleIn, useTodayQuery } from '../../app/server-data.ts';

const Page = styled.main`
  display: grid;
  place-content: center;
  justify-items: center;
  gap: 10px;
  padding: 24px;
`;

/** /debrief without a run: the last one of the aircraft that was used last. */
export function LastRun() {
  const { data: today, error } = useTodayQuery();
  const failure = troubleIn(error);
  const run = today && aircraftInHand(today.aircraft.filter((a) => a.recent.length > 0))?.recent[0];
  if (run) return <Redirect to={`/debrief/${run.run}`} />;
  return (
    <Page>
      <title>Debrief · Rouse</title>
      <h1>No run to read back</h1>
      <p role="status">{failure ?? (today ? 'Nothing was flown yet.' : 'Looking for the last run…')}</p>
      <Link to="/brief">To the brief</Link>
    </Page>
  );
}
