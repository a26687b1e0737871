import { safeSeparation } from '../rotorwash/index.ts';
import type { Day } from './day.ts';
import { type Figure, known, need } from './figure.ts';
import type { BriefContext, Neighbour } from './input.ts';
import type { NeighbourWash } from './result.ts';

/** A light: what a neighbour's slow rotor turns at. */
const SLOW_NR = 0.2;

/** How far a neighbour should stand from this rotor, and whether it does. */
export function washOn(day: Day, neighbour: Neighbour, liftMass_kg: Figure<number>): NeighbourWash {
  const { input, context, air, wind } = day;
  const slow = input.slowNeighbours.includes(neighbour.name);
  const separation = day.inAir(() => {
    const blowing = need(wind, 'wind');
    return safeSeparation(
      washing(context),
      { ...washing(context), main: need(neighbour.rotor, 'neighbour'), blade_sail: neighbour.blade_sail },
      {
        mass_kg: need(liftMass_kg, 'mass_kg'),
        pa_ft: air.pa_ft,
        oat_C: air.oat_C,
        neighbour_nr_frac: slow ? SLOW_NR : 1,
        wind_kt: Math.max(blowing.speed_kt!, blowing.gust_kt ?? 0),
      },
    );
  });
  const value = known(separation);
  return {
    neighbour,
    slow,
    separation,
    clear: value ? value.distance_m !== null && neighbour.distance_m >= value.distance_m : null,
  };
}

function washing({ type }: BriefContext): Parameters<typeof safeSeparation>[0] {
  const hover = need(type.performance.hover ?? null, 'hover');
  return { ...type.loading, download: hover.download, main: hover.main, blade_sail: type.wind.blade_sail };
}
