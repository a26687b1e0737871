import { type AtHand, atHandNow, workOut } from '@rouse/core/procedure';
import { useEffect, useRef, useState } from 'react';
import styled from 'styled-components';
import { useAppSelector } from '../../app/store.ts';
import { mono } from '../../app/theme.ts';
import { runClock } from '../../run/clock.ts';
import type { FollowedRun } from '../../run/run-slice.ts';
import { ring } from '../../run/frame-ring.ts';
import { Key, SlimButton } from '../../ui/button.tsx';
import { inputLook } from '../../ui/field-look.ts';
import { Small } from '../../ui/heading.ts';

const Box = styled.section`
  border: 1px solid var(--line);
  border-radius: 11px;
  padding: 10px 12px;
  display: grid;
  gap: 8px;
  > div:first-child {
    display: flex;
    justify-content: space-between;
    align-items: baseline;
  }
`;

const Fields = styled.div`
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 8px;
  label {
    display: grid;
    gap: 3px;
    font-size: 0.75rem;
    color: var(--soft);
    min-width: 0;
  }
  ${inputLook}
  input {
    ${mono}
    width: 100%;
    padding: 6px 8px;
  }
`;

const Found = styled.dl`
  display: grid;
  div {
    display: flex;
    justify-content: space-between;
    border-top: 1px solid var(--hair);
    padding: 4px 0;
    font-size: 0.875rem;
  }
  dd {
    margin: 0;
    ${mono}
    font-weight: 650;
  }
`;

const FIELDS: readonly { key: keyof AtHand; label: string }[] = [
  { key: 'pa_ft', label: 'Pressure alt., ft' },
  { key: 'oat_C', label: 'Outside, °C' },
  { key: 'fuel_kg', label: 'Fuel, kg' },
  { key: 'wind_deg', label: 'Wind, °true' },
  { key: 'wind_kt', label: 'Wind, kt' },
  { key: 'nose_deg', label: 'Nose, °mag' },
];

/** What is reckoned while something is waited for, filled with this minute's values; what is typed over stays here. */
export function Calculators({ followed, close }: { followed: FollowedRun; close: () => void }) {
  const box = useRef<HTMLElement>(null);
  useEffect(() => box.current?.scrollIntoView({ block: 'nearest' }), []);
  const { type, state, detail } = followed;
  const status = useAppSelector((s) => s.run.status);
  const [at, setAt] = useState<AtHand>(() =>
    atHandNow(type, state, ring.lastFrame(performance.now()), runClock(status, detail.openedAt)),
  );
  const worked = workOut(type, at, state.brief?.variation_E_deg ?? null, state.brief?.bleed ?? null);
  const { unit, quantity } = type.performance.chart;
  const say = (v: number | null, of: string): string => (v === null ? '–' : `${String(v).replace('-', '−')} ${of}`);
  const cross = worked.crosswind_kt;
  return (
    <Box ref={box} aria-label="Calculators">
      <div>
        <Small as="h2">Reckon, with this minute’s values</Small>
        <SlimButton onPress={close}>
          Close <Key>C</Key>
        </SlimButton>
      </div>
      <Fields>
        {FIELDS.map(({ key, label }) => (
          <label key={key}>
            {label}
            <input
              inputMode="decimal"
              defaultValue={at[key] ?? ''}
              onChange={(e) => {
                const text = e.target.value.trim().replace(',', '.').replace('−', '-');
                const value = text === '' || Number.isNaN(Number(text)) ? null : Number(text);
                setAt((old) => ({ ...old, [key]: value }));
              }}
            />
          </label>
        ))}
      </Fields>
      <Found>
        <div>
          <dt>Density altitude</dt>
          <dd>{say(worked.densityAltitude_ft, 'ft')}</dd>
        </div>
        <div>
          <dt>{(worked.headwind_kt ?? 0) < 0 ? 'Tailwind' : 'Headwind'}</dt>
          <dd>{say(worked.headwind_kt === null ? null : Math.abs(worked.headwind_kt), 'kt')}</dd>
        </div>
        <div>
          <dt>{cross === null || cross === 0 ? 'Crosswind' : `From the ${cross > 0 ? 'right' : 'left'}`}</dt>
          <dd>{say(cross === null ? null : Math.abs(cross), 'kt')}</dd>
        </div>
        <div>
          <dt>{quantity} today, take-off</dt>
          <dd>{say(worked.takeOff, unit)}</dd>
        </div>
        <div>
          <dt>Continuous</dt>
          <dd>{say(worked.continuous, unit)}</dd>
        </div>
        <div>
          <dt>Cruise on this fuel, no reserve</dt>
          <dd>{say(worked.cruise_min, 'min')}</dd>
        </div>
      </Found>
    </Box>
  );
}
