import { type Item, sayCondition, stagesOf } from '@rouse/core/aircraft';
import { isPuttingBack, stagesDone } from '@rouse/core/procedure';
import styled from 'styled-components';
import { useAppSelector } from '../../app/store.ts';
import { mono } from '../../app/theme.ts';
import { Refusal } from './card.ts';
import type { AnswerProps } from './answer-form.ts';
import { NumberAnswer } from './number-answer.tsx';

const Now = styled.div`
  margin-top: 10px;
  background: var(--usual1);
  border-radius: 9px;
  padding: 9px 11px;
  > b {
    display: block;
    font-size: 1.0625rem;
    line-height: 1.2;
  }
  > p {
    display: flex;
    justify-content: space-between;
    gap: 10px;
    font-size: 0.8125rem;
    color: var(--soft);
    margin-top: 3px;
    > span:last-child {
      ${mono}
      white-space: nowrap;
    }
  }
  > div {
    height: 6px;
    border-radius: 3px;
    margin-top: 7px;
    background: var(--deep);
    overflow: hidden;
    i {
      display: block;
      height: 100%;
      background: var(--now);
    }
  }
`;

const Ahead = styled.ol`
  display: flex;
  flex-wrap: wrap;
  gap: 3px 12px;
  margin-top: 8px;
  font-size: 0.8125rem;
  color: var(--soft);
  li[data-status='done']::before {
    content: '✓ ';
  }
  li[data-status='now'] {
    color: var(--now);
    font-weight: 650;
  }
  li[data-status='now']::before {
    content: '→ ';
  }
`;

/** A check that measures itself: what to do now, how long it must last, and what it found the last time. */
export function CheckAnswer({ followed, item }: AnswerProps & { item: Extract<Item, { kind: 'measure' }> }) {
  const { type, state } = followed;
  const check = useAppSelector((s) => s.run.status?.check);
  // what the journal says is what keys act on; the status tells how long it has lasted
  const done = stagesDone(state, item);
  const own = check?.item === item.id && check.stage === done ? check : null;
  const stages = stagesOf(item);
  const stage = stages[done];
  const found = state.measured[item.id];
  return (
    <>
      {found && found.verdict !== 'good' && (
        <Refusal role="alert" data-found={found.verdict}>
          {found.words}. {whatNow(isPuttingBack(state, item), done)}
        </Refusal>
      )}
      {stage && (
        <Now data-stage={stage.id}>
          <b>{stage.do}</b>
          <p>
            <span>
              {stage.expect ? sayCondition(stage.expect, type.channels) : 'Nothing senses this: Space when it is so'}
            </span>
            <span>{timing(stage.hold_s, own)}</span>
          </p>
          {stage.hold_s !== undefined && (
            <div>
              <i style={{ width: `${Math.min(100, (100 * (own?.held_s ?? 0)) / stage.hold_s)}%` }} />
            </div>
          )}
        </Now>
      )}
      <Ahead aria-label="Stages">
        {stages.map((s, i) => (
          <li
            key={s.id ?? s.do}
            data-status={i < done ? 'done' : i === done ? 'now' : 'ahead'}
            aria-current={i === done ? 'step' : undefined}
          >
            {s.do.split(',')[0]}
          </li>
        ))}
      </Ahead>
      {found?.verdict === 'unknown' && <NumberAnswer followed={followed} item={item} quantity={item.measures} />}
    </>
  );
}

/** What is to be done with a check that was not good. */
function whatNow(puttingBack: boolean, done: number): string {
  if (puttingBack)
    return 'First put back what it moved; then fly it again, record it with F, or skip it with a reason.';
  return done > 1 ? 'Being flown again.' : 'Fly it again, record it with F, or skip it with a reason.';
}

function timing(hold_s: number | undefined, own: { held_s: number; left_s: number | null } | null): string {
  if (own?.held_s && hold_s !== undefined) return `${Math.max(0, hold_s - own.held_s).toFixed(0)} s more`;
  if (own?.left_s !== null && own?.left_s !== undefined) return `${Math.max(0, own.left_s).toFixed(0)} s left`;
  return hold_s === undefined ? '' : `for ${hold_s} s`;
}
