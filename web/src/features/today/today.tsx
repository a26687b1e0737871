import type { AircraftToday, Today } from '@rouse/core/contract';
import { useNavigate } from 'react-router';
import styled from 'styled-components';
import { troubleIn, useTodayQuery } from '../../app/server-data.ts';
import { upright } from '../../app/theme.ts';
import { PrimaryButton } from '../../ui/button.tsx';
import { Aid, PREVAILS, Small } from '../../ui/heading.ts';
import { RunList } from '../../ui/run-list.tsx';
import { StandInConditions } from './stand-in-conditions.tsx';

const Page = styled.main`
  overflow: auto;
  padding: 22px 26px;
  display: grid;
  gap: 22px;
  align-content: start;
`;

const Columns = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
  gap: 24px;
  align-items: start;
  ${upright} {
    grid-template-columns: minmax(0, 1fr);
  }
`;

const Card = styled.section`
  background: var(--sheet);
  border: 1px solid var(--line);
  border-radius: 14px;
  padding: 18px 20px;
  display: grid;
  gap: 14px;
`;

const Tail = styled.div`
  display: flex;
  gap: 16px;
  align-items: center;
  flex-wrap: wrap;
  h2 {
    font-size: 26px;
    font-weight: 720;
    line-height: 1.1;
  }
  p {
    color: var(--soft);
    font-size: 13.5px;
  }
  > :last-child {
    margin-left: auto;
    min-width: 120px;
  }
`;

const Facts = styled.dl`
  display: flex;
  gap: 28px;
  flex-wrap: wrap;
  dt {
    font-size: 12.5px;
    color: var(--soft);
  }
  dd {
    margin: 0;
    font-weight: 600;
  }
`;

const Stack = styled.div`
  display: grid;
  gap: 14px;
`;

const LATEST = 4;

/** Aircraft with an open run first, then those that a device is wired to, the best known of them first, then by tail. */
function openFirst(a: AircraftToday, b: AircraftToday): number {
  return (
    Number(b.openRun !== null) - Number(a.openRun !== null) ||
    Number(b.wired) - Number(a.wired) ||
    (b.goodStarts ?? 0) - (a.goodStarts ?? 0) ||
    a.tail.localeCompare(b.tail)
  );
}

const Alert = styled.p`
  background: var(--warning-paper);
  color: var(--warning);
  border-radius: 8px;
  padding: 10px 12px;
`;

export function TodayView() {
  // the device may come or go while the page is open
  const { data: today, error } = useTodayQuery(undefined, { pollingInterval: 3000 });
  const failure = troubleIn(error);

  return (
    <Page>
      <title>Today · Rouse</title>
      <header>
        <h1>Today</h1>
        {today && (
          <Aid>
            {today.operator.name} · {today.operator.place} · {today.person.name}, {today.person.role}
          </Aid>
        )}
      </header>
      {failure !== null && <Alert role="alert">{failure}</Alert>}
      {!today && failure === null && <p role="status">Reading the fleet…</p>}
      {today && (
        <Columns>
          <Stack>
            {today.aircraft.toSorted(openFirst).map((a) => (
              <Aircraft key={a.aircraft} aircraft={a} today={today} />
            ))}
          </Stack>
          <StandInConditions fleet={today.aircraft} />
        </Columns>
      )}
      <Aid>{PREVAILS}</Aid>
    </Page>
  );
}

function Aircraft({ aircraft, today }: { aircraft: AircraftToday; today: Today }) {
  const navigate = useNavigate();
  const { openRun } = aircraft;
  const [first] = today.aircraft.toSorted(openFirst);
  return (
    <Card aria-label={aircraft.tail}>
      <Tail>
        <div>
          <h2>{aircraft.tail}</h2>
          <p>
            {aircraft.type.name} · {aircraft.pad}
          </p>
        </div>
        <PrimaryButton
          autoFocus={aircraft === first}
          onPress={() => void navigate(openRun ? `/start/${openRun}` : `/brief/${aircraft.aircraft}`)}
        >
          {openRun ? 'Continue the open run' : 'Brief'}
        </PrimaryButton>
      </Tail>
      <Facts>
        <div>
          <dt>Data line</dt>
          <dd>
            {!aircraft.wired
              ? 'by hand'
              : aircraft.standIn?.preset
                ? 'stand-in, simulated'
                : aircraft.standIn?.connected
                  ? 'connected'
                  : 'nothing connected'}
          </dd>
        </div>
        {aircraft.goodStarts !== null && (
          <div>
            <dt>Habit learned from</dt>
            <dd>{aircraft.goodStarts} good starts</dd>
          </div>
        )}
        <div>
          <dt>Booked</dt>
          <dd>
            {aircraft.booked.starts} starts, {Math.floor(aircraft.booked.running_s / 3600)} engine hours
          </dd>
        </div>
        <div>
          <dt>Open exceedances</dt>
          <dd>{aircraft.openExceedances === 0 ? 'none' : aircraft.openExceedances}</dd>
        </div>
      </Facts>
      {aircraft.recent.length > 0 && (
        <div>
          <Small>Latest runs</Small>
          <RunList runs={aircraft.recent.slice(0, LATEST)} />
        </div>
      )}
    </Card>
  );
}
