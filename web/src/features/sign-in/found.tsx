import type { Found, SessionMessage } from '@rouse/core/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { useFoundMutation } from '../../app/session-data.ts';
import { Button, PrimaryButton } from '../../ui/button.tsx';
import { Choice, Field, Form, PASSWORD_HINT, type Typed } from '../../ui/form.tsx';
import { Aid, Small } from '../../ui/heading.ts';
import { SignInPage } from './sign-in-page.ts';

const Part = styled.fieldset`
  border: 0;
  padding: 0;
  flex-basis: 100%;
  display: flex;
  gap: 12px 14px;
  flex-wrap: wrap;
  legend {
    font-weight: 650;
    padding: 6px 0;
  }
`;

/** The first page of an empty Rouse: operator, site, administrator and aircraft, in one go. */
export function FoundForm({ types, back }: { types: SessionMessage['types']; back: () => void }) {
  const [found, { error, isLoading }] = useFoundMutation();
  return (
    <SignInPage>
      <h1>Set Rouse up</h1>
      <section>
        <Form label="Set Rouse up" error={error} onSubmit={(typed) => void found(foundOf(typed))}>
          <Part>
            <legend>Your operator</legend>
            <Field name="operator" label="Name" required maxLength={100} width={34} autoFocus />
          </Part>
          <Part>
            <legend>Its home site</legend>
            <Field name="site.name" label="Site" required maxLength={60} width={18} />
            <Field name="site.pad" label="First pad" value="pad 1" required maxLength={60} width={12} />
            <Field name="site.elev_ft" label="Elevation, ft" required decimal width={7} />
            <Field name="site.variation_E_deg" label="Variation, ° east" decimal width={7} hint="west is negative" />
            <Field name="site.lat_deg" label="Latitude, °" decimal width={9} />
            <Field name="site.lon_deg" label="Longitude, °" decimal width={9} />
          </Part>
          <Part>
            <legend>You, its first administrator</legend>
            <Field name="person.name" label="Your name" required maxLength={100} width={20} autoComplete="name" />
            <Field name="person.login" label="Name to sign in with" required maxLength={100} autoComplete="username" />
            <Field
              name="person.password"
              label="Password"
              type="password"
              required
              maxLength={200}
              width={24}
              autoComplete="new-password"
              hint={PASSWORD_HINT}
            />{' '}
            {/* oxfmt-ignore */}
          </Part>
          <FirstAircraft types={types} />
          <PrimaryButton type="submit" isDisabled={isLoading}>
            Set it up
          </PrimaryButton>
          <Button onPress={back}>Back</Button>
        </Form>
      </section>
      <section>
        <Small>What comes after</Small>
        <Aid>
          Today shows your aircraft: brief it and fly its first run by hand. Under Set up you lay a data line to it,
          invite people, add pads and aircraft, and write types of your own.
        </Aid>
      </section>
    </SignInPage>
  );
}

function FirstAircraft({ types }: { types: SessionMessage['types'] }) {
  const [typeId, setTypeId] = useState(types[0]?.id ?? '');
  const { basic } = types.find((t) => t.id === typeId) ?? {};
  return (
    <Part>
      <legend>Your first aircraft</legend>
      <Choice
        name="aircraft.type"
        label="Like"
        value={typeId}
        onChange={setTypeId}
        options={types.map((t) => ({ value: t.id, label: t.name }))}
      />
      <Field name="aircraft.tail" label="Registration" required maxLength={10} width={12} />
      <Field
        name="aircraft.basic.mass_kg"
        label="Basic mass, kg"
        decimal
        width={8}
        hint={`empty: ${basic?.mass_kg} by its type`}
      />{' '}
      {/* oxfmt-ignore */}
      <Field name="aircraft.basic.arm_long_m" label="Arm along, m" decimal width={8} />
      <Field name="aircraft.basic.arm_lat_m" label="Arm across, m" decimal width={8} />
    </Part>
  );
}

/** What was typed, as the server takes it: what is missing or no number is named by it. */
function foundOf(typed: Typed): Found {
  const number = (name: string): number => typed.number(name) as number;
  return {
    operator: typed.text('operator'),
    site: {
      name: typed.text('site.name'),
      pad: typed.text('site.pad'),
      elev_ft: number('site.elev_ft'),
      variation_E_deg: typed.number('site.variation_E_deg') ?? 0,
      lat_deg: typed.number('site.lat_deg'),
      lon_deg: typed.number('site.lon_deg'),
      opens: null,
      closes: null,
    },
    person: {
      name: typed.text('person.name'),
      login: typed.text('person.login'),
      password: typed.secret('person.password'),
    },
    aircraft: {
      type: typed.text('aircraft.type'),
      tail: typed.text('aircraft.tail').toUpperCase(),
      basic:
        typed.text('aircraft.basic.mass_kg') === ''
          ? null
          : {
              mass_kg: number('aircraft.basic.mass_kg'),
              arm_long_m: number('aircraft.basic.arm_long_m'),
              arm_lat_m: number('aircraft.basic.arm_lat_m'),
            },
    },
  };
}
