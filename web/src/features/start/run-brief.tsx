import { isAsked } from '@rouse/core/aircraft';
import { wayOf } from '@rouse/core/procedure';
import { useState } from 'react';
import { Link } from 'react-router';
import styled from 'styled-components';
import { mono, upright } from '../../app/theme.ts';
import { Button, SlimButton } from '../../ui/button.tsx';
import { Small } from '../../ui/heading.ts';
import { useUnits } from '../../ui/units.ts';
import type { FollowedRun } from '../../run/run-slice.ts';
import { write } from '../../run/write.ts';

const Column = styled.aside`
  grid-area: right;
  border-left: 1px solid var(--line);
  background: var(--sheet);
  padding: 12px 16px;
  overflow: auto;
  ${upright} {
    overflow: visible;
  }
  display: grid;
  gap: 14px;
  align-content: start;
  dl > div {
    display: flex;
    justify-content: space-between;
    gap: 10px;
    padding: 5px 0;
    border-top: 1px solid var(--hair);
    font-size: 0.875rem;
  }
  dd {
    margin: 0;
    text-align: right;
    font-weight: 620;
  }
  .figure {
    ${mono}
  }
  li {
    padding: 6px 0;
    border-top: 1px solid var(--hair);
    font-size: 0.84375rem;
  }
`;

const Words = styled.p`
  font-size: 0.84375rem;
  color: var(--soft);
  padding: 5px 0;
  border-top: 1px solid var(--hair);
`;

/** What this run took from its brief: the figures its readings are held against, and the ways of working. */
export function RunBrief({ followed: { type, state } }: { followed: FollowedRun }) {
  const { show } = useUnits();
  const { brief } = state;
  const [changing, setChanging] = useState<string | null>(null);
  const figures = brief
    ? ([
        ['Altimeter', brief.expected.altimeter, 'height'],
        ['Pressure setting', brief.expected['pressure-setting'], 'pressure'],
        ['Fuel', brief.expected.fuel, 'mass'],
        ['Weight at start', brief.expected.mass, 'mass'],
      ] as const)
    : [];
  return (
    <Column aria-label="The brief of this run">
      <section>
        <Small>Held against the brief</Small>
        <dl>
          {figures.map(([name, value, kind]) => (
            <div key={name}>
              <dt>{name}</dt>
              <dd className="figure">{value === null ? 'unknown' : show(value, kind)}</dd>
            </div>
          ))}
        </dl>
        {brief && <Words>{brief.words}</Words>}
      </section>
      {brief && brief.accepted.length > 0 && (
        <section>
          <Small>Gone on past, with a reason</Small>
          <ul>
            {brief.accepted.map((a) => (
              <li key={a.objection}>
                {a.words} “{a.reason}”
              </li>
            ))}
          </ul>
        </section>
      )}
      <section>
        <Small>Ways of working</Small>
        <dl>
          {type.choices.map((c) => {
            if (!isAsked(c, (other) => wayOf(type, state, other))) return null;
            const answer = wayOf(type, state, c.id);
            return (
              <div key={c.id}>
                <dt>{c.question}</dt>
                <dd>
                  {c.alternatives.find((a) => a.id === answer)?.label}{' '}
                  {!c.derived && state.status === 'open' && (
                    <SlimButton aria-label={`Change: ${c.question}`} onPress={() => setChanging(c.id)}>
                      Change
                    </SlimButton>
                  )}
                </dd>
              </div>
            );
          })}
        </dl>
      </section>
      {changing && <ChangeWay type={type} choice={changing} close={() => setChanging(null)} />}
      <Link to={`/types/${type.id}/${type.version}`}>The type, version {type.version}</Link>
    </Column>
  );
}

const Ask = styled.form`
  display: grid;
  gap: 8px;
  label {
    font-size: 0.875rem;
    font-weight: 650;
  }
  select,
  input {
    font: inherit;
    color: var(--ink);
    background: var(--sheet);
    border: 1.5px solid var(--button-line);
    border-radius: 8px;
    min-height: 3rem;
    width: 100%;
    padding: 6px 10px;
  }
`;

function ChangeWay({ type, choice, close }: { type: FollowedRun['type']; choice: string; close: () => void }) {
  const asked = type.choices.find((c) => c.id === choice)!;
  const [to, setTo] = useState(asked.alternatives[0]!.id);
  const [reason, setReason] = useState('');
  return (
    <Ask
      onSubmit={(event) => {
        event.preventDefault();
        if (!reason.trim()) return;
        void write({ kind: 'way-changed', choice, to, reason: reason.trim() }).then((ok) => ok && close());
      }}
    >
      <label>
        {asked.question}, for this run
        <select autoFocus value={to} onChange={(e) => setTo(e.target.value)}>
          {asked.alternatives.map((a) => (
            <option key={a.id} value={a.id}>
              {a.label}
            </option>
          ))}
        </select>
      </label>
      <label>
        Why?
        <input required value={reason} maxLength={500} onChange={(e) => setReason(e.target.value)} />
      </label>
      <Button type="submit">Change it</Button>
      <Button onPress={close}>Back</Button>
    </Ask>
  );
}
