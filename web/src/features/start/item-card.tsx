import type { Item } from '@rouse/core/aircraft';
import {
  abortPlan,
  type Ask,
  askOf,
  presentFlow,
  presentItem,
  type RunState,
  twoCrewTurn,
  wasFlowed,
  workingList,
} from '@rouse/core/procedure';
import type { StartSnapshot } from '@rouse/core/watch';
import { memo } from 'react';
import { useAppSelector } from '../../app/store.ts';
import { Button, Key, PrimaryButton } from '../../ui/button.tsx';
import { minutes, stopwatch } from '../../ui/words.ts';
import { usePulse } from '../../platform/pulse.ts';
import { runClock } from '../../run/clock.ts';
import type { FollowedRun, LiveStatus } from '../../run/run-slice.ts';
import { answerFor, answersItself } from './answers.tsx';
import { AskForm } from './ask-form.tsx';
import type { Asking } from './asking.ts';
import { Card, Keys, Kicker, Refusal, Why } from './card.ts';
import { FinishedCard } from './finished-card.tsx';
import { FlowCard, SeeAgain } from './flow-card.tsx';
import { canMove, isMoving, usePilot } from './pilot.ts';
import { SenseLine } from './sense-line.tsx';

interface ItemCardProps {
  followed: FollowedRun;
  asking: Asking;
  ask: (note: 'fault' | 'skip') => void;
  closeAsking: () => void;
  why: boolean;
  toggleWhy: () => void;
}

/** The one present item, large: what to look at, what the sensors say of it, and the keys that settle it. */
export function ItemCard(props: ItemCardProps) {
  const { type, state } = props.followed;
  const item = presentItem(type, state);
  if (state.seeAgain.length > 0) return <SeeAgain followed={props.followed} />;
  if (!item) return <FinishedCard followed={props.followed} />;
  const zone = presentFlow(type, state);
  return zone ? <FlowCard followed={props.followed} zone={zone} /> : <PresentCard {...props} item={item} />;
}

function PresentCard({ followed, item, asking, ask, closeAsking, why, toggleWhy }: ItemCardProps & { item: Item }) {
  const { type, state, detail } = followed;
  const status = useAppSelector((s) => s.run.status);
  const start = startOf(item, status);
  const milestone = start?.phase === 'start' ? start.milestones.find((m) => !m.met) : undefined;
  const turn = twoCrewTurn(type, state, item);
  const seen = !answersItself(item, followed) && askOf(item, followed).kind !== 'stage';
  return (
    <Card aria-label="Present item" data-item={item.id} data-kind={item.kind}>
      <Kicker>
        <span>{whereInList(followed, item)}</span>
        <CardClock
          starterAt_s={start && milestone ? start.starterAt_s : null}
          status={status}
          openedAt={detail.openedAt}
        />
      </Kicker>
      <h2>{milestone?.title ?? item.challenge}</h2>
      <h3>{milestone?.words ?? item.response}</h3>
      <FoundBefore state={state} item={item} />
      {turn && <Crew turn={turn} />}
      {start && <GateList start={start} />}
      {seen && <SenseLine followed={followed} item={item} status={status} />}
      {why && <WhyLines item={item} skipping={asking?.note === 'skip' ? asking.item : null} />}
      <RefusalLine />
      {asking && <AskForm key={`${asking.note} ${asking.item.id}`} {...asking} close={closeAsking} />}
      {!asking && (
        <Answers
          followed={followed}
          item={item}
          challenge={turn?.turn === 'challenge'}
          starting={milestone !== undefined}
          live={status?.source === 'live'}
          why={why}
          ask={ask}
          toggleWhy={toggleWhy}
        />
      )}
    </Card>
  );
}

const startOf = (item: Item, status: LiveStatus | null): StartSnapshot | undefined =>
  item.kind === 'watch' ? status?.watch?.starts.find((s) => s.watch === item.watch) : undefined;

/** What the server refused last, with what to do about it. */
function RefusalLine() {
  const refusal = useAppSelector((s) => s.run.refusal);
  return (
    refusal && (
      <Refusal role="alert">
        {refusal.message}. {refusal.remedy}
      </Refusal>
    )
  );
}

function WhyLines({ item, skipping }: { item: Item; skipping: Item | null }) {
  return (
    <>
      <Why>{item.why}</Why>
      {skipping && <Why>If skipped: {skipping.ifSkipped}</Why>}
    </>
  );
}

/** Where the item stands on the list that is worked. */
function whereInList({ type, state }: FollowedRun, item: Item): string {
  const list = workingList(type, state);
  const leg = state.abort ? abortPlan(type, state)?.title : type.legs.find((l) => l.id === item.leg)?.label;
  return `${leg} · ${item.kind === 'watch' ? 'watching' : `${list.indexOf(item) + 1} of ${list.length}, ${item.zone}`}`;
}

interface AnswersProps extends Pick<ItemCardProps, 'followed' | 'why' | 'ask' | 'toggleWhy'> {
  item: Item;
  /** it is read aloud before it is answered */
  challenge: boolean;
  starting: boolean;
  live: boolean;
}

/** What a person gives, and the keys: one large, the others small. No word of the server changes them by itself. */
const Answers = memo(function Answers({
  followed,
  item,
  challenge,
  starting,
  live,
  why,
  ask,
  toggleWhy,
}: AnswersProps) {
  const pilot = usePilot();
  const primary = challenge ? 'Read' : primaryWord(followed, item, starting, live);
  return (
    <>
      {!challenge && answerFor({ followed, item })}
      <Keys>
        {primary !== null && (
          <MainButton item={item} state={followed.state} word={primary} onPress={() => void pilot.seen()} />
        )}
        {wasFlowed(followed.state, item) && !answersItself(item, followed) && (
          <Button className="wide" onPress={() => void pilot.differed()}>
            It was not so; it is now <Key>D</Key>
          </Button>
        )}
        <Button onPress={() => void pilot.mark()}>
          Mark <Key>M</Key>
        </Button>
        <Button onPress={() => ask('fault')}>
          Fault <Key>F</Key>
        </Button>
        <Button onPress={toggleWhy} aria-pressed={why}>
          Why <Key>W</Key>
        </Button>
      </Keys>
    </>
  );
});

const WORDS = { seen: 'Seen', done: 'Done', called: 'Called', said: 'Said' } as const;

/** The word of the one large button; null where the answer has its own, or where sensors alone settle it. */
function primaryWord(followed: FollowedRun, item: Item, starting: boolean, live: boolean): string | null {
  const ask: Ask = askOf(item, followed);
  const moves = canMove(followed) && !starting;
  switch (ask.kind) {
    case 'word':
      if (item.kind === 'wait' && live && !moves) return null;
      return moves ? 'Do it' : WORDS[ask.word];
    case 'stage':
      return item.kind === 'watch' ? 'Now' : moves ? 'Do it' : 'Done, next';
    case 'measured':
      return moves ? 'Do it' : ask.sensed ? null : 'Done, next';
    case 'sensed':
      return moves ? 'Do it' : null;
    default:
      return null;
  }
}

/** The one large button; while a hand is on its way it waits with the pilot. */
function MainButton({
  item,
  state,
  word,
  onPress,
}: {
  item: Item;
  state: RunState;
  word: string;
  onPress: () => void;
}) {
  const now_ms = usePulse(250);
  const moving = word === 'Do it' && isMoving(item, state, now_ms);
  return (
    <PrimaryButton className="wide" isDisabled={moving} onPress={onPress}>
      {moving ? 'Moved; it follows' : word} <Key>Space</Key>
    </PrimaryButton>
  );
}

/** What a check found that has put this item on the list. */
function FoundBefore({ state, item }: { state: RunState; item: Item }) {
  const when = item.when?.find((w) => 'check' in w);
  const found = when && 'check' in when ? state.measured[when.check] : undefined;
  return found && found.verdict !== 'good' ? <Refusal role="note">{found.words}.</Refusal> : null;
}

const CREW = { pilot: 'pilot', 'second-crew': 'second crew' } as const;

function Crew({ turn }: { turn: NonNullable<ReturnType<typeof twoCrewTurn>> }) {
  return (
    <Why as="div" data-turn={turn.turn}>
      {turn.turn === 'challenge'
        ? `The ${CREW[turn.reader]} reads it aloud.`
        : `Read. The ${CREW[turn.answers]} moves and answers.`}
    </Why>
  );
}

/** Since the starter while a start is on, else since the run was opened. */
function CardClock({
  starterAt_s,
  status,
  openedAt,
}: {
  starterAt_s: number | null;
  status: LiveStatus | null;
  openedAt: string;
}) {
  usePulse(100);
  const now_s = runClock(status, openedAt);
  return <span data-clock>{starterAt_s === null ? stopwatch(now_s) : `T+${stopwatch(now_s - starterAt_s)}`}</span>;
}

/** What must hold before the starter turns, and when it will. */
function GateList({ start }: { start: StartSnapshot }) {
  const shut = start.gates.filter((g) => g.verdict !== true);
  if (shut.length === 0 || start.phase === 'start' || start.state === 'idle') return null;
  return (
    <Why as="ul" aria-label="Before the starter turns">
      {shut.map((g) => (
        <li key={g.id} data-gate={g.id}>
          {g.label} {g.verdict === 'unknown' ? 'unknown' : ''}: {g.words}
          {g.in_s !== null && g.in_s > 0 ? `, in about ${minutes(g.in_s)}` : ''}
        </li>
      ))}
    </Why>
  );
}
