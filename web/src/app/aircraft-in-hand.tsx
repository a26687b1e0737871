import type { AircraftToday } from '@rouse/core/contract';
import { useLayoutEffect } from 'react';
import { Link } from 'react-router';
import styled from 'styled-components';
import { readSetting, writeSetting } from '../platform/storage.ts';
import { Redirect } from './redirect.tsx';
import { troubleIn, useTodayQuery } from './server-data.ts';

const KEPT = 'aircraft';

/** Remembers which aircraft is worked on, as soon as its page is there: the places of the rail open on it. */
export function useKeepInHand(aircraft: string | undefined): void {
  useLayoutEffect(() => {
    if (aircraft !== undefined) writeSetting(KEPT, aircraft);
  }, [aircraft]);
}

/** The aircraft that was used last; else one that runs, one with a line, or the first. */
export function aircraftInHand(fleet: readonly AircraftToday[]): AircraftToday | undefined {
  const kept = readSetting(KEPT);
  return (
    fleet.find((a) => a.aircraft === kept) ?? fleet.find((a) => a.openRun) ?? fleet.find((a) => a.wired) ?? fleet[0]
  );
}

const Waiting = styled.main`
  display: grid;
  place-content: center;
  justify-items: center;
  gap: 10px;
  padding: 24px;
  text-align: center;
`;

/** A place of one aircraft that was asked for without one: it opens on the one that was used last. */
export function OnAircraftInHand({ title, to }: { title: string; to: (aircraft: string) => string }) {
  const { data: today, error } = useTodayQuery();
  const failure = troubleIn(error);
  const found = today && aircraftInHand(today.aircraft);
  if (found) return <Redirect to={to(found.aircraft)} />;
  return (
    <Waiting>
      <title>{`${title} · Rouse`}</title>
      <h1>{title}</h1>
      <p role="status">{failure ?? (today ? 'There is no aircraft yet.' : 'Reading the fleet…')}</p>
      {today && <Link to="/set-up/aircraft">Set one up</Link>}
    </Waiting>
  );
}
