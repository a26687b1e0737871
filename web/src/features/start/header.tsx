import { noGoFaults, abortPlan, passage, scheduleOf } from '@rouse/core/procedure';
import { memo, useDeferredValue } from 'react';
import styled from 'styled-components';
import { useMay, useSession, useTakeOverMutation } from '../../app/session-data.ts';
import { useAppSelector } from '../../app/store.ts';
import { mono, phone, tiny, upright } from '../../app/theme.ts';
import { SlimButton } from '../../ui/button.tsx';
import { PageHead } from '../../ui/columns.ts';
import { clockTime, minutes } from '../../ui/words.ts';
import { useWallClock } from '../../platform/pulse.ts';
import { dwell_s, waitEstimate } from '../../run/estimates.ts';
import type { FollowedRun, LiveStatus } from '../../run/run-slice.ts';

const Bar = styled(PageHead)`
  ${upright} {
    flex-wrap: wrap;
    gap: 6px 20px;
  }
`;

const Tail = styled.div`
  p {
    font-size: 0.78125rem;
    white-space: nowrap;
  }
  ${phone} {
    p {
      white-space: normal;
    }
  }
  ${tiny} {
    p {
      display: none;
    }
  }
`;

const Legs = styled.ol`
  display: flex;
  align-items: center;
  flex: 1;
  min-width: 0;
  li {
    display: flex;
    align-items: center;
    gap: 7px;
    font-size: 0.84375rem;
    color: var(--soft);
    white-space: nowrap;
  }
  li:not(:first-child) {
    flex: 1;
  }
  li:not(:first-child)::before {
    content: '';
    flex: 1;
    height: 2px;
    min-width: 8px;
    margin: 0 6px 0 9px;
    background: var(--line);
  }
  i {
    width: 11px;
    height: 11px;
    border-radius: 50%;
    border: 2px solid var(--button-line);
    flex: none;
  }
  li[data-status='done'] {
    color: var(--ink);
  }
  li[data-status='done']::before,
  li[data-status='now']::before {
    background: var(--ink);
  }
  li[data-status='done'] i {
    background: var(--ink);
    border-color: var(--ink);
  }
  li[data-status='now'] {
    color: var(--now);
    font-weight: 720;
  }
  li[data-status='now'] i {
    width: 14px;
    height: 14px;
    border: 4px solid var(--now);
  }
  ${upright} {
    order: 3;
    flex-basis: 100%;
  }
  ${phone} {
    li:not([data-status='now']) {
      display: none;
    }
  }
  ${tiny} {
    display: none;
  }
`;

const Ready = styled.div`
  margin-left: auto;
  text-align: right;
  line-height: 1.15;
  b {
    ${mono}
    font-size: 1.5rem;
    font-weight: 700;
  }
  p {
    font-size: 0.78125rem;
    color: var(--soft);
  }
  ${tiny} {
    p {
      display: none;
    }
  }
`;

export function RunHeader({ followed }: { followed: FollowedRun }) {
  const { type, state, detail } = followed;
  const held = state.status === 'open' && !state.abort ? noGoFaults(type, state)[0] : undefined;
  return (
    <Bar>
      <Tail>
        <h1>{detail.tail}</h1>
        <p>
          {type.name} · {detail.pad} · <Holder followed={followed} />
        </p>
      </Tail>
      <Legs aria-label="Passage of the run">
        {passage(type, state).map((leg) => (
          <li key={leg.id} data-status={leg.status} aria-current={leg.status === 'now' ? 'step' : undefined}>
            <i aria-hidden />
            {leg.label}
          </li>
        ))}
      </Legs>
      {state.status === 'open' && !state.abort && !held && Object.keys(state.begun).length === 0 && (
        <ReadyAt followed={followed} />
      )}
      {held && (
        <Ready>
          <strong>Held</strong>
          <p>by {held.challenge.toLowerCase()}</p>
        </Ready>
      )}
      {state.abort && (
        <Ready>
          <strong>Start aborted</strong>
          <p>{abortPlan(type, state)?.title.toLowerCase()}</p>
        </Ready>
      )}
    </Bar>
  );
}

/** Who has the run, and the way to take it over. */
function Holder({ followed: { state, detail } }: { followed: FollowedRun }) {
  const person = useSession().data?.person;
  const mayRun = useMay('run');
  const [takeOver, { isLoading }] = useTakeOverMutation();
  const mine = state.holder?.person === person?.personId;
  return (
    <span data-holder>
      {mine ? 'with you' : `with ${state.holder?.name ?? detail.pilot}`}{' '}
      {state.status === 'open' && !mine && mayRun && (
        <SlimButton isDisabled={isLoading} onPress={() => void takeOver(detail.run)}>
          Take over
        </SlimButton>
      )}
    </span>
  );
}

interface ReadyProps {
  followed: FollowedRun;
  status: LiveStatus | null;
}

/** It takes the whole plan to say: the item is painted first. */
function ReadyAt({ followed }: Pick<ReadyProps, 'followed'>) {
  const status = useAppSelector((s) => s.run.status);
  const painted = useDeferredValue(true, false);
  return painted ? (
    <TimeToReady followed={followed} status={status} />
  ) : (
    <Ready>
      <b>–</b>
      <p>to ready</p>
    </Ready>
  );
}

const sameSecond = (before: ReadyProps, after: ReadyProps): boolean =>
  before.followed.type === after.followed.type &&
  before.followed.state === after.followed.state &&
  before.followed.detail === after.followed.detail &&
  Math.floor(before.status?.t_s ?? -1) === Math.floor(after.status?.t_s ?? -1);

/** Counts minutes: it looks once a second, not with every word of the server. */
const TimeToReady = memo(function TimeToReady({ followed, status }: ReadyProps) {
  const now_ms = useWallClock(1000);
  const { type, state, detail } = followed;
  const { ready_s, heldBy } = scheduleOf(type, state, {
    past: detail.past,
    remaining_s: (id) => {
      const item = type.items.find((i) => i.id === id)!;
      if (item.kind === 'wait') return waitEstimate(followed, item, dwell_s(status, item))?.seconds ?? null;
      if (item.kind !== 'watch' || !status) return null;
      const start = status.watch?.starts.find((s) => s.watch === item.watch && s.phase === 'start');
      return start?.starterAt_s == null ? null : Math.max(1, item.usual_s - (status.t_s - start.starterAt_s));
    },
  });
  return (
    <Ready>
      <b>{minutes(ready_s)}</b>
      <p>
        to ready, {clockTime(new Date(now_ms + 1000 * ready_s))}
        {heldBy ? ` · held by ${heldBy.challenge.toLowerCase()}` : ''}
      </p>
    </Ready>
  );
}, sameSecond);
