import type { SessionMessage } from '@rouse/core/contract';
import { startAuthentication } from '@simplewebauthn/browser';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import styled from 'styled-components';
import { troubleIn } from '../../app/server-data.ts';
import { useSignInMutation } from '../../app/session-data.ts';
import { ApiRefusal, postJson } from '../../platform/api.ts';
import { Button, buttonLook, PrimaryButton } from '../../ui/button.tsx';
import { Alert } from '../../ui/field-look.ts';
import { Field, Form } from '../../ui/form.tsx';
import { Aid, PREVAILS, Small } from '../../ui/heading.ts';
import { SignInPage } from './sign-in-page.ts';
import { TabletDoor } from './tablet-door.tsx';
import { FoundForm } from './found.tsx';

const Row = styled.div`
  display: flex;
  gap: 10px;
  flex-wrap: wrap;
`;

const Person = styled(Button)`
  flex-direction: column;
  align-items: flex-start;
  gap: 0;
  small {
    font-weight: 400;
    color: var(--soft);
  }
`;

const SIGN_ON: Record<string, string> = {
  again: 'The sign-on of your organisation did not come to its end; try again.',
  unknown: 'Your organisation knows you, and Rouse does not yet: open the link of your invitation first.',
};

/** The doors into Rouse: by passkey, by name, by PIN on a tablet, by an organisation's sign-on, or into the demo. */
export function SignIn({ session }: { session: SessionMessage }) {
  const [params] = useSearchParams();
  const [founding, setFounding] = useState(false);
  const signOn = SIGN_ON[params.get('sign-on') ?? ''];
  if (founding) return <FoundForm types={session.types} back={() => setFounding(false)} />;
  return (
    <SignInPage>
      <h1>Rouse</h1>
      {signOn !== undefined && <Alert role="alert">{signOn}</Alert>}
      {session.tablet && <TabletDoor tablet={session.tablet} />}
      {!session.empty && <OwnDoor signOn={session.signOn} />}
      {session.demo.length > 0 && <DemoDoor people={session.demo} />}
      {session.empty && (
        <section>
          <Small>Set up yours</Small>
          <p>Your operator, your first site, yourself and your first aircraft. The first run can be flown by hand.</p>
          <Row>
            <Button onPress={() => setFounding(true)}>Set Rouse up</Button>
          </Row>
        </section>
      )}
      {session.empty && session.demo.length === 0 && (
        <Aid>To look around in the demo first, start Rouse once without ROUSE_DEMO=none.</Aid>
      )}
      <Aid>{PREVAILS}</Aid>
    </SignInPage>
  );
}

function DemoDoor({ people }: { people: SessionMessage['demo'] }) {
  const [signIn, { error, isLoading }] = useSignInMutation();
  return (
    <section>
      <Small>Look around with the demo</Small>
      <p>A made-up operator with six simulated aircraft and a year behind it. Sign in as one of its people.</p>
      <Row>
        {people.map((p) => (
          <Person
            key={p.personId}
            isDisabled={isLoading}
            onPress={() => void signIn({ way: 'demo', body: { person: p.personId } })}
          >
            {p.name}
            <small>{p.roles.join(', ')}</small>
          </Person>
        ))}
      </Row>
      {error && <Alert role="alert">{troubleIn(error)}</Alert>}
    </section>
  );
}

function OwnDoor({ signOn }: { signOn: SessionMessage['signOn'] }) {
  const [signIn, { error, isLoading }] = useSignInMutation();
  const [asked, setAsked] = useState<'name' | 'code'>('name');
  const [passkeyTrouble, setPasskeyTrouble] = useState<string | null>(null);
  const byPasskey = async (): Promise<void> => {
    setPasskeyTrouble(null);
    try {
      const optionsJSON = await postJson<Parameters<typeof startAuthentication>[0]['optionsJSON']>('/session/passkey/challenge', {}); // oxfmt-ignore
      await signIn({ way: 'passkey', body: await startAuthentication({ optionsJSON }) });
    } catch (failed) {
      setPasskeyTrouble(failed instanceof ApiRefusal ? `${failed.message} ${failed.remedy}` : 'The device has given no passkey. Try again, or sign in by name.'); // oxfmt-ignore
    }
  };
  return (
    <section>
      <Small>Sign in</Small>
      <Row>
        <PrimaryButton onPress={() => void byPasskey()}>With a passkey</PrimaryButton>
        {signOn.map((o) => (
          <SignOnLink key={o.operatorId} href={`/api/session/sign-on/${o.operatorId}`}>
            {o.label}
          </SignOnLink>
        ))}
      </Row>
      {passkeyTrouble !== null && <Alert role="alert">{passkeyTrouble}</Alert>}
      {asked === 'name' ? (
        <Form
          label="Sign in by name"
          error={error}
          onSubmit={async (typed) => {
            const answer = await signIn({
              way: 'password',
              body: { login: typed.text('login'), password: typed.secret('password') },
            });
            if (answer.data && 'need' in answer.data) setAsked('code');
          }}
        >
          <Field name="login" label="Name" required autoComplete="username" maxLength={100} width={22} />
          <Field
            name="password"
            label="Password"
            type="password"
            required
            autoComplete="current-password"
            maxLength={200}
            width={22}
          />{' '}
          {/* oxfmt-ignore */}
          <Button type="submit" isDisabled={isLoading}>
            Sign in
          </Button>
        </Form>
      ) : (
        <Form
          label="Code of your authenticator"
          error={error}
          onSubmit={(typed) => void signIn({ way: 'code', body: { code: typed.text('code') } })}
        >
          <Field
            name="code"
            label="Code of your authenticator"
            required
            digits
            maxLength={6}
            width={8}
            autoComplete="one-time-code"
            autoFocus
          />{' '}
          {/* oxfmt-ignore */}
          <Button type="submit" isDisabled={isLoading}>
            Go on
          </Button>
          <Button onPress={() => setAsked('name')}>Back</Button>
        </Form>
      )}
      <Aid>No account, or a password forgotten: an administrator of your operator makes you a link.</Aid>
    </section>
  );
}

const SignOnLink = styled.a`
  ${buttonLook}
`;
