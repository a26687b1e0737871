import { CalendarDays, ChartSpline, Dumbbell, FileText, Gauge, MoonStar, NotebookText, Settings2 } from 'lucide-react';
import { Suspense, useEffect } from 'react';
import { Outlet, useLocation } from 'react-router';
import styled, { css } from 'styled-components';
import { Gate } from '../features/sign-in/gate.tsx';
import { HandOver } from '../features/sign-in/hand-over.tsx';
import { keepAtHand } from './keep-at-hand.ts';
import { lookAgainWhileAway } from './look-again.ts';
import { OfflineBar } from './offline-bar.tsx';
import { serverData } from './server-data.ts';
import { useMay, usePersonId } from './session-data.ts';
import { keepSendingDrills } from '../platform/drills-at-hand.ts';
import { keepSendingTabletRuns } from '../run/tablet/send-tablet-runs.ts';
import { type Light, lightChanged, LIGHTS } from './settings-slice.ts';
import { useAppDispatch, useAppSelector } from './store.ts';
import { iconAlone, RailLink } from './rail-link.ts';
import { StartLink } from './start-link.tsx';
import { phone, tiny, upright } from './theme.ts';

const Frame = styled.div`
  display: grid;
  grid-template: minmax(0, 1fr) / 4.75rem minmax(0, 1fr);
  height: 100%;
  ${upright} {
    grid-template: auto minmax(0, 1fr) / minmax(0, 1fr);
  }
`;

const Content = styled.div`
  display: grid;
  grid-template: auto minmax(0, 1fr) / minmax(0, 1fr);
  min-width: 0;
  min-height: 0;
`;

const Rail = styled.nav`
  background: var(--rail);
  color: var(--rail-ink);
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 6px;
  padding: 14px 0;
  ${upright} {
    flex-direction: row;
    padding: 4px 12px;
  }
  ${phone} {
    gap: 0;
    padding: 4px 6px;
  }
`;

const Name = styled.b`
  font-weight: 700;
  letter-spacing: 0.02em;
  margin-bottom: 16px;
  ${upright} {
    margin: 0 8px 0 0;
  }
  ${phone} {
    display: none;
  }
`;

const railButton = css`
  width: 4rem;
  height: 3.375rem;
  border: 0;
  border-radius: 10px;
  background: none;
  font-size: 0.75rem;
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  gap: 3px;
  cursor: pointer;
  ${tiny} {
    ${iconAlone}
    min-width: 0;
  }
`;

const LightButton = styled.button`
  ${railButton}
`;

const Who = styled(HandOver)`
  ${railButton}
  margin-top: auto;
  span {
    max-width: 4rem;
    overflow: hidden;
    white-space: nowrap;
    text-overflow: ellipsis;
  }
  ${upright} {
    margin: 0 0 0 auto;
  }
  ${phone} {
    min-width: 0;
    span {
      display: none;
    }
  }
`;

const LIGHT_NAMES: Record<Light, string> = { auto: 'Auto', day: 'Day', night: 'Night', sun: 'Sun' };

/** The frame of every page, for whoever is signed in. */
export function Shell() {
  return (
    <Gate>
      <Pages />
    </Gate>
  );
}

function Pages() {
  useEffect(keepSendingTabletRuns, []);
  useEffect(keepAtHand, []);
  useEffect(lookAgainWhileAway, []);
  const { pathname } = useLocation();
  const mayDrill = useMay('drill');
  const by = usePersonId();
  const light = useAppSelector((s) => s.settings.light);
  const dispatch = useAppDispatch();
  useEffect(
    () =>
      by === undefined ? undefined : keepSendingDrills(by, () => dispatch(serverData.util.invalidateTags(['drill']))),
    [by, dispatch],
  );
  const nextLight = LIGHTS[(LIGHTS.indexOf(light) + 1) % LIGHTS.length]!;
  return (
    <Frame>
      <Rail aria-label="Rouse">
        <Name>Rouse</Name>
        <RailLink to="/" end>
          <CalendarDays size={20} aria-hidden />
          Today
        </RailLink>
        <RailLink to="/brief">
          <FileText size={20} aria-hidden />
          Brief
        </RailLink>
        <StartLink />
        <RailLink to="/power">
          <Gauge size={20} aria-hidden />
          Power
        </RailLink>
        <RailLink to="/debrief">
          <ChartSpline size={20} aria-hidden />
          Debrief
        </RailLink>
        <RailLink to="/log">
          <NotebookText size={20} aria-hidden />
          Log
        </RailLink>
        {mayDrill && (
          <RailLink to="/drill">
            <Dumbbell size={20} aria-hidden />
            Drill
          </RailLink>
        )}
        <RailLink
          to="/set-up"
          className={({ isActive }) => (isActive || pathname.startsWith('/types') ? 'active' : '')}
        >
          <Settings2 size={20} aria-hidden />
          Set up
        </RailLink>
        <Who />
        <LightButton
          type="button"
          onClick={() => dispatch(lightChanged(nextLight))}
          aria-label={`Light: ${LIGHT_NAMES[light]}. Change to ${LIGHT_NAMES[nextLight]}`}
        >
          <MoonStar size={20} aria-hidden />
          {LIGHT_NAMES[light]}
        </LightButton>
      </Rail>
      <Content>
        <OfflineBar />
        <Suspense>
          <Outlet />
        </Suspense>
      </Content>
    </Frame>
  );
}
