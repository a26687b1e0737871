import type { SerializedError } from '@reduxjs/toolkit';
import type { InvitationAsked } from '@rouse/core/contract';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { type Refused, troubleIn } from '../../app/server-data.ts';
import { useInvitationQuery, useJoinMutation, useSession } from '../../app/session-data.ts';
import { Button, PrimaryButton } from '../../ui/button.tsx';
import { Alert } from '../../ui/field-look.ts';
import { Field, Form, PASSWORD_HINT } from '../../ui/form.tsx';
import { Aid, Small } from '../../ui/heading.ts';
import { SignInPage } from './sign-in-page.ts';

/** Where a one-time link leads: somebody joins an operator, or chooses another password. */
export function JoinView() {
  const { token = '' } = useParams();
  const { data: asked, error } = useInvitationQuery(token);
  const { data: session } = useSession();
  const [join, { error: refused, isLoading }] = useJoinMutation();
  const [done, setDone] = useState(false);
  const navigate = useNavigate();
  if (error && !done)
    return (
      <SignInPage>
        <h1>Rouse</h1>
        <Alert role="alert">{troubleIn(error)}</Alert>
      </SignInPage>
    );
  if (!asked) return <SignInPage>Reading your link…</SignInPage>;
  const go = async (body: unknown): Promise<void> => {
    const answer = await join({ token, body });
    if (!answer.data) return;
    setDone(true);
    void navigate('/');
  };
  const reset = asked.kind === 'reset';
  const own = session?.person && session.person.way !== 'demo' ? session.person : null;
  return (
    <SignInPage>
      <h1>{reset ? 'Another password' : `Welcome to ${asked.operator}`}</h1>
      <section>
        <ByName asked={asked} refused={refused} busy={isLoading} go={go} />
      </section>
      {!reset && (asked.signOn !== null || own !== null) && (
        <section>
          <Small>Or with what you have</Small>
          {own && (
            <Button onPress={() => void go({ with: 'my-account' })}>
              As {own.member?.name ?? 'the account that is signed in here'}
            </Button>
          )}
          {asked.signOn && (
            <Button
              onPress={() =>
                window.location.assign(
                  `/api/session/sign-on/${token.split('.')[0]}?invitation=${encodeURIComponent(token)}`,
                )
              }
            >
              With {asked.signOn.label}
            </Button>
          )}
        </section>
      )}
      <Aid>This link works once. Whoever has it can use it: hand it to nobody.</Aid>
    </SignInPage>
  );
}

interface ByNameProps {
  asked: InvitationAsked;
  refused: Refused | SerializedError | undefined;
  busy: boolean;
  go: (body: unknown) => Promise<void>;
}

function ByName({ asked, refused, busy, go }: ByNameProps) {
  const reset = asked.kind === 'reset';
  return (
    <>
      <p>
        {reset
          ? `${asked.name}, choose what you sign in with from now on. Every session of yours ends, and codes are given up.`
          : `${asked.name}, you are invited as ${asked.roles.join(', ')}. Choose what you sign in with; a passkey can come later.`}
      </p>
      <Form
        label={reset ? 'Another password' : 'Join'}
        error={refused}
        onSubmit={(typed) => go({ with: 'password', login: typed.text('login'), password: typed.secret('password') })}
      >
        <Field
          name="login"
          label="Name to sign in with"
          required
          value={asked.login}
          maxLength={100}
          width={22}
          autoComplete="username"
        />{' '}
        {/* oxfmt-ignore */}
        <Field name="password" label="Password" type="password" required maxLength={200} width={26} autoComplete="new-password" hint={PASSWORD_HINT} />{' '}
        {/* oxfmt-ignore */}
        <PrimaryButton type="submit" isDisabled={busy}>
          {reset ? 'Take it' : 'Join'}
        </PrimaryButton>
      </Form>
    </>
  );
}
