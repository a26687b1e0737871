import { Refused } from '../quantity/index.ts';
import { type RotorWind, rotorWindLimit, windComponents } from '../weather/index.ts';
import type { Day } from './day.ts';
import { type Figure, figure, need } from './figure.ts';
import type { BriefFigures } from './result.ts';

/** The wind on the pad, and what it allows the rotor. */
export function windFigures(day: Day): Pick<BriefFigures, 'components' | 'rotorStart' | 'rotorStop' | 'age_min'> {
  const { input, context, wind, facing } = day;
  const rotor = (phase: 'start' | 'stop'): Figure<RotorWind> =>
    figure(() => {
      if (wind) need(input.heading_deg, 'heading_deg');
      return rotorWindLimit({
        wind,
        phase,
        limits: context.type.wind.rotor_kt,
        ...facing,
        heading_deg: input.heading_deg ?? 0,
      });
    });
  return {
    components: figure(() => {
      const w = need(wind, 'wind');
      need(input.heading_deg, 'heading_deg');
      if (w.dir_deg === null) throw new Refused('OUT_OF_DOMAIN', 'a variable wind has no components');
      return windComponents({ wind_dir_deg: w.dir_deg, speed_kt: w.speed_kt!, gust_kt: w.gust_kt, ...facing });
    }),
    rotorStart: rotor('start'),
    rotorStop: rotor('stop'),
    age_min: input.observedAt === null ? null : (Date.parse(context.now) - Date.parse(input.observedAt)) / 60_000,
  };
}
