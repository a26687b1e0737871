import type { TypeFile } from '../aircraft/index.ts';
import { fuelPlan, type LoadItem, weightBalance } from '../loading/index.ts';
import { needNumber, Refused } from '../quantity/index.ts';
import { figure, need } from './figure.ts';
import type { BriefInput } from './input-schema.ts';
import type { BriefFigures } from './result.ts';

type LoadFigures = Pick<BriefFigures, 'fuel' | 'balance' | 'landingFuel_kg' | 'landing' | 'liftMass_kg'>;

/** Fuel, and weight and balance from the start to landing. */
export function loadFigures(input: BriefInput, type: TypeFile): LoadFigures {
  const { loading } = type;
  const fuel = figure(() =>
    fuelPlan(
      { engines: type.engines.length, fuel: loading.fuel },
      { fuel_kg: need(input.fuel_kg, 'fuel'), ground: loading.ground },
    ),
  );
  const loaded = { engines: type.engines.length, ...loading };
  const loadItems = (): LoadItem[] =>
    loading.stations.map((s) => ({
      name: s.label,
      mass_kg: need(input.load[s.id] ?? null, s.label.toLowerCase()),
      arm_long_m: s.arm_long_m,
      arm_lat_m: s.arm_lat_m,
    }));
  const balance = figure(() =>
    weightBalance(loaded, {
      items: loadItems(),
      fuel_kg: need(input.fuel_kg, 'fuel_kg'),
      burn_kg: need(fuel, 'fuel').burn_kg,
    }),
  );
  const landingFuel_kg = figure(() => {
    const plan = need(fuel, 'fuel');
    const minutes = needNumber(input.flight_min, 'flight_min', 0, 1000);
    const left = plan.takeoff_fuel_kg - (loading.fuel.flow_kgph.cruise * minutes) / 60;
    if (left < 0) throw new Refused('OUT_OF_RANGE', 'minutes of flight');
    return left;
  });
  const landing = figure(() =>
    weightBalance(loaded, { items: loadItems(), fuel_kg: need(landingFuel_kg, 'flight_min') }),
  );
  const liftMass_kg = figure(() => need(balance, 'mass_kg').takeoff.mass_kg);

  return { fuel, balance, landingFuel_kg, landing, liftMass_kg };
}
