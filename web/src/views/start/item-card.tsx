import type { Item } from '@rouse/core/aircraft';
import {
  abortPlan,
  conditionOf,
  isFinished,
  itemState,
  noGoFaults,
  presentFlow,
  presentItem,
  readItem,
  stillOpen,
  twoCrewTurn,
  wasFlowed,
  workingList,
} from '@rouse/core/procedure';
import { channelsOf, isWatched, sayCondition, stagesOf } from '@rouse/core/aircraft';
import type { GateSnapshot } from '@rouse/core/watch';
import { type FormEvent, useState } from 'react';
import { useNavigate } from 'react-router';
import styled from 'styled-components';
import { useAppSelector } from '../../app/store.ts';
import { mono } from '../../app/theme.ts';
import { Button, Key, PrimaryButton } from '../../parts/button.tsx';
import { minutes, stopwatch } from '../../parts/words.ts';
import { usePulse } from '../../platform/pulse.ts';
import { runClock } from '../../run/clock.ts';
import { waitEstimate } from '../../run/estimates.ts';
import { ring } from '../../run/frame-ring.ts';
import type { FollowedRun, LiveStatus } from '../../run/run-slice.ts';
import { useWrite } from '../../run/write.ts';
import { answerFor, answersItself } from './answers.tsx';
import { Card, Keys, Kicker, Why } from './card.ts';
import { FlowCard, SeeAgain } from './flow-card.tsx';
import { usePilot } from './pilot.ts';
import type { Asking } from './asking.ts';

const Sense = styled.div`
  display: flex;
  align-items: center;
  gap: 10px;
  background: var(--water1);
  border-radius: 9px;
  padding: 8px 11px;
  min-height: 54px;
  font-size: 14.5px;
  b {
    ${mono}
    font-size: 20px;
    white-space: nowrap;
  }
  &[data-verdict='false'] {
    background: var(--caution-paper);
  }
  &[data-verdict='unknown'] {
    background: none;
    border: 1.5px dashed var(--button-line);
  }
`;

const StandInButton = styled(Button)`
  border-style: dashed;
  border-color: var(--coast);
`;

const Refusal = styled.p`
  margin-top: 9px;
  background: var(--warning-paper);
  color: var(--warning);
  border-radius: 8px;
  padding: 8px 10px;
  font-size: 14px;
`;

const Ask = styled.form`
  display: grid;
  gap: 8px;
  margin-top: 11px;
  label {
    font-weight: 650;
    font-size: 14px;
  }
  input {
    font: inherit;
    color: var(--ink);
    background: var(--sheet);
    border: 1.5px solid var(--button-line);
    border-radius: 8px;
    min-height: 48px;
    padding: 8px 10px;
    width: 100%;
  }
  div {
    display: flex;
    gap: 8px;
  }
`;

interface ItemCardProps {
  followed: FollowedRun;
  asking: Asking;
  ask: (note: 'fault' | 'skip') => void;
  closeAsking: () => void;
  why: boolean;
  toggleWhy: () => void;
}

/** The one present item, large: what to look at, what the sensors say of it, and the keys that settle it. */
export function ItemCard({ followed, asking, ask, closeAsking, why, toggleWhy }: ItemCardProps) {
  const { type, state, detail } = followed;
  const refusal = useAppSelector((s) => s.run.refusal);
  const status = useAppSelector((s) => s.run.status);
  const pilot = usePilot();
  const item = presentItem(type, state);
  if (state.seeAgain.length > 0) return <SeeAgain followed={followed} />;
  if (!item) return <Finished followed={followed} />;
  const zone = presentFlow(type, state);
  if (zone) return <FlowCard followed={followed} zone={zone} />;
  const list = workingList(type, state);
  const leg = state.abort ? abortPlan(type, state)?.title : type.legs.find((l) => l.id === item.leg)?.label;
  const start = item.kind === 'watch' ? status?.watch?.starts.find((s) => s.watch === item.watch) : undefined;
  const milestone = start?.milestones.find((m) => !m.met);
  const starting = start?.phase === 'start' && milestone !== undefined;
  const turn = twoCrewTurn(type, state, item);
  const byHand = stagesOf(item).length > 0 && (item.kind === 'test' || detail.source === 'by-hand');
  return (
    <Card aria-label="Present item" data-item={item.id} data-kind={item.kind}>
      <Kicker>
        <span>
          {leg} · {item.kind === 'watch' ? 'watching' : `${list.indexOf(item) + 1} of ${list.length}, ${item.zone}`}
        </span>
        <CardClock starterAt_s={starting ? start.starterAt_s : null} status={status} openedAt={detail.openedAt} />
      </Kicker>
      <h2>{starting ? milestone.title : item.challenge}</h2>
      <h3>{starting ? milestone.words : item.response}</h3>
      {turn && <Crew turn={turn} />}
      {start && start.phase !== 'start' && start.state !== 'idle' && <GateList gates={start.gates} />}
      {!answersItself(item) && !byHand && <SenseLine followed={followed} item={item} status={status} />}
      {why && <Why>{item.why}</Why>}
      {why && asking?.note === 'skip' && <Why>If skipped: {asking.item.ifSkipped}</Why>}
      {refusal && (
        <Refusal role="alert">
          {refusal.message}. {refusal.remedy}
        </Refusal>
      )}
      {asking ? (
        <AskForm key={`${asking.note} ${asking.item.id}`} {...asking} close={closeAsking} />
      ) : (
        <>
          {turn?.turn !== 'challenge' && answerFor({ followed, item })}
          <Keys>
            {item.standIn && detail.source === 'stand-in' && !starting && (
              <StandInButton className="wide" onPress={() => void pilot.moveStandIn()}>
                Move it on the stand-in <Key>S</Key>
              </StandInButton>
            )}
            {wasFlowed(state, item) && !answersItself(item) && (
              <Button className="wide" onPress={() => void pilot.differed()}>
                It was not so; it is now <Key>D</Key>
              </Button>
            )}
            {item.kind === 'watch' && !byHand ? (
              <PrimaryButton onPress={() => void pilot.mark()}>
                Mark <Key>M</Key>
              </PrimaryButton>
            ) : answersItself(item) && turn?.turn !== 'challenge' ? (
              <span />
            ) : (
              <PrimaryButton onPress={() => void pilot.seen()}>
                {turn?.turn === 'challenge' ? 'Read' : wordFor(item)} <Key>Space</Key>
              </PrimaryButton>
            )}
            <Button onPress={() => ask('fault')}>
              Fault <Key>F</Key>
            </Button>
            <Button onPress={toggleWhy} aria-pressed={why}>
              Why <Key>W</Key>
            </Button>
          </Keys>
        </>
      )}
    </Card>
  );
}

const WORDS: Partial<Record<Item['kind'], string>> = {
  call: 'Called',
  set: 'Done',
  brief: 'Said',
  test: 'Done, next',
  watch: 'Now',
};
const wordFor = (item: Item): string => WORDS[item.kind] ?? 'Seen';

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
function GateList({ gates }: { gates: readonly GateSnapshot[] }) {
  const shut = gates.filter((g) => g.verdict !== true);
  if (shut.length === 0) return null;
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

function SenseLine({ followed, item, status }: { followed: FollowedRun; item: Item; status: LiveStatus | null }) {
  const now_ms = usePulse(100);
  const { type } = followed;
  const frame = ring.lastFrame(now_ms);
  if (item.kind === 'call') return <Sense>“{item.say}”</Sense>;
  if (item.kind === 'watch') {
    if (!isWatched(type)) return <Sense>Timed by hand.</Sense>;
    const at = type.startWatches.findIndex((w) => w.id === item.watch);
    const spec = type.startWatches[at];
    const start = status?.watch?.starts[at];
    const onStart = spec !== undefined;
    const index = type.channels.findIndex((c) => c.id === (spec ? spec.channels.speed : type.runUpWatch.rotor));
    const value = frame[index]!;
    const rate = start?.speedRate_pct_s ?? NaN;
    const target = !spec
      ? type.runUpWatch.rotor_pct[0]
      : start?.milestones.find((m) => !m.met)?.id === 'idle'
        ? spec.idle_pct[0]
        : spec.starterRelease_pct;
    const in_s = onStart && rate > 0.3 && target > value ? (target - value) / rate : NaN;
    return (
      <Sense data-verdict={Number.isNaN(value) ? 'unknown' : undefined}>
        <b>{Number.isNaN(value) ? 'unknown' : value.toFixed(1)}</b>
        <span>
          % {type.channels[index]!.short}
          {spec?.kind === 'turbine' && Number.isFinite(rate) && !Number.isNaN(value)
            ? `, ${rate >= 0 ? '+' : ''}${rate.toFixed(1)} a second`
            : ''}
          {Number.isFinite(in_s) && (
            <>
              <br />
              {target} % expected in {Math.ceil(in_s)} s
            </>
          )}
        </span>
      </Sense>
    );
  }
  const reading = readItem(type, item, frame);
  if (!reading || followed.detail.source === 'by-hand') {
    const condition = conditionOf(item);
    return (
      <Sense>
        {condition ? `${sayCondition(condition, type.channels)}: ` : ''}taken at your word
        {reading ? ', or at what you read.' : '. Nothing senses this.'}
      </Sense>
    );
  }
  const condition = conditionOf(item);
  const left_s = item.kind === 'wait' ? (forecastOf(item, status) ?? waitEstimate(type, item)?.seconds ?? 0) : 0;
  return (
    <Sense data-verdict={item.kind === 'wait' && reading.verdict !== 'unknown' ? 'waiting' : String(reading.verdict)}>
      <b>{reading.words}</b>
      <span>
        {condition
          ? sayCondition(condition, type.channels)
          : item.kind === 'count'
            ? `${item.captions.length} expected`
            : ''}
        {reading.verdict === 'unknown' && (
          <>
            <br />
            no reading
          </>
        )}
        {left_s > 0 && (
          <>
            <br />
            about {minutes(left_s)}
          </>
        )}
      </span>
    </Sense>
  );
}

/** A wait for what a start is gated on: the watch's own forecast. */
function forecastOf(item: Extract<Item, { kind: 'wait' }>, status: LiveStatus | null): number | null {
  const waited = channelsOf(item.until);
  for (const start of status?.watch?.starts ?? [])
    for (const gate of start.gates) if (waited.includes(gate.channel) && gate.in_s !== null) return gate.in_s;
  return null;
}

function AskForm({ item, note, close }: NonNullable<Asking> & { close: () => void }) {
  const write = useWrite();
  const [text, setText] = useState('');
  const fault = note === 'fault';
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const words = text.trim();
    if (!words) return;
    const accepted = await write(
      fault
        ? { kind: 'item-fault', item: item.id, note: words }
        : { kind: 'item-skipped', item: item.id, reason: words },
    );
    if (accepted) close();
  };
  return (
    <Ask onSubmit={(event) => void submit(event)}>
      <label htmlFor="ask">
        {fault
          ? `What is wrong with ${item.challenge.toLowerCase()}?`
          : `Why is ${item.challenge.toLowerCase()} skipped?`}
      </label>
      <input
        id="ask"
        autoFocus
        value={text}
        maxLength={500}
        required
        onChange={(e) => setText(e.target.value)}
        onKeyDown={(e) => e.key === 'Escape' && close()}
      />
      <div>
        <PrimaryButton type="submit">{fault ? 'Record the fault' : 'Skip it'}</PrimaryButton>
        <Button onPress={close}>Back</Button>
      </div>
    </Ask>
  );
}

/** The list is at its end, or a no-go holds it. */
function Finished({ followed }: { followed: FollowedRun }) {
  const { type, state, detail } = followed;
  const navigate = useNavigate();
  const pilot = usePilot();
  const refusal = useAppSelector((s) => s.run.refusal);
  const fault = noGoFaults(type, state)[0];
  const open = stillOpen(type, state)[0];
  const closed = state.status === 'closed';
  const ready = isFinished(type, state);
  const title = closed
    ? 'This run is closed'
    : state.abort
      ? 'Abort actions done'
      : ready
        ? 'Ready for lift'
        : open
          ? 'Still open'
          : 'Held';
  const words = state.abort
    ? (abortPlan(type, state)?.afterwards ?? '')
    : ready
      ? 'Every item is done. Skipped items and faults are named below.'
      : fault
        ? `No-go: ${fault.challenge}. ${itemState(state, fault.id).words}`
        : open
          ? `${open.words}. Put it back, and say so.`
          : 'Nothing on the list can be done now.';
  return (
    <Card aria-label="Present item" data-item="end">
      <Kicker>
        <span>{detail.tail}</span>
      </Kicker>
      <h2>{title}</h2>
      <Why>{words}</Why>
      {refusal && <Refusal role="alert">{refusal.message}</Refusal>}
      <Keys>
        {closed ? (
          <PrimaryButton className="wide" onPress={() => void navigate(`/debrief/${detail.run}`)}>
            To the debrief
          </PrimaryButton>
        ) : (
          <PrimaryButton className="wide" onPress={() => void pilot.seen()}>
            {open && !state.abort ? 'It is back' : 'Close the run'} <Key>Space</Key>
          </PrimaryButton>
        )}
      </Keys>
    </Card>
  );
}
