import { NavLink, Outlet, useLocation, useParams } from 'react-router';
import styled from 'styled-components';
import { AircraftSwitch } from '../../app/aircraft-switch.tsx';
import { useLoggedTailsQuery } from '../../app/log-data.ts';
import { phone, upright } from '../../app/theme.ts';
import { Tabs } from './page.tsx';

const Frame = styled.div`
  display: grid;
  grid-template: auto minmax(0, 1fr) / minmax(0, 1fr);
  height: 100%;
  min-height: 0;
  min-width: 0;
`;

const Head = styled.header`
  display: flex;
  align-items: end;
  gap: 26px;
  padding: 6px 20px 0;
  background: var(--sheet);
  border-bottom: 1px solid var(--line);
  min-width: 0;
  > div {
    padding-bottom: 6px;
  }
  p {
    font-size: 0.8125rem;
    color: var(--soft);
    white-space: nowrap;
  }
  ${upright} {
    flex-wrap: wrap;
    gap: 0 20px;
  }
  ${phone} {
    padding: 6px 12px 0;
  }
`;

/** One tail: its runs, where its figures go, what was passed, its books. */
export function TailView() {
  const { aircraft } = useParams();
  const { pathname } = useLocation();
  const { data: tails } = useLoggedTailsQuery();
  const tail = tails?.find((t) => t.aircraft === aircraft);
  const place = pathname.split('/')[3] ?? 'trends';
  return (
    <Frame>
      <Head>
        <div>
          <h1>
            <AircraftSwitch aircraft={aircraft!} tail={tail?.tail ?? '…'} to={(id) => `/log/${id}/${place}`} />
          </h1>
          <p>{tail ? `${tail.type.name} · ${tail.pad}` : 'Reading the log…'}</p>
        </div>
        <Tabs aria-label={tail?.tail ?? 'Tail'}>
          <NavLink to={`/log/${aircraft}/runs`}>
            Runs {tail && <b>{tail.runs}</b>}
          </NavLink>
          <NavLink to={`/log/${aircraft}/trends`}>
            Trends {tail?.findings && tail.findings.length > 0 && <b>{tail.findings.length}</b>}
          </NavLink>
          <NavLink to={`/log/${aircraft}/exceedances`}>
            Exceedances {tail && <b data-open={tail.openExceedances > 0 || undefined}>{tail.openExceedances}</b>}
          </NavLink>
          <NavLink to={`/log/${aircraft}/books`}>Books</NavLink>
          <NavLink to="/log/tails">All tails</NavLink>
        </Tabs>
      </Head>
      <Outlet />
    </Frame>
  );
} // oxfmt-ignore
