import type { LinkMade, PersonMessage } from '@rouse/core/contract';
import { type Role, ROLES } from '@rouse/core/people';
import { useState } from 'react';
import styled from 'styled-components';
import { type Refused, troubleIn } from '../../app/server-data.ts';
import {
  useChangeMutation,
  useInvitationsQuery,
  useInviteMutation,
  usePeopleQuery,
  useResetLinkMutation,
  useTabletsQuery,
} from '../../app/session-data.ts';
import { Button, PrimaryButton, SlimButton } from '../../ui/button.tsx';
import { Alert } from '../../ui/field-look.ts';
import { Field, Form, Tick } from '../../ui/form.tsx';
import { Small } from '../../ui/heading.ts';
import { Card, Rows, SetUpPage, Shown } from './page.tsx';

const Roles = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0 16px;
  flex-basis: 100%;
`;

function RoleTicks({ of }: { of: readonly Role[] }) {
  return (
    <Roles role="group" aria-label="Roles">
      {ROLES.map((role) => (
        <Tick key={role} name="roles" value={role} label={role} on={of.includes(role)} />
      ))}
    </Roles>
  );
}

/** Who works for the operator, and who is invited to. */
export function People() {
  const { data: people, error } = usePeopleQuery();
  const [link, setLink] = useState<(LinkMade & { for: string }) | null>(null);
  return (
    <SetUpPage
      title="People"
      about="Everybody has an account of their own; what they may do here follows from their roles."
    >
      {error && <Alert role="alert">{troubleIn(error)}</Alert>}
      {link && (
        <Card>
          <Small>A link for {link.for}, shown once</Small>
          <p>Hand it over yourself. It works once, until {link.until.slice(0, 16).replace('T', ' ')} UTC.</p>
          <Shown data-link>{link.link}</Shown>
        </Card>
      )}
      <Card>
        <Rows aria-label="People">
          {people?.map((p) => (
            <PersonRow key={p.personId} person={p} onLink={(made) => setLink({ ...made, for: p.name })} />
          ))}
        </Rows>
      </Card>
      <Invite onLink={setLink} />
      <Tablets />
    </SetUpPage>
  );
}

function PersonRow({ person, onLink }: { person: PersonMessage; onLink: (made: LinkMade) => void }) {
  const [open, setOpen] = useState(false);
  const [change, { error }] = useChangeMutation();
  const [reset, { error: noReset }] = useResetLinkMutation();
  const gone = person.leftAt !== null;
  const makeLink = async (): Promise<void> => {
    const made = await reset(person.personId);
    if (made.data) onLink(made.data);
  };
  const trouble = error ?? noReset;
  return (
    <li>
      <span>
        <b>{person.name}</b> <small>{gone ? `left ${person.leftAt!.slice(0, 10)}` : person.roles.join(', ')}</small>
      </span>
      {!gone && (
        <>
          <SlimButton aria-expanded={open} onPress={() => setOpen(!open)}>
            Change
          </SlimButton>
          <SlimButton onPress={() => void makeLink()}>Link for another password</SlimButton>
        </>
      )}
      {open && (
        <Form
          label={`Change ${person.name}`}
          error={error}
          onSubmit={async (typed) => {
            const answer = await change({
              method: 'PUT',
              path: `/people/${person.personId}`,
              body: { name: typed.text('name'), roles: typed.ticked('roles') },
            });
            if (!answer.error) setOpen(false);
          }}
        >
          <Field name="name" label="Name" value={person.name} required maxLength={100} />
          <RoleTicks of={person.roles} />
          <PrimaryButton type="submit">Keep</PrimaryButton>
          <Button onPress={() => void change({ method: 'DELETE', path: `/people/${person.personId}` })}>
            {person.name} has left
          </Button>
        </Form>
      )}
      {!open && trouble && <Alert role="alert">{troubleIn(trouble as Refused)}</Alert>}
    </li>
  );
}

function Invite({ onLink }: { onLink: (link: LinkMade & { for: string }) => void }) {
  const { data: invitations } = useInvitationsQuery();
  const [invite, { error, isLoading }] = useInviteMutation();
  const [change] = useChangeMutation();
  return (
    <Card>
      <Small>Invite somebody</Small>
      <Form
        label="Invite somebody"
        error={error}
        onSubmit={async (typed, form) => {
          const made = await invite({ name: typed.text('name'), roles: typed.ticked('roles') as Role[] });
          if (!made.data) return;
          onLink({ ...made.data, for: typed.text('name') });
          form.reset();
        }}
      >
        <Field name="name" label="Name" required maxLength={100} />
        <RoleTicks of={['pilot']} />
        <PrimaryButton type="submit" isDisabled={isLoading}>
          Make the link
        </PrimaryButton>
      </Form>
      {(invitations?.length ?? 0) > 0 && (
        <Rows aria-label="Open links">
          {invitations!.map((i) => (
            <li key={i.id}>
              <span>
                <b>{i.name}</b>{' '}
                <small>
                  {i.kind === 'join' ? i.roles.join(', ') : 'another password'}, made by {i.madeBy}, until{' '}
                  {i.until.slice(0, 10)}
                </small>
              </span>
              <SlimButton onPress={() => void change({ method: 'DELETE', path: `/invitations/${i.id}` })}>
                Take it back
              </SlimButton>
            </li>
          ))}
        </Rows>
      )}
    </Card>
  );
}

function Tablets() {
  const { data: tablets } = useTabletsQuery();
  const [change, { error }] = useChangeMutation();
  return (
    <Card>
      <Small>Tablets of the crew room</Small>
      <p>A tablet that is enrolled is taken with a PIN and handed on. Enrol it on the tablet itself.</p>
      <Rows aria-label="Tablets">
        {tablets?.map((t) => (
          <li key={t.id}>
            <span>
              <b>{t.label}</b>{' '}
              <small>
                enrolled by {t.enrolledBy}, {t.enrolledAt.slice(0, 10)}
              </small>
            </span>
            <SlimButton onPress={() => void change({ method: 'DELETE', path: `/tablets/${t.id}` })}>End it</SlimButton>
          </li>
        ))}
      </Rows>
      <Form
        label="Enrol this browser"
        error={error}
        onSubmit={async (typed, form) => {
          const answer = await change({ method: 'POST', path: '/tablets', body: { label: typed.text('label') } });
          if (!answer.error) form.reset();
        }}
      >
        <Field
          name="label"
          label="This browser becomes"
          required
          maxLength={100}
          hint="as it is called in the crew room"
        />
        <PrimaryButton type="submit">Enrol it</PrimaryButton>
      </Form>
    </Card>
  );
}
