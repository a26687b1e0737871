import type { AircraftToday, Today } from '@rouse/core/contract';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import styled from 'styled-components';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { upright } from '../../app/theme.ts';
import { loadToday } from '../../app/today-slice.ts';
import { ApiRefusal, postJson } from '../../platform/api.ts';
import { PrimaryButton } from '../../parts/button.tsx';
import { Aid, PREVAILS, Small } from '../../parts/heading.ts';
import { RunList } from '../../parts/run-list.tsx';
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

const Alert = styled.p`
  background: var(--warning-paper);
  color: var(--warning);
  border-radius: 8px;
  padding: 10px 12px;
`;

export function TodayView() {
  const dispatch = useAppDispatch();
  const { today, failure } = useAppSelector((s) => s.today);
  useEffect(() => {
    void dispatch(loadToday());
    // the device may come or go while the page is open
    const timer = window.setInterval(() => void dispatch(loadToday()), 3000);
    return () => window.clearInterval(timer);
  }, [dispatch]);

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
          <div>
            {today.aircraft.map((a) => (
              <Aircraft key={a.aircraft} aircraft={a} today={today} />
            ))}
          </div>
          <StandInConditions standIn={today.standIn} locked={today.aircraft.some((a) => a.openRun !== null)} />
        </Columns>
      )}
      <Aid>{PREVAILS}</Aid>
    </Page>
  );
}

function Aircraft({ aircraft, today }: { aircraft: AircraftToday; today: Today }) {
  const navigate = useNavigate();
  const [refusal, setRefusal] = useState<string | null>(null);
  const begin = async (): Promise<void> => {
    try {
      const { run } = await postJson<{ run: string }>('/runs', { aircraft: aircraft.aircraft });
      await navigate(`/start/${run}`);
    } catch (error) {
      if (!(error instanceof ApiRefusal)) throw error;
      setRefusal(`${error.message} ${error.remedy}`);
    }
  };
  const { openRun } = aircraft;
  return (
    <Card aria-label={aircraft.tail}>
      <Tail>
        <div>
          <h2>{aircraft.tail}</h2>
          <p>
            {aircraft.type.name} · {aircraft.pad}
          </p>
        </div>
        {openRun ? (
          <PrimaryButton autoFocus onPress={() => void navigate(`/start/${openRun}`)}>
            Continue the open run
          </PrimaryButton>
        ) : (
          <PrimaryButton autoFocus onPress={() => void begin()}>
            Begin a run
          </PrimaryButton>
        )}
      </Tail>
      {refusal !== null && <Alert role="alert">{refusal}</Alert>}
      <Facts>
        <div>
          <dt>Data line</dt>
          <dd>
            {today.standIn.connected
              ? today.standIn.preset
                ? 'stand-in connected, simulated'
                : 'connected'
              : 'nothing connected'}
          </dd>
        </div>
        <div>
          <dt>Habit learned from</dt>
          <dd>{aircraft.goodStarts} good starts</dd>
        </div>
        <div>
          <dt>Open exceedances</dt>
          <dd>{aircraft.openExceedances === 0 ? 'none' : aircraft.openExceedances}</dd>
        </div>
      </Facts>
      <div>
        <Small>Latest runs</Small>
        <RunList runs={aircraft.recent.slice(0, 8)} />
      </div>
    </Card>
  );
}
