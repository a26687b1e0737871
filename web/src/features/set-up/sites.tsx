import type { SiteMessage } from '@rouse/core/contract';
import { useState } from 'react';
import { troubleIn } from '../../app/server-data.ts';
import {
  useChangeMutation,
  useMay,
  usePutPadMutation,
  usePutSiteMutation,
  useSitesQuery,
} from '../../app/session-data.ts';
import { PrimaryButton, SlimButton } from '../../ui/button.tsx';
import { Alert } from '../../ui/field-look.ts';
import { Field, Form } from '../../ui/form.tsx';
import { Small } from '../../ui/heading.ts';
import { Card, Rows, SetUpPage } from './page.tsx';
import { SitePlan } from './site-plan.tsx';

/** The places of the operator, each with its pads on a plan: how far apart they are decides what rotor wash does. */
export function Sites() {
  const { data: sites, error } = useSitesQuery();
  const mayAdminister = useMay('administer');
  return (
    <SetUpPage title="Sites and pads">
      {error && <Alert role="alert">{troubleIn(error)}</Alert>}
      {sites?.map((site) => (
        <OneSite key={site.site} site={site} />
      ))}
      {mayAdminister && (
        <Card>
          <Small>Another site</Small>
          <SiteForm site={null} />
        </Card>
      )}
    </SetUpPage>
  );
}

function OneSite({ site }: { site: SiteMessage }) {
  const mayAdminister = useMay('administer');
  const [open, setOpen] = useState(false);
  const [putPad, { error }] = usePutPadMutation();
  const [change, { error: notGone }] = useChangeMutation();
  const hours = site.opens === null ? 'always open' : `open ${site.opens} to ${site.closes} UTC`;
  const trouble = notGone ? troubleIn(notGone) : null;
  return (
    <Card aria-label={site.site}>
      <Rows>
        <li>
          <span>
            <b>{site.site}</b>{' '}
            <small>
              {site.elev_ft} ft, variation {Math.abs(site.variation_E_deg)}°{' '}
              {site.variation_E_deg < 0 ? 'west' : 'east'}, {hours}
            </small>
          </span>
          {mayAdminister && (
            <SlimButton aria-expanded={open} onPress={() => setOpen(!open)}>
              {open ? 'Close' : 'Change'}
            </SlimButton>
          )}
        </li>
      </Rows>
      {open && <SiteForm site={site} />}
      {site.pads.length > 1 && (
        <SitePlan
          pads={site.pads}
          {...(mayAdminister && {
            onMove: (pad, x_m, y_m) => void putPad({ pad, body: { site: site.site, x_m, y_m } }),
          })}
        />
      )}
      <Rows aria-label={`Pads of ${site.site}`}>
        {site.pads.map((p) => (
          <li key={p.pad}>
            <span>
              <b>{p.pad}</b>{' '}
              <small>
                {p.x_m} m east, {p.y_m} m north{p.tails.length > 0 && `; ${p.tails.join(', ')}`}
              </small>
            </span>
            {mayAdminister && (
              <SlimButton
                aria-label={`Take ${p.pad} away`}
                onPress={() => void change({ method: 'DELETE', path: `/pads/${encodeURIComponent(p.pad)}` })}
              >
                ×
              </SlimButton>
            )}
          </li>
        ))}
      </Rows>
      {trouble !== null && <Alert role="alert">{trouble}</Alert>}
      {mayAdminister && (
        <Form
          label={`Another pad of ${site.site}`}
          error={error}
          onSubmit={async (typed, form) => {
            const body = {
              site: site.site,
              x_m: typed.number('x_m') as number,
              y_m: typed.number('y_m') as number,
            };
            const answer = await putPad({ pad: `${typed.text('pad')}, ${site.site}`, body });
            if (!answer.error) form.reset();
          }}
        >
          <Field name="pad" label="Another pad" required maxLength={40} width={14} />
          <Field name="x_m" label="East, m" required decimal width={7} />
          <Field name="y_m" label="North, m" required decimal width={7} />
          <PrimaryButton type="submit">Add it</PrimaryButton>
        </Form>
      )}
    </Card>
  );
}

function SiteForm({ site }: { site: SiteMessage | null }) {
  const [put, { error }] = usePutSiteMutation();
  return (
    <Form
      label={site ? `Change ${site.site}` : 'Another site'}
      error={error}
      onSubmit={async (typed, form) => {
        const answer = await put({
          site: site?.site ?? typed.text('site'),
          body: {
            elev_ft: typed.number('elev_ft') as number,
            variation_E_deg: typed.number('variation_E_deg') ?? 0,
            lat_deg: typed.number('lat_deg'),
            lon_deg: typed.number('lon_deg'),
            opens: typed.maybe('opens'),
            closes: typed.maybe('closes'),
          },
        });
        if (!answer.error && !site) form.reset();
      }}
    >
      {!site && <Field name="site" label="Site" required maxLength={60} width={18} />}
      <Field name="elev_ft" label="Elevation, ft" required decimal value={site?.elev_ft ?? null} width={7} />
      <Field name="variation_E_deg" label="Variation, ° east" decimal value={site?.variation_E_deg ?? null} width={7} />
      <Field name="lat_deg" label="Latitude, °" decimal value={site?.lat_deg ?? null} width={9} />
      <Field name="lon_deg" label="Longitude, °" decimal value={site?.lon_deg ?? null} width={9} />
      <Field name="opens" label="Opens, UTC" value={site?.opens ?? null} width={6} hint="as 06:30; empty for always" />
      <Field name="closes" label="Closes, UTC" value={site?.closes ?? null} width={6} />
      <PrimaryButton type="submit">Keep</PrimaryButton>
    </Form>
  );
}
