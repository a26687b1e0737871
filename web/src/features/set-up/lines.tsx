import type { DeviceMade } from '@rouse/core/contract';
import { useState } from 'react';
import { troubleIn, useTodayQuery } from '../../app/server-data.ts';
import { useAddDeviceMutation, useChangeMutation, useDevicesQuery } from '../../app/session-data.ts';
import { PrimaryButton, SlimButton } from '../../ui/button.tsx';
import { Alert } from '../../ui/field-look.ts';
import { Choice, Field, Form } from '../../ui/form.tsx';
import { Small } from '../../ui/heading.ts';
import { Card, Rows, SetUpPage, Shown } from './page.tsx';

const LOOK_AGAIN_MS = 2000;

/** Which unit may speak for which aircraft, and whether it does. */
export function Lines() {
  const { data: devices, error } = useDevicesQuery(undefined, { pollingInterval: LOOK_AGAIN_MS });
  const { data: today } = useTodayQuery();
  const [add, { error: refused, isLoading }] = useAddDeviceMutation();
  const [change] = useChangeMutation();
  const [made, setMade] = useState<DeviceMade | null>(null);
  return (
    <SetUpPage
      title="Lines"
      about="An engine data unit says its token first; without one a line is taken from this machine only. One unit speaks for a tail."
    >
      {error && <Alert role="alert">{troubleIn(error)}</Alert>}
      <Card>
        <Rows aria-label="Lines">
          {devices?.map((d) => (
            <li key={d.id}>
              <span>
                <b>{d.tail}</b> {d.label}{' '}
                <small>
                  made by {d.madeBy}, {d.madeAt.slice(0, 10)}
                  {d.refused > 0 && `; ${d.refused} refused`}
                </small>
              </span>
              <small>{d.connected ? 'speaks now' : 'silent'}</small>
              <SlimButton onPress={() => void change({ method: 'DELETE', path: `/devices/${d.id}` })}>
                End it
              </SlimButton>
            </li>
          ))}
        </Rows>
      </Card>
      {made && (
        <Card>
          <Small>The token of the new line, shown once</Small>
          <Shown data-token>{made.token}</Shown>
          <p>
            The unit connects over TCP to port {made.port} and says the token as its first line, then speaks. Datagrams
            are signed: the manual of the formats says how, unit {made.id}.
          </p>
        </Card>
      )}
      <Card>
        <Small>Another line</Small>
        <Form
          label="Another line"
          error={refused}
          onSubmit={async (typed, form) => {
            const answer = await add({ aircraft: typed.text('aircraft'), label: typed.text('label') });
            if (!answer.data) return;
            setMade(answer.data);
            form.reset();
          }}
        >
          <Choice
            name="aircraft"
            label="Speaks for"
            options={(today?.aircraft ?? []).map((a) => ({ value: a.aircraft, label: a.tail }))}
          />
          <Field name="label" label="What it is" required maxLength={100} />
          <PrimaryButton type="submit" isDisabled={isLoading}>
            Make its token
          </PrimaryButton>
        </Form>
      </Card>
    </SetUpPage>
  );
}
