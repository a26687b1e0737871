import { ChevronUp } from 'lucide-react';
import { lazy, Suspense, useState } from 'react';
import styled from 'styled-components';
import { troubleIn, useTodayQuery } from '../../app/server-data.ts';
import { useMay } from '../../app/session-data.ts';
import { phone, upright } from '../../app/theme.ts';
import { Alert, inputLook } from '../../ui/field-look.ts';
import { Aid, PREVAILS } from '../../ui/heading.ts';
import { AircraftRow, COLUMNS } from './aircraft-row.tsx';
import { DueDrills } from './due-drills.tsx';
import { byAttention } from './attention.ts';
import { mainSite, SiteBar } from './site-bar.tsx';

const StandInConditions = lazy(async () => ({
  default: (await import('./stand-in-conditions.tsx')).StandInConditions,
}));

/** the fleet is asked for again so often, s */
const AGAIN_s = 3;

const Page = styled.main`
  display: grid;
  grid-template: auto minmax(0, 1fr) auto / minmax(0, 1fr);
  height: 100%;
  min-height: 0;
  min-width: 0;
  ${upright} {
    display: block;
    overflow: auto;
  }
`;

const Board = styled.div`
  overflow: auto;
  min-height: 0;
  min-width: 0;
  ${upright} {
    overflow: visible;
  }
`;

const Head = styled.div`
  display: grid;
  grid-template-columns: ${COLUMNS};
  gap: 0 14px;
  padding: 6px 18px;
  font-size: 0.78125rem;
  color: var(--soft);
  border-bottom: 1px solid var(--line);
  background: var(--paper);
  position: sticky;
  top: 0;
  z-index: 1;
  ${upright} {
    display: none;
  }
`;

const Foot = styled.footer`
  display: flex;
  align-items: center;
  gap: 18px;
  padding: 4px 18px;
  border-top: 1px solid var(--line);
  background: var(--paper);
  min-height: 2.5rem;
  ${inputLook}
  > p {
    margin-right: auto;
  }
  ${upright} {
    flex-wrap: wrap;
    padding: 10px 12px;
  }
`;

const Drawer = styled.details`
  position: relative;
  > summary {
    display: flex;
    gap: 8px;
    align-items: center;
    list-style: none;
    cursor: pointer;
    border: 2px dashed var(--limit-edge);
    border-bottom: 0;
    border-radius: 12px 12px 0 0;
    background: var(--band1);
    color: var(--limit-ink);
    font-size: 0.84375rem;
    font-weight: 620;
    padding: 6px 14px;
    min-height: 2.5rem;
    white-space: nowrap;
  }
  > div {
    position: absolute;
    right: 0;
    bottom: 100%;
    width: min(28.75rem, 92vw);
    max-height: min(70vh, 38.75rem);
    overflow: auto;
    background: var(--sheet);
    border: 2px dashed var(--limit-edge);
    border-radius: 12px;
    box-shadow: 0 10px 34px rgb(0 0 0 / 22%);
    z-index: 3;
  }
  ${phone} {
    > div {
      position: static;
      width: auto;
      max-height: none;
    }
  }
`;

/** so many amber edges, and the board has lost its calm */
const MOST_EDGES = 3;
/** a filter is offered to a fleet that does not fit on a screen */
const FILTER_FROM = 9;

/** The fleet at a glance: one weather report a site, one row an aircraft, what wants attention first. */
export function TodayView() {
  // the device may come or go while the page is open
  const { data: today, error } = useTodayQuery(undefined, { pollingInterval: 1000 * AGAIN_s, refetchOnMountOrArgChange: AGAIN_s });
  const mayRelease = useMay('release');
  const [chosenSite, setChosenSite] = useState<string | null>(null);
  const [filter, setFilter] = useState('');
  const [drawn, setDrawn] = useState(false);
  const failure = troubleIn(error);
  if (!today)
    return (
      <Page>
        <title>Today · Rouse</title>
        {failure === null ? <p role="status" style={{ padding: 24 }}>Reading the fleet…</p> : <Alert role="alert" style={{ padding: 24 }}>{failure}</Alert>}
      </Page>
    ); // oxfmt-ignore
  const site = today.sites.find((s) => s.site === (chosenSite ?? mainSite(today))) ?? today.sites[0];
  const wanted = filter.trim().toLowerCase();
  const rows = byAttention(today, mayRelease).filter(
    ({ aircraft: a }) => wanted === '' || `${a.tail} ${a.type.name} ${a.pad}`.toLowerCase().includes(wanted),
  );
  const cautions = rows.filter((r) => r.attention.weight === 'caution').slice(0, MOST_EDGES);
  const wired = today.aircraft.filter((a) => a.standIn !== null).length;
  return (
    <Page>
      <title>Today · Rouse</title>
      {site && <SiteBar today={today} site={site} choose={setChosenSite} />}
      {/* oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex */}
      <Board tabIndex={0} role="region" aria-label="The fleet">
        <Head aria-hidden>
          <span>Aircraft</span>
          <span>Now</span>
          <span>Today allows, at its usual load</span>
          <span>Ready if begun</span>
          <span>Last starts, newest ringed</span>
          <span>What holds it</span>
        </Head>
        {failure !== null && <Alert role="alert" style={{ padding: '8px 18px' }}>{failure}</Alert>}
        {today.aircraft.length === 0 && <p style={{ padding: 18 }}>There is no aircraft yet. Set up has a place for it.</p>}
        {today.aircraft.length > 0 && rows.length === 0 && <p style={{ padding: 18 }}>No aircraft is like that.</p>}
        {rows.map((row, i) => (
          <AircraftRow
            key={row.aircraft.aircraft}
            aircraft={row.aircraft}
            attention={row.attention}
            edge={row.attention.weight !== 'caution' || cautions.includes(row)}
            now={today.now}
            first={i === 0}
          />
        ))}
      </Board>
      <Foot>
        <Aid>Sorted by what wants attention. {PREVAILS}</Aid>
        <DueDrills />
        {today.aircraft.length >= FILTER_FROM && (
          <input type="search" aria-label="Find an aircraft" placeholder="tail, type or pad" value={filter} onChange={(e) => setFilter(e.target.value)} />
        )}
        {wired > 0 && (
          <Drawer onToggle={(e) => setDrawn(e.currentTarget.open)}>
            <summary>
              <ChevronUp size={16} aria-hidden /> Stand-in, {wired === 1 ? 'one device' : `${wired} devices`}, simulated
            </summary>
            <div>
              {drawn && (
                <Suspense fallback={<p role="status">Opening…</p>}>
                  <StandInConditions fleet={today.aircraft} />
                </Suspense>
              )}
            </div>
          </Drawer>
        )}
      </Foot>
    </Page>
  );
} // oxfmt-ignore
