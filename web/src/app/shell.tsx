import { BookOpen, CalendarDays, ChartSpline, Dumbbell, FileClock, FileText, Gauge, MoonStar, Zap } from 'lucide-react';
import { Suspense } from 'react';
import { NavLink, Outlet } from 'react-router';
import styled from 'styled-components';
import { type Light, lightChanged, LIGHTS } from './settings-slice.ts';
import { useAppDispatch, useAppSelector } from './store.ts';
import { phone, upright } from './theme.ts';

const Frame = styled.div`
  display: grid;
  grid-template: minmax(0, 1fr) / 76px minmax(0, 1fr);
  height: 100%;
  ${upright} {
    grid-template: auto minmax(0, 1fr) / minmax(0, 1fr);
  }
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

const Place = styled(NavLink)`
  width: 64px;
  height: 54px;
  border-radius: 10px;
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  gap: 3px;
  font-size: 12px;
  color: inherit;
  text-decoration: none;
  &.active {
    background: var(--rail-on);
    color: var(--rail-on-ink);
    font-weight: 650;
  }
`;

const LightButton = styled.button`
  margin-top: auto;
  width: 64px;
  height: 54px;
  border: 0;
  border-radius: 10px;
  background: none;
  font-size: 12px;
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  gap: 3px;
  cursor: pointer;
  ${upright} {
    margin: 0 0 0 auto;
  }
`;

const LIGHT_NAMES: Record<Light, string> = { auto: 'Auto', day: 'Day', night: 'Night', sun: 'Sun' };

export function Shell() {
  const light = useAppSelector((s) => s.settings.light);
  const dispatch = useAppDispatch();
  const nextLight = LIGHTS[(LIGHTS.indexOf(light) + 1) % LIGHTS.length]!;
  return (
    <Frame>
      <Rail aria-label="Rouse">
        <Name>Rouse</Name>
        <Place to="/" end>
          <CalendarDays size={20} aria-hidden />
          Today
        </Place>
        <Place to="/brief">
          <FileText size={20} aria-hidden />
          Brief
        </Place>
        <Place to="/start">
          <Zap size={20} aria-hidden />
          Start
        </Place>
        <Place to="/power">
          <Gauge size={20} aria-hidden />
          Power
        </Place>
        <Place to="/debrief">
          <ChartSpline size={20} aria-hidden />
          Debrief
        </Place>
        <Place to="/practice">
          <Dumbbell size={20} aria-hidden />
          Practice
        </Place>
        <Place to="/replay">
          <FileClock size={20} aria-hidden />
          Replay
        </Place>
        <Place to="/types">
          <BookOpen size={20} aria-hidden />
          Types
        </Place>
        <LightButton
          type="button"
          onClick={() => dispatch(lightChanged(nextLight))}
          aria-label={`Light: ${LIGHT_NAMES[light]}. Change to ${LIGHT_NAMES[nextLight]}`}
        >
          <MoonStar size={20} aria-hidden />
          {LIGHT_NAMES[light]}
        </LightButton>
      </Rail>
      <Suspense>
        <Outlet />
      </Suspense>
    </Frame>
  );
}
