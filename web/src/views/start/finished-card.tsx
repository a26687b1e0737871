import { abortPlan, isFinished, itemState, noGoFaults, stillOpen } from '@rouse/core/procedure';
import { useNavigate } from 'react-router';
import { useAppSelector } from '../../app/store.ts';
import { Key, PrimaryButton } from '../../parts/button.tsx';
import type { FollowedRun } from '../../run/run-slice.ts';
import { Card, Keys, Kicker, Refusal, Why } from './card.ts';
import { usePilot } from './pilot.ts';

/** The list is at its end, or a no-go holds it. */
export function FinishedCard({ followed }: { followed: FollowedRun }) {
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
