import { abortPlan, itemState, presentItem, readItem, type RunState } from '@rouse/core/procedure';
import styled from 'styled-components';
import { Aid, PREVAILS } from '../../parts/heading.ts';
import { nextTry } from '@rouse/core/watch';
import { useAppSelector } from '../../app/store.ts';
import { minutes, stopwatch } from '../../parts/words.ts';
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
  padding: 18px 24px;
  h2 {
    font-size: 34px;
    font-weight: 750;
    line-height: 1.1;
  }
  p {
    font-size: 18px;
    margin-top: 6px;
    color: var(--ink);
  }
`;

const Actions = styled.ol`
  padding: 8px 24px;
  li {
    display: grid;
    grid-template-columns: 34px minmax(0, 1fr) auto;
    gap: 12px;
    align-items: baseline;
    padding: 13px 0;
    border-bottom: 1px solid var(--hair);
    font-size: 24px;
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
    font-size: 15px;
    font-weight: 450;
    color: var(--soft);
  }
  span:last-child {
    font-size: 15px;
    font-weight: 500;
    color: var(--soft);
    text-align: right;
  }
`;

const After = styled.p`
  padding: 6px 24px 12px;
  font-size: 15.5px;
  ul {
    margin: 4px 0 0;
    padding-left: 20px;
    color: var(--soft);
  }
`;

/** how far before the abort an exceedance still belongs to this start */
const LOOK_BACK_S = 60;

const MARKS = { todo: '', done: '✓', fault: '!', skipped: '–' } as const;

/** The abort takes the whole middle: the reason with its figure, then the type's own actions. */
export function AbortPanel({
  followed: { type, state, entries },
  abort,
}: {
  followed: FollowedRun;
  abort: NonNullable<RunState['abort']>;
}) {
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
      <Another plan={plan} followed={{ type, state, entries }} abort={abort} />
      <After>
        <Aid as="span">{PREVAILS}</Aid>
      </After>
    </Panel>
  );
}

/** What must be over, or looked at, before another try. */
function Another({
  plan,
  followed: { type, entries },
  abort,
}: {
  plan: NonNullable<ReturnType<typeof abortPlan>>;
  followed: Pick<FollowedRun, 'type' | 'state' | 'entries'>;
  abort: NonNullable<RunState['abort']>;
}) {
  const status = useAppSelector((s) => s.run.status);
  const at = type.startWatches.findIndex((w) => w.id === abort.watch);
  const passed = entries.filter((e) => e.kind === 'exceedance').filter((e) => e.end_s >= abort.t_s - LOOK_BACK_S);
  const { words, rest_s, inspect, verdict } = nextTry(plan, status?.watch?.starts[at] ?? null, passed);
  return (
    <After data-next={verdict} as="div">
      <b>{words}</b>
      {rest_s > 0 && <p>Starter: {minutes(Math.ceil(rest_s))} of rest still due.</p>}
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
