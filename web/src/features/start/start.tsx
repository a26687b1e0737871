import { presentItem } from '@rouse/core/procedure';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { Columns } from '../../ui/columns.ts';
import styled from 'styled-components';
import { useAppSelector } from '../../app/store.ts';
import { phone, upright } from '../../app/theme.ts';
import { useFollowRun } from '../../run/follow.ts';
import { useShown } from '../../platform/size.ts';
import { asWatched, type FollowedRun, type WatchedRun } from '../../run/run-slice.ts';
import { type Asking, askOf, stillAsked } from './asking.ts';
import { AbortPanel } from './abort-panel.tsx';
import { Calculators } from './calculators.tsx';
import { CueRegion } from './cue-region.tsx';
import { Foot } from './foot.tsx';
import { GiveUp } from './give-up.tsx';
import { RunHeader } from './header.tsx';
import { ItemCard } from './item-card.tsx';
import { KeyHelp } from './key-help.tsx';
import { useRunKeys } from './keys.ts';
import { useSpokenAnswers } from './spoken-answers.ts';
import { LateList, MeanwhileList, NextList, NotDoneList, StillOpenList } from './lists.tsx';
import { LiveDrawings } from '../../charts/live/drawings.tsx';
import { Room } from '../../charts/live/room.tsx';
import { RunBrief } from './run-brief.tsx';
import { ByHand } from './hand-start.tsx';
import { WalkRound } from './walk-round.tsx';

const Grid = styled(Columns)`
  ${upright} {
    grid-template: repeat(3, max-content) minmax(0, 1fr) max-content / minmax(0, 1fr) 17.5rem;
    grid-template-areas: 'head head' 'left right' 'mid mid' '. .' 'foot foot';
    height: 100%;
    /* what stops it stands before everything else */
    &:has([data-abort]) {
      grid-template-areas: 'head head' 'mid mid' 'left right' '. .' 'foot foot';
    }
  }
  ${phone} {
    &,
    &:has([data-abort]) {
      grid-template: repeat(4, max-content) / minmax(0, 1fr);
      grid-template-areas: 'head' 'left' 'right' 'foot';
    }
  }
`;

const Left = styled.main`
  grid-area: left;
  border-right: 1px solid var(--line);
  background: var(--sheet);
  padding: 16px 18px;
  display: flex;
  flex-direction: column;
  gap: 14px;
  overflow: auto;
  ${upright} {
    overflow: visible;
  }
`;

const Mid = styled.section`
  grid-area: mid;
  position: relative;
  padding: 14px 16px;
  display: grid;
  grid-template-rows: auto minmax(0, 3fr) auto minmax(0, 1fr);
  gap: 10px;
  min-height: 0;
  &:has([data-lanes]) {
    grid-template-rows: auto minmax(0, 2fr) auto minmax(0, 1fr);
  }
  &:has([data-scan]),
  &:has([data-booked]) {
    grid-template-rows: auto auto auto minmax(0, 1fr);
  }
  ${upright} {
    &:has([data-scan]),
    &:has([data-booked]) {
      grid-template-rows: auto auto auto auto !important;
    }
    &:has([data-lanes]) {
      grid-template-rows: auto 15rem auto auto;
    }
    &:not(:has([data-lanes])) {
      grid-template-rows: auto 16.375rem auto 6.625rem;
    }
    border-top: 1px solid var(--line);
  }
  &[data-walk] {
    ${upright} {
      display: block;
      min-height: auto;
      > * + * {
        margin-top: 10px;
      }
    }
  }
  ${phone} {
    &,
    &[data-walk] {
      display: none;
    }
    &[data-abort] {
      display: grid;
      grid-template-rows: minmax(0, 1fr) !important;
      position: fixed;
      inset: 0;
      /* the foot stands on it, with the way to stop */
      padding-bottom: 7rem;
      z-index: 2;
      background: var(--paper);
    }
  }
`;

const Message = styled.main`
  padding: 40px;
  display: grid;
  gap: 10px;
  align-content: center;
  justify-items: start;
`;

/** Before anything turns, the walk says more than empty drawings do. */
function needsNoEngines({ type, state }: FollowedRun): boolean {
  const present = presentItem(type, state);
  return state.phase === 'off' && present !== null && present.leg === type.legs[0]?.id;
}

export function StartView() {
  const { run } = useParams();
  useFollowRun(run!);
  const followed = useAppSelector((s) => s.run.followed);
  const failure = useAppSelector((s) => s.run.failure);
  const [asked, setAsked] = useState<Asking>(null);
  const [why, setWhy] = useState(true);
  const [help, setHelp] = useState(false);
  const [reckons, setReckons] = useState(false);
  const asking = followed && stillAsked(asked, followed);
  const ask = (note: 'fault' | 'skip'): void => setAsked(followed && askOf(followed, note));
  const closeAsking = (): void => setAsked(null);
  useSpokenAnswers(followed?.state.status === 'open', ask);
  const keys = useRunKeys({
    asking: asking !== null,
    ask,
    closeAsking,
    toggleWhy: () => setWhy((v) => !v),
    toggleHelp: () => setHelp((v) => !v),
    toggleReckon: () => setReckons((v) => !v),
  });

  if (failure !== null) {
    return (
      <Message>
        <h1>This run cannot be shown</h1>
        <p role="alert">{failure}</p>
        <Link to="/">To Today</Link>
      </Message>
    );
  }
  if (!followed) return <Message role="status">Reading the run…</Message>;
  const { detail } = followed;
  const watched = asWatched(followed);
  return (
    <Grid as="div">
      <title>{`Start ${detail.tail} · Rouse`}</title>
      <RunHeader followed={followed} />
      <Left>
        <ItemCard
          followed={followed}
          asking={asking}
          ask={ask}
          closeAsking={closeAsking}
          why={why}
          toggleWhy={() => setWhy((v) => !v)}
        />
        {help && <KeyHelp keys={keys} />}
        <NextList followed={followed} />
        <MeanwhileList followed={followed} reckon={reckons ? null : () => setReckons(true)} />
        {reckons && <Calculators followed={followed} close={() => setReckons(false)} />}
        <LateList followed={followed} />
        <StillOpenList followed={followed} />
        <NotDoneList followed={followed} />
        <GiveUp followed={followed} />
      </Left>
      <Middle followed={followed} watched={watched} />
      {watched ? <Room followed={watched} /> : <RunBrief followed={followed} />}
      <Foot followed={followed} />
      <CueRegion entries={followed.entries} />
    </Grid>
  );
}

/** The drawings. They come after the item, and not at all where a screen has no place for them; an abort waits for nothing. */
function Middle({ followed, watched }: { followed: FollowedRun; watched: WatchedRun | null }) {
  const [region, isShown] = useShown<HTMLElement>();
  const { abort } = followed.state;
  const draws = watched !== null && !needsNoEngines(followed);
  return (
    <Mid
      ref={region}
      aria-label={abort ? 'Abort' : 'Drawings'}
      data-abort={abort ? true : undefined}
      data-walk={abort || draws ? undefined : true}
    >
      {abort ? (
        <AbortPanel followed={followed} abort={abort} />
      ) : !isShown ? null : draws ? (
        <LiveDrawings followed={watched} />
      ) : watched ? (
        <WalkRound followed={watched} />
      ) : (
        <ByHand followed={followed} />
      )}
    </Mid>
  );
}
