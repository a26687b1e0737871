import type { ReactNode } from 'react';
import { NavLink, Outlet } from 'react-router';
import styled from 'styled-components';
import { phone } from '../../app/theme.ts';
import { useMay } from '../../app/session-data.ts';
import { Table } from '../../ui/table.tsx';

/** Places of one level, side by side. */
export const Tabs = styled.nav`
  display: flex;
  gap: 4px;
  flex-wrap: wrap;
  a {
    display: inline-flex;
    align-items: center;
    gap: 8px;
    min-height: 3rem;
    padding: 0 14px;
    text-decoration: none;
    color: var(--soft);
    border-bottom: 3px solid transparent;
  }
  a.active {
    color: var(--ink);
    font-weight: 650;
    border-bottom-color: var(--now);
  }
  b {
    font-size: 0.75rem;
    font-weight: 650;
    background: var(--usual1);
    color: var(--ink);
    border-radius: 8px;
    padding: 1px 8px;
  }
  b[data-open] {
    background: var(--warning-paper);
    color: var(--warning);
  }
`;

const Frame = styled.div`
  display: grid;
  grid-template: auto minmax(0, 1fr) / minmax(0, 1fr);
  min-width: 0;
  min-height: 0;
  height: 100%;
  > header {
    display: flex;
    align-items: end;
    gap: 20px;
    padding: 0 26px;
    background: var(--sheet);
    border-bottom: 1px solid var(--line);
    min-width: 0;
    h1 {
      font-size: 1.25rem;
      font-weight: 720;
      line-height: 3rem;
    }
    ${phone} {
      padding: 0 12px;
      gap: 8px;
      flex-wrap: wrap;
    }
  }
`;

export const Main = styled.main`
  overflow: auto;
  min-width: 0;
  padding: 18px 26px 40px;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 16px;
  align-content: start;
  ${phone} {
    padding: 14px 12px 32px;
  }
`;

export const Card = styled.section`
  background: var(--sheet);
  border: 1px solid var(--line);
  border-radius: 12px;
  padding: 14px 18px 16px;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 10px;
  min-width: 0;
  p {
    font-size: 0.875rem;
    max-width: 76ch;
  }
`;

/** A table that people read: words to the left, figures to the right. */
export const ListTable = styled(Table)`
  border-collapse: collapse;
  width: 100%;
  font-size: 0.875rem;
  th {
    text-align: left;
    font-size: 0.78125rem;
    font-weight: 600;
    color: var(--soft);
    padding: 6px 10px;
    white-space: nowrap;
  }
  td {
    padding: 6px 10px;
    border-top: 1px solid var(--hair);
    vertical-align: top;
  }
  td a {
    display: inline-block;
    min-height: 2rem;
    line-height: 2rem;
    white-space: nowrap;
  }
  [data-number] {
    text-align: right;
    white-space: nowrap;
    font-variant-numeric: tabular-nums;
  }
  [data-outcome='aborted'],
  [data-weight='caution'] {
    color: var(--caution);
    font-weight: 650;
  }
  [data-weight='warning'] {
    color: var(--warning);
    font-weight: 650;
  }
`;

/** Lets a wide table scroll inside its card, reached with the keyboard too. */
export function Wide({ label, children }: { label: string; children: ReactNode }) {
  return (
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex
    <div style={{ overflowX: 'auto', minWidth: 0 }} tabIndex={0} role="region" aria-label={label}>
      {children}
    </div>
  );
}

/** What happened: by tail, by run, by person, and what others recorded. */
export function LogView() {
  const mayOversee = useMay('oversee');
  const mayBring = useMay('release');
  return (
    <Frame>
      <header>
        <h1>Log</h1>
        <Tabs aria-label="Log">
          <NavLink to="/log/tails">Tails</NavLink>
          <NavLink to="/log/runs">Runs</NavLink>
          <NavLink to="/log/me">My own</NavLink>
          {mayOversee && <NavLink to="/log/people">People</NavLink>}
          <NavLink to="/log/recording">Read a recording</NavLink>
          {mayBring && <NavLink to="/log/past">Bring a past along</NavLink>}
        </Tabs>
      </header>
      <Outlet />
    </Frame>
  );
}
