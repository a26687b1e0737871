import { Link } from 'react-router';
import styled from 'styled-components';
import { useTodayQuery } from '../../app/server-data.ts';
import {
  useAccountQuery,
  useDevicesQuery,
  useInvitationsQuery,
  usePeopleQuery,
  useSitesQuery,
} from '../../app/session-data.ts';
import { Card, SetUpPage } from './page.tsx';

const Steps = styled.ol`
  display: grid;
  gap: 4px;
  li {
    display: grid;
    grid-template-columns: 26px minmax(0, 1fr);
    gap: 2px 8px;
    padding: 8px 0;
    border-bottom: 1px solid var(--hair);
    font-size: 0.875rem;
  }
  li:last-child {
    border-bottom: 0;
  }
  small {
    grid-column: 2;
    color: var(--soft);
    font-size: 0.8125rem;
  }
  b {
    font-weight: 650;
  }
`;

/** What a new operator does first, each with its page; what is done is seen from what is there. */
export function FirstSteps() {
  const { data: today } = useTodayQuery();
  const { data: devices } = useDevicesQuery();
  const { data: people } = usePeopleQuery();
  const { data: invitations } = useInvitationsQuery();
  const { data: sites } = useSitesQuery();
  const { data: account } = useAccountQuery();
  const [first] = today?.aircraft ?? [];
  const steps = [
    {
      to: first ? `/brief/${first.aircraft}` : '/',
      label: 'Brief and fly the first run',
      why: 'By hand, by eye and by clock: no line is needed for that.',
      done: today?.aircraft.some((a) => a.openRun !== null || a.recent.length > 0) ?? false,
    },
    {
      to: '/set-up/aircraft',
      label: 'Say what your aircraft weighs',
      why: 'Until then the brief takes the basic mass of its type. What is missing on it is written down here too.',
      done: null,
    },
    {
      to: '/set-up/sites',
      label: 'Put the pads where they are',
      why: 'How far apart they are decides what rotor wash does to a neighbour.',
      done: (sites ?? []).some((s) => s.pads.length > 1),
    },
    {
      to: '/set-up/people',
      label: 'Invite the others',
      why: 'Everybody signs in as themselves; a link lasts a week.',
      done: (people?.length ?? 0) > 1 || (invitations?.length ?? 0) > 0,
    },
    {
      to: '/set-up/lines',
      label: 'Lay a data line',
      why: 'An engine data unit says its token, and the watch begins.',
      done: (devices?.length ?? 0) > 0,
    },
    {
      to: '/set-up/me',
      label: 'Make a passkey, or use codes',
      why: 'Who administers is worth a second proof.',
      done: (account?.passkeys.length ?? 0) > 0 || account?.hasCodes === true,
    },
    {
      to: '/types',
      label: 'Write a type of your own',
      why: 'Like a shipped one, or from nothing in eight steps.',
      done: null,
    },
  ];
  return (
    <SetUpPage title="First steps">
      <Card>
        <Steps>
          {steps.map(({ to, label, why, done }) => (
            <li key={label} data-done={done ?? undefined}>
              <span aria-label={done === true ? 'done' : 'to do'}>{done === true ? '✓' : '·'}</span>
              <b>
                <Link to={to}>{label}</Link>
              </b>
              <small>{why}</small>
            </li>
          ))}
        </Steps>
      </Card>
    </SetUpPage>
  );
}
