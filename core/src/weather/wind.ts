import { needNumber, needOption, numberOr, Refused, roundStep } from '../quantity/index.ts';
import type { Wind } from './wind-group.ts';

const RAD = Math.PI / 180;
export type NorthReference = 'true' | 'mag';

interface Heading {
  heading_deg: number;
  /** headings are usually magnetic */
  heading_ref?: NorthReference | undefined;
  /** a report is true, a tower speaks magnetic */
  wind_ref?: NorthReference | undefined;
  /** needed as soon as one of the two is magnetic; east is positive */
  variation_E_deg?: number | null | undefined;
}

/** What has to be added to a wind direction to make it relative to the nose. @throws Refused MISSING */
function turn_deg(input: Heading): number {
  const wind = needOption(input.wind_ref ?? 'true', ['true', 'mag'], 'wind_ref');
  const heading = needOption(input.heading_ref ?? 'mag', ['true', 'mag'], 'heading_ref');
  const nose = needNumber(input.heading_deg, 'heading_deg', 0, 360);
  if (wind === 'true' && heading === 'true') return -nose;
  const variation = needNumber(input.variation_E_deg, 'variation_E_deg', -180, 180);
  return (wind === 'mag' ? variation : 0) - (nose + (heading === 'mag' ? variation : 0));
}

/** An angle in (-180, 180]. */
function wrap(deg: number): number {
  const turned = ((deg % 360) + 360) % 360;
  return turned > 180 ? turned - 360 : turned;
}

export interface WindComponents {
  relative_deg: number;
  /** along the nose, a tailwind is negative */
  headwind_kt: number;
  /** positive from the right */
  crosswind_kt: number;
  headwind_gust_kt: number;
  crosswind_gust_kt: number;
}

/** Head and cross wind, mean and gust. @throws Refused MISSING the variation, INCONSISTENT a gust below the mean */
export function windComponents(
  input: Heading & { wind_dir_deg: number; speed_kt: number; gust_kt?: number | null | undefined },
): WindComponents {
  const turn = turn_deg(input);
  const direction = needNumber(input.wind_dir_deg, 'wind_dir_deg', 0, 360);
  const speed = needNumber(input.speed_kt, 'speed_kt', 0, 200);
  const gust = numberOr(input.gust_kt, speed, 'gust_kt', 0, 200);
  if (gust < speed) throw new Refused('INCONSISTENT', 'gust_kt');
  const relative_deg = wrap(direction + turn);
  const [along, across] = [Math.cos(relative_deg * RAD), Math.sin(relative_deg * RAD)];
  return {
    relative_deg,
    headwind_kt: speed * along,
    crosswind_kt: speed * across,
    headwind_gust_kt: gust * along,
    crosswind_gust_kt: gust * across,
  };
}

export const SIDES = ['HEAD', 'RIGHT', 'TAIL', 'LEFT'] as const;
export type Side = (typeof SIDES)[number];

/** Reports are to ten degrees. */
const SLACK_deg = 5;
const EPS = 1e-9;

/** The closed arc of bearings relative to the nose that the wind may come from: where it begins, how far it goes. */
function relativeArc(wind: Wind, turn: number): [number, number] {
  if (contradictsItself(wind)) return [0, 360];
  const from = wind.from_deg ?? wind.dir_deg!;
  const to = wind.to_deg ?? wind.dir_deg!;
  return [from + turn - SLACK_deg, ((((to - from) % 360) + 360) % 360) + 2 * SLACK_deg];
}

/** A mean that lies outside of its own range says that neither is to be trusted: it may come from anywhere. */
function contradictsItself({ dir_deg, from_deg, to_deg }: Wind): boolean {
  if (dir_deg === null || from_deg === null || to_deg === null) return false;
  return (dir_deg - from_deg + 360) % 360 > (to_deg - from_deg + 360) % 360;
}

function touches([start, length]: readonly [number, number], [from, span]: readonly [number, number]): boolean {
  const ahead = (((from - start) % 360) + 360) % 360;
  const back = (((start - from) % 360) + 360) % 360;
  return ahead <= length + EPS || back <= span + EPS || ahead >= 360 - EPS;
}

export interface WindSide {
  primary: Side | 'UNKNOWN' | 'CALM' | 'LIGHT' | 'VARIABLE';
  sides: Side[];
  /** false where no side can be named for sure */
  determinate: boolean;
  reason:
    | 'WIND_MISSING'
    | 'CALM'
    | 'LIGHT_WIND'
    | 'VARIABLE_DIRECTION'
    | 'DIRECTION_MISSING'
    | 'ONE_SIDE'
    | 'NEAR_BOUNDARY'
    | 'BOTH_SIDES';
  relative_deg?: number;
}

const LIGHT_kt = 3;
const SECTORS: Record<Side, readonly [number, number]> = {
  HEAD: [-10, 20],
  RIGHT: [10, 160],
  TAIL: [170, 20],
  LEFT: [190, 160],
};

/** Which side the wind comes from, for "the engine on the sheltered side first". @throws Refused as windComponents */
export function windSide(input: Heading & { wind: Wind | null }): WindSide {
  const { wind } = input;
  const turn = turn_deg(input);
  const vague = (primary: WindSide['primary'], reason: WindSide['reason']): WindSide => ({
    primary,
    sides: primary === 'CALM' ? [] : [...SIDES],
    determinate: primary === 'CALM',
    reason,
  });
  if (!wind || wind.kind === 'missing' || wind.speed_kt === null) return vague('UNKNOWN', 'WIND_MISSING');
  if (wind.kind === 'calm') return vague('CALM', 'CALM');
  if (Math.max(wind.speed_kt, wind.gust_kt ?? 0) < LIGHT_kt) return vague('LIGHT', 'LIGHT_WIND');
  if (wind.kind === 'variable') return vague('VARIABLE', 'VARIABLE_DIRECTION');
  if (wind.kind === 'direction-missing' || wind.dir_deg === null) return vague('VARIABLE', 'DIRECTION_MISSING');
  const arc = relativeArc(wind, turn);
  const sides = SIDES.filter((side) => touches(arc, SECTORS[side]));
  const relative_deg = wrap(wind.dir_deg + turn);
  const off = Math.abs(relative_deg);
  const primary = off < 10 ? 'HEAD' : off > 170 ? 'TAIL' : relative_deg > 0 ? 'RIGHT' : 'LEFT';
  const both = sides.includes('LEFT') && sides.includes('RIGHT');
  const reason = both ? 'BOTH_SIDES' : sides.length > 1 ? 'NEAR_BOUNDARY' : 'ONE_SIDE';
  return { primary, sides, determinate: !both, reason, relative_deg };
}

/** Limits of one phase by quadrant, kt. */
export type QuadrantLimits = Record<Side, number>;
export interface RotorWindLimits {
  start: QuadrantLimits;
  stop: QuadrantLimits;
  /** the most a gust may stand above the mean, kt */
  gust_spread: number;
  /** where "close to the limit" begins */
  caution_frac: number;
}

export interface RotorWind {
  verdict: 'WITHIN' | 'CAUTION' | 'EXCEEDS' | 'UNKNOWN';
  quadrants: Side[];
  limit_kt: number | null;
  wind_kt: number | null;
  margin_kt?: number;
  reasons: (
    | 'CALM'
    | 'WIND_MISSING'
    | 'SPEED_OVER_LIMIT'
    | 'AT_LEAST'
    | 'GUST_SPREAD'
    | 'NEAR_LIMIT'
    | 'MORE_THAN_ONE_QUADRANT'
  )[];
  display?: { margin_kt: number };
}

const QUADRANTS: Record<Side, readonly [number, number]> = {
  HEAD: [-45, 90],
  RIGHT: [45, 90],
  TAIL: [135, 90],
  LEFT: [225, 90],
};

/**
 * May the rotor be started or stopped in this wind? The lowest limit of every quadrant that the wind may come from, with
 * the gust. A missing wind is UNKNOWN: not permitted.
 */
export function rotorWindLimit(
  input: Heading & { wind: Wind | null; phase: string; limits: RotorWindLimits },
): RotorWind {
  const phase = needOption(input.phase, ['start', 'stop'], 'phase');
  const limits = input.limits[phase];
  const turn = turn_deg(input);
  const { wind } = input;
  if (!wind || wind.kind === 'missing' || wind.speed_kt === null)
    return { verdict: 'UNKNOWN', quadrants: [], limit_kt: null, wind_kt: null, reasons: ['WIND_MISSING'] };
  const lowest = (sides: readonly Side[]): number => Math.min(...sides.map((side) => limits[side]));
  if (wind.kind === 'calm')
    return { verdict: 'WITHIN', quadrants: [], limit_kt: lowest(SIDES), wind_kt: 0, reasons: ['CALM'] };
  const arc = wind.dir_deg === null ? null : relativeArc(wind, turn);
  const quadrants = arc ? SIDES.filter((side) => touches(arc, QUADRANTS[side])) : [...SIDES];
  const limit_kt = lowest(quadrants);
  const wind_kt = Math.max(wind.speed_kt, wind.gust_kt ?? 0);
  const margin_kt = limit_kt - wind_kt;
  const over: RotorWind['reasons'] = [];
  if (wind_kt > limit_kt) over.push('SPEED_OVER_LIMIT');
  if (wind.at_least) over.push('AT_LEAST');
  if (wind_kt - wind.speed_kt > input.limits.gust_spread) over.push('GUST_SPREAD');
  const near = over.length === 0 && wind_kt >= input.limits.caution_frac * limit_kt;
  return {
    verdict: over.length > 0 ? 'EXCEEDS' : near ? 'CAUTION' : 'WITHIN',
    quadrants,
    limit_kt,
    wind_kt,
    margin_kt,
    reasons: [
      ...over,
      ...(near ? (['NEAR_LIMIT'] as const) : []),
      ...(quadrants.length > 1 ? (['MORE_THAN_ONE_QUADRANT'] as const) : []),
    ],
    display: { margin_kt: roundStep(margin_kt, 1, 'floor') },
  };
}
