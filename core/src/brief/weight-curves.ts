import { pistonOf, poweredOf, type TypeFile } from '../aircraft/index.ts';
import { chartAir } from '../procedure/index.ts';
import { LOW_HOVER_ft, maxHoverMass, AFTER_FAILURE, oeiMasses, pistonMass } from '../power/index.ts';
import { attempt, isRefusal, roundStep } from '../quantity/index.ts';

const STEP_C = 5;
const WIDE_C = 25;
const COLDEST_C = -40;
const HOTTEST_C = 50;
/** Middle of the drawing while the temperature is unknown. */
const WHERE_UNKNOWN_C = 10;
export interface WeightCurves {
  oat_C: number[];
  /** from the sea up: the weight that each holds, kg rounded down by temperature, NaN outside the charts */
  limits: { name: string; kg: number[]; hard: boolean }[];
}

/**
 * Weights that can be hovered around a temperature at one pressure altitude: for a twin what one engine holds on each
 * rating, with the margin of the verdict; for a single what take-off power holds out of and in ground effect. Null for a type
 * without a hover model.
 */
export function weightCurves(type: TypeFile, pa_ft: number, near_C: number | null, bleed: string): WeightCurves | null {
  const powered = poweredOf(type);
  const piston = pistonOf(type);
  if (!powered && !piston) return null;
  const middle = Math.round((near_C ?? WHERE_UNKNOWN_C) / STEP_C) * STEP_C;
  const oat_C: number[] = [];
  for (let t = Math.max(COLDEST_C, middle - WIDE_C); t <= Math.min(HOTTEST_C, middle + WIDE_C); t += STEP_C)
    oat_C.push(t);
  const held = (of: (air: { pa_ft: number; oat_C: number; bleed: string }) => number): number[] =>
    oat_C.map((t) => {
      const mass = attempt(() => of(chartAir(type, { pa_ft, oat_C: t, bleed })));
      return isRefusal(mass) ? NaN : roundStep(mass as number, 10, 'floor');
    });
  if (powered && powered.engines > 1)
    return {
      oat_C,
      limits: (
        [
          ['holds on continuous', 'OEI_CONT'],
          ['holds two minutes', 'OEI_2MIN'],
          ['holds thirty seconds', 'OEI_30S'],
        ] as const
      ).map(([name, rating]) => ({
        name,
        kg: held((air) => oeiMasses(powered, air, AFTER_FAILURE)[rating].oge_kg),
        hard: rating === 'OEI_30S',
      })),
    };
  const hovered = (skid_height_ft: number | null): number[] =>
    held((air) =>
      powered
        ? maxHoverMass(powered, { ...air, rating: 'TOP', skid_height_ft }).mass_power_kg
        : pistonMass(piston!, { ...air, skid_height_ft }),
    );
  return {
    oat_C,
    limits: [
      { name: 'out of ground effect', kg: hovered(null), hard: false },
      { name: 'in ground effect', kg: hovered(LOW_HOVER_ft), hard: true },
    ],
  };
}
