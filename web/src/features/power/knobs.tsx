import type { TypeFile } from '@rouse/core/aircraft';
import { Switch } from 'react-aria-components';
import styled from 'styled-components';
import { Small } from '../../ui/heading.ts';
import { Slider } from '../../ui/slider.tsx';
import { useUnits } from '../../ui/units.ts';
import type { WhatIf } from './board-figures.ts';

const Toggle = styled(Switch)`
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 3rem;
  border-top: 1px solid var(--hair);
  font-size: 0.875rem;
  cursor: pointer;
  .box {
    width: 2.5rem;
    height: 22px;
    border-radius: 11px;
    border: 2px solid var(--button-line);
    background: var(--button);
    flex: none;
    position: relative;
  }
  .box::after {
    content: '';
    position: absolute;
    inset: 2px auto 2px 2px;
    width: 14px;
    border-radius: 50%;
    background: var(--button-line);
  }
  &[data-selected] .box {
    background: var(--usual3);
    border-color: var(--track);
  }
  &[data-selected] .box::after {
    inset: 2px 2px 2px auto;
    background: var(--ink);
  }
  &[data-focus-visible] .box {
    outline: 3px solid var(--now);
  }
`;

/** The sliders of what is played with; of a single only weight and air. */
export function Knobs({ type, what, set }: { type: TypeFile; what: WhatIf; set: (change: Partial<WhatIf>) => void }) {
  const { show } = useUnits();
  const { empty_kg, mtow_kg } = type.loading;
  const twin = type.engines.length > 1;
  return (
    <>
      <Small>What if</Small>
      <Slider
        label="Weight"
        value={what.mass_kg}
        onChange={(mass_kg) => set({ mass_kg })}
        range={[Math.ceil(empty_kg / 10) * 10, Math.floor((1.05 * mtow_kg) / 10) * 10]}
        step={10}
        said={`${show(what.mass_kg, 'mass', 'ceil')}${what.mass_kg > mtow_kg ? ', too heavy' : ''}`}
      />
      <Slider
        label="Outside air"
        value={what.oat_C}
        onChange={(oat_C) => set({ oat_C })}
        range={[-30, 45]}
        step={1}
        said={show(what.oat_C, 'temperature')}
      />
      <Slider
        label="Pressure altitude"
        value={what.pa_ft}
        onChange={(pa_ft) => set({ pa_ft })}
        range={[-500, 9000]}
        step={50}
        said={`${Math.round(what.pa_ft)} ft`}
      />
      {twin && (
        <>
          <Slider
            label="Height of the skids"
            value={what.height_ft}
            onChange={(height_ft) => set({ height_ft })}
            range={[5, 300]}
            step={5}
            said={`${what.height_ft} ft`}
          />
          <Slider
            label="Headwind"
            value={what.wind_kt}
            onChange={(wind_kt) => set({ wind_kt })}
            range={[0, 40]}
            step={1}
            said={`${what.wind_kt} kt`}
          />
          <Slider
            label="Margin of the weaker engine"
            value={what.margin_C}
            onChange={(margin_C) => set({ margin_C })}
            range={[-20, 40]}
            step={1}
            said={`${what.margin_C} °C`}
          />
          <Toggle isSelected={what.obstacleClear} onChange={(obstacleClear) => set({ obstacleClear })}>
            <span className="box" /> Clear of obstacles to fly away
          </Toggle>
          <Toggle isSelected={what.landingOk} onChange={(landingOk) => set({ landingOk })}>
            <span className="box" /> A place to land below
          </Toggle>
        </>
      )}
    </>
  );
}
