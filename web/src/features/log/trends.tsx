import type { TrendsMessage } from '@rouse/core/contract';
import type { SignTrend } from '@rouse/core/trends';
import { useState } from 'react';
import { useParams } from 'react-router';
import styled from 'styled-components';
import { useTrendsQuery } from '../../app/log-data.ts';
import { troubleIn } from '../../app/server-data.ts';
import { phone, upright } from '../../app/theme.ts';
import { Alert } from '../../ui/field-look.ts';
import { Aid, PREVAILS } from '../../ui/heading.ts';
import { Main } from './page.tsx';
import { SignDrawing } from './sign-drawing.tsx';
import { SignList } from './sign-list.tsx';
import { TrendMeaning } from './trend-meaning.tsx';
import { TrendPoint } from './trend-point.tsx';
import { TwoSigns } from './two-signs.tsx';

const Grid = styled.main`
  display: grid;
  grid-template: minmax(0, 1fr) 2.5rem / 18.5rem minmax(0, 1fr) 17.875rem;
  grid-template-areas: 'left mid right' 'foot foot foot';
  min-height: 0;
  min-width: 0;
  > footer {
    grid-area: foot;
    padding: 10px 20px;
    border-top: 1px solid var(--line);
  }
  ${upright} {
    grid-template: repeat(4, max-content) / minmax(0, 1fr);
    grid-template-areas: 'mid' 'right' 'left' 'foot';
    overflow: auto;
  }
`;

const Mid = styled.div`
  grid-area: mid;
  padding: 12px 16px;
  display: grid;
  grid-template: auto minmax(0, 7fr) minmax(0, 4fr) / minmax(0, 1fr) minmax(0, 1fr);
  gap: 8px 14px;
  min-height: 0;
  > :nth-child(1),
  > :nth-child(2) {
    grid-column: 1 / -1;
  }
  ${upright} {
    grid-template-rows: auto 23.75rem 16.875rem;
  }
  ${phone} {
    grid-template: auto 20rem 15rem auto / minmax(0, 1fr);
    padding: 10px 12px;
    > * {
      grid-column: 1;
    }
  }
`;

/** Where the figures of one tail go. */
export function TrendsView() {
  const { aircraft } = useParams();
  const { currentData: message, error } = useTrendsQuery(aircraft!);
  if (error) return <Main><Alert role="alert">{troubleIn(error)}</Alert></Main>; // oxfmt-ignore
  if (!message) return <Main><p role="status">Working out the trends…</p></Main>; // oxfmt-ignore
  return <TrendsOf key={message.aircraft} message={message} />;
}

function TrendsOf({ message }: { message: TrendsMessage }) {
  const { findings } = message.trends;
  const signs = message.trends.signs.filter((s) => s.points.length > 0);
  const [chosen, setChosen] = useState<string | null>(null);
  const [run, setRun] = useState<string | null>(null);
  const lead = findings[0]?.signs[0] ?? signs[0]?.sign.id;
  const trend = signs.find((s) => s.sign.id === (chosen ?? lead));
  if (!trend)
    return (
      <Main>
        <title>{`Trends of ${message.tail} · Rouse`}</title>
        <p role="status">Nothing was read on this tail yet. Its first start leaves the first figures.</p>
      </Main>
    );
  const first = trend.points[0]!.at;
  const point = run ?? trend.points.at(-1)!.run;
  const since = new Date(first).toLocaleDateString('en-GB', { month: 'short', year: 'numeric', timeZone: 'UTC' });
  return (
    <Grid>
      <title>{`Trends of ${message.tail} · Rouse`}</title>
      <SignList signs={signs} chosen={trend.sign.id} choose={setChosen} about={`${signs.length} signs since ${since}, corrected for the day`} />
      <Mid>
        <SignDrawing trend={trend} chosen={point} choose={setRun} />
        <TwoSigns first={trend} second={partnerOf(trend, signs, findings)} />
        <TrendPoint message={message} trend={trend} run={point} />
      </Mid>
      <TrendMeaning message={message} trend={trend} />
      <Aid as="footer">Rouse reads a pattern; it finds no fault. An engineer decides. {PREVAILS}</Aid>
    </Grid>
  );
} // oxfmt-ignore

/** The sign that says most beside another one: of the same finding, else of the same part, else the next. */
function partnerOf(trend: SignTrend, signs: readonly SignTrend[], findings: TrendsMessage['trends']['findings']): SignTrend {
  const others = signs.filter((s) => s.sign.id !== trend.sign.id);
  const together = findings.find((f) => f.signs.includes(trend.sign.id))?.signs ?? [];
  return (
    others.find((s) => together.includes(s.sign.id)) ??
    others.find((s) => s.sign.part === trend.sign.part && s.sign.engine === trend.sign.engine) ??
    others[0] ??
    trend
  );
} // oxfmt-ignore
