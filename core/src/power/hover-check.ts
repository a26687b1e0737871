import { needNumber, numberOr, Refused, roundStep } from '../quantity/index.ts';
import { powerAvailable, type PowerLimiter } from './available.ts';
import { massHeldBy } from './capability.ts';
import { hoverCondition, needMass, requiredPower, torque_pct } from './hover-power.ts';
import type { Air, PoweredAircraft } from './model.ts';

export interface HoverCheckBands {
  low: number;
  ok: number;
  caution: number;
}

const BANDS: HoverCheckBands = { low: -5, ok: 3, caution: 6 };
const MOST_HEADWIND_kt = 15;
const MOST_SPLIT_pct = 5;

export interface HoverCheck {
  status: 'OK';
  predicted_pct: number;
  observed_pct: number;
  delta_pct: number;
  band: 'LOWER_THAN_EXPECTED' | 'AS_PREDICTED' | 'HIGH' | 'STOP';
  effective_mass_kg: number;
  available_pct: number;
  limiter: PowerLimiter;
  oge_required_pct: number;
  margin_oge_pct: number;
  margin_ige_pct: number;
  departure: 'OGE_OK' | 'OGE_MARGINAL' | 'IGE_ONLY' | 'NO_GO' | 'RECHECK_INPUTS';
  notes: ('TORQUE_SPLIT' | 'BEHAVES_ABOVE_MTOW')[];
  display: { margin_oge_pct: number; margin_ige_pct: number; delta_pct: number };
}

/** A check that says nothing, and why. */
export interface InvalidCheck {
  status: 'INVALID';
  reasons: 'HEADWIND_TOO_STRONG'[];
}

/**
 * The power check in a low hover: predicted against observed torque, and the departure that is left by it.
 * @param input.torque_pct one reading an engine; `learned_offset_pct` the type's own median difference
 */
export function hoverCheck(
  aircraft: PoweredAircraft,
  input: Air & {
    mass_kg: number;
    torque_pct: number[];
    skid_height_ft?: number | undefined;
    headwind_kt?: number | undefined;
    learned_offset_pct?: number | undefined;
    bands?: HoverCheckBands | null | undefined;
    min_margin_pct?: number | undefined;
  },
): HoverCheck | InvalidCheck {
  const mass = needMass(aircraft, input.mass_kg);
  if (!Array.isArray(input.torque_pct)) throw new Refused('MISSING', 'torque_pct');
  if (input.torque_pct.length !== aircraft.engines) throw new Refused('INCONSISTENT', 'torque_pct');
  const readings = input.torque_pct.map((t) => needNumber(t, 'torque_pct', 0, 200));
  const skid_height_ft = numberOr(input.skid_height_ft, 5, 'skid_height_ft', 2, 15);
  const headwind = numberOr(input.headwind_kt, 0, 'headwind_kt', 0, 60);
  const offset = numberOr(input.learned_offset_pct, 0, 'learned_offset_pct', -10, 10);
  const least = numberOr(input.min_margin_pct, 5, 'min_margin_pct', 0, 50);
  const bands = bandsOf(input.bands);
  if (headwind > MOST_HEADWIND_kt) return { status: 'INVALID', reasons: ['HEADWIND_TOO_STRONG'] };
  const low = hoverCondition(aircraft, input, { skid_height_ft }, aircraft.ge_model ?? 'hayden', headwind);
  const high = hoverCondition(aircraft, input, {}, 'conservative');
  const shown = (mass_kg: number, at: typeof low): number =>
    torque_pct(aircraft, requiredPower(aircraft, mass_kg, at).P_shaft_kW, at.nr);
  const predicted_pct = shown(mass, low) + offset;
  const observed_pct = readings.reduce((sum, t) => sum + t, 0) / readings.length;
  const delta_pct = observed_pct - predicted_pct;
  const observed_kW = ((observed_pct - offset) / 100) * aircraft.engines * aircraft.engine.p100_kW * low.nr;
  const effective_mass_kg = massHeldBy(aircraft, low, observed_kW);
  const oge_required_pct = shown(Math.max(mass, effective_mass_kg), high) + Math.max(0, offset);
  const { torque_limit_pct: available_pct, limiter } = powerAvailable(aircraft, { ...input, rating: 'TOP' });
  const margin_oge_pct = available_pct - oge_required_pct;
  const margin_ige_pct = available_pct - observed_pct;
  const band =
    delta_pct < bands.low
      ? 'LOWER_THAN_EXPECTED'
      : delta_pct <= bands.ok
        ? 'AS_PREDICTED'
        : delta_pct <= bands.caution
          ? 'HIGH'
          : 'STOP';
  const notes: HoverCheck['notes'] = [];
  if (Math.max(...readings) - Math.min(...readings) > MOST_SPLIT_pct) notes.push('TORQUE_SPLIT');
  if (effective_mass_kg > aircraft.mtow_kg) notes.push('BEHAVES_ABOVE_MTOW');
  return {
    status: 'OK',
    predicted_pct,
    observed_pct,
    delta_pct,
    band,
    effective_mass_kg,
    available_pct,
    limiter,
    oge_required_pct,
    margin_oge_pct,
    margin_ige_pct,
    departure: departureOf(band, margin_oge_pct, margin_ige_pct, least),
    notes,
    display: {
      margin_oge_pct: roundStep(margin_oge_pct, 0.1, 'floor'),
      margin_ige_pct: roundStep(margin_ige_pct, 0.1, 'floor'),
      delta_pct: roundStep(delta_pct, 0.1, 'ceil'),
    },
  };
}

function bandsOf(given: HoverCheckBands | null | undefined): HoverCheckBands {
  const { low, ok, caution } = given ?? BANDS;
  const bands = {
    low: needNumber(low, 'bands.low', -100, 0),
    ok: needNumber(ok, 'bands.ok', 0, 100),
    caution: needNumber(caution, 'bands.caution', 0, 100),
  };
  if (bands.caution < bands.ok) throw new Refused('INCONSISTENT', 'bands.caution');
  return bands;
}

function departureOf(
  band: HoverCheck['band'],
  oge_pct: number,
  ige_pct: number,
  least_pct: number,
): HoverCheck['departure'] {
  if (band === 'STOP') return 'NO_GO';
  if (band === 'LOWER_THAN_EXPECTED') return 'RECHECK_INPUTS';
  if (oge_pct >= least_pct) return 'OGE_OK';
  if (oge_pct >= 0) return 'OGE_MARGINAL';
  return ige_pct >= least_pct ? 'IGE_ONLY' : 'NO_GO';
}
