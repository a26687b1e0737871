import type { RunSummary } from '@rouse/core/contract';
import { useEffect, useState } from 'react';
import styled from 'styled-components';
import { getJson } from '../../platform/api.ts';
import { RunList } from '../../parts/run-list.tsx';

const Page = styled.main`
  overflow: auto;
  padding: 22px 26px;
  display: grid;
  gap: 14px;
  align-content: start;
`;

interface Listed {
  tail: string;
  runs: RunSummary[];
}

/** Every run there is, newest first. */
export function RunsView() {
  const [listed, setListed] = useState<Listed[] | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  useEffect(() => {
    getJson<Listed[]>('/runs')
      .then(setListed)
      .catch((error: unknown) => setFailure(error instanceof Error ? error.message : String(error)));
  }, []);
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
