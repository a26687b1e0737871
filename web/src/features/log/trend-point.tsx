import type { TrendsMessage } from '@rouse/core/contract';
import { CIRCUMSTANCES, type Circumstance, type SignTrend } from '@rouse/core/trends';
import { useState } from 'react';
import { Link } from 'react-router';
import styled from 'styled-components';
import { useChangeMutation, useMay } from '../../app/session-data.ts';
import { mono } from '../../app/theme.ts';
import { buttonLook, Button } from '../../ui/button.tsx';
import { Field, Form } from '../../ui/form.tsx';
import { dayAndTime } from '../../ui/words.ts';

const Box = styled.section`
  background: var(--sheet);
  border: 1px solid var(--line);
  border-radius: 10px;
  padding: 10px 14px;
  display: grid;
  gap: 4px;
  align-content: start;
  overflow: auto;
  min-height: 0;
  dl {
    display: grid;
  }
  dl div {
    display: flex;
    justify-content: space-between;
    gap: 12px;
    border-top: 1px solid var(--hair);
    padding: 3px 0;
    font-size: 0.875rem;
  }
  dd {
    margin: 0;
    ${mono}
    font-weight: 650;
    white-space: nowrap;
  }
  nav {
    display: flex;
    gap: 8px;
    margin-top: 6px;
  }
  nav a {
    ${buttonLook}
    flex: 1;
  }
`;

/** One start of the drawing: what was read, what the day took off, and the way to its run. */
export function TrendPoint({ message, trend, run }: { message: TrendsMessage; trend: SignTrend; run: string }) {
  const mayChoose = useMay('release');
  const [asking, setAsking] = useState(false);
  const [change, { error }] = useChangeMutation();
  const at = trend.points.findIndex((p) => p.run === run);
  const point = trend.points[at] ?? trend.points.at(-1);
  if (!point) return <Box>Nothing to choose yet.</Box>;
  const { sign, corrections } = trend;
  const out = message.leftOut.find((l) => l.run === point.run);
  const say = (value: number): string => `${value.toFixed(Math.max(1, sign.decimals))} ${sign.unit}`;
  return (
    <Box aria-label="The point you chose">
      <b>
        Start {(at < 0 ? trend.points.length - 1 : at) + 1} · {dayAndTime(point.at)}
      </b>
      <dl>
        <div>
          <dt>As read</dt>
          <dd>{say(point.raw)}</dd>
        </div>
        <div>
          <dt>Corrected</dt>
          <dd>{say(point.value)}</dd>
        </div>
        {corrections.map((c) => (
          <Circumstances key={c.circumstance} of={c.circumstance} value={point.day[c.circumstance]} slope={c.slope} unit={sign.unit} />
        ))}
      </dl>
      {out && <p>Left out by {out.by}: “{out.reason}”</p>}
      <nav aria-label="This start">
        <Link to={`/debrief/${point.run}`}>Open the run</Link>
        {mayChoose && !asking && <Button onPress={() => setAsking(true)}>{out ? 'Count it again' : 'Leave out'}</Button>}
      </nav>
      {asking && (
        <Form
          label={out ? 'Count it again' : 'Leave out'}
          error={error}
          onSubmit={async (typed) => {
            const answer = await change({ method: 'POST', path: `/runs/${point.run}/trend-choice`, body: { leftOut: !out, reason: typed.text('reason') } });
            if (!answer.error) setAsking(false);
          }}
        >
          <Field name="reason" label="Why" width={22} required maxLength={500} autoFocus />
          <Button type="submit">{out ? 'Count it' : 'Leave it out'}</Button>
        </Form>
      )}
    </Box>
  );
} // oxfmt-ignore

function Circumstances({ of, value, slope, unit }: { of: Circumstance; value: number | null; slope: number; unit: string }) {
  const { words, unit: its } = CIRCUMSTANCES[of];
  const each = `${slope > 0 ? '+' : ''}${slope.toPrecision(2)} ${unit} each`;
  return (
    <div>
      <dt>{words[0]!.toUpperCase() + words.slice(1)}</dt>
      <dd title={each}>{value === null ? '–' : `${value.toFixed(of === 'crankVolts_V' ? 1 : 0)} ${its}`}</dd>
    </div>
  );
} // oxfmt-ignore
