import type { SessionMessage } from '@rouse/core/contract';
import { ACKNOWLEDGEMENT } from '@rouse/core/people';
import { lazy, type ReactNode, Suspense, useEffect, useState } from 'react';
import { troubleIn } from '../../app/server-data.ts';
import { useAcknowledgeMutation, useChooseOperatorMutation, useSession } from '../../app/session-data.ts';
import { SIGNED_OUT } from '../../platform/api.ts';
import { forgetAnswers } from '../../platform/offline.ts';
import { readSetting, writeSetting } from '../../platform/storage.ts';
import { Button, PrimaryButton } from '../../ui/button.tsx';
import { Alert } from '../../ui/field-look.ts';
import { SignInPage } from './sign-in-page.ts';

// most who open a page are signed in
const SignIn = lazy(async () => ({ default: (await import('./sign-in.tsx')).SignIn }));

const DoorsOver = lazy(async () => ({ default: (await import('./doors-over.tsx')).DoorsOver }));

/** whose answers this device keeps */
const ANSWERED = 'answered';

const OPENING = <p>Opening Rouse…</p>;

/**
 * Lets people in. A page that was open when its session ended stays as it is behind the doors: what was typed is there
 * when somebody has signed in again.
 */
export function Gate({ children }: { children: ReactNode }) {
  const { data: session, error, refetch } = useSession();
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
          OPENING
        )}
      </SignInPage>
    );
  }
  if (isIn) return children;
  const door = !person ? <Doors session={session} /> : !person.member ? <ChooseOperator /> : <Acknowledge />;
  if (!wasIn) return door;
  return (
    <>
      {children}
      <Suspense fallback={null}>
        <DoorsOver>{door}</DoorsOver>
      </Suspense>
    </>
  );
}

const Doors = ({ session }: { session: SessionMessage }) => (
  <Suspense fallback={<SignInPage>{OPENING}</SignInPage>}>
    <SignIn session={session} />
  </Suspense>
);

function ChooseOperator() {
  const { data: session } = useSession();
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
