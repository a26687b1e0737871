import { abortPlan, anotherTry, itemState, presentItem, readItem, type RunState } from '@rouse/core/procedure';
import type { GateSnapshot } from '@rouse/core/watch';
import styled from 'styled-components';
import { mono } from '../../app/theme.ts';
import { Aid, PREVAILS } from '../../ui/heading.ts';
import { useAppSelector } from '../../app/store.ts';
import { minutes, stopwatch } from '../../ui/words.ts';
import { usePulse } from '../../platform/pulse.ts';
import { ring } from '../../run/frame-ring.ts';
import type { FollowedRun } from '../../run/run-slice.ts';

const Panel = styled.div`
  grid-row: 1 / -1;
  border: 3px solid var(--warning);
  border-radius: 14px;
  background: var(--sheet);
  display: flex;
  flex-direction: column;
  overflow: auto;
`;

const Reason = styled.header`
  background: var(--warning-paper);
  color: var(--warning);
  padding: 18px min(24px, 4cqi);
  h2 {
    font-size: min(2.125rem, 9cqi);
    font-weight: 750;
    line-height: 1.1;
  }
  p {
    font-size: min(1.125rem, 6cqi);
    margin-top: 6px;
    color: var(--ink);
  }
`;

const Actions = styled.ol`
  padding: 8px min(24px, 4cqi);
  li {
    display: grid;
    grid-template-columns: min(2.125rem, 34px) minmax(0, 1fr) auto;
    gap: 12px;
    align-items: baseline;
    padding: 13px 0;
    border-bottom: 1px solid var(--hair);
    font-size: min(1.5rem, 8cqi);
    font-weight: 640;
  }
  li[data-status='done'] {
    color: var(--soft);
    font-weight: 500;
  }
  li[data-now='true'] {
    color: var(--now);
  }
  small {
    display: block;
    font-size: 0.9375rem;
    font-weight: 450;
    color: var(--soft);
  }
  span:last-child {
    font-size: 0.9375rem;
    font-weight: 500;
    color: var(--soft);
    text-align: right;
  }
`;

const After = styled.p`
  padding: 6px 24px 12px;
  font-size: 0.96875rem;
  ul {
    margin: 4px 0 0;
    padding-left: 20px;
    color: var(--soft);
  }
`;

const Waits = styled.ol`
  margin: 8px 0;
  max-width: 28.75rem;
  li {
    display: flex;
    justify-content: space-between;
    gap: 14px;
    padding: 5px 0;
    border-top: 1px solid var(--hair);
  }
  span {
    ${mono}
    text-align: right;
  }
  [data-verdict='false'] span,
  [data-verdict='unknown'] span,
  [data-rest] span {
    color: var(--caution);
    font-weight: 650;
  }
`;

const MARKS = { todo: '', done: '✓', fault: '!', skipped: '–' } as const;

/** The abort takes the whole middle: the reason with its figure, then the type's own actions. */
export function AbortPanel({ followed, abort }: { followed: FollowedRun; abort: NonNullable<RunState['abort']> }) {
  const { type, state } = followed;
  const now_ms = usePulse(200);
  const frame = ring.lastFrame(now_ms);
  const plan = abortPlan(type, state);
  const present = presentItem(type, state);
  if (!plan) return null;
  return (
    // it scrolls on a small screen, and must be reached there with the keyboard
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex
    <Panel data-abort={abort.reason} role="region" aria-label={plan.title} tabIndex={0}>
      <Reason>
        <h2>{plan.title}</h2>
        <p>{abort.text}</p>
        <p>at {stopwatch(abort.t_s)} of the run</p>
      </Reason>
      <Actions aria-label="Immediate actions">
        {plan.actions.map((item, i) => {
          const { status, words } = itemState(state, item.id);
          return (
            <li
              key={item.id}
              data-status={status}
              data-now={item === present}
              aria-current={item === present ? 'step' : undefined}
            >
              <span>{MARKS[status] || i + 1}</span>
              <span>
                {item.challenge} <small>{item.response}</small>
              </span>
              <span>{status === 'todo' ? (readItem(type, item, frame)?.words ?? '') : words}</span>
            </li>
          );
        })}
      </Actions>
      <After>{plan.afterwards}</After>
      <Another followed={followed} abort={abort} />
      <After>
        <Aid as="span">{PREVAILS}</Aid>
      </After>
    </Panel>
  );
}

/** What must be over, or looked at, before another try; what only takes time counts down. */
function Another({ followed, abort }: { followed: FollowedRun; abort: NonNullable<RunState['abort']> }) {
  const status = useAppSelector((s) => s.run.status);
  const { type, state, entries } = followed;
  const starts = status?.watch?.starts ?? null;
  const next = anotherTry(type, state, { entries, starts });
  if (!next) return null;
  const gates = starts?.find((s) => s.watch === abort.watch)?.gates.filter((g) => g.at === 'starter') ?? [];
  const { words, rest_s, triesLeft, inspect, verdict } = next;
  return (
    <After data-next={verdict} as="div">
      <b>{words}</b>
      <Waits>
        {rest_s > 0 && (
          <li data-rest>
            Starter rest <span>{minutes(Math.ceil(rest_s))} more</span>
          </li>
        )}
        {gates.map((g) => (
          <li key={g.id} data-gate={g.id} data-verdict={String(g.verdict)}>
            {g.label}, {g.words} <span>{sayGate(g)}</span>
          </li>
        ))}
        {triesLeft !== null && verdict !== 'after-inspection' && (
          <li>
            Tries before the long rest <span>{triesLeft}</span>
          </li>
        )}
      </Waits>
      {inspect.length > 0 && (
        <ul aria-label="Look at first">
          {inspect.map((what) => (
            <li key={what}>{what}</li>
          ))}
        </ul>
      )}
    </After>
  );
}

function sayGate({ verdict, reading, in_s }: GateSnapshot): string {
  if (verdict === true) return 'good';
  if (reading === null) return 'unknown';
  const now = `now ${reading}`.replaceAll(' ', '\u00A0');
  if (verdict === 'unknown') return `${now}, not judged yet`;
  return in_s !== null && in_s > 0 ? `${now}, in about ${minutes(in_s)}` : now;
}
