import { FT_m } from '@rouse/core/atmosphere';
import type { NormalSource, Conditions, PistonConditions } from '@rouse/core/simulator';

const DAY_MS = 86_400_000;
const PAD_M = 19;
/** colder than this, the trainers are preheated */
const LEAST_PISTON_C = -2;
const DAYS = 365;

/** One flight of the made-up year: when, in which weather, and what that is in words. */
export interface FlyingDay {
  openedAt: Date;
  /** 0 a year ago, 1 now */
  gone: number;
  conditions: Conditions;
  words: string;
}

/** Days of a year before `now`, evenly spread with some chance, oldest first. */
export function flyingDays(now: Date, flights: number, chance: NormalSource, elevation_m = PAD_M): FlyingDay[] {
  return Array.from({ length: flights }, (_, i) => {
    const daysAgo = DAYS - ((DAYS - 2) * i) / flights - chance.uniform();
    const openedAt = inDaylight(new Date(now.getTime() - daysAgo * DAY_MS), chance);
    const dayOfYear = (openedAt.getTime() - Date.UTC(openedAt.getUTCFullYear(), 0, 1)) / DAY_MS;
    const gone = 1 - daysAgo / DAYS;
    return { openedAt, gone, ...weatherOn(dayOfYear, chance, elevation_m) };
  });
}

/** Some minute between 08:00 and 16:00 UTC of that day. */
function inDaylight(day: Date, chance: NormalSource): Date {
  const minute = Math.floor(480 * chance.uniform());
  return new Date(Date.UTC(day.getUTCFullYear(), day.getUTCMonth(), day.getUTCDate(), 8, minute));
}

/** Weather by season and chance, and whether it flew already that day. */
export function weatherOn(
  dayOfYear: number,
  chance: NormalSource,
  elevation_m = PAD_M,
): Pick<FlyingDay, 'conditions' | 'words'> {
  const season = Math.sin((2 * Math.PI * (dayOfYear - 110)) / DAYS);
  const lapse_C = (6.5 * (elevation_m - PAD_M)) / 1000;
  const oat_c = Math.round((8.5 - lapse_C + 6.5 * season + 3 * chance.normal()) * 10) / 10;
  const headwind_kt = Math.round(14 * (chance.uniform() - 0.25));
  const qnhShift_m = Math.round(80 * chance.normal());
  const secondFlight = chance.uniform() < 0.3;
  const residual_c = secondFlight ? oat_c + 35 + 50 * chance.uniform() : oat_c;
  const warm_c = secondFlight ? oat_c + 25 + 15 * chance.uniform() : oat_c;
  return {
    conditions: {
      env: { oat_c, pa_m: elevation_m + qnhShift_m, headwind_kt },
      soc: 0.8 + 0.15 * chance.uniform(),
      batt_temp_c: oat_c + 2 * chance.uniform(),
      residual_c,
      oil_temp_c: warm_c,
      mgb_temp_c: warm_c,
    },
    words: `${Math.round(oat_c)} °C, ${headwind_kt < 0 ? `tailwind ${-headwind_kt}` : `headwind ${headwind_kt}`} kt${secondFlight ? ', second flight of the day' : ''}`,
  };
}

/** The same day for a trainer: cold at the first flight, its damp by the season. */
export function forPiston({ env, soc, residual_c }: Conditions): PistonConditions {
  const oat = Math.max(LEAST_PISTON_C, env?.oat_c ?? 10);
  const warm = (residual_c ?? oat) > oat ? { Th: oat + 40, To: oat + 25, Tc: oat + 20 } : {};
  return { env: { oat, dew: oat - 9, pa_ft: (env?.pa_m ?? 0) / FT_m }, init: { SOC: soc ?? 0.9, ...warm } };
}
