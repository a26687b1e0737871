import type { AircraftToday } from '@rouse/core/contract';
import { useState } from 'react';
import { Link } from 'react-router';
import { troubleIn, useAircraftQuery, useTodayQuery, useTypesQuery } from '../../app/server-data.ts';
import { useChangeMutation, useDefectsQuery, useMay, usePutAircraftMutation } from '../../app/session-data.ts';
import { PrimaryButton, SlimButton } from '../../ui/button.tsx';
import { Alert } from '../../ui/field-look.ts';
import { Choice, Field, Form } from '../../ui/form.tsx';
import { Small } from '../../ui/heading.ts';
import { PadChoice } from './pad-choice.tsx';
import { Card, Rows, SetUpPage } from './page.tsx';

/** The aircraft of the operator: where each stands, what it was weighed at, what is missing on it. */
export function AircraftSetUp() {
  const { data: today, error } = useTodayQuery();
  const mayAdminister = useMay('administer');
  return (
    <SetUpPage title="Aircraft">
      {error && <Alert role="alert">{troubleIn(error)}</Alert>}
      {today?.aircraft.map((a) => (
        <OneAircraft key={a.aircraft} aircraft={a} />
      ))}
      {mayAdminister && <NewAircraft />}
    </SetUpPage>
  );
}

function OneAircraft({ aircraft }: { aircraft: AircraftToday }) {
  const [open, setOpen] = useState(false);
  const { data: defects } = useDefectsQuery(aircraft.aircraft);
  const known = defects?.length ?? 0;
  return (
    <Card aria-label={aircraft.tail}>
      <Rows>
        <li>
          <span>
            <b>{aircraft.tail}</b>{' '}
            <small>
              {aircraft.type.name}, version {aircraft.type.version}; stands on {aircraft.pad}
              {known > 0 && `; ${known} ${known === 1 ? 'defect' : 'defects'} open`}
            </small>
          </span>
          <SlimButton aria-expanded={open} onPress={() => setOpen(!open)}>
            {open ? 'Close' : 'Look'}
          </SlimButton>
        </li>
      </Rows>
      {open && (
        <>
          <Standing aircraft={aircraft} />
          <Defects aircraft={aircraft.aircraft} />
        </>
      )}
    </Card>
  );
}

function Standing({ aircraft }: { aircraft: AircraftToday }) {
  const mayAdminister = useMay('administer');
  const { data: now } = useAircraftQuery(aircraft.aircraft);
  const [put, { error }] = usePutAircraftMutation();
  if (!now) return null;
  const usual = now.type.loading.basic;
  const basic = now.message.basic ?? usual;
  if (!mayAdminister)
    return (
      <p>
        Basic mass {basic.mass_kg} kg, {now.message.basic ? 'as it was weighed' : 'as its type says'}.
      </p>
    );
  return (
    <Form
      label={`${aircraft.tail}: place and mass`}
      error={error}
      onSubmit={(typed) => {
        const weighed = {
          mass_kg: typed.number('basic.mass_kg') as number,
          arm_long_m: typed.number('basic.arm_long_m') as number,
          arm_lat_m: typed.number('basic.arm_lat_m') as number,
        };
        const asItsType = (['mass_kg', 'arm_long_m', 'arm_lat_m'] as const).every((k) => weighed[k] === usual[k]);
        void put({ aircraft: aircraft.aircraft, body: { pad: typed.text('pad'), basic: asItsType ? null : weighed } });
      }}
    >
      <PadChoice name="pad" value={aircraft.pad} />
      <Field
        name="basic.mass_kg"
        label="Basic mass, kg"
        value={basic.mass_kg}
        decimal
        required
        width={8}
        hint={now.message.basic ? `weighed; ${usual.mass_kg} by its type` : 'by its type'}
      />
      <Field name="basic.arm_long_m" label="Arm along, m" value={basic.arm_long_m} decimal required width={8} />
      <Field name="basic.arm_lat_m" label="Arm across, m" value={basic.arm_lat_m} decimal required width={8} />
      <PrimaryButton type="submit">Keep</PrimaryButton>
    </Form>
  );
}

function Defects({ aircraft }: { aircraft: string }) {
  const { data: defects } = useDefectsQuery(aircraft);
  const { data: now } = useAircraftQuery(aircraft);
  const [change, { error }] = useChangeMutation();
  const mayClose = useMay('release');
  const mayOpen = useMay('run');
  const equipment = now?.type.equipment ?? [];
  const labelOf = (id: string): string => equipment.find((e) => e.id === id)?.label ?? id;
  return (
    <>
      <Small>Missing or defective</Small>
      <Rows aria-label="Open defects">
        {defects?.length === 0 && <li>Nothing is known to be missing.</li>}
        {defects?.map((d) => (
          <li key={d.id}>
            <span>
              <b>{labelOf(d.equipment)}</b>: {d.words}{' '}
              <small>
                {d.openedBy}, {d.openedAt.slice(0, 10)}
              </small>
            </span>
            {mayClose && (
              <SlimButton onPress={() => void change({ method: 'POST', path: `/defects/${d.id}/close`, body: {} })}>
                It is mended
              </SlimButton>
            )}
          </li>
        ))}
      </Rows>
      {mayOpen && equipment.length > 0 && (
        <Form
          label="A defect"
          error={error}
          onSubmit={async (typed, form) => {
            const answer = await change({
              method: 'POST',
              path: `/aircraft/${aircraft}/defects`,
              body: { equipment: typed.text('equipment'), words: typed.text('words') },
            });
            if (!answer.error) form.reset();
          }}
        >
          <Choice
            name="equipment"
            label="Equipment"
            options={equipment.map((e) => ({ value: e.id, label: e.label }))}
          />
          <Field name="words" label="What is wrong with it" required maxLength={500} width={34} />
          <PrimaryButton type="submit">Write it down</PrimaryButton>
        </Form>
      )}
    </>
  );
}

function NewAircraft() {
  const { data: types } = useTypesQuery();
  const [change, { error }] = useChangeMutation();
  const newest = [...new Map((types ?? []).toReversed().map((t) => [t.id, t])).values()];
  return (
    <Card>
      <Small>Another aircraft</Small>
      <Form
        label="Another aircraft"
        error={error}
        onSubmit={async (typed, form) => {
          const [type, version] = typed.text('type').split('/');
          const answer = await change({
            method: 'POST',
            path: '/aircraft',
            body: { tail: typed.text('tail').toUpperCase(), type, version: Number(version), pad: typed.text('pad') },
          });
          if (!answer.error) form.reset();
        }}
      >
        <Field name="tail" label="Registration" required maxLength={10} width={12} />
        <Choice
          name="type"
          label="Type"
          options={newest.map((t) => ({ value: `${t.id}/${t.version}`, label: `${t.name}, version ${t.version}` }))}
        />
        <PadChoice name="pad" />
        <PrimaryButton type="submit">Add it</PrimaryButton>
      </Form>
      <p>
        A type of your own is written under <Link to="/types">Types</Link>.
      </p>
    </Card>
  );
}
