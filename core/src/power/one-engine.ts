import { FT_m, G0 } from '../atmosphere/index.ts';
import { convert, needNumber, Refused, roundStep } from '../quantity/index.ts';
import { type PowerAvailable, powerAvailable, type PowerLimiter } from './available.ts';
import { massHeldBy } from './capability.ts';
import { type Condition, hoverCondition, needMass, requiredPower } from './hover-power.ts';
import { type Air, OEI_RATINGS, type OeiRatingId, type PoweredAircraft, LOW_HOVER_ft } from './model.ts';

/** Power that a rating must have over what a hover takes, by what limits the engine and whether the ground helps. */
export type OeiMargin = (limiter: PowerLimiter, inGroundEffect: boolean) => number;

/** The margin of the calculators' verdict. */
const STEADY: OeiMargin = () => 0.02;

/**
 * What a hover takes to be kept after a failure: the aircraft sinks while engine and rotor recover, and stopping that
 * takes more than hovering did. Measured against flown failures. @source docs/physics.md, one engine out
 */
export const AFTER_FAILURE: OeiMargin = (limiter, inGroundEffect) =>
  limiter === 'TORQUE' ? (inGroundEffect ? 0.02 : 0.05) : inGroundEffect ? 0.01 : 0.03;

const SETTLED: OeiMargin = () => 0;
function needTwin(aircraft: PoweredAircraft): void {
  if (aircraft.engines < 2) throw new Refused('NOT_MULTI_ENGINE', 'aircraft');
}

interface OeiPower extends Pick<PowerAvailable, 'P_torque_kW' | 'P_temp_kW' | 'P_ng_kW' | 'limiter'> {
  P_kW: number;
}

function powersOf(aircraft: PoweredAircraft, air: Air): Record<OeiRatingId, OeiPower> {
  const of = (rating: OeiRatingId): OeiPower => powerAvailable(aircraft, { ...air, rating });
  return { OEI_CONT: of('OEI_CONT'), OEI_2MIN: of('OEI_2MIN'), OEI_30S: of('OEI_30S') };
}

/** What a rating leaves for a hover when each of its limits keeps its margin, kW. */
export function usablePower_kW(power: OeiPower, margin: OeiMargin, inGroundEffect: boolean): number {
  return Math.min(
    power.P_torque_kW / (1 + margin('TORQUE', inGroundEffect)),
    power.P_temp_kW / (1 + margin('TEMPERATURE', inGroundEffect)),
    power.P_ng_kW / (1 + margin('NG', inGroundEffect)),
  );
}

export interface OeiMass {
  oge_kg: number;
  ige_kg: number;
  P_kW: number;
  limiter: PowerLimiter;
}

/**
 * The weights that one engine holds in the hover on each rating, not capped by structure.
 * @param margin power kept over what the hover takes; none gives the weights of a hover that nothing disturbs
 * @throws Refused NOT_MULTI_ENGINE
 */
export function oeiMasses(
  aircraft: PoweredAircraft,
  air: Air,
  margin: OeiMargin = SETTLED,
): Record<OeiRatingId, OeiMass> {
  needTwin(aircraft);
  const high = hoverCondition(aircraft, air, {}, 'conservative');
  const low = hoverCondition(aircraft, air, { skid_height_ft: LOW_HOVER_ft }, 'conservative');
  const powers = powersOf(aircraft, air);
  const of = (rating: OeiRatingId): OeiMass => ({
    oge_kg: massHeldBy(aircraft, high, usablePower_kW(powers[rating], margin, false)),
    ige_kg: massHeldBy(aircraft, low, usablePower_kW(powers[rating], margin, true)),
    P_kW: powers[rating].P_kW,
    limiter: powers[rating].limiter,
  });
  return { OEI_CONT: of('OEI_CONT'), OEI_2MIN: of('OEI_2MIN'), OEI_30S: of('OEI_30S') };
}

/** Whether the ground helps this hover. */
export const isInGround = (at: Condition): boolean => at.z_over_R !== null && at.kg < 1;

function suffices(power: OeiPower, needed_kW: number, at: Condition, margin: OeiMargin): boolean {
  return usablePower_kW(power, margin, isInGround(at)) >= needed_kW;
}

export interface OeiRequired {
  rating: OeiRatingId | 'NONE';
  P_required_kW: number;
  available_kW: Record<OeiRatingId, number>;
  surplus_frac: Record<OeiRatingId, number>;
}

interface OeiHover extends Air {
  mass_kg: number;
  /** null out of ground effect */
  skid_height_ft: number | null;
}

/** The least severe rating with which one engine holds this hover. @throws NOT_MULTI_ENGINE */
export function oeiRequiredRating(aircraft: PoweredAircraft, input: OeiHover, margin: OeiMargin = STEADY): OeiRequired {
  needTwin(aircraft);
  const mass = needMass(aircraft, input.mass_kg);
  const at = hoverCondition(aircraft, input, input, 'conservative');
  const P_required_kW = requiredPower(aircraft, mass, at).P_shaft_kW;
  const powers = powersOf(aircraft, input);
  const each = (of: (rating: OeiRatingId) => number): Record<OeiRatingId, number> => ({
    OEI_CONT: of('OEI_CONT'),
    OEI_2MIN: of('OEI_2MIN'),
    OEI_30S: of('OEI_30S'),
  });
  return {
    rating: OEI_RATINGS.find((r) => suffices(powers[r], P_required_kW, at, margin)) ?? 'NONE',
    P_required_kW,
    available_kW: each((r) => powers[r].P_kW),
    surplus_frac: each((r) => powers[r].P_kW / P_required_kW - 1),
  };
}

export interface OeiVerdict {
  verdict: 'ACCEPTABLE' | 'TIME_LIMITED' | 'LAND_ONLY' | 'NOT_ACCEPTABLE';
  after: 'HOLD' | 'FLY_AWAY' | 'LAND_WITHIN_RATING_TIME' | 'NOTHING_SAFE' | 'FLY_AWAY_LOSING_HEIGHT' | 'LAND_NOW';
  required_rating: OeiRatingId | 'NONE';
  reasons: string[];
  P_hover_kW: number;
  P_ige5_kW: number;
  P_vy_kW: number;
  roc_vy_fpm: number;
  height_loss_m: number;
  accel_time_s: number;
  display: { roc_vy_fpm: number; height_loss_ft: number };
}

const CLIMB_fpm = 150;
const PITCH_tan = Math.tan((10 * Math.PI) / 180);
const REACTION_s = 1;
const LEAST_LOSS_m = 5;
const STEPS = 40;
const THIRTY_s = 30;
const LOW_ENOUGH_ft = 10;
/** The height to have is this many times the height that is lost, and the shown figure is that height. */
const SAFETY = 1.5;

/** Level flight out of ground effect at a speed. */
const level = (hover: Condition, speed_mps: number): Condition => ({
  ...hover,
  z_over_R: null,
  kg: 1,
  speed_mps,
  level: true,
});

/** Height that a fly-away costs from an out-of-ground-effect hover, m. @source docs/calculations.md, one engine */
function flyAwayLoss_m(
  aircraft: PoweredAircraft,
  mass_kg: number,
  hover: Condition,
  powers: Record<OeiRatingId, { P_kW: number }>,
): { loss_m: number; accel_time_s: number } {
  const weight_N = mass_kg * G0;
  const toss_mps = convert(aircraft.vtoss_kt, 'kt', 'm/s');
  const accel_time_s = toss_mps / (G0 * PITCH_tan);
  const oge_kW = requiredPower(aircraft, mass_kg, { ...hover, z_over_R: null, kg: 1, speed_mps: 0 }).P_shaft_kW;
  if (powers.OEI_30S.P_kW >= oge_kW) return { loss_m: 0, accel_time_s };
  const sink_mps = (needed_kW: number, available_kW: number): number =>
    ((needed_kW - available_kW) * 1000 * aircraft.eta) / weight_N;
  const dt_s = accel_time_s / STEPS;
  let fallen_m = 0;
  for (let i = 0; i <= STEPS; i++) {
    const t_s = i * dt_s;
    const available = t_s <= THIRTY_s ? powers.OEI_30S.P_kW : powers.OEI_2MIN.P_kW;
    const needed = requiredPower(aircraft, mass_kg, level(hover, (toss_mps * i) / STEPS)).P_shaft_kW;
    fallen_m += sink_mps(needed, available) * dt_s * (i === 0 || i === STEPS ? 0.5 : 1);
  }
  const reaction_m = REACTION_s * Math.max(0, sink_mps(oge_kW, powers.OEI_30S.P_kW));
  return {
    loss_m: Math.max(LEAST_LOSS_m, reaction_m + toss_mps ** 2 / (2 * G0) + fallen_m),
    accel_time_s,
  };
}

/**
 * What happens if an engine quits in this hover: a conservative rule, not a certified procedure.
 * @param input `obstacle_clear` and `landing_ok` have to be answered: a safety answer has no default
 * @throws Refused MISSING, NOT_MULTI_ENGINE, OUT_OF_RANGE
 */
export function oeiVerdict(
  aircraft: PoweredAircraft,
  input: OeiHover & { obstacle_clear: boolean; landing_ok: boolean },
  margin: OeiMargin = STEADY,
): OeiVerdict {
  needTwin(aircraft);
  for (const field of ['obstacle_clear', 'landing_ok'] as const)
    if (typeof input[field] !== 'boolean')
      throw new Refused(input[field] === undefined || input[field] === null ? 'MISSING' : 'BAD_OPTION', field);
  const mass = needMass(aircraft, input.mass_kg);
  const skid_ft = needNumber(input.skid_height_ft, 'skid_height_ft', 0, 10_000);
  const hover = hoverCondition(aircraft, input, { skid_height_ft: skid_ft }, 'conservative');
  const low = hoverCondition(aircraft, input, { skid_height_ft: LOW_HOVER_ft }, 'conservative');
  const powers = powersOf(aircraft, input);
  const P_hover_kW = requiredPower(aircraft, mass, hover).P_shaft_kW;
  const P_ige5_kW = requiredPower(aircraft, mass, low).P_shaft_kW;
  const P_vy_kW = requiredPower(aircraft, mass, level(hover, convert(aircraft.vy_kt, 'kt', 'm/s'))).P_shaft_kW;
  const roc_mps = ((powers.OEI_CONT.P_kW - P_vy_kW) * 1000 * aircraft.eta) / (mass * G0);
  const roc_vy_fpm = convert(roc_mps, 'm/s', 'ft/min');
  const { loss_m, accel_time_s } = flyAwayLoss_m(aircraft, mass, hover, powers);
  const need = OEI_RATINGS.find((r) => suffices(powers[r], P_hover_kW, hover, margin)) ?? 'NONE';
  const climb = roc_vy_fpm >= CLIMB_fpm;
  const highEnough = skid_ft * FT_m >= SAFETY * loss_m;
  const fly = climb && input.obstacle_clear && (need !== 'NONE' || highEnough);
  const canLand = input.landing_ok && (skid_ft <= LOW_ENOUGH_ft || suffices(powers.OEI_30S, P_ige5_kW, low, margin));
  const [verdict, after] = decide(need, fly, input.landing_ok, canLand);
  const reasons = [
    need === 'OEI_CONT' ? 'CONTINUOUS_HOLDS_HOVER' : need === 'NONE' ? 'CANNOT_HOLD_HOVER' : 'TIME_LIMITED_HOVER',
    climb ? 'CLIMB_AVAILABLE_AT_VY' : 'NO_CLIMB_AT_VY',
  ];
  if (!input.obstacle_clear) reasons.push('OBSTACLES');
  if (!input.landing_ok) reasons.push('NO_LANDING_AREA');
  if (need === 'NONE' && verdict === 'NOT_ACCEPTABLE' && !highEnough) reasons.push('HEIGHT_BELOW_FLYAWAY_LOSS');
  return {
    verdict,
    after,
    required_rating: need,
    reasons,
    P_hover_kW,
    P_ige5_kW,
    P_vy_kW,
    roc_vy_fpm,
    height_loss_m: loss_m,
    accel_time_s,
    display: {
      roc_vy_fpm: roundStep(roc_vy_fpm, 10, 'floor'),
      height_loss_ft: roundStep((SAFETY * loss_m) / FT_m, 10, 'ceil'),
    },
  };
}

function decide(
  need: OeiRatingId | 'NONE',
  fly: boolean,
  landingArea: boolean,
  canLand: boolean,
): [OeiVerdict['verdict'], OeiVerdict['after']] {
  if (need === 'OEI_CONT') return ['ACCEPTABLE', 'HOLD'];
  if (need !== 'NONE') {
    if (fly) return ['TIME_LIMITED', 'FLY_AWAY'];
    return landingArea ? ['LAND_ONLY', 'LAND_WITHIN_RATING_TIME'] : ['NOT_ACCEPTABLE', 'NOTHING_SAFE'];
  }
  if (fly) return ['TIME_LIMITED', 'FLY_AWAY_LOSING_HEIGHT'];
  return canLand ? ['LAND_ONLY', 'LAND_NOW'] : ['NOT_ACCEPTABLE', 'NOTHING_SAFE'];
}
