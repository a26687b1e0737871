import type { TrendsMessage } from '@rouse/core/contract';
import { type Finding, MAINTENANCE, MAINTENANCE_WORDS, type SignTrend } from '@rouse/core/trends';
import { useState } from 'react';
import styled from 'styled-components';
import { useChangeMutation, useMay } from '../../app/session-data.ts';
import { phone, upright } from '../../app/theme.ts';
import { buttonLook, PrimaryButton } from '../../ui/button.tsx';
import { Choice, Field, Form } from '../../ui/form.tsx';
import { Small } from '../../ui/heading.ts';
import { courseWords } from './sign-list.tsx';
import { useThisMonth } from './this-month.ts';

const Column = styled.aside`
  grid-area: right;
  border-left: 1px solid var(--line);
  background: var(--sheet);
  padding: 14px 16px;
  display: grid;
  gap: 12px;
  align-content: start;
  overflow: auto;
  strong {
    font-size: 1.125rem;
    font-weight: 680;
    line-height: 1.25;
  }
  p {
    font-size: 0.875rem;
  }
  ol {
    counter-reset: look;
  }
  ol li {
    counter-increment: look;
    display: grid;
    grid-template-columns: 22px minmax(0, 1fr);
    padding: 7px 0;
    border-top: 1px solid var(--hair);
    font-size: 0.875rem;
  }
  ol li::before {
    content: counter(look);
    color: var(--now);
    font-weight: 700;
  }
  ol small {
    display: block;
    color: var(--soft);
    font-size: 0.8125rem;
  }
  > a {
    ${buttonLook}
  }
  ${upright} {
    border-left: 0;
    border-top: 1px solid var(--line);
    overflow: visible;
  }
  ${phone} {
    padding: 14px 12px;
  }
`;

/** What the signs say together, how sure that is, and what to look at first. */
export function TrendMeaning({ message, trend }: { message: TrendsMessage; trend: SignTrend }) {
  const { findings, signs } = message.trends;
  const finding = findings.find((f) => f.signs.includes(trend.sign.id)) ?? findings[0] ?? null;
  const mayMaintain = useMay('release');
  const [open, setOpen] = useState(false);
  const month = useThisMonth();
  return (
    <Column aria-label="What it means">
      <Small>What it means</Small>
      {finding ? <Found finding={finding} signs={signs} /> : <Nothing trend={trend} />}
      {mayMaintain && !open && <PrimaryButton onPress={() => setOpen(true)}>Mark maintenance</PrimaryButton>}
      {open && <Maintain aircraft={message.aircraft} done={() => setOpen(false)} />}
      <a href={`/api/aircraft/${message.aircraft}/month.pdf?month=${month}`} download>
        This month (PDF)
      </a>
    </Column>
  );
}

function Found({ finding, signs }: { finding: Finding; signs: readonly SignTrend[] }) {
  const moving = finding.signs.map((id) => signs.find((s) => s.sign.id === id)!);
  const [lead] = moving;
  const steady = signs.filter((s) => s.judged.course === 'steady').map((s) => s.sign.label);
  return (
    <>
      <strong>{finding.cause.words}</strong>
      {lead && <p>{reach(lead)}</p>}
      <Small as="h3">How sure</Small>
      <strong>{moving.length === 1 ? 'One sign says so' : `${moving.length} signs agree`}</strong>
      <p>
        {moving.map((m) => `${m.sign.label}: ${courseWords(m)}`).join('. ')}.
        {steady.length > 0 && ` Steady: ${steady.join(', ')}.`} A pattern is no fault found: look at it.
      </p>
      <Small as="h3">Look at first</Small>
      <ol>
        {finding.cause.lookAt.map(({ what, why }) => (
          <li key={what}>
            <span>
              {what}
              <small>{why}</small>
            </span>
          </li>
        ))}
      </ol>
    </>
  );
}

/** When it reaches its next limit, rounded the safe way, with the interval. */
function reach({ judged }: SignTrend): string {
  if (!judged.ahead) return 'No limit lies ahead of it.';
  const { forecast, limit } = judged.ahead;
  const soonest = Math.floor(forecast.lower ?? 0);
  if (forecast.status === 'AT_OR_BEYOND_LIMIT') return `It stands at its limit now (${limit.words}).`;
  if (forecast.status === 'FAR')
    return `It is more than ${soonest} starts from its limit (${limit.words}): too far to say more.`;
  if (forecast.status !== 'OK') return `When it meets its limit (${limit.words}) cannot be told yet.`;
  const latest = forecast.upper === null ? 'with no useful end' : `at the latest ${Math.ceil(forecast.upper)}`;
  return `It reaches its limit (${limit.words}) in ${soonest} starts at the soonest, about ${Math.floor(forecast.point!)}, ${latest}.`;
}

function Nothing({ trend }: { trend: SignTrend }) {
  const { judged, sign, points } = trend;
  const few = judged.course === 'too-few';
  return (
    <>
      <strong>{few ? `${sign.label}: too few to tell.` : 'Nothing drifts.'}</strong>
      <p>
        {few
          ? `Trends say nothing before 12 starts since the last maintenance; there are ${points.length - trend.segment}.`
          : 'Every sign that has enough starts is as it usually is on this tail.'}
      </p>
    </>
  );
}

/** An engineer writes down what was done: the signs that depend on it begin anew. */
function Maintain({ aircraft, done }: { aircraft: string; done: () => void }) {
  const [now] = useState(() => new Date().toISOString().slice(0, 16));
  const [change, { error }] = useChangeMutation();
  return (
    <Form
      label="Maintenance"
      error={error}
      onSubmit={async (typed) => {
        const day = typed.text('at');
        const at = day === '' ? '' : new Date(day).toISOString();
        const body = { kind: typed.text('kind'), words: typed.text('words'), at };
        const answer = await change({ method: 'POST', path: `/aircraft/${aircraft}/maintenance`, body });
        if (!answer.error) done();
      }}
    >
      <Choice name="kind" label="What was done" options={MAINTENANCE.map((value) => ({ value, label: MAINTENANCE_WORDS[value] }))} />
      <Field name="at" label="When" value={now} width={16} hint="year-month-dayThour:minute" required />
      <Field name="words" label="In words" width={26} required maxLength={2000} />
      <PrimaryButton type="submit">Book it</PrimaryButton>
    </Form>
  );
} // oxfmt-ignore
