import { type FlowZone, findItem, itemState, wasFlowed, zonesOf } from '@rouse/core/procedure';
import styled from 'styled-components';
import { Button, Key, PrimaryButton } from '../../ui/button.tsx';
import type { FollowedRun } from '../../run/run-slice.ts';
import { write } from '../../run/write.ts';
import { Card, Keys, Kicker, Why } from './card.ts';
import { usePilot } from './pilot.ts';

const Lines = styled.ul`
  margin-top: 8px;
  li {
    padding: 5px 0;
    border-top: 1px solid var(--hair);
    font-size: 0.90625rem;
    display: flex;
    justify-content: space-between;
    gap: 10px;
  }
  span {
    color: var(--soft);
    text-align: right;
  }
`;

/** One zone of a flow: hands go round it from memory, and the list comes after. */
export function FlowCard({ followed: { type, state }, zone }: { followed: FollowedRun; zone: FlowZone }) {
  const pilot = usePilot();
  const zones = zonesOf(type, state, zone.leg);
  return (
    <Card aria-label="Present item" data-item={`flow-${zone.zone}`}>
      <Kicker>
        <span>
          Flow · zone {zones.findIndex((z) => z.zone === zone.zone) + 1} of {zones.length}
        </span>
      </Kicker>
      <h2>{zone.zone.charAt(0).toUpperCase() + zone.zone.slice(1)}</h2>
      <h3>from memory; the list is read when every zone is done</h3>
      <Lines>
        {zone.items.map((item) => (
          <li key={item.id}>
            {item.challenge} <span>{itemState(state, item.id).status === 'done' ? 'sensed' : item.response}</span>
          </li>
        ))}
      </Lines>
      <Keys>
        <PrimaryButton className="wide" onPress={() => void pilot.seen()}>
          Zone done <Key>Space</Key>
        </PrimaryButton>
      </Keys>
    </Card>
  );
}

/** After an interruption the two lines before it are looked at again. */
export function SeeAgain({ followed: { type, state } }: { followed: FollowedRun }) {
  const pilot = usePilot();
  const [id] = state.seeAgain;
  const item = findItem(type, id!);
  if (!item) return null;
  const { words, status } = itemState(state, item.id);
  return (
    <Card aria-label="Present item" data-item={`again-${item.id}`}>
      <Kicker>
        <span>After the interruption · look again, {state.seeAgain.length} to go</span>
      </Kicker>
      <h2>{item.challenge}</h2>
      <h3>{item.response}</h3>
      <Why>
        It was {status}
        {words ? `: ${words}` : ''}
        {wasFlowed(state, item) ? ', walked in the flow' : ''}. An interruption loses the line before it more often than
        the one after.
      </Why>
      <Keys>
        <PrimaryButton onPress={() => void pilot.seen()}>
          Still so <Key>Space</Key>
        </PrimaryButton>
        <Button onPress={() => void write({ kind: 'item-reopened', item: item.id })}>Do it again</Button>
      </Keys>
    </Card>
  );
}
