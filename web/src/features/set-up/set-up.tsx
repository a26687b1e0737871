import { may, type Right } from '@rouse/core/people';
import { NavLink, Outlet } from 'react-router';
import styled from 'styled-components';
import { useMember } from '../../app/session-data.ts';
import { phone, upright } from '../../app/theme.ts';

const Page = styled.div`
  display: grid;
  grid-template: minmax(0, 1fr) / 11.875rem minmax(0, 1fr);
  height: 100%;
  min-height: 0;
  ${upright} {
    grid-template: auto minmax(0, 1fr) / minmax(0, 1fr);
  }
`;

const Sections = styled.nav`
  border-right: 1px solid var(--line);
  padding: 18px 10px;
  display: flex;
  flex-direction: column;
  gap: 2px;
  overflow: auto;
  a {
    text-decoration: none;
    padding: 11px 12px;
    border-radius: 8px;
    font-size: 0.875rem;
  }
  a.active {
    background: var(--usual1);
    font-weight: 650;
  }
  ${upright} {
    flex-flow: row wrap;
    border-right: 0;
    border-bottom: 1px solid var(--line);
    padding: 6px 10px;
  }
  ${phone} {
    a {
      padding: 8px;
      font-size: 0.8125rem;
    }
  }
`;

const SECTIONS: readonly { to: string; label: string; right: Right | null }[] = [
  { to: 'first-steps', label: 'First steps', right: 'administer' },
  { to: 'aircraft', label: 'Aircraft', right: 'read' },
  { to: 'sites', label: 'Sites and pads', right: 'read' },
  { to: 'types', label: 'Types', right: 'read' },
  { to: 'lessons', label: 'Lessons', right: 'oversee' },
  { to: 'lines', label: 'Lines', right: 'administer' },
  { to: 'people', label: 'People', right: 'administer' },
  { to: 'operator', label: 'Operator', right: 'administer' },
  { to: 'audit', label: 'What was done', right: 'administer' },
  { to: 'me', label: 'Your sign-in', right: null },
];

/** What an operator keeps: its aircraft and places, its people and lines, and everybody's own sign-in. */
export function SetUp() {
  const member = useMember();
  return (
    <Page>
      <Sections aria-label="Set up">
        {SECTIONS.filter(({ right }) => right === null || (member && may(member.roles, right))).map(({ to, label }) => (
          <NavLink key={to} to={to === 'types' ? '/types' : `/set-up/${to}`}>
            {label}
          </NavLink>
        ))}
      </Sections>
      <Outlet />
    </Page>
  );
}
