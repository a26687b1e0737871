import { poweredOf, type TypeFile } from '@rouse/core/aircraft';
import { AFTER_FAILURE, OEI_RATINGS, oeiMasses, oneEngineBoard, type OneEngineBoard, wornBy } from '@rouse/core/power';
import { attempt, isRefusal } from '@rouse/core/quantity';

/** What is played with. */
export interface WhatIf {
  mass_kg: number;
  height_ft: number;
  wind_kt: number;
  oat_C: number;
  pa_ft: number;
  /** temperature margin of the weaker engine, °C */
  margin_C: number;
  obstacleClear: boolean;
  landingOk: boolean;
}

/** The board of this what-if, or in words why there is none. */
export function boardOf(type: TypeFile, what: WhatIf): OneEngineBoard | { refused: string } {
  const aircraft = poweredOf(type);
  if (!aircraft) return { refused: 'what a hover takes is not written in this type' };
  const found = attempt(() =>
    oneEngineBoard(wornBy(aircraft, what.margin_C), {
      pa_ft: what.pa_ft,
      oat_C: what.oat_C,
      mass_kg: what.mass_kg,
      skid_height_ft: what.height_ft,
      headwind_kt: what.wind_kt,
      hoist_kg: type.ratings?.oneEngine?.hoist_kg ?? null,
      fuel_kgph: type.loading.fuel.flow_kgph.hover,
      obstacle_clear: what.obstacleClear,
      landing_ok: what.landingOk,
    }),
  );
  return isRefusal(found)
    ? { refused: `outside what the power model holds for (${found.field}): no figure is given` }
    : (found as OneEngineBoard);
}

/** The map of weight by temperature has so many of each. */
export const MAP_SIDE = 20;
export const COLDEST_C = -20;
export const HOTTEST_C = 40;
export const TEMPERATURES_C = Array.from(
  { length: MAP_SIDE },
  (_, i) => COLDEST_C + ((HOTTEST_C - COLDEST_C) * i) / (MAP_SIDE - 1),
);

/** The weight that one rating holds after a failure, out of ground effect. */
export interface HeldWeights {
  name: string;
  /** by the temperatures of the map, kg; NaN outside what the model holds for */
  kg: number[];
  /** nothing stronger is left */
  hard: boolean;
}

/** The weights of every rating at one pressure altitude with engines of one margin. */
export interface HeldMap {
  pa_ft: number;
  margin_C: number;
  ratings: readonly HeldWeights[];
}

const NAMES = { OEI_CONT: 'continuous', OEI_2MIN: 'two minutes', OEI_30S: 'thirty seconds' } as const;

/** The weights that each rating holds, at every temperature of the map. */
export function heldByTemperature(type: TypeFile, { pa_ft, margin_C }: Pick<WhatIf, 'pa_ft' | 'margin_C'>): HeldMap {
  const aircraft = wornBy(poweredOf(type)!, margin_C);
  const held = TEMPERATURES_C.map((oat_C) => attempt(() => oeiMasses(aircraft, { pa_ft, oat_C }, AFTER_FAILURE)));
  const ratings = OEI_RATINGS.map((rating) => ({
    name: NAMES[rating],
    hard: rating === 'OEI_30S',
    kg: held.map((h) => (isRefusal(h) ? NaN : (h as ReturnType<typeof oeiMasses>)[rating].oge_kg)),
  }));
  return { pa_ft, margin_C, ratings };
}
