import { startRegistration } from '@simplewebauthn/browser';
import { useState } from 'react';
import { troubleIn } from '../../app/server-data.ts';
import {
  useAccountQuery,
  useChangeAccountMutation,
  useChooseOperatorMutation,
  useSession,
  useSessionsQuery,
  useSignOutMutation,
} from '../../app/session-data.ts';
import { ApiRefusal, postJson } from '../../platform/api.ts';
import { Button, PrimaryButton, SlimButton } from '../../ui/button.tsx';
import { Alert } from '../../ui/field-look.ts';
import { Field, Form, PASSWORD_HINT } from '../../ui/form.tsx';
import { Small } from '../../ui/heading.ts';
import { Card, Rows, SetUpPage, Shown } from './page.tsx';
import { ThisDevice } from './this-device.tsx';

/** What somebody signs in with, and where they are signed in. */
export function Me() {
  const { data: session } = useSession();
  const [signOut] = useSignOutMutation();
  const [choose] = useChooseOperatorMutation();
  const person = session?.person;
  if (!person?.member) return null;
  const { member, way, operators } = person;
  return (
    <SetUpPage title="Your sign-in">
      <Card>
        <p>
          <b>{member.name}</b>, {member.roles.join(', ') || 'no role'} at {member.operator}.
          {member.unproven.length > 0 &&
            ` As ${member.unproven.join(' and ')} you act after a sign-in with a passkey or a code.`}
        </p>
        <Rows aria-label="Operators">
          {operators
            .filter((o) => o.operatorId !== member.operatorId)
            .map((o) => (
              <li key={o.operatorId}>
                <span>{o.name}</span>
                <SlimButton onPress={() => void choose(o.operatorId)}>Work there</SlimButton>
              </li>
            ))}
        </Rows>
        <Button onPress={() => void signOut()}>Sign out</Button>
      </Card>
      {way === 'demo' ? (
        <Card>
          <p>People of the demo belong to everybody: they have no password, and keep none.</p>
        </Card>
      ) : (
        <Keys />
      )}
      <Where />
      <ThisDevice />
    </SetUpPage>
  );
}

function Keys() {
  const { data: account } = useAccountQuery();
  const [change, { error }] = useChangeAccountMutation();
  const [changePin, { error: pinError }] = useChangeAccountMutation();
  const [said, setSaid] = useState('');
  if (!account) return null;
  return (
    <>
      <Passkeys keys={account.passkeys} />
      <Card>
        <Small>Name and password</Small>
        <Form
          label="Name and password"
          error={error}
          onSubmit={async (typed, form) => {
            const answer = await change({
              method: 'PUT',
              path: '/account/password',
              body: {
                login: typed.text('login'),
                password: account.hasPassword ? typed.secret('password') : null,
                next: typed.secret('next'),
              },
            });
            if (answer.error) return;
            form.reset();
            setSaid('Kept. Every other session of yours has ended.');
          }}
        >
          <Field
            name="login"
            label="Name to sign in with"
            value={account.login}
            required
            maxLength={100}
            autoComplete="username"
          />
          {account.hasPassword && (
            <Field
              name="password"
              label="Present password"
              type="password"
              required
              maxLength={200}
              autoComplete="current-password"
            />
          )}
          <Field
            name="next"
            label="New password"
            type="password"
            required
            maxLength={200}
            autoComplete="new-password"
            hint={PASSWORD_HINT}
          />
          <PrimaryButton type="submit">Keep</PrimaryButton>
          {said && <p role="status">{said}</p>}
        </Form>
      </Card>
      <Codes hasCodes={account.hasCodes} />
      <Card>
        <Small>PIN for tablets of the crew room</Small>
        <p>{account.hasPin ? 'You have one.' : 'You have none.'}</p>
        <Form
          label="PIN"
          error={pinError}
          onSubmit={async (typed, form) => {
            const answer = await changePin({ method: 'PUT', path: '/account/pin', body: { pin: typed.text('pin') } });
            if (!answer.error) form.reset();
          }}
        >
          <Field name="pin" label="Six digits" type="password" digits required maxLength={6} width={8} />
          <PrimaryButton type="submit">Keep</PrimaryButton>
        </Form>
      </Card>
    </>
  );
}

function Passkeys({ keys }: { keys: { id: string; label: string; madeAt: string }[] }) {
  const [change, { error }] = useChangeAccountMutation();
  const [trouble, setTrouble] = useState<string | null>(null);
  const add = async (label: string, form: HTMLFormElement): Promise<void> => {
    setTrouble(null);
    try {
      const optionsJSON = await postJson<Parameters<typeof startRegistration>[0]['optionsJSON']>('/account/passkeys/challenge', {}); // oxfmt-ignore
      const answer = await startRegistration({ optionsJSON });
      const kept = await change({ method: 'POST', path: '/account/passkeys', body: { label, answer } });
      if (!kept.error) form.reset();
    } catch (failed) {
      setTrouble(
        failed instanceof ApiRefusal ? `${failed.message} ${failed.remedy}` : 'The device has made no passkey.',
      );
    }
  };
  return (
    <Card>
      <Small>Passkeys</Small>
      <p>
        A passkey stays on its device and needs no password: the finger, the face or the PIN of the device opens it.
      </p>
      <Rows aria-label="Passkeys">
        {keys.map((k) => (
          <li key={k.id}>
            <span>
              <b>{k.label}</b> <small>since {k.madeAt.slice(0, 10)}</small>
            </span>
            <SlimButton
              onPress={() => void change({ method: 'DELETE', path: `/account/passkeys/${encodeURIComponent(k.id)}` })}
            >
              Give it up
            </SlimButton>
          </li>
        ))}
      </Rows>
      <Form label="A passkey" error={error} onSubmit={(typed, form) => void add(typed.text('label'), form)}>
        <Field name="label" label="This device is called" required maxLength={100} />
        <PrimaryButton type="submit">Make a passkey</PrimaryButton>
      </Form>
      {trouble !== null && <Alert role="alert">{trouble}</Alert>}
    </Card>
  );
}

function Codes({ hasCodes }: { hasCodes: boolean }) {
  const [change, { error }] = useChangeAccountMutation();
  const [made, setMade] = useState<{ secret: string; uri: string } | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const begin = async (): Promise<void> => {
    try {
      setMade(await postJson<{ secret: string; uri: string }>('/account/code', {}));
    } catch (failed) {
      setTrouble(failed instanceof ApiRefusal ? failed.message : 'That did not work; try again.');
    }
  };
  return (
    <Card>
      <Small>Codes of an authenticator</Small>
      <p>
        {hasCodes
          ? 'After your password a code is asked for.'
          : 'An authenticator gives a new code every half minute: a second proof beside the password.'}
      </p>
      {made ? (
        <Form
          label="Codes"
          error={error}
          onSubmit={async (typed) => {
            const answer = await change({ method: 'PUT', path: '/account/code', body: { code: typed.text('code') } });
            if (!answer.error) setMade(null);
          }}
        >
          <p>Put this secret into the authenticator, then type the code that it shows.</p>
          <Shown data-secret>{made.secret}</Shown>
          <Field name="code" label="Code" digits required maxLength={6} width={8} autoFocus />
          <PrimaryButton type="submit">Use codes</PrimaryButton>
        </Form>
      ) : (
        <div>
          <Button onPress={() => void begin()}>{hasCodes ? 'Another secret' : 'Begin to use codes'}</Button>{' '}
          {hasCodes && (
            <Button onPress={() => void change({ method: 'DELETE', path: '/account/code' })}>Give codes up</Button>
          )}
        </div>
      )}
      {trouble !== null && <Alert role="alert">{trouble}</Alert>}
      {!made && error && <Alert role="alert">{troubleIn(error)}</Alert>}
    </Card>
  );
}

function Where() {
  const { data: sessions } = useSessionsQuery();
  const [change] = useChangeAccountMutation();
  return (
    <Card>
      <Small>Where you are signed in</Small>
      <Rows aria-label="Sessions">
        {sessions?.map((s) => (
          <li key={s.id}>
            <span>
              {s.device.slice(0, 90)}{' '}
              <small>
                {s.address}, by {s.way}, since {s.madeAt.slice(0, 16).replace('T', ' ')} UTC
                {s.here && '; this one'}
              </small>
            </span>
            {!s.here && (
              <SlimButton onPress={() => void change({ method: 'DELETE', path: `/account/sessions/${s.id}` })}>
                End it
              </SlimButton>
            )}
          </li>
        ))}
      </Rows>
    </Card>
  );
}
