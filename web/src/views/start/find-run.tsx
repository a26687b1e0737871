import { useEffect } from 'react';
import { Link, Navigate } from 'react-router';
import styled from 'styled-components';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { loadToday } from '../../app/today-slice.ts';

const Page = styled.main`
  display: grid;
  place-content: center;
  gap: 10px;
  padding: 24px;
`;

/** /start without a run: the open one, or word that there is none. */
export function FindRun() {
  const dispatch = useAppDispatch();
  const { today, failure } = useAppSelector((s) => s.today);
  useEffect(() => {
    void dispatch(loadToday());
  }, [dispatch]);
  const open = today?.aircraft.find((a) => a.openRun)?.openRun;
  if (open) return <Navigate to={`/start/${open}`} replace />;
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
