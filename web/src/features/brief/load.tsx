import { known } from '@rouse/core/brief';
import { useStandardMassesQuery } from '../../app/session-data.ts';
import { Small } from '../../ui/heading.ts';
import { PlainField, QuantityField } from '../../ui/quantity-field.tsx';
import { useUnits } from '../../ui/units.ts';
import { FigureText } from './computed-figure.tsx';
import type { BriefDesk } from './desk.ts';
import { Block, Computed } from './fields.ts';

/** What is on board, by station, and what it weighs at lift and at landing. */
export function Load({ desk: { input, brief, set, context } }: { desk: BriefDesk }) {
  const { show } = useUnits();
  const { data: masses = [] } = useStandardMassesQuery();
  const { loading } = context.type;
  const fuel = known(brief.fuel);
  const density = loading.fuel_density_kgL;
  const minutes = loading.ground.reduce((sum, g) => sum + g.min, 0);
  return (
    <Block>
      <Small>On board</Small>
      <Computed>
        <span>Basic</span>
        <b>{show((context.basic ?? loading.basic).mass_kg, 'mass')}</b>
      </Computed>
      {loading.stations.map((s) => (
        <QuantityField
          key={s.id}
          label={s.label}
          name={s.label}
          kind="mass"
          range={[0, s.max_kg]}
          suggested={masses.flatMap((m) => (m.mass_kg <= s.max_kg ? [{ label: m.label, value: m.mass_kg }] : []))}
          value={input.load[s.id] ?? null}
          onChange={(kg) => set({ load: { ...input.load, [s.id]: kg } })}
        />
      ))}
      <QuantityField
        label={input.fuel_kg === null ? 'Fuel' : `Fuel, ${show(input.fuel_kg / density, 'volume', 'floor')}`}
        name="The fuel"
        kind="mass"
        density_kgL={density}
        range={[0, Math.floor(loading.fuel.max_L * density)]}
        value={input.fuel_kg}
        onChange={(fuel_kg) => set({ fuel_kg })}
      />
      <PlainField
        label="Flight"
        name="The flight"
        unit="min"
        range={[0, 600]}
        value={input.flight_min}
        onChange={(flight_min) => set({ flight_min })}
      />
      <Computed data-total>
        <span>At lift, after {minutes} min running</span>
        <FigureText figure={brief.liftMass_kg} show={(v) => show(v, 'mass', 'ceil')} />
      </Computed>
      <Computed>
        <span>Most allowed</span>
        <b>{show(loading.mtow_kg, 'mass', 'floor')}</b>
      </Computed>
      <Computed>
        <span>Fuel at lift</span>
        <FigureText figure={brief.fuel} show={(v) => show(v.takeoff_fuel_kg, 'mass', 'floor')} />
      </Computed>
      <Computed>
        <span>Fuel at landing</span>
        <FigureText figure={brief.landingFuel_kg} show={(v) => show(v, 'mass', 'floor')} />
      </Computed>
      <Computed>
        <span>To the reserve of {fuel ? show(fuel.reserve_kg, 'mass', 'ceil') : '20 min'}</span>
        <FigureText figure={brief.fuel} show={(v) => `${v.display.endurance_to_reserve_min} min`} />
      </Computed>
    </Block>
  );
}
