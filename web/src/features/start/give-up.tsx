import { useState } from 'react';
import styled from 'styled-components';
import { Button, SlimButton } from '../../ui/button.tsx';
import type { FollowedRun } from '../../run/run-slice.ts';
import { write } from '../../run/write.ts';
import { canStop } from './pilot.ts';

const Sure = styled.p`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  font-size: 0.875rem;
`;

/** A run that was begun and is not wanted any more, while nothing turns; asked twice. */
export function GiveUp({ followed }: { followed: FollowedRun }) {
  const [asked, setAsked] = useState(false);
  const { state } = followed;
  if (state.status !== 'open' || state.abort || canStop(followed)) return null;
  if (!asked)
    return (
      <p>
        <SlimButton onPress={() => setAsked(true)}>Give this run up</SlimButton>
      </p>
    );
  return (
    <Sure role="alert">
      It ends here, with what is done.
      <Button onPress={() => void write({ kind: 'closed', outcome: 'given-up' })}>Give it up</Button>
      <Button onPress={() => setAsked(false)} autoFocus>
        Go on
      </Button>
    </Sure>
  );
}
