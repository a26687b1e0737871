import { handStart, presentItem } from '@rouse/core/procedure';
import styled from 'styled-components';
import { mono, phone } from '../../app/theme.ts';
import { useAppSelector } from '../../app/store.ts';
import { Button, Key } from '../../ui/button.tsx';
import { ChartTitle } from '../../charts/frame.tsx';
import { Small } from '../../ui/heading.ts';
import { stopwatch } from '../../ui/words.ts';
import { usePulse } from '../../platform/pulse.ts';
import { runClock } from '../../run/clock.ts';
import type { FollowedRun } from '../../run/run-slice.ts';
import { usePilot } from './pilot.ts';
import { WalkRound } from './walk-round.tsx';

const Column = styled.div`
  grid-row: 1 / -1;
  display: grid;
  gap: 12px;
  align-content: start;
  overflow: auto;
  min-height: 0;
`;

const Moments = styled.ol`
  display: grid;
  gap: 8px;
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 12px;
    align-items: center;
    min-height: 3rem;
    padding: 4px 14px;
    border: 1px solid var(--hair);
    border-radius: 10px;
    background: var(--sheet);
    font-size: 1.0625rem;
  }
  li[data-verdict='next'] {
    display: block;
    padding: 0;
    border: 0;
  }
  li[data-verdict='ahead'] {
    color: var(--soft);
  }
  li[data-verdict='late'] {
    background: var(--caution-paper);
    color: var(--caution);
  }
  li > span {
    ${mono}
    text-align: right;
  }
`;

/** As large as a gloved thumb wants it: the one thing to press while an engine starts. */
const Now = styled(Button)`
  width: 100%;
  min-height: 8rem;
  font-size: 1.875rem;
  font-weight: 720;
  background: var(--now);
  border-color: var(--now);
  color: var(--on-now);
  flex-direction: column;
  small {
    font-size: 1rem;
    font-weight: 500;
  }
  ${phone} {
    min-height: 7rem;
  }
`;

const Unseen = styled.section`
  font-size: 0.875rem;
  color: var(--soft);
  ul {
    margin: 4px 0 0;
    padding-left: 18px;
    list-style: disc;
  }
`;

/** The middle of a run that nothing senses: the moments of a start while one is on, else the walk round the cockpit. */
export function ByHand({ followed }: { followed: FollowedRun }) {
  const item = presentItem(followed.type, followed.state);
  const start = item && handStart(followed.type, followed.state, item);
  return start ? (
    <HandTimed followed={followed} title={item.challenge} start={start} />
  ) : (
    <WalkRound followed={followed} />
  );
}

function HandTimed({
  followed,
  title,
  start,
}: {
  followed: FollowedRun;
  title: string;
  start: NonNullable<ReturnType<typeof handStart>>;
}) {
  usePulse(100);
  const pilot = usePilot();
  const status = useAppSelector((s) => s.run.status);
  const now_s = runClock(status, followed.detail.openedAt);
  return (
    <Column>
      <ChartTitle
        title={`${title}, timed by hand`}
        about={start.began_s === null ? 'tap each moment as you see it' : `T+${stopwatch(now_s - start.began_s)}`}
      />
      <Moments aria-label="Moments of the start">
        {start.moments.map(({ stage, at_s, verdict, due_s }) =>
          verdict === 'next' ? (
            <li key={stage.do} data-verdict={verdict}>
              <Now data-moment={stage.do} onPress={() => void pilot.seen()}>
                <span>
                  {stage.do} <Key>Space</Key>
                </span>
                <small role={due_s !== null && now_s > due_s ? 'alert' : undefined}>{dueWords(due_s, now_s)}</small>
              </Now>
            </li>
          ) : (
            <li key={stage.do} data-verdict={verdict}>
              <b>{stage.do}</b>
              <span>
                {at_s === null
                  ? stage.within_s === undefined
                    ? ''
                    : `within ${stage.within_s} s`
                  : `${stopwatch(at_s)}${verdict === 'late' ? `, later than ${stage.within_s} s` : ''}`}
              </span>
            </li>
          ),
        )}
      </Moments>
      <Unseen aria-label="What cannot be judged">
        <Small>Timed by hand, nobody can judge</Small>
        <ul>
          {start.notJudged.map((what) => (
            <li key={what}>{what}</li>
          ))}
        </ul>
      </Unseen>
    </Column>
  );
}

function dueWords(due_s: number | null, now_s: number): string {
  if (due_s === null) return 'tap when you see it';
  const left = due_s - now_s;
  return left >= 0 ? `within ${left.toFixed(0)} s, or stop` : `${(-left).toFixed(0)} s late: stop the start with Esc`;
}
