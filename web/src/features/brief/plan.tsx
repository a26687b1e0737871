import { type Brief, type ExpectedStart, known } from '@rouse/core/brief';
import { useState, useSyncExternalStore } from 'react';
import { Link, useNavigate } from 'react-router';
import styled from 'styled-components';
import { upright } from '../../app/theme.ts';
import { PrimaryButton } from '../../ui/button.tsx';
import { Small } from '../../ui/heading.ts';
import { useUnits } from '../../ui/units.ts';
import { useSession } from '../../app/session-data.ts';
import { ApiRefusal, postJson } from '../../platform/api.ts';
import { reach } from '../../platform/reach.ts';
import { countTabletRuns } from '../../run/tablet/send-tablet-runs.ts';
import { TabletRun } from '../../run/tablet/tablet-run.ts';
import type { BriefDesk } from './desk.ts';
import { Objections } from './objections.tsx';
import { Part } from './part.ts';

const Column = styled.aside`
  grid-area: right;
  border-left: 1px solid var(--line);
  background: var(--sheet);
  padding: 14px 16px;
  display: flex;
  flex-direction: column;
  overflow: auto;
  ${upright} {
    overflow: visible;
    border-left: 0;
    border-bottom: 1px solid var(--line);
  }
`;

const Go = styled.div`
  position: sticky;
  bottom: -14px;
  margin: auto -16px -14px;
  padding: 12px 16px;
  background: var(--sheet);
  border-top: 1px solid var(--line);
  display: grid;
  gap: 8px;
  > button {
    font-size: 1.0625rem;
    font-weight: 700;
    border-radius: 11px;
    min-height: 3.125rem;
  }
  p {
    font-size: 0.8125rem;
    color: var(--warning);
  }
`;

const RATINGS = {
  OEI_CONT: 'The continuous rating holds it.',
  OEI_2MIN: 'The 2-minute rating holds it.',
  OEI_30S: 'Only the 30-second rating holds it.',
  NONE: 'Nothing holds it: it comes down.',
} as const;

/** The plan in sentences, what to look out for, what holds it, and the one way on. */
export function Plan({ desk, aircraft }: { desk: BriefDesk; aircraft: string }) {
  const { brief, context } = desk;
  const { show } = useUnits();
  const { chart } = context.type.performance;
  const start = brief.start;
  const hover = known(brief.hoverIge);
  const oge = known(brief.hoverOge);
  const oei = brief.oeiAtLift && known(brief.oeiAtLift);
  const mass = known(brief.liftMass_kg);
  return (
    <Column aria-label="The plan">
      <Small>The plan</Small>
      {brief.order && (
        <Part>
          <em>First</em>
          <b>Engine {brief.order.first}</b>
          <p>{brief.order.reason}</p>
        </Part>
      )}
      <Part>
        <em>Expect{brief.order ? ` on engine ${brief.order.first}` : ''}</em>
        {start.state === 'known' ? (
          <>
            <b data-figure>{expectedHead(start.value)}</b>
            <p>{expectedWords(start.value)}</p>
          </>
        ) : (
          <>
            <b>Unknown</b>
            <p>{start.words}.</p>
          </>
        )}
        <BatteryWords brief={brief} />
      </Part>
      <Part>
        <em>At lift</em>
        {hover && mass !== null ? (
          <>
            <b data-figure>
              {chart.quantity.toLowerCase()} {hover.required} {chart.unit}
            </b>
            <p>
              in a 5 ft hover at {show(mass, 'mass', 'ceil')}, {Math.abs(hover.margin)} {chart.unit}{' '}
              {hover.margin < 0 ? 'above' : 'below'} the limit of {hover.available} by {hover.limitedBy}. Out of ground
              effect {oge ? `${oge.required} ${chart.unit}, margin ${oge.margin}` : 'unknown'}.
              {oei && ` An engine lost there: ${RATINGS[oei.rating]}`}
            </p>
          </>
        ) : (
          <>
            <b>Unknown</b>
            <p>{brief.hoverIge.state === 'known' ? '' : `${brief.hoverIge.words}.`}</p>
          </>
        )}
        <p>
          Limits today: take-off {limitWords(brief.topLimit, chart.unit)}, continuous{' '}
          {limitWords(brief.mcpLimit, chart.unit)}.
          {brief.neverExceed_kt && (
            <span data-never-exceed> Never faster than {limitWords(brief.neverExceed_kt, 'kt')}.</span>
          )}
        </p>
      </Part>
      {brief.wash
        .filter((w) => w.clear === true && w.slow)
        .map((w) => (
          <Part key={w.neighbour.tail}>
            <em>Neighbour</em>
            <b>{w.neighbour.name} is far enough</b>
          </Part>
        ))}
      <Objections desk={desk} />
      <Begin desk={desk} aircraft={aircraft} />
    </Column>
  );
}

/** What is most worth knowing of the next start: its peak, or for an engine without one how soon it idles. */
function expectedHead({ peak_C, idle_s }: ExpectedStart): string {
  if (peak_C) return `peak ${Math.floor(peak_C[0])} to ${Math.ceil(peak_C[1])} °C`;
  return idle_s ? `idle in ${Math.floor(idle_s[0])} to ${Math.ceil(idle_s[1])} s` : 'no figure yet';
}

function expectedWords({ dip_V, light_s, idle_s, peak_C, starts }: ExpectedStart): string {
  const parts = [
    ...(dip_V ? [`volts dip to ${dip_V[0].toFixed(1)} to ${dip_V[1].toFixed(1)}`] : []),
    ...(light_s ? [`${peak_C ? 'light-off' : 'fires'} by ${Math.ceil(light_s[1])} s`] : []),
    ...(idle_s && peak_C ? [`idle by ${Math.ceil(idle_s[1])} s`] : []),
    `from ${starts} starts near this temperature`,
  ];
  return `${parts.join(', ')}.`;
}

function limitWords(figure: Brief['topLimit'], unit: string): string {
  return figure.state === 'known' ? `${figure.value} ${unit}` : figure.state === 'unknown' ? 'unknown' : figure.words;
}

function BatteryWords({ brief }: { brief: Brief }) {
  const battery = known(brief.battery);
  if (!battery) return null;
  return (
    <p>
      Battery by its model, charged: {battery.display.v_crank_V} V while cranking
      {battery.verdict === 'GOOD' ? '' : battery.verdict === 'MARGINAL' ? ', marginal' : ', too low'}.
    </p>
  );
}

function Begin({ desk, aircraft }: { desk: BriefDesk; aircraft: string }) {
  const navigate = useNavigate();
  const [refusal, setRefusal] = useState<string | null>(null);
  const [byHand, setByHand] = useState(false);
  const away = useSyncExternalStore(reach.subscribe, reach.now).awaySince_ms !== null;
  const member = useSession().data?.person;
  const { brief, input, openRun } = desk;
  const held = brief.objections.filter((h) => h.severity === 'no-go' || !(input.accepted[h.id] ?? '').trim());
  const begin = async (): Promise<void> => {
    try {
      if (desk.fillSimulated && !byHand)
        await postJson('/stand-in/prepare', { aircraft, mass_kg: brief.record.expected.mass });
      const { run } = await postJson<{ run: string }>('/runs', { aircraft, brief: input, byHand });
      await navigate(`/start/${run}`);
    } catch (error) {
      if (!(error instanceof ApiRefusal)) throw error;
      setRefusal(`${error.message} ${error.remedy}`);
    }
  };
  const beginHere = async (): Promise<void> => {
    const { context } = desk;
    try {
      const by = { personId: member!.personId, name: member!.member!.name };
      const run = await TabletRun.open({ by, context, aircraft, brief: brief.record, past: [...context.past] });
      await countTabletRuns();
      await navigate(`/start/${run}`);
    } catch {
      setRefusal(
        'This browser keeps nothing, so no run can be begun without a server. Leave the private window, or make room on the tablet.',
      );
    }
  };
  return (
    <Go>
      {refusal !== null && <p role="alert">{refusal}</p>}
      {openRun ? (
        <Link to={`/start/${openRun}`}>Continue the open run</Link>
      ) : (
        <>
          {held.length > 0 && (
            <p>
              {held.length === 1 ? 'One thing holds it' : `${held.length} things hold it`}:{' '}
              {held.map((h) => h.title.toLowerCase()).join(', ')}.
            </p>
          )}
          <label hidden={away}>
            <input type="checkbox" checked={byHand} onChange={(e) => setByHand(e.target.checked)} />
            Work it by hand, without the data line
          </label>
          {desk.fillSimulated && (input.observedAt === null || input.heading_deg === null) ? (
            <PrimaryButton onPress={desk.fillSimulated}>Take the simulated day</PrimaryButton>
          ) : (
            <PrimaryButton isDisabled={!brief.clear} onPress={() => void (away ? beginHere() : begin())}>
              {away ? 'Begin by hand, kept on this tablet' : 'Begin before-start'}
            </PrimaryButton>
          )}
        </>
      )}
    </Go>
  );
}
