import {
  abortPlan,
  isFinished,
  isShuttingDown,
  itemState,
  legsAhead,
  noGoFaults,
  toPutBack,
} from '@rouse/core/procedure';
import { useNavigate } from 'react-router';
import { useAppSelector } from '../../app/store.ts';
import { Button, Key, PrimaryButton } from '../../ui/button.tsx';
import { minutes } from '../../ui/words.ts';
import type { FollowedRun } from '../../run/run-slice.ts';
import { tabletRunInHand } from '../../run/tablet/in-hand.ts';
import { Card, Keys, Kicker, Refusal, Why } from './card.ts';
import { LEG_KEYS } from './keys.ts';
import { tryOf, usePilot } from './pilot.ts';

/** What the end of the list means, by how far the run has come. */
function readyWords(shutDown: boolean, lifted: boolean): string {
  if (shutDown) return 'Everything is off and in its place. Closing books the run.';
  return lifted
    ? 'Watched until landing. The shut-down begins by itself at idle, or when you say so.'
    : 'Every item is done. Skipped items and faults are named below. The lift is seen by itself.';
}

/** The list is at its end, or a no-go holds it. */
export function FinishedCard({ followed }: { followed: FollowedRun }) {
  const { type, state, detail } = followed;
  const pilot = usePilot();
  const refusal = useAppSelector((s) => s.run.refusal);
  const fault = noGoFaults(type, state)[0];
  const open = toPutBack(type, state)[0];
  const closed = state.status === 'closed';
  const ready = isFinished(type, state);
  const ahead = closed || state.abort ? [] : legsAhead(type, state);
  const lifted = Object.keys(state.begun).length > 0;
  const title = closed
    ? 'This run is closed'
    : state.abort
      ? 'Abort actions done'
      : !ready
        ? open
          ? 'Still open'
          : 'Held'
        : isShuttingDown(type, state)
          ? 'Shut down'
          : lifted
            ? 'In flight'
            : 'Ready for lift';
  const words = state.abort
    ? (abortPlan(type, state)?.afterwards ?? '')
    : ready
      ? readyWords(isShuttingDown(type, state), lifted)
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
          <AfterClosing run={detail.run} />
        ) : state.abort ? (
          <AfterAbort followed={followed} />
        ) : ready ? (
          <>
            {ahead.map((leg, i) => {
              const last = leg === type.legs.at(-1);
              const Way = i === 0 ? PrimaryButton : Button;
              return (
                <Way key={leg.id} className="wide" onPress={() => void pilot.beginLeg(last ? 'last' : 'next')}>
                  {leg.verb ?? leg.label} <Key>{last ? LEG_KEYS.last : LEG_KEYS.next}</Key>
                </Way>
              );
            })}
            <CloseButton primary={ahead.length === 0} />
          </>
        ) : (
          <PrimaryButton className="wide" onPress={() => void pilot.seen()}>
            {open ? 'It is back' : 'Close the run'} <Key>Space</Key>
          </PrimaryButton>
        )}
      </Keys>
    </Card>
  );
}

/** A run of this tablet is read back when the server has it. */
function AfterClosing({ run }: { run: string }) {
  const navigate = useNavigate();
  const here = tabletRunInHand(run) !== null;
  return (
    <PrimaryButton className="wide" onPress={() => void navigate(here ? '/' : `/debrief/${run}`)}>
      {here ? 'To Today' : 'To the debrief'}
    </PrimaryButton>
  );
}

function CloseButton({ primary }: { primary: boolean }) {
  const pilot = usePilot();
  const Way = primary ? PrimaryButton : Button;
  return (
    <Way className="wide" onPress={() => void pilot.close()}>
      Close the run {primary && <Key>Space</Key>}
    </Way>
  );
}

/** Another try where the plan of the abort allows it, as soon as what comes first is over; else the run is closed. */
function AfterAbort({ followed }: { followed: FollowedRun }) {
  const pilot = usePilot();
  // what is waited for is known by the watch, ten times a second
  useAppSelector((s) => s.run.status);
  const next = tryOf(followed);
  const open = next?.verdict === 'open' || next?.verdict === 'by-eye';
  if (!open && next?.verdict !== 'held') return <CloseButton primary />;
  return (
    <>
      <PrimaryButton className="wide" isDisabled={!open} onPress={() => void pilot.seen()}>
        {open ? 'Try again' : `Try again${next.rest_s > 0 ? ` in ${minutes(Math.ceil(next.rest_s))}` : ''}`}{' '}
        <Key>Space</Key>
      </PrimaryButton>
      <CloseButton primary={false} />
    </>
  );
}
