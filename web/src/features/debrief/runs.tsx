import styled from 'styled-components';
import { troubleIn, useRunsQuery } from '../../app/server-data.ts';
import { RunList } from '../../ui/run-list.tsx';

const Page = styled.main`
  overflow: auto;
  padding: 22px 26px;
  display: grid;
  gap: 14px;
  align-content: start;
`;

/** Every run there is, newest first. */
export function RunsView() {
  const { data: listed, error } = useRunsQuery();
  const failure = troubleIn(error);
  return (
    <Page>
      <title>Debrief · Rouse</title>
      <h1>Debrief</h1>
      {failure !== null && <p role="alert">{failure}</p>}
      {!listed && failure === null && <p role="status">Reading the runs…</p>}
      {listed?.map(({ tail, runs }) => (
        <section key={tail}>
          <h2>{tail}</h2>
          <RunList runs={runs} />
        </section>
      ))}
    </Page>
  );
}
