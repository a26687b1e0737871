import { sayCondition } from '@rouse/core/aircraft';
import type { Item } from '@rouse/core/aircraft';
import { conditionOf, lateItems, offeredItems, nextItems, notDone, readItem, stillOpen } from '@rouse/core/procedure';
import styled from 'styled-components';
import { mono } from '../../app/theme.ts';
import { useAppSelector } from '../../app/store.ts';
import { Key, SlimButton } from '../../ui/button.tsx';
import { Small } from '../../ui/heading.ts';
import { minutes } from '../../ui/words.ts';
import { usePulse } from '../../platform/pulse.ts';
import { dwell_s, waitEstimate } from '../../run/estimates.ts';
import { runClock } from '../../run/clock.ts';
import { ring } from '../../run/frame-ring.ts';
import type { FollowedRun } from '../../run/run-slice.ts';

const Rows = styled.ol`
  li {
    display: flex;
    gap: 10px;
    padding: 5px 0;
    border-top: 1px solid var(--hair);
    font-size: 0.90625rem;
    align-items: baseline;
  }
  span {
    color: var(--soft);
    margin-left: auto;
    text-align: right;
    font-size: 0.84375rem;
  }
`;

const NEXT = 4;

export function NextList({ followed: { type, state } }: { followed: FollowedRun }) {
  const next = nextItems(type, state, NEXT);
  if (next.length === 0) return null;
  return (
    <section>
      <Small>Next</Small>
      <Rows>
        {next.map((item) => (
          <li key={item.id}>
            {item.challenge} <span>{shortResponse(item)}</span>
          </li>
        ))}
      </Rows>
    </section>
  );
}

const shortResponse = (item: Item): string =>
  item.response.length > 28 ? `${item.response.slice(0, 27)}…` : item.response;

const Wait = styled.li`
  padding: 6px 0;
  border-top: 1px solid var(--hair);
  font-size: 0.875rem;
  div:first-child {
    display: flex;
    justify-content: space-between;
    gap: 8px;
  }
  span:last-child {
    ${mono}
  }
`;

const Bar = styled.div`
  height: 6px;
  border-radius: 3px;
  background: var(--usual1);
  margin-top: 5px;
  overflow: hidden;
  i {
    display: block;
    height: 100%;
    background: var(--track);
  }
`;

/** Waits that run by themselves, and items that may be taken out of their place with a number key. */
export function MeanwhileList({ followed, reckon }: { followed: FollowedRun; reckon: (() => void) | null }) {
  const items = offeredItems(followed.type, followed.state, { past: followed.detail.past });
  if (items.length === 0) return null;
  return (
    <section>
      <Small>Meanwhile</Small>
      <ol>
        {items.map((item, i) => (
          <MeanwhileRow key={item.id} followed={followed} item={item} number={i + 1} />
        ))}
      </ol>
      {reckon && (
        <SlimButton onPress={reckon}>
          Reckon <Key>C</Key>
        </SlimButton>
      )}
    </section>
  );
}

function MeanwhileRow({ followed, item, number }: { followed: FollowedRun; item: Item; number: number }) {
  const { type } = followed;
  const now_ms = usePulse(500);
  const lasts_s = useAppSelector((s) => dwell_s(s.run.status, item));
  const frame = ring.lastFrame(now_ms);
  const condition = conditionOf(item);
  if (item.kind !== 'wait') {
    return (
      <Wait>
        <div>
          <span>{item.challenge}</span>
          <Key>{number}</Key>
        </div>
      </Wait>
    );
  }
  const reading = readItem(type, item, frame);
  const left = waitEstimate(followed, item, lasts_s);
  const share = left ? item.usual_s / (item.usual_s + left.seconds) : 0;
  return (
    <Wait>
      <div>
        <span>{item.challenge}</span>
        <span>
          {reading?.verdict === 'unknown'
            ? 'unknown'
            : `${reading?.words ?? ''} · ${left ? minutes(left.seconds) : 'no trend yet'}`}
        </span>
      </div>
      <Bar
        role="progressbar"
        aria-label={`${item.challenge}: ${condition ? sayCondition(condition, type.channels) : ''}`}
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(share * 100)}
      >
        <i style={{ width: `${share * 100}%` }} />
      </Bar>
    </Wait>
  );
}

const Loop = styled.li`
  background: var(--caution-paper);
  border-left: 4px solid var(--caution);
  padding: 7px 10px;
  border-radius: 4px 8px 8px 4px;
  font-size: 0.875rem;
  margin-top: 4px;
`;

export function StillOpenList({ followed: { type, state } }: { followed: FollowedRun }) {
  const loops = stillOpen(type, state);
  if (loops.length === 0) return null;
  return (
    <ul>
      {loops.map((loop) => (
        <Loop key={loop.item.id}>
          <b>Still open</b> {loop.words}
        </Loop>
      ))}
    </ul>
  );
}

/** What is late by its deadline. */
export function LateList({ followed: { type, state, detail } }: { followed: FollowedRun }) {
  usePulse(500);
  const status = useAppSelector((s) => s.run.status);
  const late = lateItems(type, state, runClock(status, detail.openedAt));
  if (late.length === 0) return null;
  return (
    <ul>
      {late.map(({ item, late_s }) => (
        <Loop key={item.id} role="alert">
          <b>Late</b> {item.challenge}, {Math.ceil(late_s)} s over
        </Loop>
      ))}
    </ul>
  );
}

export function NotDoneList({ followed: { type, state } }: { followed: FollowedRun }) {
  const list = notDone(type, state);
  if (list.length === 0) return null;
  return (
    <section>
      <Small>Not done as written</Small>
      <ul>
        {list.map(({ item, words, status }) => (
          <Loop key={item.id}>
            <b>{item.challenge}</b> {status === 'skipped' ? 'skipped' : 'fault'}: {words}
          </Loop>
        ))}
      </ul>
    </section>
  );
}
