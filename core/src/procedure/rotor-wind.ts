import { z } from 'zod';
import type { Item, TypeFile } from '../aircraft/index.ts';
import { attempt, isRefusal } from '../quantity/index.ts';
import { rotorWindLimit, type RotorWind, type Wind } from '../weather/index.ts';
import type { BriefRecord } from './entries.ts';
import type { WindNow } from './wind-now.ts';

const maybe = z.number().nullable();

/** What of an entered brief says how the aircraft stands and what wind was expected. */
const briefedSchema = z.looseObject({
  heading_deg: maybe.default(null),
  wind: z.looseObject({ direction_deg: maybe, speed_kt: maybe, gust_kt: maybe }).optional(),
});

/** The wind that the brief had, as the first thing to hold against the sock; null where it had none. */
export function briefedWind(brief: BriefRecord | null): WindNow | null {
  const found = briefedSchema.safeParse(brief?.input ?? {});
  const wind = found.success ? found.data.wind : undefined;
  if (!wind || wind.speed_kt === null) return null;
  return { direction_deg: wind.direction_deg, speed_kt: wind.speed_kt, gust_kt: wind.gust_kt };
}

export interface RotorWindNow {
  verdict: RotorWind['verdict'];
  words: string;
  /** the wind that it was judged by, gust applied, kt */
  wind_kt: number | null;
}

/**
 * May the rotor be started, or stopped, in this wind? The limit of every quadrant that it may come from, with the gust. Where the
 * heading or the variation of the place is not known, the lowest limit of all quadrants.
 */
export function rotorWindNow(
  type: TypeFile,
  brief: BriefRecord | null,
  now: WindNow | null,
  phase: 'start' | 'stop' = 'start',
): RotorWindNow {
  if (now && now.gust_kt !== null && now.gust_kt < now.speed_kt)
    return { verdict: 'UNKNOWN', words: 'the gust is below the wind; enter both again', wind_kt: null };
  if (!now) return { verdict: 'UNKNOWN', words: 'no wind entered', wind_kt: null };
  const found = briefedSchema.safeParse(brief?.input ?? {});
  const heading_deg = found.success ? found.data.heading_deg : null;
  const variation = brief?.variation_E_deg;
  const placed = heading_deg !== null && variation !== undefined && now.direction_deg !== null;
  const wind: Wind = {
    kind: now.speed_kt === 0 ? 'calm' : placed ? 'steady' : 'variable',
    dir_deg: placed ? now.direction_deg : null,
    from_deg: null,
    to_deg: null,
    speed_kt: now.speed_kt,
    gust_kt: now.gust_kt,
    at_least: false,
    unit: 'KT',
  };
  const judged = attempt(() =>
    rotorWindLimit({
      wind,
      phase,
      limits: type.wind.rotor_kt,
      heading_deg: heading_deg ?? 0,
      heading_ref: 'mag',
      wind_ref: 'true',
      variation_E_deg: variation ?? 0,
    }),
  );
  if (isRefusal(judged))
    return { verdict: 'UNKNOWN', words: `the wind cannot be judged: ${judged.field}`, wind_kt: null };
  const side =
    judged.quadrants.length === 4 || judged.quadrants.length === 0 ? 'from any side' : SIDES[judged.quadrants[0]!];
  const words = `${Math.ceil(judged.wind_kt ?? 0)} kt with the gust, ${side}; ${judged.limit_kt} kt at most`;
  return { verdict: judged.verdict, words, wind_kt: judged.wind_kt };
}

const SIDES = { HEAD: 'from ahead', RIGHT: 'from the right', TAIL: 'from behind', LEFT: 'from the left' } as const;

/** Which limit a check of the wind is held against; null for an item that judges no wind. */
export function windPhaseOf(item: Item): 'start' | 'stop' | null {
  if (item.kind !== 'check' || !item.judges || item.judges === 'power') return null;
  return item.judges === 'rotor-wind-stop' ? 'stop' : 'start';
}
