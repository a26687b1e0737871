import type { WatchedType } from '@rouse/core/aircraft';
import { type Lesson, SHOWN_S, STARTS_A_ROUND, sumOf } from '@rouse/core/drill';
import { type CSSProperties, type ReactNode, useEffect } from 'react';
import styled from 'styled-components';
import { useKeepRoundMutation } from '../../app/drill-data.ts';
import { usePersonId } from '../../app/session-data.ts';
import { useAppSelector } from '../../app/store.ts';
import { mono } from '../../app/theme.ts';
import { LiveDrawings } from '../../charts/live/drawings.tsx';
import { Room } from '../../charts/live/room.tsx';
import { bindKeys } from '../../platform/keys.ts';
import { asWatched } from '../../run/run-slice.ts';
import { Button, Key, PrimaryButton } from '../../ui/button.tsx';
import { Aid, PREVAILS, Small } from '../../ui/heading.ts';
import { DrillFrame, DrillHead, Side } from './drill-frame.tsx';
import { type RoundState, useAbortOrGo } from './use-abort-or-go.ts';
import { WAY_WORDS } from './words.ts';
import { WaitsAtHand } from './waits-at-hand.tsx';

const Mid = styled.section`
  grid-area: mid;
  padding: 12px 14px;
  display: grid;
  grid-template-rows: auto minmax(0, 3fr) auto minmax(0, 1fr);
  gap: 8px;
  min-height: 18.75rem;
  min-width: 0;
`;

const Clock = styled.p`
  ${mono}
  font-size: 2.5rem;
  font-weight: 720;
  line-height: 1;
`;

const Played = styled.ol`
  padding: 0;
  list-style: none;
  li {
    padding: 5px 0;
    border-top: 1px solid var(--hair);
    font-size: 0.8125rem;
  }
  li b {
    ${mono}
    float: right;
  }
`;

interface AbortOrGoProps {
  type: WatchedType;
  lesson: Lesson;
  leave: () => void;
}

/** Ten starts of twenty seconds: stop the bad ones, leave the good ones alone. */
export function AbortOrGo({ type, lesson, leave }: AbortOrGoProps) {
  const { stage, t_s, played, next, stop, again } = useAbortOrGo(type);
  const followed = useAppSelector((s) => s.run.followed);
  const watched = followed && asWatched(followed);
  const kept = useKeptRound(type, lesson, stage === 'over' ? played : null);
  useEffect(
    () =>
      bindKeys([
        { keys: ['Escape'], shown: 'Esc', says: 'stop the start', run: () => stage === 'running' && stop() },
        { keys: ['Space'], shown: 'Space', says: 'the next start', run: () => (stage === 'ready' || stage === 'decided') && next() }, // oxfmt-ignore
      ]),
    [stage, stop, next],
  );
  const last = played.at(-1)?.decided;
  return (
    <DrillFrame data-go={stage} style={{ '--right': '18.25rem' } as CSSProperties}>
      <title>{`${lesson.title} · Drill · Rouse`}</title>
      <DrillHead>
        <h1>Drill</h1>
        <p>{type.name}. On the simulator: nothing here enters an aircraft’s record.</p>
        <p>{PREVAILS}</p>
      </DrillHead>
      <Side aria-label="Round" style={{ gridArea: 'left' }}>
        <Small>{WAY_WORDS['abort-or-go']}</Small>
        <h2>
          {stage === 'over'
            ? 'The round is over'
            : `Start ${Math.min(STARTS_A_ROUND, played.length + (stage === 'decided' ? 0 : 1))} of ${STARTS_A_ROUND}`}
        </h2>
        <Clock data-clock>{Math.min(SHOWN_S, t_s).toFixed(1)} s</Clock>
        {stage === 'preparing' && <p role="status">The simulator is made ready…</p>}
        {stage === 'running' && (
          <PrimaryButton onPress={stop} data-stop>
            Stop it <Key>Esc</Key>
          </PrimaryButton>
        )}
        {(stage === 'ready' || stage === 'decided') && (
          <PrimaryButton onPress={next} data-next-start>
            {stage === 'ready' ? 'First start' : 'Next start'} <Key>Space</Key>
          </PrimaryButton>
        )}
        {stage === 'over' && <PrimaryButton onPress={again}>Another round</PrimaryButton>}
        {stage !== 'running' && <Button onPress={leave}>Another lesson</Button>}
        {last && stage !== 'running' && (
          <div role="status" data-decided={last.points}>
            <p>
              <b>{last.deal.wrong ?? 'Nothing was wrong'}</b>
            </p>
            <p>{last.words}.</p>
            <Aid>{last.truth.words}.</Aid>
          </div>
        )}
        {kept}
      </Side>
      <Mid aria-label="Drawings">{watched && <LiveDrawings followed={watched} follows="start" />}</Mid>
      {/* oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex */}
      <Side aria-label="Marks" tabIndex={0} style={{ gridArea: 'right' }}>
        <Small>{stage === 'over' ? 'Marks' : 'Marks so far'}</Small>
        <Clock data-sum>{sumOf(played.map((p) => p.decided))}</Clock>
        <Played aria-label="Starts of this round">
          {played.map(({ seed, decided }, i) => (
            <li key={seed}>
              {i + 1}. {decided.deal.wrong ?? 'Good'} <b>{decided.points} of 10</b>
              <Aid>{decided.words}</Aid>
            </li>
          ))}
        </Played>
        {watched && stage === 'running' && <Room followed={watched} />}
      </Side>
    </DrillFrame>
  );
}

/** Keeps a round when it is over. @returns what there is to say of that */
function useKeptRound(type: WatchedType, lesson: Lesson, played: RoundState['played'] | null): ReactNode {
  const [keep, { data, error }] = useKeepRoundMutation();
  const by = usePersonId();
  useEffect(() => {
    if (!played || by === undefined) return;
    const starts = played.map(({ seed, difficulty, decided }) => ({ seed, difficulty, stopped_s: decided.stopped_s }));
    void keep({ by, flown: { type: { id: type.id, version: type.version }, lesson: lesson.id, starts } });
  }, [played, type, lesson, keep, by]);
  if (error) return <p role="alert">The round could not be kept: {error.message}</p>;
  return data && 'waits' in data && <WaitsAtHand />;
}
