import { roundStep } from '../quantity/index.ts';
import { massHeldBy } from './capability.ts';
import { hoverCondition, requiredPower, torque_pct } from './hover-power.ts';
import { type Air, OEI_RATINGS, type OeiRatingId, type PoweredAircraft, LOW_HOVER_ft } from './model.ts';
import {
  AFTER_FAILURE,
  isInGround,
  oeiRequiredRating,
  oeiVerdict,
  type OeiVerdict,
  usablePower_kW,
} from './one-engine.ts';
import { powerAvailable } from './available.ts';

export interface BoardInput extends Air {
  mass_kg: number;
  /** of the skids over hard level ground, ft */
  skid_height_ft: number;
  /** steady headwind, kt; shown beside the verdict and never part of it */
  headwind_kt: number;
  /** a person on the hoist, kg; null where there is no hoist */
  hoist_kg: number | null;
  /** of the hover, kg/h */
  fuel_kgph: number;
  obstacle_clear: boolean;
  landing_ok: boolean;
}

/** One hover, and what one engine makes of it. */
export interface BoardLine {
  id: 'low' | 'here' | 'high' | 'hoist';
  label: string;
  mass_kg: number;
  /** the gentlest rating that keeps it after a failure, NONE when it comes down */
  holds: OeiRatingId | 'NONE';
  /** the same with the headwind, which nobody can promise */
  inWind: OeiRatingId | 'NONE';
  /** torque that the engine left would show, %, rounded up */
  needed_pct: number;
  /** torque of each rating today, %, rounded down */
  given_pct: Record<OeiRatingId, number>;
  /** what has to go for the next gentler rating, null when it holds on continuous */
  better: { rating: OeiRatingId; shed_kg: number; burn_min: number } | null;
}

export interface OneEngineBoard {
  lines: BoardLine[];
  verdict: OeiVerdict;
}

/**
 * What happens if an engine quits now: in ground effect, at this height, out of ground effect, and with a person on the
 * hoist. Quick enough to run at every move of a slider.
 * @throws Refused NOT_MULTI_ENGINE, OUT_OF_DOMAIN, OUT_OF_RANGE
 */
export function oneEngineBoard(aircraft: PoweredAircraft, input: BoardInput): OneEngineBoard {
  const { mass_kg, skid_height_ft, hoist_kg } = input;
  const line = (id: BoardLine['id'], label: string, mass: number, height_ft: number | null): BoardLine =>
    boardLine(aircraft, input, { id, label, mass_kg: mass, height_ft });
  return {
    lines: [
      line('low', `In ground effect, ${LOW_HOVER_ft} ft`, mass_kg, LOW_HOVER_ft),
      line('here', `Here, ${skid_height_ft} ft`, mass_kg, skid_height_ft),
      line('high', 'Out of ground effect', mass_kg, null),
      ...(hoist_kg === null
        ? []
        : [line('hoist', `A person of ${hoist_kg} kg on the hoist`, mass_kg + hoist_kg, null)]),
    ],
    verdict: oeiVerdict(aircraft, input, AFTER_FAILURE),
  };
}

function boardLine(
  aircraft: PoweredAircraft,
  input: BoardInput,
  { id, label, mass_kg, height_ft }: Pick<BoardLine, 'id' | 'label' | 'mass_kg'> & { height_ft: number | null },
): BoardLine {
  const hover = { ...input, mass_kg, skid_height_ft: height_ft };
  const required = oeiRequiredRating(aircraft, hover, AFTER_FAILURE);
  const still = hoverCondition(aircraft, input, { skid_height_ft: height_ft }, 'conservative');
  const windy = hoverCondition(aircraft, input, { skid_height_ft: height_ft }, 'conservative', input.headwind_kt);
  const given = (rating: OeiRatingId): { P_kW: number; usable_kW: number } => {
    const power = powerAvailable(aircraft, { ...input, rating });
    return { P_kW: power.P_kW, usable_kW: usablePower_kW(power, AFTER_FAILURE, isInGround(still)) };
  };
  const one = { ...aircraft, engines: 1 };
  const windy_kW = requiredPower(aircraft, mass_kg, windy).P_shaft_kW;
  const inWind = OEI_RATINGS.find((r) => given(r).usable_kW >= windy_kW) ?? 'NONE';
  const at = required.rating === 'NONE' ? OEI_RATINGS.length : OEI_RATINGS.indexOf(required.rating);
  const next = at === 0 ? null : OEI_RATINGS[at - 1]!;
  return {
    id,
    label,
    mass_kg,
    holds: required.rating,
    inWind,
    needed_pct: roundStep(torque_pct(one, required.P_required_kW, still.nr), 0.1, 'ceil'),
    given_pct: Object.fromEntries(
      OEI_RATINGS.map((r) => [r, roundStep(torque_pct(one, given(r).P_kW, still.nr), 0.1, 'floor')]),
    ) as Record<OeiRatingId, number>,
    better: next && lighter(next),
  };

  function lighter(rating: OeiRatingId): NonNullable<BoardLine['better']> {
    const held_kg = massHeldBy(aircraft, still, given(rating).usable_kW);
    const shed_kg = roundStep(Math.max(0, mass_kg - held_kg), 10, 'ceil');
    return { rating, shed_kg, burn_min: roundStep((60 * shed_kg) / input.fuel_kgph, 1, 'ceil') };
  }
}
