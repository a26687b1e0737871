import type { SessionMessage } from '@rouse/core/contract';
import { useSignInMutation } from '../../app/session-data.ts';
import { PrimaryButton } from '../../ui/button.tsx';
import { Choice, Field, Form } from '../../ui/form.tsx';
import { Small } from '../../ui/heading.ts';

/** A tablet of the crew room: who takes it, and their PIN. */
export function TabletDoor({ tablet, done }: { tablet: NonNullable<SessionMessage['tablet']>; done?: () => void }) {
  const [signIn, { error, isLoading }] = useSignInMutation();
  return (
    <section>
      <Small>{tablet.label}</Small>
      {tablet.people.length === 0 ? (
        <p>Nobody has chosen a PIN yet. Sign in by name once, and choose one under Set up, Your sign-in.</p>
      ) : (
        <Form
          label="Take this tablet"
          error={error}
          onSubmit={async (typed) => {
            const answer = await signIn({ way: 'pin', body: { person: typed.text('person'), pin: typed.text('pin') } });
            if (answer.data) done?.();
          }}
        >
          <Choice
            name="person"
            label="Who takes it"
            options={tablet.people.map((p) => ({ value: p.personId, label: p.name }))}
          />
          <Field name="pin" label="PIN" type="password" digits required maxLength={6} width={8} />
          <PrimaryButton type="submit" isDisabled={isLoading}>
            Take it
          </PrimaryButton>
        </Form>
      )}
    </section>
  );
}
