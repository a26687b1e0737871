import { ACKNOWLEDGEMENT } from '@rouse/core/people';
import { type ReactNode, useEffect, useState } from 'react';
import { Dialog, Modal, ModalOverlay } from 'react-aria-components';
import styled from 'styled-components';
import { troubleIn } from '../../app/server-data.ts';
import { useAcknowledgeMutation, useChooseOperatorMutation, useSessionQuery } from '../../app/session-data.ts';
import { SIGNED_OUT } from '../../platform/api.ts';
import { forgetAnswers } from '../../platform/offline.ts';
import { readSetting, writeSetting } from '../../platform/storage.ts';
import { Button, PrimaryButton } from '../../ui/button.tsx';
import { Alert } from '../../ui/form.tsx';
import { SignInPage } from './sign-in-page.ts';
import { SignIn } from './sign-in.tsx';

/** whose answers this device keeps */
const ANSWERED = 'answered';

const Over = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  z-index: 20;
  background: var(--paper);
  > div,
  section[role='dialog'] {
    height: 100%;
    outline: none;
  }
`;

/**
 * Lets people in. A page that was open when its session ended stays as it is behind the doors: what was typed is there
 * when somebody has signed in again.
 */
export function Gate({ children }: { children: ReactNode }) {
  const { data: session, error, refetch } = useSessionQuery();
  const [workedIn, setWorkedIn] = useState<string | null>(null);
  const wasIn = workedIn !== null;
  useEffect(() => {
    const out = (): void => void refetch();
    window.addEventListener(SIGNED_OUT, out);
    return () => window.removeEventListener(SIGNED_OUT, out);
  }, [refetch]);
  const person = session?.person ?? null;
  const isIn = person?.member?.acknowledged === true;
  const operator = isIn ? person.member!.operatorId : null;
  if (operator !== null && workedIn === null) setWorkedIn(operator);
  const whose = isIn ? `${person.personId}/${operator}` : null;
  useEffect(() => {
    // what was answered to one person, or in one operator, is not kept for another one
    if (whose === null || readSetting(ANSWERED) === whose) return;
    writeSetting(ANSWERED, whose);
    void forgetAnswers();
  }, [whose]);
  // nothing that was read in one operator is shown in another one
  const another = operator !== null && workedIn !== null && operator !== workedIn;
  useEffect(() => {
    if (another) window.location.assign('/');
  }, [another]);
  if (another) return null;
  if (!session) {
    if (wasIn) return children;
    return (
      <SignInPage>
        <h1>Rouse</h1>
        {error ? (
          <>
            <Alert role="alert">{troubleIn(error)}</Alert>
            <Button onPress={() => void refetch()}>Try again</Button>
          </>
        ) : (
          <p>Opening Rouse…</p>
        )}
      </SignInPage>
    );
  }
  if (isIn) return children;
  const door = !person ? <SignIn session={session} /> : !person.member ? <ChooseOperator /> : <Acknowledge />;
  if (!wasIn) return door;
  return (
    <>
      {children}
      <Over isOpen>
        <Modal>
          <Dialog aria-label="Sign in">{door}</Dialog>
        </Modal>
      </Over>
    </>
  );
}

function ChooseOperator() {
  const { data: session } = useSessionQuery();
  const [choose, { error }] = useChooseOperatorMutation();
  const operators = session?.person?.operators ?? [];
  return (
    <SignInPage>
      <h1>Where do you work now?</h1>
      <section>
        {operators.length === 0 && <p>You work for no operator here any more. An administrator invites you again.</p>}
        {operators.map((o) => (
          <Button key={o.operatorId} onPress={() => void choose(o.operatorId)}>
            {o.name}
          </Button>
        ))}
        {error && <Alert role="alert">{troubleIn(error)}</Alert>}
      </section>
    </SignInPage>
  );
}

/** Before the first use, and after each change of what it says. */
function Acknowledge() {
  const [acknowledge, { error, isLoading }] = useAcknowledgeMutation();
  return (
    <SignInPage>
      <h1>Before you begin</h1>
      <section>
        {ACKNOWLEDGEMENT.words.map((words) => (
          <p key={words}>{words}</p>
        ))}
        {error && <Alert role="alert">{troubleIn(error)}</Alert>}
        <PrimaryButton isDisabled={isLoading} onPress={() => void acknowledge(ACKNOWLEDGEMENT.version)}>
          I have read this
        </PrimaryButton>
      </section>
    </SignInPage>
  );
}
