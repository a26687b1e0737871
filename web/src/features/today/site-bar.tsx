import { readReport } from '@rouse/core/brief';
import type { AircraftToday, SiteToday, Today } from '@rouse/core/contract';
import { altimeterSetting, densityAltitudeAt } from './site-air.ts';
import { useState } from 'react';
import styled from 'styled-components';
import { troubleIn, type Refused } from '../../app/server-data.ts';
import { useChangeMutation, useMay } from '../../app/session-data.ts';
import { mono, phone, upright } from '../../app/theme.ts';
import { Button, PrimaryButton, SlimButton } from '../../ui/button.tsx';
import { Alert } from '../../ui/field-look.ts';
import { clockTime } from '../../ui/words.ts';
import { PadPlan } from './pad-plan.tsx';

const Bar = styled.section`
  display: grid;
  grid-template-columns: 11rem minmax(13.75rem, 1.1fr) minmax(11.25rem, 0.9fr) minmax(13.125rem, 0.9fr);
  gap: 8px 18px;
  padding: 10px 18px 10px;
  border-bottom: 1px solid var(--line);
  background: var(--sheet);
  align-items: start;
  min-width: 0;
  h1 {
    font-size: 1.25rem;
    font-weight: 720;
    display: flex;
    justify-content: space-between;
    gap: 10px;
    time {
      ${mono}
    }
  }
  > div {
    min-width: 0;
    display: grid;
    gap: 6px;
    align-content: start;
  }
  p {
    font-size: 0.8125rem;
    color: var(--soft);
  }
  code {
    ${mono}
    display: block;
    border: 1px solid var(--button-line);
    border-radius: 8px;
    padding: 7px 11px;
    font-size: 0.8125rem;
    overflow-wrap: anywhere;
    background: var(--deep);
  }
  dl div {
    display: flex;
    justify-content: space-between;
    gap: 12px;
    border-top: 1px solid var(--hair);
    padding: 3.5px 0;
    font-size: 0.84375rem;
  }
  dl div:first-child {
    border-top: 0;
  }
  dd {
    margin: 0;
    ${mono}
    font-weight: 650;
    text-align: right;
  }
  ${upright} {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  }
  ${phone} {
    grid-template-columns: minmax(0, 1fr);
    padding: 10px 12px;
  }
`;

const Sites = styled.div`
  display: flex;
  gap: 6px;
  flex-wrap: wrap;
`;

const Paste = styled.form`
  display: grid;
  gap: 8px;
  textarea {
    ${mono}
    font-size: 0.875rem;
    color: var(--ink);
    background: var(--sheet);
    border: 1px solid var(--button-line);
    border-radius: 8px;
    padding: 8px 10px;
    min-height: 4.375rem;
    width: 100%;
    resize: vertical;
  }
  > div {
    display: flex;
    gap: 8px;
  }
`;

/** The weather of one site: as it was read, what it is here, and the plan of its pads. */
export function SiteBar({ today, site, choose }: { today: Today; site: SiteToday; choose: (site: string) => void }) {
  const here = today.aircraft.filter((a) => a.site === site.site);
  const others = today.sites.filter((s) => s.site !== site.site && today.aircraft.some((a) => a.site === s.site));
  const read = site.report && readReport(site.report.text, today.now);
  return (
    <Bar aria-label={`Weather of ${site.site}`}>
      <div>
        <h1>
          {site.site} <time>{clockTime(new Date(today.now))}</time>
        </h1>
        <p>
          {today.now.slice(0, 10)} · {site.elev_ft} ft · {today.operator.name}
        </p>
        {others.length > 0 && (
          <Sites>
            {others.map((s) => (
              <SlimButton key={s.site} onPress={() => choose(s.site)}>
                {s.site}
              </SlimButton>
            ))}
          </Sites>
        )}
      </div>
      <Report key={site.site} today={today} site={site} observedAt={read?.fields.observedAt ?? null} />
      <PadPlan site={site} aircraft={here} wind={read?.fields.wind ?? null} />
      <Figures site={site} fields={read?.fields ?? null} others={others} />
    </Bar>
  );
}

function Report({ today, site, observedAt }: { today: Today; site: SiteToday; observedAt: string | null }) {
  const [pasting, setPasting] = useState(false);
  const [text, setText] = useState('');
  const [change, { error, isLoading }] = useChangeMutation();
  const mayRun = useMay('run');
  const refused = error as Refused | undefined;
  const send = async (): Promise<void> => {
    const answer = await change({ method: 'PUT', path: `/sites/${encodeURIComponent(site.site)}/report`, body: { report: text } });
    if (answer.error) return;
    setPasting(false);
    setText('');
  };
  if (pasting)
    return (
      <Paste
        aria-label="A newer report"
        onSubmit={(e) => {
          e.preventDefault();
          void send();
        }}
      >
        <label>
          Report of the present weather at {site.site}
          {/* oxlint-disable-next-line jsx-a11y/no-autofocus */}
          <textarea value={text} onChange={(e) => setText(e.target.value)} autoFocus spellCheck={false} maxLength={2000} />
        </label>
        {refused && <Alert role="alert">{troubleIn(refused)}</Alert>}
        <div>
          <PrimaryButton type="submit" isDisabled={isLoading || text.trim() === ''}>
            Read it
          </PrimaryButton>
          <Button onPress={() => setPasting(false)}>Leave it</Button>
        </div>
      </Paste>
    );
  const age_min = observedAt === null ? null : Math.round((Date.parse(today.now) - Date.parse(observedAt)) / 60_000);
  return (
    <div>
      <p>
        <b>Report as read</b>
        {age_min !== null && ` · ${age_min < 0 ? 'from ahead of now: look at it' : age_min < 120 ? `${age_min} min old` : `${Math.floor(age_min / 60)} h old: read a newer one`}`}
      </p>
      {site.report ? <code>{site.report.text}</code> : <p>Nobody has read one for {site.site}: its wind, air and power are unknown, and are not borrowed from elsewhere.</p>}
      {mayRun && (
        <span>
          <SlimButton onPress={() => setPasting(true)}>{site.report ? 'Paste a newer report' : 'Paste a report'}</SlimButton>
        </span>
      )}
    </div>
  );
} // oxfmt-ignore

function Figures({ site, fields, others }: { site: SiteToday; fields: ReturnType<typeof readReport>['fields'] | null; others: readonly SiteToday[] }) {
  const wind = fields?.wind;
  const gust = wind?.gust_kt == null ? '' : ` g${Math.round(wind.gust_kt)}`;
  const from = wind?.direction_deg == null ? 'variable' : `${String(wind.direction_deg).padStart(3, '0')}°`;
  const windWords = wind?.speed_kt == null ? '–' : wind.speed_kt === 0 ? 'calm' : `${from} ${Math.round(wind.speed_kt)}${gust} kt`;
  const figure = (v: number | null | undefined, unit: string): string => (v == null ? '–' : `${Math.round(v)} ${unit}`);
  return (
    <dl>
      <div>
        <dt>Wind</dt>
        <dd>{windWords}</dd>
      </div>
      <div>
        <dt>Outside, dew point</dt>
        <dd>{fields?.oat_C == null ? '–' : `${Math.round(fields.oat_C)}, ${figure(fields.dew_C, '°C')}`}</dd>
      </div>
      <div>
        <dt>Pressure</dt>
        <dd>{altimeterSetting(fields?.qnh_hPa)}</dd>
      </div>
      <div>
        <dt>Density altitude</dt>
        <dd>{densityAltitudeAt(site.elev_ft, fields)}</dd>
      </div>
      {others.map((s) => (
        <div key={s.site}>
          <dt>
            {s.site}, {s.elev_ft} ft
          </dt>
          <dd>{s.report ? densityAltitudeAt(s.elev_ft, readReport(s.report.text, s.report.at).fields) : 'unknown there'}</dd>
        </div>
      ))}
    </dl>
  );
} // oxfmt-ignore

/** The site that most aircraft stand on. */
export function mainSite(today: Today): string | null {
  const count = (s: SiteToday): number => today.aircraft.filter((a: AircraftToday) => a.site === s.site).length;
  return today.sites.toSorted((a, b) => count(b) - count(a))[0]?.site ?? null;
}
