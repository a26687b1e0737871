import { useState } from 'react';
import { useParams } from 'react-router';
import styled from 'styled-components';
import { mono, phone, upright } from '../../app/theme.ts';
import { SlimButton } from '../../ui/button.tsx';
import { AircraftSwitch } from '../../app/aircraft-switch.tsx';
import { ApiRefusal, postForFile } from '../../platform/api.ts';
import { saveFile } from '../../platform/save-file.ts';
import { Columns, PageHead } from '../../ui/columns.ts';
import { Aid } from '../../ui/heading.ts';
import { useUnits } from '../../ui/units.ts';
import { minutes } from '../../ui/words.ts';
import { WhatIsMissing } from './computed-figure.tsx';
import { Day } from './day.tsx';
import { type BriefDesk, useBriefDesk } from './desk.ts';
import { EnvelopeDrawing } from './envelope-drawing.tsx';
import { Load } from './load.tsx';
import { Plan } from './plan.tsx';
import { WaitsDrawing } from './waits-drawing.tsx';
import { Declared, UnitsRow, Ways } from './ways.tsx';
import { WeightDrawing } from './weight-drawing.tsx';
import { WindDrawing } from './wind-drawing.tsx';

const Grid = styled(Columns)`
  --right: 18.5rem;
  --foot: 2.75rem;
  ${upright} {
    --right: 20rem;
  }
`;

const Head = styled(PageHead)`
  p {
    font-size: 0.78125rem;
    white-space: nowrap;
  }
  > :nth-child(2) {
    flex: 1;
    white-space: normal;
    font-size: 0.875rem;
  }
  > :last-child {
    text-align: right;
    b {
      ${mono}
      font-size: 1.5rem;
      font-weight: 700;
      line-height: 1.1;
    }
  }
  ${phone} {
    flex-wrap: wrap;
    gap: 4px 22px;
    > :nth-child(2) {
      order: 3;
      flex: 1 0 100%;
    }
    > :last-child {
      margin-left: auto;
    }
    > :last-child p {
      white-space: normal;
    }
  }
`;

const Left = styled.div`
  grid-area: left;
  border-right: 1px solid var(--line);
  background: var(--sheet);
  padding: 14px 18px;
  display: flex;
  flex-direction: column;
  gap: 16px;
  overflow: auto;
  ${upright} {
    overflow: visible;
  }
`;

const Mid = styled.div`
  grid-area: mid;
  padding: 12px 16px;
  display: grid;
  grid-template: minmax(13.75rem, 5fr) minmax(12.5rem, 4fr) minmax(8.125rem, 3fr) / minmax(0, 1fr) minmax(0, 1fr);
  gap: 10px 14px;
  min-height: 0;
  overflow: auto;
  > :nth-child(1),
  > :nth-child(4) {
    grid-column: 1 / -1;
  }
  ${upright} {
    grid-template-rows: 17.5rem 16.25rem 13.75rem;
    border-top: 1px solid var(--line);
    overflow: visible;
    min-height: auto;
  }
  ${phone} {
    grid-template: 17.5rem 17.5rem 17.5rem 15rem / minmax(0, 1fr);
    > * {
      grid-column: 1;
    }
  }
`;

const Foot = styled.footer`
  grid-area: foot;
  border-top: 1px solid var(--line);
  background: var(--rail);
  color: var(--rail-ink);
  display: flex;
  align-items: center;
  gap: 16px;
  padding: 0 20px;
  font-size: 0.875rem;
  > :first-child {
    flex: 1;
  }
  > button {
    color: var(--ink);
  }
  ${upright} {
    padding: 10px 16px;
  }
`;

const Message = styled.main`
  padding: 40px;
  display: grid;
  gap: 10px;
  align-content: center;
  justify-items: start;
`;

/** The brief of one aircraft: the day, the load and the ways of working in; what today allows, and the plan, out. */
export function BriefView() {
  const { aircraft } = useParams();
  return <BriefOf key={aircraft} aircraft={aircraft!} />;
}

function BriefOf({ aircraft }: { aircraft: string }) {
  const { desk, failure } = useBriefDesk(aircraft);
  if (failure !== null)
    return (
      <Message>
        <h1>The brief cannot be opened</h1>
        <p role="alert">{failure}</p>
      </Message>
    );
  if (!desk) return <Message role="status">Reading record and place…</Message>;
  const { context, brief } = desk;
  return (
    <Grid>
      <title>{`Brief ${context.tail} · Rouse`}</title>
      <Head>
        <div>
          <h1>
            <AircraftSwitch aircraft={aircraft} tail={context.tail} to={(a) => `/brief/${a}`} />
          </h1>
          <p>
            {context.type.name} · {context.pad}
          </p>
        </div>
        <Aid>Brief for the next start. The approved flight manual, local rules and licensed people come first.</Aid>
        <div>
          <b>{readyAt(desk)}</b>
          <p>
            ready if begun now · {minutes(brief.schedule.ready_s)}
            {brief.schedule.p80_s !== null && `, four times in five by ${minutes(brief.schedule.p80_s)}`}
          </p>
        </div>
      </Head>
      <Left>
        <WhatIsMissing brief={brief} />
        <Day desk={desk} />
        <Load desk={desk} />
        <Ways desk={desk} />
        <Declared desk={desk} />
        <UnitsRow />
      </Left>
      <Mid>
        <WeightDrawing desk={desk} />
        <WindDrawing desk={desk} />
        <EnvelopeDrawing desk={desk} />
        <WaitsDrawing desk={desk} />
      </Mid>
      <Plan desk={desk} aircraft={aircraft} />
      <Computed desk={desk} aircraft={aircraft} />
    </Grid>
  );
}

function readyAt({ context, brief }: BriefDesk): string {
  const at = new Date(Date.parse(context.now) + brief.schedule.ready_s * 1000);
  return at.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
}

function Computed({ desk, aircraft }: { desk: BriefDesk; aircraft: string }) {
  const [refused, setRefused] = useState<string | null>(null);
  const carry = async (): Promise<void> => {
    const { tail, now } = desk.context;
    try {
      saveFile(
        await postForFile(`/aircraft/${aircraft}/brief.pdf`, desk.input),
        `${tail}-brief-${now.slice(0, 10)}.pdf`,
      );
      setRefused(null);
    } catch (error) {
      setRefused(error instanceof ApiRefusal ? `${error.message} ${error.remedy}` : String(error));
    }
  };
  const { show } = useUnits();
  const { context, input, clear } = desk;
  const from = input.observedAt === null ? 'what was entered' : `the day of ${input.observedAt.slice(11, 16)} Z`;
  return (
    <Foot>
      <span>
        Computed {context.now.slice(11, 16)} Z from {from}, {show(context.site.elev_ft, 'height', 'ceil')} at{' '}
        {context.site.name}, chart edition {context.type.performance.chart.edition}. Rounded the safe way.
      </span>
      {refused && <span role="alert">{refused}</span>}
      <SlimButton onPress={() => void carry()}>Take it along (PDF)</SlimButton>
      <SlimButton onPress={clear}>Begin afresh</SlimButton>
    </Foot>
  );
}
