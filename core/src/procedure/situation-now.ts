import type { TypeFile } from '../aircraft/index.ts';
import type { Situation } from '../checks/index.ts';
import { type WindComponents, windComponents } from '../weather/index.ts';
import { attempt, isRefusal } from '../quantity/index.ts';
import type { DayAir } from '../watch/index.ts';
import { briefedWind } from './rotor-wind.ts';
import type { RunState } from './state.ts';
import { massNow_kg } from './weight-now.ts';

/** Air, weight and wind of this minute as the brief has them; null while it lacks the air or the weight. */
export function situationNow(type: TypeFile, state: RunState, t_s: number, hoverOffset_pct: number): Situation | null {
  const { brief } = state;
  const mass_kg = massNow_kg(type, state, t_s);
  if (brief?.pa_ft == null || brief.oat_C === null || mass_kg === null) return null;
  return {
    pa_ft: brief.pa_ft,
    oat_C: brief.oat_C,
    bleed: brief.bleed ?? 'none',
    mass_kg,
    // from behind, from all sides or unknown it helps nothing
    headwind_kt: Math.max(0, windAhead_kt(state) || 0),
    hoverOffset_pct,
  };
}

/** Air of a start as the brief has it; NaN where it is not known. */
export function startAir(state: RunState): DayAir {
  return { pressureAltitude_ft: state.brief?.pa_ft ?? NaN, tailwind_kt: -windAhead_kt(state) };
}

/** Wind along the nose, from behind negative; NaN where its direction is not known. */
function windAhead_kt({ brief }: RunState): number {
  const wind = briefedWind(brief);
  if (wind?.speed_kt === 0) return 0;
  const heading_deg = brief?.input['heading_deg'];
  if (!wind || wind.direction_deg === null || wind.speed_kt === null || typeof heading_deg !== 'number') return NaN;
  const found = attempt(() =>
    windComponents({
      wind_dir_deg: wind.direction_deg!,
      speed_kt: wind.speed_kt!,
      gust_kt: null,
      heading_deg,
      heading_ref: 'mag',
      wind_ref: 'true',
      variation_E_deg: brief?.variation_E_deg ?? 0,
    }),
  );
  return isRefusal(found) ? NaN : (found as WindComponents).headwind_kt;
}
