import { useState } from 'react';
import { Link } from 'react-router';
import styled from 'styled-components';
import { ApiRefusal, postFile } from '../../platform/api.ts';
import { serverData } from '../../app/server-data.ts';
import { useAppDispatch } from '../../app/store.ts';
import { useChangeMutation, useOperatorQuery, useStandardMassesQuery } from '../../app/session-data.ts';
import { Button, buttonLook, PrimaryButton, SlimButton } from '../../ui/button.tsx';
import { Field, Form, Tick } from '../../ui/form.tsx';
import { Small } from '../../ui/heading.ts';
import { Card, Rows, SetUpPage } from './page.tsx';

const DownloadLink = styled.a`
  ${buttonLook}
  justify-self: start;
`;

/** The operator itself: name, rules of signing in, standard masses, and leaving with everything. */
export function Operator() {
  const { data: operator } = useOperatorQuery();
  const [change, { error }] = useChangeMutation();
  if (!operator) return <SetUpPage title="Operator">{null}</SetUpPage>;
  return (
    <SetUpPage title="Operator">
      <Card>
        <Form
          label="Operator"
          error={error}
          onSubmit={(typed) =>
            void change({
              method: 'PUT',
              path: '/operator',
              body: {
                name: typed.text('name'),
                place: typed.text('place'),
                codesAsked: typed.ticked('codesAsked').length > 0,
              },
            })
          }
        >
          <Field name="name" label="Name" value={operator.name} required maxLength={100} width={34} />
          <Field name="place" label="Place" value={operator.place} maxLength={100} width={28} />
          <Tick
            name="codesAsked"
            label="Engineers and administrators sign in with a passkey, a code or the sign-on"
            on={operator.codesAsked}
          />
          <PrimaryButton type="submit">Keep</PrimaryButton>
        </Form>
      </Card>
      <Masses />
      <Card>
        <Small>Ways of working</Small>
        <p>
          How your people work a list is answered type by type: <Link to="/types">Types</Link>, read one, Ways of
          working.
        </p>
      </Card>
      {!operator.demo && <SignOnCard provider={operator.identityProvider} />}
      <Card>
        <Small>Take everything along</Small>
        <p>
          One file of open formats: every run with its journal and frames, aircraft, types, places, people, what was
          done.
        </p>
        <DownloadLink href="/api/operator/export" download>
          Export all of it
        </DownloadLink>
      </Card>
      {!operator.demo && <BringIn />}
      {!operator.demo && <Leave name={operator.name} />}
    </SetUpPage>
  );
}

function Masses() {
  const { data: masses } = useStandardMassesQuery();
  const [change, { error }] = useChangeMutation();
  return (
    <Card>
      <Small>Standard masses</Small>
      <Rows aria-label="Standard masses">
        {masses?.map((m) => (
          <li key={m.label}>
            <span>
              <b>{m.label}</b> {m.mass_kg} kg
            </span>
            <SlimButton
              aria-label={`Take ${m.label} away`}
              onPress={() => void change({ method: 'DELETE', path: `/standard-masses/${encodeURIComponent(m.label)}` })}
            >
              ×
            </SlimButton>
          </li>
        ))}
      </Rows>
      <Form
        label="A standard mass"
        error={error}
        onSubmit={async (typed, form) => {
          const answer = await change({
            method: 'PUT',
            path: `/standard-masses/${encodeURIComponent(typed.text('label'))}`,
            body: { mass_kg: typed.number('mass_kg') },
          });
          if (!answer.error) form.reset();
        }}
      >
        <Field name="label" label="Who" required maxLength={60} width={24} />
        <Field name="mass_kg" label="Mass, kg" required decimal width={7} />
        <PrimaryButton type="submit">Keep</PrimaryButton>
      </Form>
    </Card>
  );
}

function SignOnCard({ provider }: { provider: { label: string; issuer: string; clientId: string } | null }) {
  const [change, { error }] = useChangeMutation();
  return (
    <Card>
      <Small>Sign-on of your organisation</Small>
      <p>
        {provider
          ? `${provider.label}, ${provider.issuer}`
          : 'An identity provider that speaks OpenID Connect. Register Rouse there with the address that ends in /api/session/sign-on-back.'}
      </p>
      {provider && (
        <Button onPress={() => void change({ method: 'DELETE', path: '/operator/identity-provider' })}>
          Give it up
        </Button>
      )}
      <Form
        label="Sign-on of your organisation"
        error={error}
        onSubmit={(typed) =>
          void change({
            method: 'PUT',
            path: '/operator/identity-provider',
            body: {
              label: typed.text('label'),
              issuer: typed.text('issuer'),
              clientId: typed.text('clientId'),
              clientSecret: typed.secret('clientSecret'),
            },
          })
        }
      >
        <Field name="label" label="What people call it" value={provider?.label ?? ''} required maxLength={100} />
        <Field name="issuer" label="Issuer" value={provider?.issuer ?? ''} required maxLength={200} width={30} />
        <Field name="clientId" label="Client id" value={provider?.clientId ?? ''} required maxLength={200} />
        <Field name="clientSecret" label="Client secret" type="password" required maxLength={500} />
        <PrimaryButton type="submit">Keep</PrimaryButton>
      </Form>
    </Card>
  );
}

/** An export of another Rouse comes into this operator, while it has no run of its own. */
function BringIn() {
  const [said, setSaid] = useState<{ alert: boolean; words: string } | null>(null);
  const dispatch = useAppDispatch();
  const bring = async (file: File): Promise<void> => {
    setSaid({ alert: false, words: `Reading ${file.name}…` });
    try {
      const taken = await postFile<{ from: string; runs: number; people: number }>(
        '/operator/import',
        file,
        'application/zip',
      );
      setSaid({
        alert: false,
        words: `${taken.runs} runs and ${taken.people} people of ${taken.from} are here; every chain was verified. Hand each of them a link for a password.`,
      });
      dispatch(serverData.util.invalidateTags(['set-up', 'today', 'aircraft', 'types']));
    } catch (error) {
      if (!(error instanceof ApiRefusal)) throw error;
      setSaid({ alert: true, words: `${error.message} ${error.remedy}` });
    }
  };
  return (
    <Card>
      <Small>Bring an export in</Small>
      <p>Of another Rouse, into this operator while it has no run. Each run is verified before it is taken.</p>
      <input
        type="file"
        accept=".zip,application/zip"
        aria-label="Export to bring in"
        onChange={(e) => {
          const [file] = e.target.files ?? [];
          if (file) void bring(file);
        }}
      />
      {said && <p role={said.alert ? 'alert' : 'status'}>{said.words}</p>}
    </Card>
  );
}

function Leave({ name }: { name: string }) {
  const [change, { error }] = useChangeMutation();
  const [meant, setMeant] = useState(false);
  return (
    <Card>
      <Small>Leave Rouse</Small>
      <p>
        Deletes the operator with every run, aircraft, person and type of it, at once and for good. Export it first.
      </p>
      {meant ? (
        <Form
          label="Leave Rouse"
          error={error}
          onSubmit={(typed) =>
            void change({ method: 'DELETE', path: '/operator', body: { name: typed.text('name') } }).then(
              (answer) => !answer.error && window.location.assign('/'),
            )
          }
        >
          <Field name="name" label={`Type ${name}`} required maxLength={200} width={34} />
          <Button type="submit">Delete everything</Button>
          <Button onPress={() => setMeant(false)}>Keep it</Button>
        </Form>
      ) : (
        <Button onPress={() => setMeant(true)}>Delete everything…</Button>
      )}
    </Card>
  );
}
